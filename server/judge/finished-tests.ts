import { sql } from 'drizzle-orm';

/** A session in which one of these gates failed tells of something else than its dyno and its car. */
const SPOILT = ['engine state', 'same setting', 'plausible', 'readings', 'as planned', 'factor'];
/** Condition on an analysis `a` whose session may be learnt from. */
export const notSpoilt = sql`not exists (select from jsonb_array_elements(a.result -> 'findings') g
  where g ->> 'state' = 'fail' and g ->> 'gate' in ${SPOILT})`;
