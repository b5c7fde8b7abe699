/** How far one server is, read on another. */
import type { Request, Response } from 'express';
import { EventEmitter } from 'node:events';
import { expect, it, vi } from 'vitest';
import type { Person } from '../../contract/base/http.ts';
import { createUnderWays, whoWaits } from '../base/under-way.ts';
import { boardOf } from '../base/under-way-board.ts';
import { houseWith } from './house.ts';

const { app, manager } = houseWith('manager');
const PATH = '/tests/x/uses';
const answerOf = () =>
  Object.assign(new EventEmitter(), { writableEnded: false, json: vi.fn() }) as unknown as Response;
const personOf = async (): Promise<Person> =>
  (await manager<{ person: Person }>('GET', '/session')).body.person;

it('another server reads it, of the same person, until it is done or the one that computed has died', async () => {
  const person = await personOf();
  let time = 0;
  const one = createUnderWays(boardOf(app.needs.db), () => time);
  const another = createUnderWays(boardOf(app.needs.db));
  let end = (): void => undefined;
  const ended = new Promise<void>((resolve) => (end = resolve));
  const res = answerOf();
  const going = one.waitedFor({ path: PATH } as Request, res, person, async () => {
    const { onStep } = whoWaits()!;
    onStep(1, 20);
    time = 600;
    onStep(2, 20);
    // Too soon to be told again.
    time = 700;
    onStep(3, 20);
    await ended;
    return 'answer';
  });
  await expect.poll(() => another.known(person, PATH), { timeout: 15_000 }).toEqual({ done: 2, of: 20 });
  expect(await one.known(person, PATH)).toEqual({ done: 3, of: 20 });
  expect(await another.known({ ...person, id: app.ids.vehicle }, PATH)).toBeNull();
  // Brought up to date no more: nothing is known of it.
  await app.pool.query(`update under_ways set at = now() - interval '2 minutes'`);
  expect(await another.known(person, PATH)).toBeNull();
  end();
  await going;
  expect(res.json).toHaveBeenCalledWith('answer');
  const left = async () => (await app.pool.query('select from under_ways')).rowCount;
  await expect.poll(left, { timeout: 15_000 }).toBe(0);
});

it('a board that cannot be reached hinders no work', async () => {
  const broken = { ...boardOf(app.needs.db), tell: () => Promise.reject(new Error('gone')) };
  let time = 0;
  const { waitedFor } = createUnderWays(broken, () => time);
  const res = answerOf();
  await waitedFor({ path: PATH } as Request, res, await personOf(), () => {
    time = 600;
    whoWaits()!.onStep(1, 2);
    return Promise.resolve(7);
  });
  expect(res.json).toHaveBeenCalledWith(7);
});
