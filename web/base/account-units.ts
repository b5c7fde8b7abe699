import { useEffect } from 'react';
import { useChoicesQuery } from './api.ts';
import { preferred } from './preferences.ts';
import { useAppDispatch } from './store.ts';

/** Reads in the units of the account, on whatever device; without any chosen there, in those of the device. */
export function useAccountUnits(personId: string | undefined): void {
  const { currentData } = useChoicesQuery(undefined, { skip: !personId });
  const dispatch = useAppDispatch();
  const units = currentData?.units;
  useEffect(() => {
    if (units) dispatch(preferred(units));
  }, [units, dispatch]);
}
