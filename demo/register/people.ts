import type { Role } from '../../contract/base/roles.ts';

/** Sample people of the demo; all invented. */
export const DEMO_PEOPLE: readonly {
  key: string;
  name: string;
  email: string;
  role: Role;
  clearance: boolean;
  does: string;
}[] = [
  {
    key: 'manager',
    name: 'Maren Holt',
    email: 'maren@skerry-vale.example',
    role: 'test manager',
    clearance: true,
    does: 'Plans tests, locks them, drafts claims',
  },
  {
    key: 'operator',
    name: 'Tobias Rask',
    email: 'tobias@skerry-vale.example',
    role: 'operator',
    clearance: false,
    does: 'Runs the dyno, brings in pulls and air readings',
  },
  {
    key: 'reviewer',
    name: 'Ines Calloway',
    email: 'ines@skerry-vale.example',
    role: 'reviewer',
    clearance: true,
    does: 'Reads the evidence, approves or returns claims',
  },
  {
    key: 'editor',
    name: 'Edda Lunn',
    email: 'edda@skerry-vale.example',
    role: 'catalogue editor',
    clearance: false,
    does: 'Takes published claims to the product pages',
  },
  {
    key: 'partner',
    name: 'Juno Farr, Fell Road Garage',
    email: 'juno@fellroad.example',
    role: 'partner shop',
    clearance: false,
    does: 'Captures pulls for the tests assigned to the shop',
  },
];
