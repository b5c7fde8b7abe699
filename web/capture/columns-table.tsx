import { COLUMN_KEYS, keyOfQuantity, type ColumnKey } from '../../core/base/quantities.ts';
import type { PreviewColumn } from '../../core/capture/column-preview.ts';
import { Select } from '../base/select.tsx';
import { nameOf, unitsOf, type Said } from './column-choices.ts';

/** Every column with its first cells, what it looks like, and room to say otherwise. */
export function ColumnsTable({
  columns,
  said,
  onSay,
}: {
  columns: readonly PreviewColumn[];
  said: Said;
  onSay: (said: Said) => void;
}) {
  const say = (header: string, key: ColumnKey | '', unit: string): void =>
    onSay({ ...said, [header]: { key, unit } });
  return (
    <div className="overflow-x-auto">
      <table className="ledger" aria-label="Columns of the file">
        <thead>
          <tr>
            <th>Column</th>
            <th>First cells</th>
            <th>Holds</th>
            <th className="w-[130px]">Unit</th>
          </tr>
        </thead>
        <tbody>
          {columns.map((column) => (
            <ColumnRow
              key={column.header}
              column={column}
              said={said[column.header] ?? { key: '', unit: '' }}
              onSay={(key, unit) => say(column.header, key, unit)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function ColumnRow({
  column,
  said,
  onSay,
}: {
  column: PreviewColumn;
  said: Said[string];
  onSay: (key: ColumnKey | '', unit: string) => void;
}) {
  const found = column.quantity ? keyOfQuantity(column.quantity) : undefined;
  const key = said.key || found;
  const units = key ? unitsOf(key) : [];
  return (
    <tr>
      <td className="font-semibold [overflow-wrap:anywhere]">{column.header}</td>
      <td className="text-[12.5px] text-soft [overflow-wrap:anywhere]">{column.cells.join(' · ')}</td>
      <td>
        <Select
          className="w-full"
          aria-label={`${column.header} holds`}
          value={said.key}
          onChange={(e) => onSay(e.target.value as ColumnKey | '', '')}
        >
          <option value="">{found ? `${nameOf(found)} (found)` : 'nothing that is used'}</option>
          {COLUMN_KEYS.map((k) => (
            <option key={k} value={k}>
              {nameOf(k)}
            </option>
          ))}
        </Select>
      </td>
      <td>
        {key && units.length > 0 && (
          <Select
            className="w-full"
            aria-label={`Unit of ${column.header}`}
            value={said.unit}
            onChange={(e) => onSay(key, e.target.value)}
          >
            <option value="">{column.unit ? `${column.unit} (found)` : 'not stated'}</option>
            {units.map((unit) => (
              <option key={unit} value={unit}>
                {unit}
              </option>
            ))}
          </Select>
        )}
      </td>
    </tr>
  );
}
