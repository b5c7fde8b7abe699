/** Spreadsheet import and export of fitments, parts and applications. */
import { z } from 'zod';
import { LEGAL_CLASSES, PART_CATEGORIES, PROMISES } from '../../core/register/parts.ts';
import type { ColumnSpec, RowValues } from '../../core/register/spreadsheet.ts';

export const IMPORT_KINDS = ['fitments', 'parts', 'applications'] as const;
export type ImportKind = (typeof IMPORT_KINDS)[number];

export type FitmentColumn =
  | 'maker'
  | 'model'
  | 'outputVariant'
  | 'market'
  | 'platformCode'
  | 'yearFrom'
  | 'yearTo'
  | 'engineCode'
  | 'displacementCc'
  | 'cylinders'
  | 'aspiration'
  | 'ignition'
  | 'fuel'
  | 'transmission'
  | 'drivenWheels'
  | 'ratedPowerKw'
  | 'ratedTorqueNm'
  | 'ratedStandard'
  | 'family'
  | 'stockTyres'
  | 'unitsPerYear';
const FITMENTS: readonly ColumnSpec<FitmentColumn>[] = [
  { field: 'maker', header: 'Maker', kind: 'text', required: true, aliases: ['make', 'brand'] },
  { field: 'model', header: 'Model', kind: 'text', required: true },
  {
    field: 'outputVariant',
    header: 'Output variant',
    kind: 'text',
    required: true,
    aliases: ['variant', 'output'],
  },
  { field: 'market', header: 'Market', kind: 'text', required: true, aliases: ['region'] },
  { field: 'platformCode', header: 'Platform code', kind: 'text', aliases: ['platform', 'chassis'] },
  {
    field: 'yearFrom',
    header: 'Year from',
    kind: 'whole',
    required: true,
    min: 1950,
    max: 2100,
    aliases: ['from', 'first year'],
  },
  { field: 'yearTo', header: 'Year to', kind: 'whole', min: 1950, max: 2100, aliases: ['to', 'last year'] },
  { field: 'engineCode', header: 'Engine code', kind: 'text', required: true, aliases: ['engine'] },
  {
    field: 'displacementCc',
    header: 'Displacement cc',
    kind: 'whole',
    required: true,
    min: 50,
    max: 20_000,
    aliases: ['displacement', 'ccm', 'capacity'],
  },
  {
    field: 'cylinders',
    header: 'Cylinders',
    kind: 'whole',
    required: true,
    min: 1,
    max: 16,
    aliases: ['cyl'],
  },
  {
    field: 'aspiration',
    header: 'Aspiration',
    kind: 'text',
    required: true,
    oneOf: ['natural', 'turbo', 'turbo-intercooled', 'supercharged'],
  },
  { field: 'ignition', header: 'Ignition', kind: 'text', required: true, oneOf: ['spark', 'compression'] },
  { field: 'fuel', header: 'Fuel', kind: 'text', required: true },
  { field: 'transmission', header: 'Transmission', kind: 'text', aliases: ['gearbox'] },
  {
    field: 'drivenWheels',
    header: 'Driven wheels',
    kind: 'text',
    required: true,
    oneOf: ['front', 'rear', 'all'],
    aliases: ['drive'],
  },
  {
    field: 'ratedPowerKw',
    header: 'Rated power kW',
    kind: 'number',
    required: true,
    min: 1,
    max: 2000,
    aliases: ['power', 'kw'],
  },
  {
    field: 'ratedTorqueNm',
    header: 'Rated torque Nm',
    kind: 'number',
    required: true,
    min: 1,
    max: 5000,
    aliases: ['torque', 'nm'],
  },
  {
    field: 'ratedStandard',
    header: 'Rated to',
    kind: 'text',
    required: true,
    aliases: ['rating standard', 'standard'],
  },
  { field: 'family', header: 'Family', kind: 'text', required: true },
  { field: 'stockTyres', header: 'Stock tyres', kind: 'text', aliases: ['tyres', 'tires'] },
  {
    field: 'unitsPerYear',
    header: 'Units a year',
    kind: 'whole',
    min: 0,
    max: 10_000_000,
    aliases: ['units', 'sales'],
  },
];
export type PartColumn =
  | 'sku'
  | 'maker'
  | 'name'
  | 'category'
  | 'promise'
  | 'price'
  | 'currency'
  | 'launchDate'
  | 'legalMarkets'
  | 'legalClass'
  | 'revision'
  | 'installHours'
  | 'removeHours'
  | 'weightKg'
  | 'note';
const PARTS: readonly ColumnSpec<PartColumn>[] = [
  {
    field: 'sku',
    header: 'SKU',
    kind: 'text',
    required: true,
    aliases: ['article', 'part number', 'number'],
  },
  { field: 'maker', header: 'Maker', kind: 'text', required: true, aliases: ['make', 'brand'] },
  { field: 'name', header: 'Name', kind: 'text', required: true, aliases: ['title', 'description'] },
  { field: 'category', header: 'Category', kind: 'text', required: true, oneOf: PART_CATEGORIES },
  { field: 'promise', header: 'Promise', kind: 'text', oneOf: PROMISES },
  { field: 'price', header: 'Price', kind: 'number', min: 0, max: 1_000_000 },
  { field: 'currency', header: 'Currency', kind: 'text' },
  { field: 'launchDate', header: 'Launch', kind: 'date', aliases: ['launch date'] },
  { field: 'legalMarkets', header: 'Legal markets', kind: 'list' },
  { field: 'legalClass', header: 'Legal class', kind: 'text', oneOf: LEGAL_CLASSES },
  { field: 'revision', header: 'Revision', kind: 'text', aliases: ['rev'] },
  { field: 'installHours', header: 'Install hours', kind: 'number', min: 0, max: 200 },
  { field: 'removeHours', header: 'Remove hours', kind: 'number', min: 0, max: 200 },
  { field: 'weightKg', header: 'Weight kg', kind: 'number', min: 0, max: 500 },
  { field: 'note', header: 'Note', kind: 'text' },
];
export type ApplicationColumn = 'sku' | 'maker' | 'model' | 'outputVariant' | 'market';
const APPLICATIONS: readonly ColumnSpec<ApplicationColumn>[] = [
  { field: 'sku', header: 'SKU', kind: 'text', required: true, aliases: ['article', 'part number'] },
  { field: 'maker', header: 'Maker', kind: 'text', required: true, aliases: ['make', 'brand'] },
  { field: 'model', header: 'Model', kind: 'text', required: true },
  {
    field: 'outputVariant',
    header: 'Output variant',
    kind: 'text',
    required: true,
    aliases: ['variant', 'output'],
  },
  { field: 'market', header: 'Market', kind: 'text', required: true, aliases: ['region'] },
];
export const IMPORT_COLUMNS = { fitments: FITMENTS, parts: PARTS, applications: APPLICATIONS } as const;

const KEY_FIELDS: Record<ImportKind, readonly string[]> = {
  fitments: ['maker', 'model', 'outputVariant', 'market'],
  parts: ['sku'],
  applications: ['sku', 'maker', 'model', 'outputVariant', 'market'],
};
/** A row as a person knows it. */
export const importLabel = (kind: ImportKind, values: RowValues): string =>
  KEY_FIELDS[kind]
    .map((field) => {
      const value = (values as Record<string, unknown>)[field];
      return typeof value === 'string' ? value.trim() : '';
    })
    .join(' · ');
/** What makes two rows the same record: its label, without case. */
export const IMPORT_KEYS: Record<ImportKind, (values: RowValues) => string> = {
  fitments: (v) => importLabel('fitments', v).toLowerCase(),
  parts: (v) => importLabel('parts', v).toLowerCase(),
  applications: (v) => importLabel('applications', v).toLowerCase(),
};

export const ImportRequest = z.object({
  text: z.string().max(8_000_000, 'The table is larger than 8 MB; send it in parts.'),
});
export const ImportApplyRequest = ImportRequest.extend({
  /** What the preview said; anything else since then refuses the import. */ digest: z.string(),
});
export const ImportPreviewSchema = z.object({
  digest: z.string(),
  counts: z.object({ add: z.number(), change: z.number(), keep: z.number() }),
  unknownHeaders: z.array(z.string()),
  problems: z.array(z.object({ line: z.number(), column: z.string().nullable(), message: z.string() })),
  /** The first rows, changes and additions before those that stay. */
  rows: z.array(
    z.object({
      line: z.number(),
      action: z.enum(['add', 'change', 'keep']),
      key: z.string(),
      changes: z.array(z.object({ field: z.string(), from: z.string(), to: z.string() })),
    }),
  ),
});
export type ImportPreview = z.infer<typeof ImportPreviewSchema>;
export const ImportDoneSchema = z.object({ added: z.number(), changed: z.number(), kept: z.number() });
