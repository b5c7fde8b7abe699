import { useEffect, useRef } from 'react';
import type { Planning } from '../../contract/register/register.ts';
import { nearestToDirect } from '../../core/register/gears.ts';
import type { Draft } from './draft.ts';

type Settings = Pick<Draft, 'gear' | 'fuel'>;

/** Gear and fuel as the vehicle has them: the gear nearest to 1:1, and what its ledger says is in the tank. */
export function settingsOf({ vehicle, present, fitment }: Planning): Settings {
  const gear = nearestToDirect(vehicle.gears);
  return {
    gear: gear ? `${gear.name}, ${gear.ratio}:1` : '',
    fuel: present.configuration.fuel ?? fitment.fuel,
  };
}

/** What follows from another vehicle: a field that is blank or still says what the one before had. */
export function followed(draft: Settings, before: Settings | null, next: Settings): Partial<Settings> {
  const change: Partial<Settings> = {};
  for (const key of ['gear', 'fuel'] as const)
    if (next[key] && next[key] !== draft[key] && (draft[key] === '' || draft[key] === before?.[key]))
      change[key] = next[key];
  return change;
}

/** Takes gear and fuel from the vehicle chosen, and follows when another is; what a person typed stays. */
export function useFollowVehicle(
  known: Planning | undefined,
  onChange: (update: (draft: Draft) => Draft) => void,
): void {
  const last = useRef<{ vehicleId: string; settings: Settings } | null>(null);
  useEffect(() => {
    if (!known || last.current?.vehicleId === known.vehicle.id) return;
    const next = settingsOf(known);
    const before = last.current?.settings ?? null;
    last.current = { vehicleId: known.vehicle.id, settings: next };
    onChange((draft) => ({ ...draft, ...followed(draft, before, next) }));
  }, [known, onChange]);
}
