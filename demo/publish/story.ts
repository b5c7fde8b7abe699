/** Tells the demo story through the application's own services, so every record is one a person could have made. */
import { randomUUID } from 'node:crypto';
import { simulateSession } from '../../bench/judge/simulate.ts';
import type { Person } from '../../contract/base/http.ts';
import { hashPassword } from '../../server/base/sign-in.ts';
import type { Needs } from '../../server/base/needs.ts';
import { people } from '../../server/base/tables.ts';
import { createServices } from '../../server/app.ts';
import { dynos, fitments, partRevisions, parts, vehicles } from '../../server/register/tables.ts';
import { DEMO_TESTS } from '../plan/tests.ts';
import { scenarioOf } from '../plan/scenario.ts';
import { DEMO_PEOPLE } from '../register/people.ts';
import { DEMO_DYNOS, DEMO_FITMENTS, DEMO_PARTS, DEMO_VEHICLES } from '../register/vehicles.ts';

/** Fills an empty database. `password` opens every sample person's account; random when left out. */
export async function loadDemo(needs: Omit<Needs, 'now' | 'newId'>, password: string = randomUUID()): Promise<void> {
  let clock = Date.parse('2026-11-02T08:00:00Z');
  const now = (): Date => new Date(clock);
  const later = (minutes: number): void => { clock += minutes * 60_000; };
  const full: Needs = { ...needs, now, newId: randomUUID };
  const { db } = needs;
  const services = createServices(full);
  const ids = new Map<string, string>();
  const idOf = (key: string): string => { const id = ids.get(key) ?? randomUUID(); ids.set(key, id); return id; };

  const passwordHash = await hashPassword(password);
  const persons = new Map<string, Person>();
  for (const { key, ...person } of DEMO_PEOPLE) {
    later(1);
    persons.set(key, { id: idOf(key), name: person.name, email: person.email, role: person.role, clearance: person.clearance });
    await db.insert(people).values({ id: idOf(key), ...person, passwordHash, createdAt: now() });
  }
  await db.insert(fitments).values(DEMO_FITMENTS.map(({ key, ...row }) => ({ id: idOf(key), ...row })));
  await db.insert(vehicles).values(DEMO_VEHICLES.map(({ key, fitment, ...row }) => ({ id: idOf(key), fitmentId: idOf(fitment), ...row })));
  for (const { key, revision, ...part } of DEMO_PARTS) {
    await db.insert(parts).values({ id: idOf(`${key} part`), ...part });
    await db.insert(partRevisions).values({ id: idOf(key), partId: idOf(`${key} part`), revision });
  }
  await db.insert(dynos).values(DEMO_DYNOS.map(({ key, ...row }) => ({ id: idOf(key), ...row })));

  const [manager, operator, reviewer] = ['manager', 'operator', 'reviewer'].map((key) => persons.get(key)!) as [Person, Person, Person];
  for (const test of DEMO_TESTS) {
    // Each test on its own morning.
    clock = Math.ceil(clock / 86_400_000) * 86_400_000 + 7 * 3_600_000;
    const id = await services.plan.create(manager, {
      question: test.question, fitmentId: idOf(test.fitment), vehicleId: idOf(test.vehicle), partRevisionId: idOf(test.part), dynoId: idOf(test.dyno), partnerId: test.partner ? idOf(test.partner) : null,
      standard: 'sae-j1349', band: test.band, metric: test.metric, protocol: test.protocol, pullsPerRun: 3, warmUps: 3, remount: test.remount, gear: test.gear, fuel: test.fuel, calibration: 'unchanged, stock',
    });
    later(20);
    if (test.locked !== false) await services.plan.lock(manager, id);
    later(60);
    const { pulls } = await services.overview.detail(manager, id);
    const session = simulateSession(scenarioOf(test));
    const captured = pulls.filter((p) => p.counted).slice(0, test.captured ?? pulls.length);
    for (const pull of captured) {
      later(6);
      const made = session.test.pulls.find((p) => p.id === pull.label)!;
      const text = session.files.find((f) => f.path === made.file)!.text;
      await services.capture.attach(operator, id, pull.id, `${pull.label}.csv`, Buffer.from(text), undefined);
      await services.capture.setAir(operator, id, pull.id, { temperatureC: made.air!.temperatureC, pressureHpa: made.air!.pressureHpa, pressureKind: 'station', humidityKind: 'relative', humidityValue: made.air!.humidityPct! });
    }
    later(30);
    const { analysis } = await services.judge.state(id, manager);
    if (!test.claim || !analysis) continue;
    const claim = await services.publish.draft(manager, id, { analysisId: analysis.id, metric: test.metric, unit: test.unit ?? 'kW' });
    if (test.claim === 'draft') continue;
    later(15);
    await services.publish.submit(manager, claim.id);
    if (test.claim === 'in review') continue;
    later(90);
    await services.publish.approve(reviewer, claim.id);
    if (test.claim === 'published') continue;
    later(24 * 60);
    await services.capture.exclude(operator, id, pulls.find((p) => p.label === 'p3')!.id, 'aborted pull', 'Begun 640 rpm late: the driver missed the mark.', true);
  }
}
