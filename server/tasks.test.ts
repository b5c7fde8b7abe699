import { expect, it } from 'vitest';
import * as capture from './capture/tasks.ts';
import * as correct from './correct/tasks.ts';
import * as judge from './judge/tasks.ts';
import * as register from './register/tasks.ts';
import perform from './tasks.ts';

it('every task is known in every thread by its name', async () => {
  const names = [capture, correct, judge, register].flatMap((room) =>
    Object.values(room as Record<string, unknown>).flatMap((task) =>
      typeof task === 'object' && task !== null && 'work' in task
        ? [(task as unknown as { name: string }).name]
        : [],
    ),
  );
  expect(names.length).toBeGreaterThan(7);
  for (const name of names)
    await perform({ name, args: [] }).catch((error: Error) =>
      // Without anything to work on it fails; it must not be unknown.
      expect(error.message).not.toContain('no task is called'),
    );
});
