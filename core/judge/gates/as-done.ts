import type { SessionRecord } from '../../capture/session/session-record.ts';
import { found, type Found } from '../finding.ts';

/** Changes after which pulls are of another setting; fuel may be the same batch, and other things may not matter. */
const DIFFERS = new Set(['hood', 'fan', 'tyre pressure', 'gear']);

/** What the operator’s record says of how the session was run. Nothing where there is no record: pulls came as files. */
export function asDoneGates(done: SessionRecord | undefined): Found[] {
  if (!done) return [];
  const { departures, changes, renewed, replaced = [] } = done;
  const otherArm = departures.filter((d) => d.kind === 'other arm');
  const told = departures.filter((d) => d.kind !== 'other arm');
  const among = changes.filter((c) => c.amongCounted);
  const differs = among.filter((c) => DIFFERS.has(c.what));
  return [
    ...otherArm.map((d) => found('as planned', 'fail', 'OTHER_ARM_ON_CAR', d.label, d.arm, d.planned)),
    ...(replaced.length > 0 ? [found('as planned', 'fail', 'REPLACED_RECORDING', replaced)] : []),
    told.length > 0
      ? found('as planned', 'caution', 'DONE_OTHERWISE', told)
      : found('as planned', 'pass', 'DONE_AS_PLANNED'),
    differs.length > 0
      ? found('same setting', 'fail', 'SETTING_CHANGED', differs)
      : among.length > 0
        ? found('same setting', 'caution', 'SETTING_TOUCHED', among)
        : found('same setting', 'pass', 'SETTING_KEPT'),
    ...renewed.map((r) => found('one change', 'caution', 'RENEWED_BESIDE', r.arm, r.text)),
  ];
}
