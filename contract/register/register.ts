/** Fitments, vehicles, parts and dynos as the interface reads them. */
import { z } from 'zod';
import { EngineSchema, RepeatabilitySchema, StandardSchema } from '../base/schemas.ts';

export const FitmentSchema = z.object({
  id: z.string(), slug: z.string(), maker: z.string(), model: z.string(), platformCode: z.string(), yearFrom: z.number(), yearTo: z.number().nullable(),
  engineCode: z.string(), displacementCc: z.number(), cylinders: z.number(), aspiration: EngineSchema.shape.aspiration, ignition: EngineSchema.shape.ignition,
  fuel: z.string(), transmission: z.string(), drivenWheels: z.string(), outputVariant: z.string(), market: z.string(),
  ratedPowerKw: z.number(), ratedTorqueNm: z.number(), ratedStandard: z.string(), family: z.string(),
});
export type Fitment = z.infer<typeof FitmentSchema>;

export const VehicleSchema = z.object({ id: z.string(), fitmentId: z.string(), tag: z.string(), odometerKm: z.number(), note: z.string() });
export const PartRevisionSchema = z.object({ id: z.string(), partId: z.string(), sku: z.string(), maker: z.string(), name: z.string(), category: z.string(), revision: z.string() });
export const DynoSchema = z.object({ id: z.string(), name: z.string(), site: z.string(), kind: z.string(), siteHeightM: z.number(), appliesStandard: StandardSchema, repeatability: RepeatabilitySchema });
export const RegisterSchema = z.object({ fitments: z.array(FitmentSchema), vehicles: z.array(VehicleSchema), partRevisions: z.array(PartRevisionSchema), dynos: z.array(DynoSchema), partners: z.array(z.object({ id: z.string(), name: z.string() })) });
export type Register = z.infer<typeof RegisterSchema>;

/** A fitment as a person says it. */
export const fitmentName = (f: Pick<Fitment, 'maker' | 'model'> & { outputVariant?: string }): string => `${f.maker} ${f.model}${f.outputVariant ? `, ${f.outputVariant}` : ''}`;
