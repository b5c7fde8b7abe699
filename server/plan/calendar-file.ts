import { createEvents, type EventAttributes } from 'ics';
import { titleOf } from './repository.ts';
import type { ScheduleService } from './schedule.ts';

const stamp = (date: Date): [number, number, number, number, number] => [
  date.getUTCFullYear(),
  date.getUTCMonth() + 1,
  date.getUTCDate(),
  date.getUTCHours(),
  date.getUTCMinutes(),
];

/**
 * Sessions as iCalendar (RFC 5545): one event each, known by the test, so that a later export moves it.
 * References to parts are resolved here, before long lines are folded: one broken over two lines could not be found afterwards.
 */
export function calendarFile(
  sessions: Awaited<ReturnType<ScheduleService['upcoming']>>,
  now: Date,
  readable: (text: string) => string,
): string {
  const events = sessions.map(({ row, start, end, placedAt }): EventAttributes => ({
    uid: `test-${row.test.id}@evidentia`,
    title: readable(`Test ${row.test.number}: ${titleOf(row)}`),
    start: stamp(start),
    startInputType: 'utc',
    startOutputType: 'utc',
    end: stamp(end),
    endInputType: 'utc',
    endOutputType: 'utc',
    location: readable(`${row.dyno.name}, ${row.dyno.site}`),
    productId: '-//Evidentia//Sessions//EN',
    calName: 'Dyno sessions',
    created: stamp(now),
    lastModified: stamp(placedAt),
    status: row.test.lockedAt ? 'CONFIRMED' : 'TENTATIVE',
    busyStatus: 'BUSY',
    description: readable(
      [
        `Vehicle: ${row.vehicle.tag}`,
        `Protocol ${row.test.protocol}, ${row.test.runOrder.length} runs of ` +
          `${row.test.warmUps} warm-up and ${row.test.pullsPerRun} counted pulls`,
        `Gear ${row.test.gear}; fuel ${row.test.fuel}`,
        row.test.question,
      ].join('\n'),
    ),
  }));
  const { error, value } = createEvents(events);
  if (error) throw error;
  // With no session there is still a calendar to subscribe to.
  return value || 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Evidentia//Sessions//EN\r\nEND:VCALENDAR\r\n';
}
