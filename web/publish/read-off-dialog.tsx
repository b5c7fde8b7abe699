import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import {
  FIGURE_OF,
  FIGURE_UNITS,
  MOST_FIGURES,
  type FigureOf,
  type FigureUnit,
} from '../../core/publish/legacy-figures.ts';
import { MAX_LEGACY_BYTES } from '../../contract/publish/legacy.ts';
import type { Place } from '../../core/publish/read-off.ts';
import { useSessionQuery } from '../base/api.ts';
import { Dialog } from '../base/dialog.tsx';
import { fileHash } from '../base/file-hash.ts';
import { NumberInput, whyWrong, type NumberTyped } from '../base/number-input.tsx';
import { Select } from '../base/select.tsx';
import { Button, buttonClass, Field, ProblemNote } from '../base/ui.tsx';
import { useKept } from '../base/use-kept.ts';
import { GraphPicture, Lens } from './read-off-picture.tsx';
import {
  curveOf,
  isUnmarked,
  linesIn,
  MARKS,
  NOTHING_MARKED,
  placed,
  scaleIn,
  valued,
  type Marked,
  type MarkName,
} from './read-off-state.ts';

/** A larger picture is no better read, and takes the memory of a small computer. Pixels. */
const MOST_PIXELS = 40_000_000;
const LABEL: Readonly<Record<MarkName, string>> = {
  'speed, low': 'A low engine speed',
  'speed, high': 'A high engine speed',
  'reading, low': 'A low value',
  'reading, high': 'A high value',
};
const ASKS: Readonly<Record<Marked['next'], string>> = {
  'speed, low': 'Click a low engine speed on its axis, and type it beside.',
  'speed, high': 'Click a high engine speed on its axis, and type it beside.',
  'reading, low': 'Click a low value on the other axis, and type it beside.',
  'reading, high': 'Click a high value on the other axis, and type it beside.',
  point: 'Click the points of the curve, one after the other.',
};

/** Reads points off a picture of a printed graph; `onTake` gets them as lines of figures, with the picture. */
export function ReadOffDialog({
  onTake,
  onClose,
}: {
  onTake: (lines: readonly string[], file: File) => void;
  onClose: () => void;
}) {
  const [chosen, setChosen] = useState<{ file: File; picture: ImageBitmap; known: string } | null>(null);
  const [problem, setProblem] = useState('');
  const choose = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const read = await pictureOf(file);
    setProblem(typeof read === 'string' ? read : '');
    // Marks are of these bytes: chosen once more, the picture finds them. Without a hash its name and size stand for it.
    const known = (await fileHash(file)) ?? `${file.name} ${file.size}`;
    if (typeof read !== 'string') setChosen({ file, picture: read, known });
  };
  return (
    <Dialog open onClose={onClose} title="Read points off a picture" wide={chosen ? 'most' : true}>
      {chosen ? (
        <Reading {...chosen} onTake={onTake} onClose={onClose} />
      ) : (
        <div className="grid justify-items-start gap-3">
          <p className="text-soft">
            A printed curve is read to about a hundredth, and stays evidence from before: it is registered
            with its picture, never claimed.
          </p>
          <label className={buttonClass('main')}>
            Choose the picture
            <input
              type="file"
              accept="image/png,image/jpeg,image/webp"
              className="sr-only"
              onChange={(event) => void choose(event.target.files?.[0])}
            />
          </label>
          {problem && <ProblemNote message={problem} />}
        </div>
      )}
    </Dialog>
  );
}

/** The picture, or in words why it cannot be shown. */
async function pictureOf(file: File): Promise<ImageBitmap | string> {
  if (file.size > MAX_LEGACY_BYTES)
    return `${file.name} is larger than ${MAX_LEGACY_BYTES >> 20} MB: take a smaller copy.`;
  try {
    const picture = await createImageBitmap(file);
    if (picture.width * picture.height <= MOST_PIXELS) return picture;
    picture.close();
    return `${file.name} has more than ${MOST_PIXELS / 1e6} million pixels: take a smaller copy.`;
  } catch {
    return `${file.name} is no picture that can be shown: take a PNG, JPEG or WebP.`;
  }
}

type Deed =
  | { readonly place: Place }
  | { readonly name: MarkName; readonly value: NumberTyped }
  | { readonly set: Partial<Pick<Marked, 'unit' | 'of' | 'next'>> }
  | { readonly without: number };
function after(state: Marked, deed: Deed): Marked {
  if ('place' in deed) return placed(state, deed.place);
  if ('name' in deed) return valued(state, deed.name, deed.value);
  if ('set' in deed) return { ...state, ...deed.set };
  return { ...state, points: state.points.filter((_, i) => i !== deed.without) };
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Reading({
  file,
  picture,
  known,
  onTake,
  onClose,
}: {
  file: File;
  picture: ImageBitmap;
  /** By what the picture is known on this device. */ known: string;
  onTake: (lines: readonly string[], file: File) => void;
  onClose: () => void;
}) {
  const { data: session } = useSessionQuery();
  const [marked, setMarked] = useKept(
    `graph:${session?.person?.id ?? ''}:${known}`,
    NOTHING_MARKED,
    isUnmarked,
  );
  const [found, setFound] = useState(() => !isUnmarked(marked));
  const act = (deed: Deed): void => setMarked((now) => after(now, deed));
  const beginAnew = (): void => {
    setMarked(() => NOTHING_MARKED);
    setFound(false);
  };
  const [cross, setCross] = useState<Place>({ x: picture.width >> 1, y: picture.height >> 1 });
  const scale = scaleIn(marked);
  const lines = scale && typeof scale !== 'string' ? linesIn(marked, scale) : [];
  const takeOver = (): void => {
    onTake(lines, file);
    // The marks stay for another curve of the same picture.
    setMarked((now) => ({ ...now, points: [] }));
  };
  const full = marked.points.length >= MOST_FIGURES;
  return (
    <div className="grid gap-5 md:grid-cols-[minmax(0,1fr)_300px]">
      <GraphPicture
        picture={picture}
        marked={marked}
        cross={cross}
        onCross={setCross}
        onPlace={(place) => !(full && marked.next === 'point') && act({ place })}
      />
      <div className="grid content-start gap-3">
        {found && (
          <p className="text-soft">
            This picture was marked before on this device.{' '}
            <button type="button" className="underline" onClick={beginAnew}>
              Begin anew
            </button>
          </p>
        )}
        <p role="status" className="font-medium">
          {full ? `${MOST_FIGURES} points are as many as are kept.` : ASKS[marked.next]}
        </p>
        <Lens picture={picture} cross={cross} />
        <div className="grid grid-cols-2 gap-x-3 gap-y-2">
          {MARKS.map((name) => (
            <AxisValue key={name} name={name} marked={marked} act={act} />
          ))}
          <Field label="Unit of the values">
            <Select
              value={marked.unit}
              onChange={(e) => act({ set: { unit: e.target.value as FigureUnit } })}
            >
              {FIGURE_UNITS.map((unit) => (
                <option key={unit}>{unit}</option>
              ))}
            </Select>
          </Field>
          <Field label="Curve of">
            <Select
              value={curveOf(marked.unit, marked.of)}
              disabled={marked.unit === '%'}
              onChange={(e) => act({ set: { of: e.target.value as FigureOf } })}
            >
              {FIGURE_OF.map((of) => (
                <option key={of}>{of}</option>
              ))}
            </Select>
          </Field>
        </div>
        {typeof scale === 'string' && <ProblemNote message={scale} />}
        <PointList marked={marked} lines={lines} act={act} />
        <div className="flex gap-3">
          <Button kind="main" disabled={lines.length === 0} onClick={takeOver}>
            Take over {lines.length === 1 ? '1 point' : `${lines.length} points`}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </div>
    </div>
  );
}

function AxisValue({ name, marked, act }: { name: MarkName; marked: Marked; act: (deed: Deed) => void }) {
  const { place, value } = marked.marks[name];
  return (
    <div className="grid gap-1">
      <Field label={LABEL[name]} error={whyWrong(value)}>
        <NumberInput value={value} onChange={(typed) => act({ name, value: typed })} />
      </Field>
      <button
        type="button"
        aria-pressed={marked.next === name}
        className="justify-self-start py-1 text-[12.5px] underline aria-pressed:font-semibold aria-pressed:text-ask"
        onClick={() => act({ set: { next: marked.next === name ? 'point' : name } })}
      >
        {marked.next === name ? 'click its place' : place ? 'set its place again' : 'set its place'}
      </button>
    </div>
  );
}

function PointList({
  marked,
  lines,
  act,
}: {
  marked: Marked;
  lines: readonly string[];
  act: (deed: Deed) => void;
}) {
  if (marked.points.length === 0) return null;
  if (lines.length === 0)
    return (
      <p className="text-soft">
        {marked.points.length === 1 ? '1 point' : `${marked.points.length} points`} clicked; what they say is
        known with all four marks and their values.
      </p>
    );
  return (
    <ol aria-label="Points" className="max-h-36 overflow-auto border-t border-rule">
      {lines.map((line, i) => (
        <li key={`${i} ${line}`} className="flex items-center justify-between border-b border-rule py-0.5">
          {line}
          <button
            type="button"
            aria-label={`Take away point ${i + 1}`}
            className="grid size-7 place-items-center text-soft hover:text-loss"
            onClick={() => act({ without: i })}
          >
            <Trash2 size={14} aria-hidden />
          </button>
        </li>
      ))}
    </ol>
  );
}
