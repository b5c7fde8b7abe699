/** Tells the demo story through the application's own services, so every record is one a person could have made. */
import { createHash, randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { simulateSession } from '../../bench/judge/simulate.ts';
import type { Person } from '../../contract/base/http.ts';
import { PlanRequest } from '../../contract/plan/test.ts';
import {
  CalibrationInput,
  DynoInput,
  LedgerRequest,
  PartInput,
  RevisionInput,
} from '../../contract/register/register.ts';
import { protocolOf } from '../../core/plan/protocols.ts';
import { hashPassword } from '../../server/base/sign-in.ts';
import type { Needs } from '../../server/base/needs.ts';
import { inThisThread } from '../../server/base/threads.ts';
import { people } from '../../server/base/tables.ts';
import { createServices } from '../../server/app.ts';
import { createControl, type ControlService } from '../../server/correct/control.ts';
import { partRevisions } from '../../server/register/tables.ts';
import type { Scenario } from '../../bench/capture/scenario.ts';
import { DEMO_TESTS } from '../plan/tests.ts';
import { DEMO_LEGACY } from './legacy.ts';
import { FURTHER_PLANS } from '../plan/further-plans.ts';
import { scenarioOf } from '../plan/scenario.ts';
import { DEMO_CHECKS, DEMO_CONTROL } from '../register/control.ts';
import { DEMO_CALIBRATIONS, DEMO_PARTS } from '../register/parts.ts';
import { DEMO_PEOPLE } from '../register/people.ts';
import { DEMO_DYNOS, DEMO_FITMENTS, DEMO_SENSORS, DEMO_VEHICLES } from '../register/vehicles.ts';

/** Fills an empty database. `password` opens every sample person's account; random when left out. */
// eslint-disable-next-line max-lines-per-function -- a story, told in the order it happened
export async function loadDemo(
  needs: Omit<Needs, 'now' | 'newId' | 'threads'>,
  password: string = randomUUID(),
): Promise<void> {
  let clock = Date.parse('2026-11-02T08:00:00Z');
  const now = (): Date => new Date(clock);
  const later = (minutes: number): void => {
    clock += minutes * 60_000;
  };
  const full: Needs = { ...needs, now, newId: randomUUID, threads: inThisThread };
  const { db } = needs;
  const services = createServices(full);
  const { register } = services;
  const ids = new Map<string, string>();
  const idOf = (key: string): string => {
    const id = ids.get(key);
    if (!id) throw new Error(`The demo names “${key}”, which it has not made.`);
    return id;
  };

  const passwordHash = await hashPassword(password);
  const persons = new Map<string, Person>();
  for (const { key, ...person } of DEMO_PEOPLE) {
    later(1);
    ids.set(key, randomUUID());
    persons.set(key, {
      id: idOf(key),
      name: person.name,
      email: person.email,
      role: person.role,
      clearance: person.clearance,
    });
    await db.insert(people).values({ id: idOf(key), ...person, passwordHash, createdAt: now() });
  }
  const [manager, operator, reviewer] = ['manager', 'operator', 'reviewer'].map((key) =>
    persons.get(key)!,
  ) as [Person, Person, Person];

  for (const { key, ...fitment } of DEMO_FITMENTS)
    ids.set(key, (await register.fitments.create(manager, fitment)).id);
  for (const { key, ...dyno } of DEMO_DYNOS)
    ids.set(key, (await register.dynos.create(manager, DynoInput.parse(dyno))).id);
  for (const sensor of DEMO_SENSORS)
    await register.dynos.sensor(operator, idOf('cell-1'), { ...sensor, note: '' });
  // What a part needs must be there before it.
  for (const demo of [...DEMO_PARTS].sort(
    (a, b) => (a.needs?.parts?.length ?? 0) - (b.needs?.parts?.length ?? 0),
  )) {
    later(1);
    const needed = {
      partIds: (demo.needs?.parts ?? []).map((key) => idOf(`${key} part`)),
      calibration: demo.needs?.calibration ?? false,
      fuel: demo.needs?.fuel ?? null,
    };
    const part = await register.parts.create(
      manager,
      PartInput.parse(demo.part),
      RevisionInput.parse({ ...demo.revision, needs: needed }),
    );
    ids.set(`${demo.key} part`, part.id);
    ids.set(
      demo.key,
      (
        await db.select({ id: partRevisions.id }).from(partRevisions).where(eq(partRevisions.partId, part.id))
      )[0].id,
    );
    await register.parts.apply(manager, part.id, demo.fits.map(idOf), true);
  }
  for (const { key, fitment, expects, ...calibration } of DEMO_CALIBRATIONS) {
    ids.set(
      key,
      (
        await register.dynos.addCalibration(
          manager,
          CalibrationInput.parse({
            ...calibration,
            fileHash: createHash('sha256').update(`demo calibration ${key}`).digest('hex'),
            fitmentId: idOf(fitment),
            expectsPartRevisionIds: expects.map(idOf),
          }),
        )
      ).id,
    );
  }
  for (const { key, fitment, serviced, tyres, fuel, ...vehicle } of DEMO_VEHICLES) {
    const { id } = await register.vehicles.create(operator, { ...vehicle, fitmentId: idOf(fitment) });
    ids.set(key, id);
    const enter = (
      at: string,
      change: LedgerRequest['change'],
      odometerKm: number | null = null,
      note = '',
    ): Promise<void> =>
      register.vehicles.enter(operator, id, LedgerRequest.parse({ at, change, odometerKm, note }));
    if (serviced)
      for (const item of ['air filter', 'oil', ...(vehicle.gears.length > 1 ? ['spark plugs'] : [])] as const)
        await enter(
          `${serviced}T09:00:00Z`,
          { kind: 'service', item: item as 'oil' },
          vehicle.odometerKm - 400,
        );
    if (tyres) await enter('2026-10-31T10:00:00Z', { kind: 'tyres', text: tyres });
    if (fuel) await enter('2026-10-31T10:05:00Z', { kind: 'fuel', text: fuel });
  }
  await measureControl(
    createControl(full, () => Promise.resolve()),
    { manager, operator },
    idOf,
  );
  // A part that came off again: the ledger answers for every day in between.
  const tern = idOf('tern-1');
  await register.vehicles.enter(
    operator,
    tern,
    LedgerRequest.parse({
      at: '2026-09-21T13:00:00Z',
      change: {
        kind: 'part fitted',
        category: 'exhaust section',
        partRevisionId: idOf('sound-a'),
        settings: {},
      },
      note: 'For the photographs of the autumn catalogue',
    }),
  );
  await register.vehicles.enter(
    operator,
    tern,
    LedgerRequest.parse({
      at: '2026-10-05T15:30:00Z',
      change: { kind: 'returned to stock', category: 'exhaust section' },
    }),
  );

  const captureDay = async (scenario: Scenario, id: string, captured = Infinity): Promise<void> => {
    const { pulls } = await services.overview.detail(manager, id);
    const session = simulateSession(scenario);
    for (const pull of pulls.filter((p) => p.counted).slice(0, captured)) {
      later(6);
      const made = session.test.pulls.find((p) => p.id === pull.label)!;
      // As the logger of the house writes it: when the recording began stands above the table.
      const began = new Date(clock - 2 * 60_000).toISOString();
      const text = `# Recorded: ${began}\n${session.files.find((f) => f.path === made.file)!.text}`;
      await services.capture.attach(operator, id, pull.id, `${pull.label}.csv`, Buffer.from(text), undefined);
      await services.capture.setAir(operator, id, pull.id, {
        temperatureC: made.air!.temperatureC,
        pressureHpa: made.air!.pressureHpa,
        pressureKind: 'station',
        humidityKind: 'relative',
        humidityValue: made.air!.humidityPct!,
      });
    }
  };

  for (const test of DEMO_TESTS) {
    // Each test on its own morning.
    clock = Math.ceil(clock / 86_400_000) * 86_400_000 + 7 * 3_600_000;
    const { part } = DEMO_PARTS.find((p) => p.key === test.part)!;
    const options = DEMO_PARTS.find((p) => p.key === test.part)!.revision.options ?? [];
    const [id] = await services.plan.create(
      manager,
      PlanRequest.parse({
        question: test.question,
        fitmentId: idOf(test.fitment),
        vehicleId: idOf(test.vehicle),
        dynoId: idOf(test.dyno),
        partnerId: test.partner ? idOf(test.partner) : null,
        standard: 'sae-j1349',
        band: test.band,
        metrics: [test.metric],
        protocol: test.protocol,
        pullsPerRun: 3,
        warmUps: 3,
        remount: test.remount,
        gear: test.gear,
        fuel: test.fuel,
        order: protocolOf(test.protocol).order('stock', ['part']),
        arms: [
          { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
          {
            key: 'part',
            label: part.name.toLowerCase(),
            role: 'part',
            from: null,
            changes: [
              {
                kind: 'part fitted',
                category: part.category,
                partRevisionId: idOf(test.part),
                settings: Object.fromEntries(options.map((o) => [o.name, o.settings[0]])),
              },
              ...(test.calibration
                ? [{ kind: 'calibration' as const, calibrationId: idOf(test.calibration) }]
                : []),
            ],
          },
        ],
      }),
    );
    later(20);
    if (test.locked !== false) await services.plan.lock(manager, id);
    later(30);
    if (test.key === 'half captured')
      await services.plan.amend(manager, id, {
        reason: 'The van holds its heat longer than planned for; the cool-down is made longer.',
        changes: { coolDownMinutes: 6 },
      });
    later(30);
    await captureDay(scenarioOf(test), id, test.captured);
    later(30);
    const { analysis } = await services.judge.state(id, manager);
    if (!test.claim || !analysis) continue;
    const claim = await services.publish.draft(manager, id, {
      analysisId: analysis.id,
      metric: test.metric,
      unit: test.unit ?? 'kW',
      tells: 'gain',
    });
    if (test.claim === 'draft') continue;
    later(15);
    await services.publish.submit(manager, claim.id);
    if (test.claim === 'in review') continue;
    later(90);
    await services.publish.approve(reviewer, claim.id);
    if (test.claim === 'published') continue;
    later(24 * 60);
    const { pulls } = await services.overview.detail(manager, id);
    await services.capture.exclude(
      operator,
      id,
      pulls.find((p) => p.label === 'p3')!.id,
      'aborted pull',
      'Begun 640 rpm late: the driver missed the mark.',
    );
  }
  for (const plan of FURTHER_PLANS) {
    later(45);
    for (const id of await services.plan.create(manager, PlanRequest.parse(plan.make({ of: idOf })))) {
      if (plan.lock) await services.plan.lock(manager, id);
      ids.set(plan.key, id);
      if (!plan.scenario) continue;
      later(60);
      await captureDay(plan.scenario, id);
      await services.judge.state(id, manager);
    }
  }
  for (const entry of DEMO_LEGACY(idOf)) {
    later(10);
    await services.legacy.add(manager, entry);
  }
  await placeSome(services, manager, clock);
}

/** Names the control vehicle of Cell 1 and enters its checks. */
async function measureControl(
  control: ControlService,
  { manager, operator }: { manager: Person; operator: Person },
  idOf: (key: string) => string,
): Promise<void> {
  const { id } = await control.name(manager, idOf('cell-1'), {
    ...DEMO_CONTROL,
    vehicleId: idOf('control-1'),
    anew: null,
  });
  for (const { day, time, pulls } of DEMO_CHECKS) {
    const sent = [];
    for (const { name, text, air } of pulls)
      sent.push({ name, ...air, ...(await control.file(operator, id, Buffer.from(text))) });
    await control.check(operator, id, { day, time, warmUps: 3, note: '', pulls: sent });
  }
}

/** Puts some of what waits into the calendar of the coming days, whenever the demo is loaded. */
async function placeSome(
  services: ReturnType<typeof createServices>,
  manager: Person,
  storyEnd: number,
): Promise<void> {
  const begin = Math.max(Date.now(), storyEnd);
  const { placements } = await services.schedule.suggest(new Date(begin).toISOString(), 28);
  await services.schedule.place(
    manager,
    placements
      .slice(0, 3)
      .map((p) => ({ testId: p.testId, dynoId: p.dynoId, start: p.start, placedBy: 'suggestion' as const })),
  );
}
