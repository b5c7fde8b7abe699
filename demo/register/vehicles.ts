/** Fitments, vehicles, calibrations and dynos of the demo; makers, models and codes are all invented. */
import type { z } from 'zod';
import type { DynoInput, FitmentInput, VehicleInput } from '../../contract/register/register.ts';

type Keyed<T> = T & { readonly key: string };
const common = { market: 'EU', ratedStandard: 'ISO 1585' };
const tern = { maker: 'Oriel', model: 'Tern 1.8 estate', platformCode: 'OT3', yearFrom: 2017, yearTo: 2023, engineCode: 'O18N', displacementCc: 1798, cylinders: 4, aspiration: 'natural', ignition: 'spark', fuel: 'petrol 95 RON', transmission: '6-speed manual', drivenWheels: 'front', family: 'O18', stockTyres: '205/55 R16', ...common } as const;
const sprat = { maker: 'Quillon', model: 'Sprat 1.0 T', platformCode: 'QS2', yearFrom: 2019, yearTo: null, engineCode: 'Q10T', displacementCc: 999, cylinders: 3, aspiration: 'turbo-intercooled', ignition: 'spark', fuel: 'petrol 95 RON', drivenWheels: 'front', family: 'Q10', stockTyres: '185/60 R15', ...common } as const;
const adder = { maker: 'Tamsin', model: 'Adder 2.5 T AWD', platformCode: 'TA5', yearFrom: 2016, yearTo: 2022, engineCode: 'T25T', displacementCc: 2480, cylinders: 5, aspiration: 'turbo-intercooled', ignition: 'spark', fuel: 'petrol 98 RON', drivenWheels: 'all', family: 'T25', stockTyres: '235/40 R18', ...common } as const;
const holm = { maker: 'Varrick', model: 'Holm 2.2 D van', platformCode: 'VH2', yearFrom: 2014, yearTo: 2024, engineCode: 'V22D', displacementCc: 2198, cylinders: 4, aspiration: 'turbo-intercooled', ignition: 'compression', fuel: 'diesel', transmission: '6-speed manual', drivenWheels: 'rear', family: 'V22', stockTyres: '215/65 R16 C', ...common } as const;

export const DEMO_FITMENTS: readonly Keyed<FitmentInput>[] = [
  { key: 'tern', ...tern, outputVariant: '103 kW', ratedPowerKw: 103, ratedTorqueNm: 174, unitsPerYear: 4200 },
  { key: 'tern-auto', ...tern, model: 'Tern 1.8 hatchback', transmission: '6-speed automatic', outputVariant: '103 kW', ratedPowerKw: 103, ratedTorqueNm: 174, unitsPerYear: 2900 },
  { key: 'tern92', ...tern, transmission: '5-speed manual', outputVariant: '92 kW', ratedPowerKw: 92, ratedTorqueNm: 165, unitsPerYear: 1600 },
  { key: 'sprat', ...sprat, transmission: '6-speed manual', outputVariant: '85 kW', ratedPowerKw: 85, ratedTorqueNm: 190, unitsPerYear: 9800 },
  { key: 'sprat74', ...sprat, transmission: '5-speed manual', outputVariant: '74 kW', ratedPowerKw: 74, ratedTorqueNm: 172, unitsPerYear: 12_400 },
  { key: 'sprat-van', ...sprat, model: 'Sprat 1.0 T van', transmission: '6-speed manual', outputVariant: '85 kW', ratedPowerKw: 85, ratedTorqueNm: 190, unitsPerYear: 2100 },
  { key: 'adder', ...adder, transmission: '7-speed dual clutch', outputVariant: '250 kW', ratedPowerKw: 250, ratedTorqueNm: 450, unitsPerYear: 900 },
  { key: 'adder-uk', ...adder, market: 'UK', transmission: '7-speed dual clutch', outputVariant: '235 kW', ratedPowerKw: 235, ratedTorqueNm: 430, unitsPerYear: 500 },
  { key: 'holm', ...holm, outputVariant: '110 kW', ratedPowerKw: 110, ratedTorqueNm: 350, unitsPerYear: 3800 },
  { key: 'holm-chassis', ...holm, model: 'Holm 2.2 D chassis cab', outputVariant: '110 kW', ratedPowerKw: 110, ratedTorqueNm: 350, unitsPerYear: 700 },
  { key: 'holm92', ...holm, outputVariant: '92 kW', ratedPowerKw: 92, ratedTorqueNm: 320, unitsPerYear: 2600 },
  { key: 'moor', maker: 'Brackwater', model: 'Moor 4.2 V8 4×4', platformCode: 'BM1', yearFrom: 2015, yearTo: 2021, engineCode: 'B42N', displacementCc: 4163, cylinders: 8, aspiration: 'natural', ignition: 'spark', fuel: 'petrol 98 RON', transmission: '8-speed automatic', drivenWheels: 'all', outputVariant: '240 kW', ratedPowerKw: 240, ratedTorqueNm: 430, family: 'B42', stockTyres: '265/60 R18', unitsPerYear: 450, ...common },
  { key: 'ferry', maker: 'Halden', model: 'Ferry 3.5 V6 minibus', platformCode: 'HF4', yearFrom: 2018, yearTo: null, engineCode: 'H35N', displacementCc: 3498, cylinders: 6, aspiration: 'natural', ignition: 'spark', fuel: 'petrol 95 RON', transmission: '6-speed automatic', drivenWheels: 'rear', outputVariant: '200 kW', ratedPowerKw: 200, ratedTorqueNm: 340, family: 'H35', stockTyres: '235/60 R17', unitsPerYear: 1100, ...common },
  { key: 'wren', maker: 'Oriel', model: 'Wren 1.4 hatchback', platformCode: 'OW2', yearFrom: 2020, yearTo: null, engineCode: 'O14N', displacementCc: 1395, cylinders: 4, aspiration: 'natural', ignition: 'spark', fuel: 'petrol 95 RON', transmission: '5-speed manual', drivenWheels: 'front', outputVariant: '74 kW', ratedPowerKw: 74, ratedTorqueNm: 132, family: 'O14', stockTyres: '185/65 R15', unitsPerYear: 7600, ...common },
];

const blank = { wheels: '', availableFrom: null, availableTo: null } as const;
export const DEMO_VEHICLES: readonly Keyed<Omit<VehicleInput, 'fitmentId'> & { fitment: string; serviced: string; tyres?: string; fuel: string }>[] = [
  { key: 'tern-1', fitment: 'tern', tag: 'SV-014 Tern, grey', odometerKm: 61_240, owner: 'house', finalDrive: 4.06, gears: [{ name: '3rd', ratio: 1.36 }, { name: '4th', ratio: 1 }, { name: '5th', ratio: 0.83 }], note: 'House car, serviced 28 October', serviced: '2026-10-28', tyres: '205/55 R16', fuel: '95 RON pump', ...blank },
  { key: 'sprat-1', fitment: 'sprat', tag: 'SV-021 Sprat, red', odometerKm: 28_410, owner: 'loan', finalDrive: 4.2, gears: [{ name: '3rd', ratio: 1.41 }, { name: '4th', ratio: 1.03 }, { name: '5th', ratio: 0.84 }], note: 'Loan, stock', serviced: '2026-09-02', tyres: '185/60 R15', fuel: '95 RON pump', ...blank },
  { key: 'adder-1', fitment: 'adder', tag: 'FR-003 Adder, blue', odometerKm: 44_890, owner: 'partner', finalDrive: 3.7, gears: [{ name: '4th', ratio: 1.29 }, { name: '5th', ratio: 0.97 }], note: 'Partner’s car', serviced: '2026-08-11', tyres: '235/40 R18', fuel: '98 RON pump', ...blank },
  { key: 'holm-1', fitment: 'holm', tag: 'SV-009 Holm, white', odometerKm: 118_300, owner: 'house', finalDrive: 3.9, gears: [{ name: '4th', ratio: 1 }, { name: '5th', ratio: 0.78 }], note: 'House van', serviced: '2026-10-05', tyres: '215/65 R16 C', fuel: 'EN 590 diesel', ...blank },
  { key: 'moor-1', fitment: 'moor', tag: 'SV-030 Moor, green', odometerKm: 90_210, owner: 'loan', finalDrive: 3.55, gears: [{ name: '4th', ratio: 1.14 }, { name: '5th', ratio: 0.87 }], note: 'Loan', serviced: '2026-07-20', tyres: '265/60 R18', fuel: '98 RON pump', ...blank },
  { key: 'ferry-1', fitment: 'ferry', tag: 'SV-026 Ferry, silver', odometerKm: 73_050, owner: 'loan', finalDrive: 3.73, gears: [{ name: '4th', ratio: 1.15 }], note: 'Loan, stock', serviced: '2026-09-25', tyres: '235/60 R17', fuel: '95 RON pump', ...blank },
  { key: 'tern-2', fitment: 'tern', tag: 'SV-031 Tern, blue', odometerKm: 38_900, owner: 'loan', finalDrive: 4.06, gears: [{ name: '4th', ratio: 1 }], note: 'Loan until the end of the winter', serviced: '2026-10-30', tyres: '205/55 R16', fuel: '95 RON pump', ...blank },
  { key: 'tern-3', fitment: 'tern', tag: 'SV-033 Tern, white', odometerKm: 84_650, owner: 'customer', finalDrive: 4.06, gears: [{ name: '4th', ratio: 1 }], note: 'Customer’s car; came on winter tyres with an old air filter', serviced: '2025-06-14', tyres: '205/55 R16 winter', fuel: '95 RON pump', ...blank },
  { key: 'wren-1', fitment: 'wren', tag: 'SV-035 Wren, yellow', odometerKm: 9_120, owner: 'house', finalDrive: 4.3, gears: [{ name: '4th', ratio: 1.05 }], note: 'New house car; nothing written down yet', serviced: '', fuel: '', ...blank },
];

const week = (days: readonly number[], from: string, to: string): DynoInput['opening'] => days.map((day) => ({ day, from, to }));
export const DEMO_DYNOS: readonly Keyed<z.input<typeof DynoInput>>[] = [
  {
    key: 'cell-1', name: 'Cell 1', site: 'Skerry & Vale, coast', kind: 'loaded roller, enclosed cell', drive: 'two-wheel', cell: 'enclosed', fan: 'duct fan, 60 km/h', siteHeightM: 8, appliesStandard: 'none', samplingHz: 50, lastCalibratedOn: '2026-09-14', timeZone: 'Europe/Oslo', hourlyRate: 140, labourRate: 85, opening: week([1, 2, 3, 4, 5], '08:00', '16:30'),
    repeatability: { curve: { variance: 0.36, df: 10 }, bandAverage: { variance: 0.28, df: 10 }, peak: { variance: 0.32, df: 10 }, mount: { variance: 0.405, df: 9.3 } },
  },
  { key: 'fell-road', name: 'Fell Road rollers', site: 'Fell Road Garage, 900 m', kind: 'inertia rollers', drive: 'four-wheel', cell: 'open', fan: 'floor fan', siteHeightM: 900, appliesStandard: 'none', samplingHz: 20, lastCalibratedOn: '2026-03-02', timeZone: 'Europe/Oslo', hourlyRate: 110, labourRate: 80, opening: week([2, 4, 6], '09:00', '17:00'), repeatability: {} },
];
export const DEMO_SENSORS = [
  { quantity: 'air temperature', serial: 'AT-2207', uncertainty: 0.3, unit: '°C', calibratedOn: '2026-02-10', dueOn: '2027-02-10' }, { quantity: 'barometer', serial: 'BP-0413', uncertainty: 0.4, unit: 'hPa', calibratedOn: '2026-02-10', dueOn: '2027-02-10' },
  { quantity: 'humidity', serial: 'RH-0994', uncertainty: 2, unit: '% RH', calibratedOn: '2025-11-03', dueOn: '2026-11-03' }, { quantity: 'roller torque', serial: 'LC-5510', uncertainty: 0.5, unit: '% of reading', calibratedOn: '2026-09-14', dueOn: '2027-03-14' },
] as const;
