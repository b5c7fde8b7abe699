import type { Person } from '../../contract/base/http.ts';
import { HOUSE, MANAGER, OVERSEE, PREPARE, SHELF_READ } from '../../contract/base/roles.ts';
import type { Hit } from './finder.tsx';
import type { Preferences } from './preferences.ts';
import { UNITS } from '../../contract/base/units-choice.ts';

export interface Deeds {
  readonly prefer: (kind: keyof Preferences, value: string) => void;
  readonly showKeys: () => void;
  readonly changePassword: () => void;
  readonly signOut: () => void;
}
const page = (to: string, text: string): Hit => ({ key: to, to, text });
const deed = (text: string, run: () => void): Hit => ({ key: text, text, run });

/** Pages a person may open and what they may do from anywhere, by the words they are called. */
export function commandsFor(person: Person | null, units: Preferences, deeds: Deeds): Hit[] {
  const may = (roles: readonly string[]): boolean => person !== null && roles.includes(person.role);
  return [
    ...(person ? [page('/tests', 'Tests')] : []),
    ...(may(HOUSE)
      ? [
          page('/coverage', 'Coverage'),
          page('/coverage?view=next', 'Worth testing next'),
          page('/schedule', 'Schedule'),
          page('/claims', 'Claims'),
        ]
      : []),
    page('/catalogue', 'Catalogue'),
    page('/corrections', 'Corrections: what was published and fell'),
    ...(may(SHELF_READ)
      ? [page('/shelf', 'To take over: what was published, went stale or was withdrawn')]
      : []),
    ...(may(HOUSE)
      ? [
          page('/register/fitments', 'Register: fitments'),
          page('/register/vehicles', 'Register: vehicles'),
          page('/register/parts', 'Register: parts'),
          page('/register/applications', 'Register: applications'),
          page('/register/calibrations', 'Register: calibrations'),
          page('/register/dynos', 'Register: dynos'),
          page('/register/uses', 'Register: uses'),
          page('/register/before', 'Register: figures from before'),
          page('/register/policy', 'Register: policy'),
        ]
      : []),
    ...(may(OVERSEE) ? [page('/trail', 'Audit trail')] : []),
    ...(may(MANAGER)
      ? [
          page('/tests/new', 'Plan a new test'),
          page('/register/fitments/new', 'Enter a new fitment'),
          page('/register/parts/new', 'Enter a new part'),
          page('/register/dynos/new', 'Enter a new dyno'),
          ...['fitments', 'parts', 'applications'].map((kind) =>
            page(`/register/import/${kind}`, `Import ${kind} from a spreadsheet`),
          ),
        ]
      : []),
    ...(may(PREPARE) ? [page('/register/vehicles/new', 'Register a vehicle')] : []),
    ...(['power', 'torque', 'temperature', 'pressure'] as const).flatMap((kind) =>
      UNITS[kind]
        .filter((unit) => unit !== units[kind])
        .map((unit) => deed(`Read ${kind} in ${unit}`, () => deeds.prefer(kind, unit))),
    ),
    deed(units.theme === 'paper' ? 'Dark, for the dyno cell' : 'Light, as paper', () =>
      deeds.prefer('theme', units.theme === 'paper' ? 'cell' : 'paper'),
    ),
    deed('Keys', deeds.showKeys),
    ...(person
      ? [deed('Change password', deeds.changePassword), deed('Sign out', deeds.signOut)]
      : [page('/sign-in', 'Sign in')]),
  ];
}
