/**
 * Which fitments one test could serve. Fitments of a family share an engine and intake; an output
 * variant of it is another calibration of the same hardware, so a number never crosses variants.
 */
export interface FamilyMember {
  readonly id: string;
  readonly family: string;
  readonly engineCode: string;
  readonly outputVariant: string;
  readonly ratedPowerKw: number;
  readonly aspiration: string;
  readonly ignition: string;
  readonly fuel: string;
  readonly transmission: string;
  readonly drivenWheels: string;
}

export type Bar = 'OTHER_FAMILY' | 'OTHER_ENGINE' | 'OTHER_OUTPUT' | 'OTHER_ASPIRATION' | 'OTHER_FUEL';
export interface CarryOver {
  /** `serves`: the finding may be told for the other as family advice, without a number; `barred`: it may not. */
  readonly state: 'same' | 'serves' | 'barred';
  readonly bars: readonly { readonly code: Bar; readonly text: string }[];
  /** What differs and must be told, but does not forbid. */
  readonly differs: readonly string[];
}

/** Rated outputs closer than this count as one variant written in two ways. */
const SAME_OUTPUT = 0.01;

export function carryOver(tested: FamilyMember, other: FamilyMember): CarryOver {
  if (tested.id === other.id) return { state: 'same', bars: [], differs: [] };
  const bars: { code: Bar; text: string }[] = [];
  if (tested.family !== other.family)
    bars.push({ code: 'OTHER_FAMILY', text: `another family (${other.family})` });
  if (tested.engineCode !== other.engineCode)
    bars.push({ code: 'OTHER_ENGINE', text: `engine ${other.engineCode}, tested ${tested.engineCode}` });
  if (tested.aspiration !== other.aspiration || tested.ignition !== other.ignition)
    bars.push({ code: 'OTHER_ASPIRATION', text: `${other.aspiration}, tested ${tested.aspiration}` });
  if (tested.fuel !== other.fuel)
    bars.push({ code: 'OTHER_FUEL', text: `${other.fuel}, tested ${tested.fuel}` });
  if (Math.abs(tested.ratedPowerKw / other.ratedPowerKw - 1) > SAME_OUTPUT)
    bars.push({
      code: 'OTHER_OUTPUT',
      text: `output ${other.outputVariant}, tested ${tested.outputVariant}`,
    });
  const differs = (
    [
      ['transmission', 'transmission'],
      ['drivenWheels', 'driven wheels'],
    ] as const
  ).flatMap(([key, name]) =>
    tested[key] === other[key] ? [] : [`${name}: ${other[key]}, tested ${tested[key]}`],
  );
  return { state: bars.length > 0 ? 'barred' : 'serves', bars, differs };
}

export interface FamilyGroup<M extends FamilyMember = FamilyMember> {
  readonly members: readonly M[];
  readonly output: string;
}

/** Splits the members of a family into groups that one test each could serve. */
export function servedTogether<M extends FamilyMember>(members: readonly M[]): FamilyGroup<M>[] {
  const groups: M[][] = [];
  for (const member of members) {
    const home = groups.find((group) => carryOver(group[0], member).state !== 'barred');
    if (home) home.push(member);
    else groups.push([member]);
  }
  return groups.map((group) => ({ members: group, output: group[0].outputVariant }));
}
