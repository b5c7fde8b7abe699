/** What can go wrong at a dyno, as the stand-ins play it: switched on from the bench screen or the command line. */
import type { DeviceKind } from '../../../core/register/devices.ts';

/** Every fault, with the devices that play a part in it. */
export const FAULTS = {
  'dropped samples': ['dyno'],
  'wrong unit': ['dyno'],
  'late start': ['dyno'],
  'early lift': ['dyno'],
  'wheel slip': ['dyno'],
  'connection lost': ['dyno'],
  'heat soak': ['dyno', 'logger'],
  'adaptation after an install': ['dyno'],
  'torque intervention': ['dyno', 'logger'],
  'dead channel': ['logger'],
  'sensor stuck': ['logger', 'station'],
  'clock offset': ['logger'],
  'lean mixture': ['logger'],
  knock: ['logger'],
  'low boost': ['logger', 'dyno'],
  'warm start': ['logger'],
  'air moved': ['station'],
} as const satisfies Record<string, readonly DeviceKind[]>;
export type FaultName = keyof typeof FAULTS;
export const FAULT_NAMES = Object.keys(FAULTS) as FaultName[];

/** Faults a device plays, by name. */
export const faultsOf = (device: DeviceKind): FaultName[] =>
  FAULT_NAMES.filter((name) => (FAULTS[name] as readonly DeviceKind[]).includes(device));
