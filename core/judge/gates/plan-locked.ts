import { amendmentsWeigh, type PlanLock } from '../../plan/amendment.ts';
import { found, type Found } from '../finding.ts';

const gate = 'plan locked' as const;

export function planGate(lock: PlanLock | undefined): Found {
  if (!lock) return found(gate, 'caution', 'PLAN_NOT_STATED');
  if (!lock.lockedAt) return found(gate, 'fail', 'PLAN_NOT_LOCKED');
  if (lock.firstPullAt && Date.parse(lock.firstPullAt) < Date.parse(lock.lockedAt))
    return found(gate, 'fail', 'PLAN_LOCKED_LATE');
  const amended = amendmentsWeigh(lock.amendments ?? [], lock.firstPullAt);
  if (amended.state === 'decisive') return found(gate, 'fail', 'AMENDED_LATE', amended.fields);
  if (amended.state === 'told') return found(gate, 'caution', 'AMENDED_AFTER_FIRST_PULL', amended.fields);
  return found(gate, 'pass', 'PLAN_LOCKED', amended.state === 'before first pull');
}
