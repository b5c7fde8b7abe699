import { sql, type SQL } from 'drizzle-orm';

/**
 * The analysis that stands for a test: the current one; while it is computed again (a new policy, a pull left out),
 * the one that stood last. What is put together from several tests must not lose one because it is being looked at.
 *
 * @param tests what the table of tests is called in the query
 */
export const standingAnalysis = (tests: 'tests' | 't' = 't'): SQL =>
  sql.raw(`coalesce(${tests}.current_analysis_id,
    (select x.id from analyses x where x.test_id = ${tests}.id order by x.number desc limit 1))`);
