import { describe, expect, it } from 'vitest';
import { PullFileError } from '../base/errors.ts';
import { PREVIEW_BYTES, previewColumns } from './column-preview.ts';
import { pullCorpus } from './corpus/pull-corpus.ts';
import { readPullFile } from './pull-file.ts';

describe('the preview of a file', () => {
  it('agrees with the reading of it, for the whole corpus', () => {
    for (const { name, bytes, options } of pullCorpus()) {
      const preview = previewColumns(bytes);
      const file = readPullFile(bytes, options);
      expect(preview, name).toMatchObject({
        encoding: file.encoding,
        delimiter: file.delimiter,
        headerLine: file.headerLine,
      });
      for (const { header, quantity } of file.columns.filter((c) => c.quantity !== null))
        expect(preview.columns.find((c) => c.header === header)?.quantity, `${name}: ${header}`).toBe(
          quantity,
        );
    }
  });
  it('shows the first rows, also where torque has no unit and the file itself would be refused', () => {
    const text = `Cell: 1\nRPM;Torque;Mystery\n${Array.from({ length: 5 }, (_, i) => `${2000 + i};1${i},5;x${i}`).join('\n')}\n`;
    expect(previewColumns(new TextEncoder().encode(text))).toEqual({
      encoding: 'utf-8',
      delimiter: ';',
      headerLine: 2,
      columns: [
        { header: 'RPM', quantity: 'engineSpeed', unit: 'rpm', cells: ['2000', '2001', '2002'] },
        { header: 'Torque', quantity: 'torque', unit: null, cells: ['10,5', '11,5', '12,5'] },
        { header: 'Mystery', quantity: null, unit: null, cells: ['x0', 'x1', 'x2'] },
      ],
    });
  });
  it('looks at the beginning only', () => {
    const row = '2000,150.5\n';
    const text = `RPM,Torque (Nm)\n${row.repeat(Math.ceil((2 * PREVIEW_BYTES) / row.length))}`;
    expect(previewColumns(new TextEncoder().encode(text)).columns).toHaveLength(2);
  });
  it('says so where there is no table', () =>
    expect(() => previewColumns(new TextEncoder().encode('nothing\n'))).toThrow(PullFileError));
});
