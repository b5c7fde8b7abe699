import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { z } from 'zod';
import './words.ts';

const said = (schema: z.ZodType, input: unknown): string | undefined =>
  schema.safeParse(input).error?.issues[0].message;

it.each([
  [z.number(), undefined, 'This is needed.'],
  [z.number(), NaN, 'This is needed.'],
  [z.number(), '92,5 PS', '“92,5 PS” is no number: “PS” does not belong.'],
  [z.number(), true, '“true” is not a number.'],
  [z.number().int(), 1.5, '“1.5” is not a whole number.'],
  [z.number().min(1), 0, '“0” does not fit: 1 or more.'],
  [z.number().max(10), 11, '“11” does not fit: 10 at the most.'],
  [z.number().positive(), -2, '“−2” does not fit: more than 0.'],
  [z.number().multipleOf(50), 60, '“60” does not fit: a multiple of 50.'],
  [z.string(), 5, '“5” is not a text.'],
  [z.string().min(1), '', 'This is needed.'],
  [z.string().min(5), 'abc', 'Write 5 characters or more.'],
  [z.string().max(2), 'abc', 'Write 2 characters at the most.'],
  [z.uuid(), 'x', 'Choose one from the list.'],
  [z.email(), 'x', 'Write the whole address, as name@house.example.'],
  [z.string().regex(/^a$/), 'b', '“b” is not written as it should be.'],
  [z.enum(['a', 'b']), 'c', '“c” is none of the choices.'],
  [z.enum(['a', 'b']), undefined, 'Choose one.'],
  [z.array(z.string()).min(1), [], 'Choose one.'],
  [z.array(z.string()).max(1), ['a', 'b'], 'Choose 1 at the most.'],
  [z.strictObject({ a: z.string() }), { a: '', b: 1 }, 'Nothing is known by the name of b.'],
  [z.union([z.string(), z.number()]), [], 'this does not belong here.'],
  [z.string('Say who.'), undefined, 'Say who.'],
])('%# says what was found and what is wanted', (schema, input, message) =>
  expect(said(schema as z.ZodType, input)).toBe(message),
);

it('stands behind every contract', () => {
  const contracts = (readdirSync('contract', { recursive: true }) as string[]).filter(
    (file) => file.endsWith('.ts') && !file.includes('.test.') && !file.endsWith('words.ts'),
  );
  expect(contracts.length).toBeGreaterThan(10);
  const http = readFileSync(join('contract', 'base/http.ts'), 'utf8');
  expect(http).toContain("import './words.ts';");
});
