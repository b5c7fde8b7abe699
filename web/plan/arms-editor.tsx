import clsx from 'clsx';
import { useState } from 'react';
import { Link } from 'react-router';
import type { ArmsAssessment, AssessedArm } from '../../core/plan/arm-types.ts';
import type { LedgerChange } from '../../core/register/ledger.ts';
import { protocolOf } from '../../core/plan/protocols.ts';
import type { PlannedArmInput } from '../../contract/plan/test.ts';
import type { Planning } from '../../contract/register/register.ts';
import { Select } from '../base/select.tsx';
import { Button, Field, Input, Mark } from '../base/ui.tsx';
import { withArm, withArmAdded, withoutArm, type Draft } from './draft.ts';

/** Arms as differences from what is on the vehicle now; beside each, everything in which it differs from the baseline. */
export function ArmsEditor({
  draft,
  onChange,
  planning,
  assessment,
  error,
}: {
  draft: Draft;
  onChange: (update: (draft: Draft) => Draft) => void;
  planning: Planning;
  assessment: ArmsAssessment | null;
  error: string | undefined;
}) {
  const protocol = protocolOf(draft.protocol);
  const parts = draft.arms.filter((a) => a.role === 'part');
  return (
    <div className="grid gap-3">
      {draft.arms.map((arm, i) => {
        const known: AssessedArm | undefined =
          arm.role === 'baseline' ? assessment?.baseline : assessment?.parts.find((p) => p.key === arm.key);
        return (
          <ArmCard
            key={arm.key}
            arm={arm}
            draft={draft}
            planning={planning}
            assessed={known}
            onChange={(change) => onChange((d) => withArm(d, arm.key, change))}
            onRemove={
              arm.role === 'part' && parts.length > protocol.parts.least
                ? () => onChange((d) => withoutArm(d, arm.key))
                : undefined
            }
            place={i}
          />
        );
      })}
      {error && (
        <p role="alert" className="text-loss">
          {error}
        </p>
      )}
      {parts.length < protocol.parts.most && (
        <div>
          <Button small onClick={() => onChange(withArmAdded)}>
            {protocol.cumulative ? 'Add a stage' : 'Add an arm'}
          </Button>
        </div>
      )}
    </div>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function ArmCard({
  arm,
  draft,
  planning,
  assessed,
  onChange,
  onRemove,
  place,
}: {
  arm: PlannedArmInput;
  draft: Draft;
  planning: Planning;
  assessed: AssessedArm | undefined;
  onChange: (change: Partial<PlannedArmInput>) => void;
  onRemove: (() => void) | undefined;
  place: number;
}) {
  const isBaseline = arm.role === 'baseline';
  const stops = assessed?.problems.filter((p) => p.severity === 'stop') ?? [];
  const cautions = assessed?.problems.filter((p) => p.severity === 'caution') ?? [];
  const fromLabel =
    arm.from === null
      ? 'the vehicle as it stands'
      : (draft.arms.find((a) => a.key === arm.from)?.label ?? arm.from);
  return (
    <section
      aria-label={isBaseline ? 'Baseline arm' : `Arm ${place}, ${arm.label}`}
      className={clsx(
        'border-l-[3px] bg-sheet px-4 py-3',
        stops.length ? 'border-loss' : isBaseline ? 'border-ink' : 'border-stands',
      )}
    >
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-[12px] text-soft">
          {isBaseline ? 'Baseline' : draft.protocol === 'ladder' ? `Stage ${place}` : `Arm ${place}`}
        </span>
        <Input
          aria-label={isBaseline ? 'Name of the baseline' : `Name of arm ${place}`}
          value={arm.label}
          onChange={(e) => onChange({ label: e.target.value })}
          className="w-52 py-0.5! font-semibold"
        />
        <span className="text-[12.5px] text-soft">
          built on {fromLabel}
          {arm.changes.length === 0 && isBaseline ? ', nothing changed' : ', with'}
        </span>
        {onRemove && (
          <Button kind="quiet" small onClick={onRemove} className="ml-auto">
            Remove
          </Button>
        )}
      </div>
      {arm.changes.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-1.5">
          {arm.changes.map((change, i) => (
            <li key={i} className="flex items-center gap-1.5 rounded border border-rule bg-paper px-2 py-0.5">
              {wordsOf(change, planning)}
              <button
                type="button"
                aria-label={`Take out: ${wordsOf(change, planning)}`}
                onClick={() => onChange({ changes: arm.changes.filter((_, k) => k !== i) })}
                className="text-soft hover:text-ink"
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      <ChangeAdder
        planning={planning}
        armLabel={isBaseline ? 'baseline' : arm.label}
        onAdd={(change, name) =>
          onChange({
            changes: [...arm.changes.filter((c) => !replaces(change, c)), change],
            ...(name && /^part( \d+)?$/.test(arm.label) ? { label: name.toLowerCase() } : {}),
          })
        }
      />
      {!isBaseline && assessed && (
        <div className="mt-2 border-t border-rule pt-2">
          <p>
            <b>Differs from the baseline in: </b>
            {assessed.differences.length === 0
              ? 'nothing'
              : assessed.differences.map((d, i) => (
                  <span key={d.subject + d.to}>
                    {i > 0 && '; '}
                    {d.subject} <span className="text-soft">{d.from} →</span> {d.to}
                  </span>
                ))}
          </p>
          {arm.from !== null && (
            <p className="text-[12.5px] text-soft">
              Against the stage before:{' '}
              {assessed.step.map((d) => `${d.subject} ${d.to}`).join('; ') || 'nothing'}
            </p>
          )}
          <p className="mt-1">
            <Mark
              tone={
                assessed.scope === 'part alone' || assessed.scope === 'setting of the part'
                  ? 'stands'
                  : assessed.scope === 'nothing'
                    ? 'loss'
                    : 'ask'
              }
            >
              {assessed.scope}
            </Mark>{' '}
            <span className="text-soft">{assessed.scopeText}</span>
          </p>
        </div>
      )}
      {[...stops, ...cautions].map((p) => (
        <p
          key={p.code + p.text}
          className={clsx('mt-1 text-[12.5px]', p.severity === 'stop' ? 'text-loss' : 'text-ask')}
        >
          <b>
            {p.severity === 'stop' ? '▼ ' : '◐ '}
            {p.text}
          </b>{' '}
          {p.mend}
        </p>
      ))}
    </section>
  );
}

/** One place on the car, one calibration, one fuel: a later choice takes the place of an earlier one. */
const replaces = (next: LedgerChange, earlier: LedgerChange): boolean => {
  const place = (c: LedgerChange): string => ('category' in c ? c.category : c.kind);
  return (
    next.kind !== 'other change' &&
    place(next) === place(earlier) &&
    !(next.kind === 'option set' && earlier.kind === 'part fitted')
  );
};

export function wordsOf(change: LedgerChange, planning: Planning): string {
  const revision = (id: string) => planning.revisions.find((r) => r.id === id);
  const settings = (s: Readonly<Record<string, string>>): string =>
    Object.entries(s)
      .map(([k, v]) => `${k} ${v}`)
      .join(', ');
  switch (change.kind) {
    case 'part fitted': {
      const r = revision(change.partRevisionId);
      const set = Object.keys(change.settings).length ? ` (${settings(change.settings)})` : '';
      return (r ? `${r.name}, revision ${r.revision}` : 'a part') + set;
    }
    case 'option set':
      return `${change.category}: ${settings(change.settings)}`;
    case 'returned to stock':
      return `${change.category} back to stock`;
    case 'calibration': {
      const c = planning.calibrations.find((x) => x.id === change.calibrationId);
      return change.calibrationId === null
        ? 'stock calibration'
        : `calibration ${c ? `${c.name}, revision ${c.revision}` : ''}`;
    }
    case 'tyres':
      return `tyres ${change.text}`;
    case 'fuel':
      return `fuel ${change.text}`;
    case 'service':
      return `${change.item} renewed`;
    case 'other change':
      return change.text;
    case 'other change undone':
      return `undone: ${change.text}`;
  }
}

type Kind = 'part' | 'calibration' | 'stock' | 'fuel' | 'tyres' | 'other';
const KINDS: Record<Kind, string> = {
  part: 'fit a part',
  calibration: 'flash a calibration',
  stock: 'put back to stock',
  fuel: 'another fuel',
  tyres: 'other tyres',
  other: 'something else',
};

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function ChangeAdder({
  planning,
  onAdd,
  armLabel,
}: {
  planning: Planning;
  onAdd: (change: LedgerChange, name?: string) => void;
  armLabel: string;
}) {
  const [kind, setKind] = useState<Kind>('part');
  const [partId, setPartId] = useState('');
  const [settings, setSettings] = useState<Record<string, string>>({});
  const [text, setText] = useState('');
  const revision = planning.revisions.find((r) => r.id === partId);
  const present = planning.present.configuration;
  const choose = (id: string): void => {
    setPartId(id);
    setSettings(
      Object.fromEntries(
        (planning.revisions.find((r) => r.id === id)?.options ?? []).map((o) => [o.name, o.settings[0]]),
      ),
    );
  };
  const add = (): void => {
    if (kind === 'part' && revision)
      onAdd(
        { kind: 'part fitted', category: revision.category, partRevisionId: revision.id, settings },
        revision.name,
      );
    if (kind === 'calibration') onAdd({ kind: 'calibration', calibrationId: partId || null });
    if (kind === 'stock' && partId) onAdd({ kind: 'returned to stock', category: partId as never });
    if (kind === 'fuel' && text.trim()) onAdd({ kind: 'fuel', text: text.trim() });
    if (kind === 'tyres' && text.trim()) onAdd({ kind: 'tyres', text: text.trim() });
    if (kind === 'other' && text.trim()) onAdd({ kind: 'other change', text: text.trim() });
    setPartId('');
    setSettings({});
    setText('');
  };
  const ready =
    kind === 'part'
      ? revision !== undefined
      : kind === 'stock'
        ? partId !== ''
        : kind === 'calibration'
          ? true
          : text.trim() !== '';
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2">
      <Select
        aria-label={`What changes in ${armLabel}`}
        value={kind}
        onChange={(e) => {
          setKind(e.target.value as Kind);
          setPartId('');
          setText('');
        }}
        className="py-1!"
      >
        {(Object.keys(KINDS) as Kind[]).map((k) => (
          <option key={k} value={k}>
            {KINDS[k]}
          </option>
        ))}
      </Select>
      {kind === 'part' && (
        <Select
          aria-label={`Part for ${armLabel}`}
          value={partId}
          onChange={(e) => choose(e.target.value)}
          className="max-w-80 py-1!"
        >
          <option value="">choose a part that fits</option>
          {planning.revisions.map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}, revision {r.revision} ({r.sku})
            </option>
          ))}
        </Select>
      )}
      {kind === 'part' &&
        revision?.options.map((o) => (
          <Field key={o.name} label={o.name}>
            <Select
              value={settings[o.name]}
              onChange={(e) => setSettings({ ...settings, [o.name]: e.target.value })}
              className="py-1!"
            >
              {o.settings.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </Select>
          </Field>
        ))}
      {kind === 'calibration' && (
        <Select
          aria-label={`Calibration for ${armLabel}`}
          value={partId}
          onChange={(e) => setPartId(e.target.value)}
          className="py-1!"
        >
          <option value="">stock</option>
          {planning.calibrations.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}, revision {c.revision}
            </option>
          ))}
        </Select>
      )}
      {kind === 'stock' && (
        <Select
          aria-label={`Place to put back in ${armLabel}`}
          value={partId}
          onChange={(e) => setPartId(e.target.value)}
          className="py-1!"
        >
          <option value="">choose a place</option>
          {Object.keys(present.parts).map((c) => (
            <option key={c}>{c}</option>
          ))}
        </Select>
      )}
      {(kind === 'fuel' || kind === 'tyres' || kind === 'other') && (
        <Input
          aria-label={`${KINDS[kind]} in ${armLabel}`}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') {
              e.preventDefault();
              add();
            }
          }}
          className="w-56 py-1!"
        />
      )}
      <Button small disabled={!ready} onClick={add}>
        Put it in
      </Button>
      {kind === 'part' && planning.revisions.length === 0 && (
        <span className="text-[12.5px] text-ask">
          No part is listed for this fitment. <Link to="/register/applications">List it first</Link>.
        </span>
      )}
    </div>
  );
}
