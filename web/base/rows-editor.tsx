import { NumberInput, type NumberTyped } from './number-input.tsx';
import { Select } from './select.tsx';
import { Button, Input } from './ui.tsx';

/** Rows of a few short fields inside a form: gears, openings, legal classes, options. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function RowsEditor<R extends Record<string, unknown>>({
  value,
  onChange,
  blank,
  fields,
  add,
}: {
  value: readonly R[];
  onChange: (rows: R[]) => void;
  blank: R;
  add: string;
  fields: readonly {
    readonly name: keyof R & string;
    readonly label: string;
    readonly width: string;
    readonly kind?: 'number' | 'time' | 'list';
    readonly options?: readonly { readonly value: string | number; readonly label: string }[];
  }[];
}) {
  const set = (i: number, name: keyof R, to: unknown): void =>
    onChange(value.map((row, k) => (k === i ? { ...row, [name]: to } : row)));
  return (
    <div className="grid justify-items-start gap-1.5">
      {/* eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read */}
      {value.map((row, i) => (
        <div key={i} className="flex flex-wrap items-center gap-1.5">
          {/* eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read */}
          {fields.map((f) => {
            const label = `${f.label}, row ${i + 1}`;
            if (f.options)
              return (
                <Select
                  key={f.name}
                  aria-label={label}
                  style={{ width: f.width }}
                  value={String(row[f.name])}
                  onChange={(e) =>
                    set(
                      i,
                      f.name,
                      typeof f.options![0]?.value === 'number' ? Number(e.target.value) : e.target.value,
                    )
                  }
                >
                  {f.options.map((o) => (
                    <option key={o.value} value={o.value}>
                      {o.label}
                    </option>
                  ))}
                </Select>
              );
            if (f.kind === 'list')
              return (
                <Input
                  key={f.name}
                  aria-label={label}
                  placeholder={f.label}
                  style={{ width: f.width }}
                  defaultValue={(row[f.name] as string[]).join(', ')}
                  onChange={(e) =>
                    set(
                      i,
                      f.name,
                      e.target.value
                        .split(',')
                        .map((t) => t.trim())
                        .filter(Boolean),
                    )
                  }
                />
              );
            if (f.kind === 'number')
              return (
                <NumberInput
                  key={f.name}
                  aria-label={label}
                  placeholder={f.label}
                  style={{ width: f.width }}
                  value={(row[f.name] as NumberTyped | undefined) ?? null}
                  onChange={(typed) => set(i, f.name, typed ?? undefined)}
                />
              );
            return (
              <Input
                key={f.name}
                aria-label={label}
                placeholder={f.label}
                style={{ width: f.width }}
                value={String(row[f.name] ?? '')}
                onChange={(e) => set(i, f.name, e.target.value)}
              />
            );
          })}
          <Button
            kind="quiet"
            small
            aria-label={`Remove row ${i + 1}`}
            onClick={() => onChange(value.filter((_, k) => k !== i))}
          >
            ✕
          </Button>
        </div>
      ))}
      <Button small onClick={() => onChange([...value, { ...blank }])}>
        {add}
      </Button>
    </div>
  );
}
