/**
 * Protocols: in which order the arms are run, when each is the right one, and what it cannot tell.
 * The first arm is the baseline.
 */
export interface Protocol {
  readonly name: string;
  readonly use: string;
  readonly cannot: string;
  /** Part arms it takes. */
  readonly parts: { readonly least: number; readonly most: number };
  /** Several tests made from one plan: one for each vehicle, or one for each day or dyno. */
  readonly series?: 'vehicles' | 'visits';
  /** Every part arm builds on the one before. */
  readonly cumulative?: true;
  /** Nothing returns to the baseline: strapped down anew for every run, a control vehicle around each arm. */
  readonly oneWay?: true;
  readonly order: (baseline: string, parts: readonly string[]) => readonly string[];
}

const aba = (a: string, parts: readonly string[]): string[] => [a, ...parts, a];
export const PROTOCOLS = {
  'A-B-A': {
    name: 'Stock, part, stock',
    use: 'The default for claims: the closing baseline cancels a steady drift.',
    cannot: 'Costs a second install; does not tell what another vehicle would gain.',
    parts: { least: 1, most: 1 },
    order: aba,
  },
  'A-B-B-A': {
    name: 'Stock, part, part, stock',
    use:
      'Best when every run is strapped down anew: each arm has two mountings, and a steady drift cancels. ' +
      'For twelve pulls on one mounting it sees more than A-B-A: the part stays on for two runs.',
    cannot: 'Costs one more run and one more strapping than A-B-A.',
    parts: { least: 1, most: 1 },
    order: (a, [b]) => [a, b, b, a],
  },
  'A-B-A-B': {
    name: 'Alternating',
    use: 'For quick changes (a pulley, an insert, a switched calibration): many returns, analysed with a drift line.',
    cannot: 'Not for slow installs; the drift line costs about an eighth of the width.',
    parts: { least: 1, most: 1 },
    order: (a, [b]) => [a, b, a, b],
  },
  'A-B': {
    name: 'Stock, part',
    use: 'A quick look on one mounting before the whole test.',
    cannot:
      'Cannot tell drift from gain: a drift bound is added, the result is provisional and never published.',
    parts: { least: 1, most: 1 },
    order: (a, [b]) => [a, b],
  },
  'one-way': {
    name: 'What cannot be undone',
    use:
      'For cams, drilled pulleys, blower kits: two mountings of the baseline, the install, two mountings of the part; ' +
      'a control vehicle is measured before and after each arm.',
    cannot:
      'Nothing returns to the baseline: mountings and days widen the interval, and the claim says so. It needs the ' +
      'dyno’s registered variance of mountings and days.',
    parts: { least: 1, most: 1 },
    oneWay: true,
    order: (a, [b]) => [a, a, b, b],
  },
  ladder: {
    name: 'Ladder of stages',
    use: 'Stages added one on the other, the calibration as a step of its own if wanted: what does each step add on what is there.',
    cannot: 'Steps do not add up in another order; a later stage says nothing about that part alone.',
    parts: { least: 2, most: 6 },
    cumulative: true,
    order: aba,
  },
  bracket: {
    name: 'Several parts, one baseline',
    use: 'Rival parts or prototypes between an opening and a closing baseline: the baselines are shared.',
    cannot: 'All parts pay for their number; the best of them needs a confirming test of its own.',
    parts: { least: 2, most: 6 },
    order: aba,
  },
  options: {
    name: 'Option sweep',
    use: 'Settings of one part (pulley sizes, openings, inserts) between two baselines.',
    cannot:
      'The setting that comes out best was picked: it needs a confirming test. Nothing between the settings is measured.',
    parts: { least: 2, most: 6 },
    order: aba,
  },
  vehicles: {
    name: 'Same part, several vehicles',
    use: 'Three vehicles or more of the fitment: the way to say what another customer’s car will gain.',
    cannot: 'With one or two vehicles nothing is said about others.',
    parts: { least: 1, most: 1 },
    series: 'vehicles',
    order: aba,
  },
  repeat: {
    name: 'Repeat on another day or dyno',
    use: 'The same vehicle on another visit: does the gain come back?',
    cannot: 'Says nothing about other vehicles.',
    parts: { least: 1, most: 1 },
    series: 'visits',
    order: aba,
  },
  custom: {
    name: 'Own order',
    use: 'When nothing above fits. Begin and end on the baseline, keep runs equal.',
    cannot: 'An order without return to baseline is provisional at most.',
    parts: { least: 1, most: 6 },
    order: aba,
  },
} as const satisfies Record<string, Protocol>;
export type ProtocolKey = keyof typeof PROTOCOLS;
export const PROTOCOL_KEYS = Object.keys(PROTOCOLS) as ProtocolKey[];
/** Two runs or more of one arm, then as many of the other: what a plan without return may be run as. */
export const isOneWayOrder = (order: readonly string[], baseline: string): boolean => {
  const first = order.findIndex((key) => key !== baseline);
  return first >= 2 && order.length - first >= 2 && order.slice(first).every((key) => key === order[first]);
};
export const protocolOf = (key: ProtocolKey): Protocol => PROTOCOLS[key];

export interface SheetPull {
  readonly position: number;
  readonly label: string;
  readonly run: number;
  readonly arm: string;
  readonly mount: number;
  readonly counted: boolean;
}

/**
 * Pulls of a session in order: the same number of warm-up pulls before every run, counted pulls
 * numbered through the session. A re-mounted session has a mounting for every run.
 */
export function runSheet(
  order: readonly string[],
  pullsPerRun: number,
  warmUps: number,
  remount: boolean,
): SheetPull[] {
  const sheet: SheetPull[] = [];
  order.forEach((arm, run) =>
    sheet.push(
      ...runPulls(
        sheet.length,
        sheet.filter((p) => p.counted).length,
        run + 1,
        arm,
        remount ? run + 1 : 1,
        pullsPerRun,
        warmUps,
      ),
    ),
  );
  return sheet;
}

/** Pulls of one run that follows `before` pulls, `countedBefore` of them counted. */
export function runPulls(
  before: number,
  countedBefore: number,
  run: number,
  arm: string,
  mount: number,
  pullsPerRun: number,
  warmUps: number,
): SheetPull[] {
  return Array.from({ length: warmUps + pullsPerRun }, (_, k) => {
    const counted = k >= warmUps;
    return {
      position: before + k + 1,
      label: counted ? `p${countedBefore + k - warmUps + 1}` : `w${before + k + 1}`,
      run,
      arm,
      mount,
      counted,
    };
  });
}

/** Whether the analysis takes a line in order out: for two arms that alternate and do not end where they began. */
export const driftModel = (order: readonly string[]): 'none' | 'linear' => {
  const changes = order.filter((arm, i) => i > 0 && arm !== order[i - 1]).length;
  return new Set(order).size === 2 && changes >= 3 && order[0] !== order.at(-1) ? 'linear' : 'none';
};
