/** What waits for a person today, by what it is; each entry opens where it is settled. */
import { z } from 'zod';
import type { Role } from '../base/roles.ts';

export const TODAY_GROUPS = [
  'claims to review',
  'claims in question',
  'sessions due',
  'pulls to complete',
  'findings to answer',
  'plans to lock',
  'results to tell',
  'claims of mine to go on with',
  'claims gone stale',
  'parts that launch without a claim',
  'sensors overdue',
  'to take over into the shop',
] as const;
export type TodayGroup = (typeof TODAY_GROUPS)[number];

const OF_OTHERS: readonly TodayGroup[] = ['claims to review', 'to take over into the shop'];
/** What each role is asked for, in the order in which it is shown. */
export const TODAY_OF: Readonly<Record<Role, readonly TodayGroup[]>> = {
  'test manager': TODAY_GROUPS.filter((group) => !OF_OTHERS.includes(group)),
  operator: ['sessions due', 'pulls to complete', 'sensors overdue'],
  reviewer: [
    'claims to review',
    'claims in question',
    'findings to answer',
    'claims of mine to go on with',
    'claims gone stale',
  ],
  'catalogue editor': ['to take over into the shop', 'parts that launch without a claim'],
  'partner shop': ['sessions due', 'pulls to complete'],
};

/** How many of each are shown at first, and at the most. */
export const TODAY_FIRST = 6;
export const TODAY_MOST = 500;
export const TodayQuery = z.object({
  /** A group that is wanted whole. */ all: z.enum(TODAY_GROUPS).optional(),
});
export const TodaySchema = z.object({
  groups: z.array(
    z.object({
      group: z.enum(TODAY_GROUPS),
      total: z.number(),
      items: z.array(
        z.object({
          id: z.string(),
          text: z.string(),
          detail: z.string(),
          /** When it is due or has happened; null where no time matters. */ at: z.string().nullable(),
          /** Address of the page on which it is settled. */ to: z.string(),
        }),
      ),
    }),
  ),
});
export type Today = z.infer<typeof TodaySchema>;
export type TodayItem = Today['groups'][number]['items'][number];
