import { useState, type ComponentProps } from 'react';
import { typedNumber, type TypedUnit } from '../../core/base/typed-number.ts';
import { Input } from './ui.tsx';

/** A number that was read, `null` for an empty field, or the text as it was typed where it is no number. */
export type NumberTyped = number | string | null;

const shown = (value: NumberTyped | undefined): string =>
  typeof value === 'number' ? (Number.isFinite(value) ? String(value).replace('-', '−') : '') : (value ?? '');

function read(text: string, units: readonly TypedUnit[]): NumberTyped {
  const typed = typedNumber(text, units);
  return typed.is === 'number' ? typed.value : typed.is === 'empty' ? null : text;
}
/** Why a typed text is no number; undefined where it is one, or empty. */
export function whyWrong(
  value: NumberTyped | undefined,
  units: readonly TypedUnit[] = [],
): string | undefined {
  const typed = typeof value === 'string' ? typedNumber(value, units) : undefined;
  return typed?.is === 'wrong' ? typed.why : undefined;
}
/** The unit a label names after its last comma, or in brackets: “Power, kW”. */
export function unitsIn(label: string): TypedUnit[] {
  const unit = /,\s*([^\s,()]+)(?:\s*\(.*\))?$/.exec(label)?.[1];
  return unit && !/^\d/.test(unit) ? [{ names: [unit] }] : [];
}

interface Props extends Omit<ComponentProps<'input'>, 'value' | 'onChange' | 'type'> {
  readonly value: NumberTyped | undefined;
  readonly onChange: (value: NumberTyped) => void;
  /** Units that may be typed after the number. */ readonly units?: readonly TypedUnit[];
}
/**
 * The one field for numbers: takes what people type (`typedNumber`), keeps it as typed, and hands on the number, or the
 * text where it is none, for the form to say so. Nothing that was typed is dropped.
 */
export function NumberInput({ value, onChange, units = [], ...rest }: Props) {
  const [text, setText] = useState(() => shown(value));
  const [told, setTold] = useState(value);
  // Another value from outside: a form that was filled anew, a suggestion that was taken.
  if (!Object.is(told, value)) {
    setTold(value);
    setText(shown(value));
  }
  return (
    <Input
      autoComplete="off"
      {...rest}
      type="text"
      inputMode="decimal"
      value={text}
      onChange={(event) => {
        const now = read(event.target.value, units);
        setText(event.target.value);
        setTold(now);
        onChange(now);
      }}
    />
  );
}
