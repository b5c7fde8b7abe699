/** Pull files as operators of several countries would send them, each with what it must be read as. */
import type { Quantity } from '../../base/quantities.ts';
import { COUNTRIES, STYLES } from './countries.ts';
import { columnOf, expectedOf, torque, within, type CorpusFile } from './made-pull.ts';
import { shapes } from './pull-shapes.ts';
import { encoded, tableText, type Style } from './written.ts';

/** Names of one letter say nothing without their unit beside them, and Latin-1 has no λ. */
const possible = (country: string, style: Style): boolean =>
  country !== 'symbols' || style.encoding !== 'latin-1';

function byCountry(): CorpusFile[] {
  return COUNTRIES.flatMap(({ name, units, names }) =>
    STYLES.filter((style) => possible(name, style)).map((style): CorpusFile => {
      const quantities = Object.keys(names) as Quantity[];
      const columns = quantities.map((q) => columnOf(q, names[q]!, units[q]!));
      return {
        name: `${name}: ${style.name}`,
        bytes: encoded(tableText(columns, style), style.encoding),
        options: { fuel: 'petrol' },
        expected: Object.fromEntries(quantities.map((q) => [q, expectedOf(q, units[q]!)])),
        torque: { values: torque, within: within(units.torque!) },
      };
    }),
  );
}

/** All files, in a fixed order; names tell them apart. */
export const pullCorpus = (): CorpusFile[] => [...byCountry(), ...shapes()];
