/** Where the audit goes: every page of the application, for everyone who may open it. */
import type { APIRequestContext } from '@playwright/test';
import { DEMO_PEOPLE } from '../../demo/register/people.ts';
import { HOUSE, MANAGER, OVERSEE, PREPARE, ROLES, SHELF, type Role } from '../../contract/base/roles.ts';

export type Reader = Role | 'public';
export const READERS: readonly Reader[] = ['public', ...ROLES];
export interface Place {
  readonly name: string;
  readonly path: string;
  readonly readers: readonly Reader[];
}
/** Widths and heights in CSS pixels. 640 × 400 is 1280 × 800 at 200 % zoom. */
export const SIZES = {
  desk: { width: 1280, height: 800 },
  tablet: { width: 820, height: 1180 },
  wall: { width: 1920, height: 1080 },
  zoom: { width: 640, height: 400 },
  phone: { width: 390, height: 844 },
} as const;
export type SizeName = keyof typeof SIZES;
/** Telephones are for readers of what is public; the bench and the desk have more room. */
export const sizesFor = (place: Place): SizeName[] =>
  (Object.keys(SIZES) as SizeName[]).filter((s) => s !== 'phone' || place.readers.includes('public'));
export const THEMES = ['paper', 'cell'] as const;

interface Listed {
  items: {
    id: string;
    number: number;
    tag: string;
    sku: string;
    slug: string;
    state: string;
    code: string;
  }[];
}
const EVERYONE = READERS;
const SIGNED_IN: readonly Reader[] = ROLES;

export const emailOf = (role: Role): string => DEMO_PEOPLE.find((p) => p.role === role)!.email;

/** The pages, with the records of the demo that have most to show. `request` is signed in as the test manager. */
export async function places(request: APIRequestContext): Promise<Place[]> {
  const list = async (path: string): Promise<Listed['items']> => {
    const answer = (await (await request.get(`/api${path}`)).json()) as Listed;
    if (!(answer.items.length > 0)) throw new Error(`${path} lists nothing to audit`);
    return answer.items;
  };
  const tests = await list('/tests');
  const claims = await list('/claims');
  const [fitment] = await list('/fitments');
  const [tern] = await list('/fitments?q=Tern');
  const parts = await list('/parts');
  const vehicles = await list('/vehicles');
  const [shown] = await list('/catalogue');
  const test = (number: number): string => `/tests/${tests.find((t) => t.number === number)!.id}`;
  const claim = (state: string) => claims.find((c) => c.state === state)!;
  const register = (await (await request.get('/api/register')).json()) as { dynos: { id: string }[] };
  const place = (name: string, path: string, readers: readonly Reader[]): Place => ({ name, path, readers });
  return [
    place('sign-in', '/sign-in', ['public']),
    place('catalogue', '/catalogue', EVERYONE),
    place('corrections', '/corrections', EVERYONE),
    place('fitment, public', `/catalogue/${shown.slug}`, EVERYONE),
    place('evidence', `/evidence/${claim('published').code}`, EVERYONE),
    place('no such page', '/nowhere', ['public']),
    place('today', '/today', SIGNED_IN),
    place('tests', '/tests', SIGNED_IN),
    ...['plan', 'pulls', 'air', 'compare', 'judge', 'claim'].map((step) =>
      place(`test: ${step}`, `${test(3)}/${step}`, HOUSE),
    ),
    ...['plan', 'pulls', 'air', 'compare', 'judge'].map((step) =>
      place(`options: ${step}`, `${test(15)}/${step}`, MANAGER),
    ),
    place('run sheet', `${test(3)}/run-sheet`, HOUSE),
    place('bench', `${test(13)}/bench`, HOUSE),
    place('new test', '/tests/new', MANAGER),
    place('edit plan', `${test(9)}/plan/edit`, MANAGER),
    place('coverage', '/coverage', HOUSE),
    place('worth testing', '/coverage?view=next', HOUSE),
    place('order of upgrades', `/coverage/${tern.id}/order`, HOUSE),
    place('schedule', '/schedule', HOUSE),
    place('claims', '/claims', HOUSE),
    place('claim in review', `/claims/${claim('in review').id}`, HOUSE),
    place('claim gone stale', `/claims/${claim('stale').id}`, OVERSEE),
    place('trail', '/trail', OVERSEE),
    place('to take over', '/shelf', [...SHELF, ...OVERSEE]),
    place('fitments', '/register/fitments', HOUSE),
    place('fitment', `/register/fitments/${fitment.id}`, HOUSE),
    place('new fitment', '/register/fitments/new', MANAGER),
    place('vehicles', '/register/vehicles', HOUSE),
    place('vehicle', `/register/vehicles/${vehicles.find((v) => v.tag.startsWith('SV-014'))!.id}`, HOUSE),
    place('new vehicle', '/register/vehicles/new', PREPARE),
    place('parts', '/register/parts', HOUSE),
    place('part', `/register/parts/${parts[0].id}`, HOUSE),
    place('new part', '/register/parts/new', MANAGER),
    place('applications', '/register/applications', HOUSE),
    place('calibrations', '/register/calibrations', HOUSE),
    place('dynos', '/register/dynos', HOUSE),
    place('dyno', `/register/dynos/${register.dynos[0].id}`, HOUSE),
    place('new dyno', '/register/dynos/new', MANAGER),
    place('figures from before', '/register/before', HOUSE),
    place('uses', '/register/uses', HOUSE),
    place('policy', '/register/policy', HOUSE),
    ...['fitments', 'parts', 'applications'].map((kind) =>
      place(`import ${kind}`, `/register/import/${kind}`, MANAGER),
    ),
  ];
}
