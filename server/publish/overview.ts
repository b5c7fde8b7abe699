import { and, asc, eq, inArray, ne } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import type { z } from 'zod';
import type { TestDetail, TestPage, TestsQuery, TestSummary } from '../../contract/overview.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { countsIn, NO_PULLS, pullCountsOf, type PullCounts } from '../capture/pull-counts.ts';
import { listPulls, type PullRow } from '../capture/repository.ts';
import { standingOf, type Standing } from '../judge/standing.ts';
import { findTest, listTests, namesOf, titleOf, type TestRow } from '../plan/repository.ts';
import { subjectText } from '../../core/plan/subject.ts';
import { armsOf, type ArmRow } from '../plan/arms.ts';
import { fieldsOf } from '../plan/plan-document.ts';
import type { PlanService } from '../plan/service.ts';
import { bookings, tests } from '../plan/tables.ts';
import { partShown } from '../register/embargo.ts';
import { fitmentShown } from '../register/fitments.ts';
import { controlVehicles, dynos, partRevisions, parts, vehicles } from '../register/tables.ts';
import { armCosts, armDrives } from './arm-costs.ts';
import { claimFacts } from './claim-facts.ts';
import { stagesOf } from './stages.ts';
import { shownState } from './states.ts';
import { claims } from './tables.ts';
import { testIdsOf } from './test-page.ts';
import { optionsOf } from './wording.ts';
import type { ClaimState } from '../../contract/publish/claim.ts';

function summaryOf(
  row: TestRow,
  pulls: PullCounts,
  standing: Standing | undefined,
  claim: ClaimState | undefined,
): TestSummary {
  const { test, fitment, vehicle, dyno } = row;
  const shown = pulls.missing ? undefined : standing;
  return {
    id: test.id,
    number: test.number,
    title: titleOf(row),
    fitment: `${fitment.maker} ${fitment.model}, ${fitment.outputVariant}`,
    vehicle: vehicle.tag,
    dyno: dyno.name,
    protocol: test.protocol,
    metric: test.metric,
    lockedAt: test.lockedAt?.toISOString() ?? null,
    amendments: test.amendmentCount,
    pullsCounted: pulls.counted,
    pullsCaptured: pulls.withFile,
    verdict: shown?.verdict ?? null,
    grade: shown?.grade ?? null,
    upToKw: shown?.upTo?.kw ?? null,
    upToRpm: shown?.upTo?.rpm ?? null,
    bandAveragePct: shown?.average ?? null,
    glyph: shown?.glyph ?? null,
    claimState: claim ?? null,
    stages: stagesOf(test, pulls, shown, claim),
    updatedAt: test.updatedAt.toISOString(),
  };
}

function pullShown(
  { pull, file, size, log, air, airFile }: PullRow,
  names: ReadonlyMap<string, string>,
  all: readonly PullRow[],
): Pull {
  const name = (id: string | null): string => (id ? (names.get(id) ?? 'somebody') : '');
  return {
    id: pull.id,
    label: pull.label,
    position: pull.position,
    run: pull.run,
    arm: pull.arm,
    mount: pull.mount,
    counted: pull.counted,
    repeats: all.find((p) => p.pull.id === pull.repeats)?.pull.label ?? null,
    file: file
      ? {
          name: file.name,
          sha256: file.sha256,
          size: size ?? 0,
          attachedAt: file.attachedAt.toISOString(),
          attachedBy: name(file.attachedBy),
          found: file.found,
        }
      : null,
    log: log
      ? {
          name: log.name,
          sha256: log.sha256,
          offsetS: log.offsetS,
          foundOffsetS: log.foundOffsetS,
          byClock: log.foundOffsetS !== null && log.correlation === null,
        }
      : null,
    air: air
      ? {
          temperatureC: air.temperatureC,
          pressureHpa: air.pressureHpa,
          pressureKind: air.pressureKind,
          humidityKind: air.humidityKind,
          humidityValue: air.humidityValue,
          source: air.source,
          sourceFile: airFile,
          enteredAt: air.enteredAt.toISOString(),
          enteredBy: name(air.enteredBy),
        }
      : null,
    excluded: pull.excludedReason
      ? {
          reason: pull.excludedReason,
          note: pull.excludedNote ?? '',
          by: name(pull.excludedBy),
          at: pull.excludedAt!.toISOString(),
          seenResult: pull.excludedSeenResult ?? false,
        }
      : null,
  };
}

/** How far along a claim is: the one furthest along speaks for the test. */
const STANDING: readonly ClaimState[] = [
  'withdrawn',
  'returned',
  'draft',
  'stale',
  'in question',
  'in review',
  'published',
];

/** What the control vehicle of a plan is called. */
async function controlTag(db: Db, controlId: string): Promise<string | null> {
  const [found] = await db
    .select({ tag: vehicles.tag })
    .from(controlVehicles)
    .innerJoin(vehicles, eq(vehicles.id, controlVehicles.vehicleId))
    .where(eq(controlVehicles.id, controlId));
  return found?.tag ?? null;
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createOverview({ db, now }: Needs, plan: PlanService) {
  /** What each arm is about, as this person may read it. */
  async function armPartNames(arms: readonly ArmRow[], person: Person): Promise<Map<string, string>> {
    const ids = arms.flatMap((a) => (a.partRevisionId ? [a.partRevisionId] : []));
    if (ids.length === 0) return new Map();
    const rows = await db
      .select({ id: partRevisions.id, revision: partRevisions.revision, part: parts })
      .from(partRevisions)
      .innerJoin(parts, eq(parts.id, partRevisions.partId))
      .where(inArray(partRevisions.id, ids));
    return new Map(
      rows.map((r) => [r.id, `${partShown(r.part, person, now()).name}, revision ${r.revision}`]),
    );
  }

  const claimStates = async (testIds: readonly string[]): Promise<Map<string, ClaimState>> => {
    const best = new Map<string, ClaimState>();
    if (testIds.length === 0) return best;
    for (const { testId, state } of await db
      .select({ testId: claims.testId, state: shownState })
      .from(claims)
      .where(inArray(claims.testId, [...testIds]))) {
      const known = best.get(testId);
      if (!known || STANDING.indexOf(state) > STANDING.indexOf(known)) best.set(testId, state);
    }
    return best;
  };

  return {
    async list(person: Person, query: z.output<typeof TestsQuery>): Promise<TestPage> {
      const { ids, ...page } = await testIdsOf({ db, now }, person, query);
      const found = ids.length ? await listTests(db, person, inArray(tests.id, ids)) : [];
      // In the order that was asked for.
      const rows = ids.flatMap((id) => found.find((row) => row.test.id === id) ?? []);
      const [pulls, results, states] = await Promise.all([
        pullCountsOf(db, ids),
        standingOf(db, ids),
        claimStates(ids),
      ]);
      return {
        ...page,
        items: rows.map((row) =>
          summaryOf(
            row,
            pulls.get(row.test.id) ?? NO_PULLS,
            results.get(row.test.id),
            states.get(row.test.id),
          ),
        ),
      };
    },

    // eslint-disable-next-line max-lines-per-function -- one document, field by field
    async detail(person: Person, id: string): Promise<TestDetail> {
      const row = await findTest(db, id, person);
      const [pullRows, results, states] = await Promise.all([
        listPulls(db, [id]),
        standingOf(db, [id]),
        claimStates([id]),
      ]);
      const { test, fitment, vehicle, revision, dyno } = row;
      const { runOrder, ...fields } = fieldsOf(test);
      const part = row.part && partShown(row.part, person, now());
      const arms = await armsOf(db, id);
      const armParts = await armPartNames(arms, person);
      const options = await optionsOf(db, arms);
      const costs = await armCosts(db, arms, person, now());
      const drives = await armDrives(db, arms, person, now());
      const series = test.seriesId
        ? await db
            .select({ id: tests.id, number: tests.number, vehicle: vehicles.tag, dyno: dynos.name })
            .from(tests)
            .innerJoin(vehicles, eq(vehicles.id, tests.vehicleId))
            .innerJoin(dynos, eq(dynos.id, tests.dynoId))
            .where(
              and(
                eq(tests.seriesId, test.seriesId),
                ne(tests.id, id),
                person.role === 'partner shop' ? eq(tests.partnerId, person.id) : undefined,
              ),
            )
            .orderBy(asc(tests.number))
        : [];
      const [booking] = await db.select().from(bookings).where(eq(bookings.testId, id));
      const names = await namesOf(db, [
        test.createdBy,
        test.lockedBy,
        test.partnerId,
        ...pullRows.flatMap((p) => [p.file?.attachedBy ?? null, p.air?.enteredBy ?? null, p.pull.excludedBy]),
      ]);
      return {
        summary: summaryOf(row, countsIn(pullRows), results.get(id), states.get(id)),
        question: test.question,
        fitment: fitmentShown(fitment),
        vehicle,
        arms: arms.map((arm) => ({
          key: arm.key,
          label: arm.label,
          role: arm.role,
          from: arm.fromKey,
          changes: arm.changes as never,
          part: arm.partRevisionId ? (armParts.get(arm.partRevisionId) ?? null) : null,
          scope: arm.scope,
          scopeText: arm.scopeText,
          differences: arm.differences,
          subject: arm.role === 'part' ? subjectText(arm as never) : null,
          cost: costs.get(arm.key) ?? null,
          drive: drives.get(arm.key) ?? null,
          facts: arm.role === 'part' ? claimFacts(row, arms, arm, options) : null,
        })),
        amendments: await plan.amendments(id),
        series,
        booking: booking
          ? { start: booking.startsAt.toISOString(), end: booking.endsAt.toISOString() }
          : null,
        part:
          part && revision
            ? {
                id: revision.id,
                partId: part.id,
                sku: part.sku,
                maker: part.maker,
                name: part.name,
                category: part.category,
                revision: revision.revision,
              }
            : null,
        dyno,
        plan: {
          ...fields,
          metric: test.metric,
          metrics: test.metrics.length ? test.metrics : [test.metric],
          order: [...runOrder],
          photographs: test.photographs,
          logs: test.logs,
          controls: test.controls.map((c) => ({ ...c })),
          hours: test.hours,
          notBefore: test.notBefore,
          due: test.due,
          priority: test.priority,
          partnerId: test.partnerId,
          controlId: test.controlId,
          control: test.controlId === null ? null : await controlTag(db, test.controlId),
          lockedAt: test.lockedAt?.toISOString() ?? null,
          lockedBy: test.lockedBy ? (names.get(test.lockedBy) ?? null) : null,
          hash: test.planHash,
          createdBy: names.get(test.createdBy) ?? '',
          createdAt: test.createdAt.toISOString(),
          partner: test.partnerId ? (names.get(test.partnerId) ?? null) : null,
        },
        pulls: pullRows.map((p) => pullShown(p, names, pullRows)),
      };
    },
  };
}
