/** Fitments, vehicles, parts and dynos of the demo; makers, models and parts are all invented. */
import type { dynos, fitments } from '../../server/register/tables.ts';

type FitmentRow = Omit<typeof fitments.$inferInsert, 'id'> & { key: string };

const common = { market: 'EU', ratedStandard: 'ISO 1585' };
export const DEMO_FITMENTS: readonly FitmentRow[] = [
  { key: 'tern', slug: 'oriel-tern-1-8-estate', maker: 'Oriel', model: 'Tern 1.8 estate', platformCode: 'OT3', yearFrom: 2017, yearTo: 2023, engineCode: 'O18N', displacementCc: 1798, cylinders: 4, aspiration: 'natural', ignition: 'spark', fuel: 'petrol', transmission: '6-speed manual', drivenWheels: 'front', outputVariant: '103 kW', ratedPowerKw: 103, ratedTorqueNm: 174, family: 'O18', ...common },
  { key: 'sprat', slug: 'quillon-sprat-1-0-t-85', maker: 'Quillon', model: 'Sprat 1.0 T', platformCode: 'QS2', yearFrom: 2019, yearTo: null, engineCode: 'Q10T', displacementCc: 999, cylinders: 3, aspiration: 'turbo-intercooled', ignition: 'spark', fuel: 'petrol', transmission: '6-speed manual', drivenWheels: 'front', outputVariant: '85 kW', ratedPowerKw: 85, ratedTorqueNm: 190, family: 'Q10', ...common },
  { key: 'sprat74', slug: 'quillon-sprat-1-0-t-74', maker: 'Quillon', model: 'Sprat 1.0 T', platformCode: 'QS2', yearFrom: 2019, yearTo: null, engineCode: 'Q10T', displacementCc: 999, cylinders: 3, aspiration: 'turbo-intercooled', ignition: 'spark', fuel: 'petrol', transmission: '5-speed manual', drivenWheels: 'front', outputVariant: '74 kW', ratedPowerKw: 74, ratedTorqueNm: 172, family: 'Q10', ...common },
  { key: 'adder', slug: 'tamsin-adder-2-5-t-awd', maker: 'Tamsin', model: 'Adder 2.5 T AWD', platformCode: 'TA8', yearFrom: 2018, yearTo: 2025, engineCode: 'T25B', displacementCc: 2480, cylinders: 5, aspiration: 'turbo-intercooled', ignition: 'spark', fuel: 'petrol', transmission: '7-speed dual clutch', drivenWheels: 'all', outputVariant: '294 kW', ratedPowerKw: 294, ratedTorqueNm: 480, family: 'T25', ...common },
  { key: 'holm', slug: 'varrick-holm-2-2-d-van', maker: 'Varrick', model: 'Holm 2.2 D van', platformCode: 'VH5', yearFrom: 2016, yearTo: null, engineCode: 'V22D', displacementCc: 2179, cylinders: 4, aspiration: 'turbo-intercooled', ignition: 'compression', fuel: 'diesel', transmission: '6-speed manual', drivenWheels: 'rear', outputVariant: '120 kW', ratedPowerKw: 120, ratedTorqueNm: 385, family: 'V22', ...common },
  { key: 'moor', slug: 'brackwater-moor-4-2-v8', maker: 'Brackwater', model: 'Moor 4.2 V8 4×4', platformCode: 'BM1', yearFrom: 2014, yearTo: 2021, engineCode: 'B42', displacementCc: 4196, cylinders: 8, aspiration: 'natural', ignition: 'spark', fuel: 'petrol', transmission: '6-speed automatic', drivenWheels: 'all', outputVariant: '242 kW', ratedPowerKw: 242, ratedTorqueNm: 430, family: 'B42', ...common },
  { key: 'ferry', slug: 'halden-ferry-3-5-v6', maker: 'Halden', model: 'Ferry 3.5 V6 minibus', platformCode: 'HF2', yearFrom: 2015, yearTo: 2024, engineCode: 'H35', displacementCc: 3498, cylinders: 6, aspiration: 'natural', ignition: 'spark', fuel: 'petrol', transmission: '6-speed automatic', drivenWheels: 'front', outputVariant: '198 kW', ratedPowerKw: 198, ratedTorqueNm: 332, family: 'H35', ...common },
];

export const DEMO_VEHICLES = [
  { key: 'tern-1', fitment: 'tern', tag: 'SV-014 Tern, grey', odometerKm: 61240, note: 'House car, stock, serviced 28 October' },
  { key: 'sprat-1', fitment: 'sprat', tag: 'SV-021 Sprat, red', odometerKm: 28410, note: 'Loan, stock' },
  { key: 'adder-1', fitment: 'adder', tag: 'FR-003 Adder, blue', odometerKm: 44890, note: 'Partner’s car' },
  { key: 'holm-1', fitment: 'holm', tag: 'SV-009 Holm, white', odometerKm: 118300, note: 'House van' },
  { key: 'moor-1', fitment: 'moor', tag: 'SV-030 Moor, green', odometerKm: 90210, note: 'Loan' },
  { key: 'ferry-1', fitment: 'ferry', tag: 'SV-026 Ferry, silver', odometerKm: 73050, note: 'Loan, stock' },
] as const;

export const DEMO_PARTS = [
  { key: 'manifold-c', sku: 'TM-118', maker: 'Skerry & Vale', name: 'Tubular manifold', category: 'header', revision: 'C' },
  { key: 'rear-b', sku: 'RS-204', maker: 'Skerry & Vale', name: 'Rear silencer', category: 'exhaust section', revision: 'B' },
  { key: 'intake-a', sku: 'IN-310', maker: 'Lowmoss', name: 'Cold-side intake', category: 'intake', revision: 'A' },
  { key: 'downpipe-a', sku: 'DP-550', maker: 'Lowmoss', name: 'Large-bore downpipe', category: 'downpipe', revision: 'A' },
  { key: 'intercooler-b', sku: 'IC-122', maker: 'Harrow End', name: 'Front intercooler', category: 'intercooler', revision: 'B' },
  { key: 'blower-a', sku: 'SC-900', maker: 'Harrow End', name: 'Supercharger kit', category: 'supercharger', revision: 'A' },
  { key: 'cat-back-a', sku: 'CB-077', maker: 'Skerry & Vale', name: 'Cat-back exhaust', category: 'exhaust section', revision: 'A' },
] as const;

export const DEMO_DYNOS: readonly (Omit<typeof dynos.$inferInsert, 'id'> & { key: string })[] = [
  {
    key: 'cell-1', name: 'Cell 1', site: 'Skerry & Vale, coast', kind: 'loaded roller, enclosed cell', siteHeightM: 8, appliesStandard: 'none',
    repeatability: { curve: { variance: 0.36, df: 10 }, bandAverage: { variance: 0.28, df: 10 }, peak: { variance: 0.32, df: 10 }, mount: { variance: 0.405, df: 9.3 } },
  },
  { key: 'fell-road', name: 'Fell Road rollers', site: 'Fell Road Garage, 900 m', kind: 'inertia rollers', siteHeightM: 900, appliesStandard: 'none', repeatability: {} },
];
