/** What people ask of a full house all day: every list, the grid, the finder, and what the public reads. */
import { gunzipSync } from 'node:zlib';
import type { Rng } from '../../core/base/rng.ts';
import { ask, type Question } from '../base/time-answers.ts';
import { BODIES, MAKERS, MODELS } from '../register/fill-register.ts';

const textOf = (body: Buffer): string =>
  (body[0] === 0x1f && body[1] === 0x8b ? gunzipSync(body) : body).toString();

/** Signs in by the demo's door; gives back the cookie. */
export async function signIn(base: string, personId: string): Promise<string> {
  const answer = await fetch(`${base}/demo/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ personId }),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0];
  if (!cookie) throw new Error(`The bench could not sign in: ${answer.status} ${await answer.text()}`);
  return cookie;
}

/** The cursor that leads some pages deep into a list. */
async function deep(base: string, path: string, cookie: string, pages: number): Promise<string> {
  let cursor = '';
  for (let i = 0; i < pages; i++) {
    const { body } = await ask(`${base}${path}${cursor ? `?after=${cursor}` : ''}`, { cookie });
    const { next } = JSON.parse(textOf(body)) as { next: string | null };
    if (!next) break;
    cursor = next;
  }
  return cursor;
}

/** `long`: the slug of the fitment with the most claims. */
export async function questionsOf(
  base: string,
  { person, long }: { person: string; long: string },
  rng: Rng,
): Promise<Question[]> {
  const cookie = await signIn(base, person);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(rng.uniform() * list.length)];
  const mistyped = (word: string): string => {
    const at = 1 + Math.floor(rng.uniform() * (word.length - 2));
    return word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2);
  };
  const later = {
    coverage: await deep(base, '/coverage', cookie, 5),
    tests: await deep(base, '/tests', cookie, 5),
    claims: await deep(base, '/claims', cookie, 5),
    catalogue: await deep(base, '/catalogue', cookie, 5),
  };
  const tag = (await ask(`${base}/catalogue`)).etag ?? '';
  const asked = (what: string, path: () => string): Question => ({ what, path, headers: { cookie } });
  const open = (what: string, path: () => string): Question => ({ what, path });
  return [
    asked('coverage, first page with counts', () => '/coverage'),
    asked('coverage, a later page', () => `/coverage?after=${later.coverage}`),
    asked(
      'coverage, filtered by words',
      () => `/coverage?q=${pick(MAKERS)}%20${pick(MODELS)}&part=${pick(['tubular', 'cold', 'twin'])}`,
    ),
    asked('coverage by family', () => '/coverage?group=families'),
    asked('coverage, cells of one state', () => '/coverage?state=measured'),
    asked('worth testing next', () => '/coverage/next'),
    asked('worth testing next, filtered', () => `/coverage/next?q=${pick(MODELS)}`),
    asked('fitments, exact words', () => `/fitments?q=${pick(MAKERS)}%20${pick(MODELS)}%20${pick(BODIES)}`),
    asked('fitments, mistyped', () => `/fitments?q=${mistyped(pick(MAKERS))}%20${mistyped(pick(MODELS))}`),
    asked('applications, first page', () => '/applications'),
    asked('parts by word', () => `/parts?q=${pick(['tubular', 'intake', 'short'])}`),
    asked('tests, first page', () => '/tests'),
    asked('tests, a later page', () => `/tests?after=${later.tests}`),
    asked('tests, last changed first', () => '/tests?sort=changed'),
    asked('tests that ask for a person', () => '/tests?show=asks'),
    asked('tests by words', () => `/tests?q=${pick(MAKERS)}%20${pick(MODELS)}`),
    asked('claims, first page', () => '/claims'),
    asked('claims, a later page', () => `/claims?after=${later.claims}`),
    asked('claims, last published first', () => '/claims?sort=published'),
    asked('finder', () => `/find?q=${pick(MODELS)}`),
    asked('schedule, a week', () => '/schedule?from=2026-11-23&days=7'),
    open('catalogue, first page', () => '/catalogue'),
    open('catalogue, asked again (304)', () => '/catalogue'),
    open('catalogue, a later page', () => `/catalogue?after=${later.catalogue}`),
    open('catalogue, newest first', () => '/catalogue?sort=newest'),
    open('catalogue by words', () => `/catalogue?q=${pick(MAKERS)}%20${pick(MODELS)}`),
    open('fitment page, 52 claims or more', () => `/catalogue/${long}`),
  ].map((question) =>
    question.what.endsWith('(304)') ? { ...question, headers: { 'if-none-match': tag } } : question,
  );
}
