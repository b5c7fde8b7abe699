import type { TestDetail } from '../../contract/overview.ts';
import { Mark } from '../base/ui.tsx';

type Arm = TestDetail['arms'][number];
const STOCK: Readonly<Record<string, string>> = { yes: 'stock', '': 'stock' };

/** The arms of a plan: what the baseline is, and what each other changes. */
export function PlanArms({ arms }: { arms: readonly Arm[] }) {
  const baseline = arms.find((a) => a.role === 'baseline');
  const labelOf = (key: string): string => arms.find((a) => a.key === key)?.label ?? key;
  return (
    <section>
      <h2 className="mb-1">Arms</h2>
      <ul className="border-t-[1.5px] border-ink">
        {arms.map((arm) => (
          <li key={arm.key} className="grid grid-cols-[150px_1fr] gap-3 border-b border-rule py-2">
            <span>
              <b>{arm.label}</b>
              <span className="block text-[12px] text-soft">
                {arm.role === 'baseline' ? 'baseline' : arm.from ? `on ${labelOf(arm.from)}` : 'arm'}
              </span>
            </span>
            <span>{arm.role === 'baseline' ? <Baseline arm={arm} /> : <Changes arm={arm} />}</span>
          </li>
        ))}
      </ul>
      {baseline?.scope === 'no' && (
        <p className="mt-1 text-[12.5px] text-ask">The claim will say what the part was measured against.</p>
      )}
    </section>
  );
}

function Baseline({ arm }: { arm: Arm }) {
  const stock = STOCK[arm.scope];
  return (
    <Mark tone={stock ? 'stands' : 'ask'}>
      {stock ?? (arm.scope === 'no' ? arm.scopeText : 'not known to be stock')}
    </Mark>
  );
}

function Changes({ arm }: { arm: Arm }) {
  const alone = arm.scope === 'part alone' || arm.scope === 'setting of the part';
  return (
    <>
      {arm.differences.length > 0
        ? arm.differences.map((d) => (
            <span key={d.subject + d.to} className="block">
              {d.subject}: <span className="text-soft">{d.from} →</span> {d.to}
            </span>
          ))
        : arm.part}
      {arm.scope && (
        <span className="block">
          <Mark tone={alone ? 'stands' : 'ask'}>{arm.scope}</Mark>{' '}
          <span className="text-[12.5px] text-soft">{arm.scopeText}</span>
        </span>
      )}
    </>
  );
}
