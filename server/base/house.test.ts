import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { SOFTWARE_VERSION } from './house.ts';

it('an analysis names the version that is shipped', () => {
  const { version } = JSON.parse(readFileSync('package.json', 'utf8')) as { version: string };
  expect(SOFTWARE_VERSION).toBe(version);
});
