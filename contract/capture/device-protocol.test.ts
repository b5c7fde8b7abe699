import { readFileSync, writeFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { lineCutter } from './device-lines.ts';
import { BenchCommand, DeviceMessage, MOST_LINE } from './device-protocol.ts';

const SCHEMA = 'docs/device-protocol.schema.json';
const schema = () => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'evidentia-bench/1',
  $defs: {
    said: z.toJSONSchema(DeviceMessage, { io: 'input' }),
    asked: z.toJSONSchema(BenchCommand, { io: 'input' }),
  },
});

describe('the protocol of devices', () => {
  it('stands in the documents as it is checked', () => {
    const text = `${JSON.stringify(schema(), null, 2)}\n`;
    if (process.env.WRITE_SCHEMA) writeFileSync(SCHEMA, text);
    expect(JSON.parse(readFileSync(SCHEMA, 'utf8'))).toEqual(JSON.parse(text));
  });
  it('is what the worked example says', () => {
    const lines = readFileSync('docs/devices.md', 'utf8')
      .split('\n')
      .filter((line) => /^[←→] \{.*\}$/.test(line) && !line.includes('…'));
    expect(lines.length).toBeGreaterThan(6);
    for (const line of lines) {
      const of = line.startsWith('←') ? DeviceMessage : BenchCommand;
      expect(of.safeParse(JSON.parse(line.slice(2))).success, line).toBe(true);
    }
  });
  it('cuts lines wherever the network does, and refuses one without an end', () => {
    const cut = lineCutter();
    expect(cut('{"a":1}\n{"b"')).toEqual(['{"a":1}']);
    expect(cut(':2}\r\n\n')).toEqual(['{"b":2}']);
    expect(() => cut('x'.repeat(MOST_LINE + 1))).toThrow(RangeError);
  });
});
