import { SERVICE_ITEMS, type LedgerKind } from '../../core/register/ledger.ts';
import { type PartCategory } from '../../core/register/parts.ts';

export interface Draft {
  at: string;
  odometerKm: number | null;
  note: string;
  kind: LedgerKind | 'taken back';
  category: PartCategory;
  partRevisionId: string;
  settings: Record<string, string>;
  calibrationId: string;
  text: string;
  item: (typeof SERVICE_ITEMS)[number];
}

export const KIND_NAMES: Record<Draft['kind'], string> = {
  'part fitted': 'A part was fitted',
  'option set': 'An option was set',
  'returned to stock': 'Put back to stock',
  calibration: 'Calibration flashed',
  tyres: 'Tyres',
  fuel: 'Fuel',
  service: 'Service',
  'other change': 'Something else was changed',
  'other change undone': 'Something else was undone',
  'taken back': 'Nothing: it did not happen',
};

export function changeOf(d: Draft): unknown {
  switch (d.kind) {
    case 'taken back':
      return null;
    case 'part fitted':
      return { kind: d.kind, category: d.category, partRevisionId: d.partRevisionId, settings: d.settings };
    case 'option set':
      return { kind: d.kind, category: d.category, settings: d.settings };
    case 'returned to stock':
      return { kind: d.kind, category: d.category };
    case 'calibration':
      return { kind: d.kind, calibrationId: d.calibrationId || null };
    case 'service':
      return { kind: d.kind, item: d.item };
    default:
      return { kind: d.kind, text: d.text };
  }
}
