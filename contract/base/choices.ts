/** What a person has chosen for themselves: kept with their account, on every device alike. */
import { z } from 'zod';
import { UNITS } from './units-choice.ts';

export const UnitsChoice = z.object({
  power: z.enum(UNITS.power),
  torque: z.enum(UNITS.torque),
  temperature: z.enum(UNITS.temperature),
  pressure: z.enum(UNITS.pressure),
  /** Whether a single key does something where nothing is typed (WCAG 2.1.4). */ keys: z.enum(['on', 'off']),
});
export type UnitsChoice = z.infer<typeof UnitsChoice>;

/** Lists whose narrowing can be kept under a name. */
export const KEPT_LISTS = ['tests', 'claims', 'catalogue'] as const;
export type KeptList = (typeof KEPT_LISTS)[number];
export const KeptView = z.object({
  list: z.enum(KEPT_LISTS),
  name: z.string().trim().min(1, 'Give it a name.').max(40, 'Take 40 letters at the most.'),
  /** The part of the address after the question mark. */ search: z.string().max(500),
});
export type KeptView = z.infer<typeof KeptView>;

export const Choices = z.object({
  units: UnitsChoice,
  views: z.array(KeptView).max(60, 'Sixty are kept at the most; remove one first.'),
  /** The newest event of a claim that was seen on the list of what to take over. */
  seenOnShelf: z.number().int().nonnegative(),
});
export type Choices = z.infer<typeof Choices>;
export const CHOICE_NAMES = ['units', 'views', 'seenOnShelf'] as const satisfies (keyof Choices)[];
export type ChoiceName = (typeof CHOICE_NAMES)[number];
/** Those that a person has made. */
export const ChosenSchema = Choices.partial();
export type Chosen = z.infer<typeof ChosenSchema>;
