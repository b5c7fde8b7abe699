import type { ReactNode } from 'react';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { dayTime, number, useUnits, type Units } from '../base/format.ts';
import { Facts } from '../register/layout.tsx';
import { SENSOR_NAMES } from '../register/slope-words.ts';
import { controlShown } from './control-shown.ts';
import { atSite, dateAt } from './schedule-time.ts';
import { HouseLink } from '../base/house-link.tsx';

type Row = readonly [string, ReactNode];
/** A row only where there is something to say. */
const when = (known: unknown, row: () => Row): readonly Row[] => (known ? [row()] : []);

/** What the plan fixes, in figures and names. */
export function PlanFacts({ detail }: { detail: TestDetail }) {
  const units = useUnits();
  const { plan, vehicle, arms } = detail;
  const { fromRpm, toRpm, stepRpm } = plan.band;
  const shared = plan.metrics.length > 1 || arms.length > 2;
  const rows: Row[] = [
    ['Metrics', plan.metrics.map((m) => METRIC_NAMES[m]).join('; ')],
    ['Rpm range', `${number(fromRpm, 0)} to ${number(toRpm, 0)} rpm, every ${stepRpm}`],
    ['Standard', STANDARD_NAMES[plan.standard]],
    ...when(plan.startSensor, () => [
      'Start temperature',
      `by the ${SENSOR_NAMES[plan.startSensor!]}, ${
        plan.startSlope
          ? `${number(plan.startSlope.b, 2)} %/K from ${plan.startSlope.tests.length} tests of ${plan.startSlope.subject}`
          : plan.lockedAt
            ? 'no slope was registered'
            : 'slope as registered at the lock'
      }`,
    ]),
    ...when(plan.boostedSchool !== 'correct' ? 1 : 0, () => ['If boosted', plan.boostedSchool]),
    [
      'Confidence',
      `${100 * plan.confidence} % for the whole curve${shared ? ', shared by all that is named' : ''}`,
    ],
    ['Guard', `${plan.guard}, for averages and peaks`],
    ['Smoothing', `${plan.smoothingRpm} rpm moving average`],
    [
      'Vehicle',
      <HouseLink key="v" to={`/register/vehicles/${vehicle.id}`}>
        {vehicle.tag}
      </HouseLink>,
    ],
    ...when(plan.control, () => ['Control vehicle', `${plan.control}, measured before and after each arm`]),
    ['Gear and fuel', `${plan.gear}; ${plan.fuel}`],
    ...when(plan.controls.length, () => [
      'Held equal',
      plan.controls.map((c) => heldEqual(c, units)).join('; '),
    ]),
    ...when(plan.logs.length, () => ['Logs', plan.logs.join(', ')]),
    ...when(plan.photographs.length, () => ['Photographs', plan.photographs.join(', ')]),
    ...when(plan.hours, () => ['Time', timeOf(plan.hours!, detail.dyno.currency)]),
    ['In the calendar', <Place key="b" start={detail.booking?.start} zone={detail.dyno.timeZone} />],
    ['Planned by', `${plan.createdBy}, ${dayTime(plan.createdAt)}`],
    ...when(plan.partner, () => ['Assigned to', plan.partner]),
  ];
  return <Facts rows={rows} />;
}

const heldEqual = (c: TestDetail['plan']['controls'][number], units: Units): string =>
  `${c.quantity} ${controlShown(c, units)}`;

function timeOf(hours: NonNullable<TestDetail['plan']['hours']>, currency: string): string {
  const off = hours.offDynoHours ? `, ${number(hours.offDynoHours, 1)} h off the rollers` : '';
  return `${number(hours.dynoHours, 1)} dyno hours${off}; ${number(hours.cost, 0)} ${currency}`;
}

function Place({ start, zone }: { start: string | undefined; zone: string }) {
  return start ? (
    <HouseLink to={`/schedule?from=${dateAt(start, zone)}`}>{atSite(start, zone)}</HouseLink>
  ) : (
    <HouseLink to="/schedule">not placed</HouseLink>
  );
}
