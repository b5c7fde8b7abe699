/* eslint-disable max-lines -- every sentence of a finding stands here, a few lines each */
/** Every sentence of a finding, by its code: what was found, why it matters, what would mend it. Nothing decides here. */
import { grouped } from '../base/grouped.ts';
import { QUANTITY_NAMES, type Quantity } from '../base/quantities.ts';
import { signed } from '../base/signed.ts';
import { shownGain, shownUpper } from '../base/rounding.ts';
import type { StartSensor } from '../register/temperature-slope.ts';
import { STANDARD_NAMES, type Standard } from '../base/standards.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import type { Alarm } from '../register/control-state.ts';
import type { Departure } from '../capture/session/next-place.ts';
import type { SettingChange } from '../capture/session/session-record.ts';
import type { OtherTest } from './every-test.ts';
import type { RunVehicle } from './one-car.ts';
import { otherTestsWords } from './other-test-words.ts';
import { departureText } from '../capture/session/departure-words.ts';
import type { NoisyEnd } from '../compare/noisy-end.ts';
import type { Moved, OneWay, OneWayGap } from '../compare/one-way.ts';

export interface Words {
  readonly message: string;
  readonly why?: string;
  readonly mend?: string;
}

const fixed = (value: number, digits: number): string => value.toFixed(digits).replace('-', '−');
const channelName = (quantity: Quantity): string =>
  quantity === 'lambda' ? 'mixture (λ)' : QUANTITY_NAMES[quantity];
const sentenceCase = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const SENSOR_WORDS: Readonly<Record<StartSensor, string>> = {
  coolant: 'the coolant',
  oil: 'the oil',
  'cell air': 'the air of the cell',
};
const kelvin = (apart: number): string => `${Math.abs(apart).toFixed(1)} K`;
/** What a difference of temperature is worth by the registered slope. */
const worth = (effect: number | null): string =>
  effect === null ? '' : `, by the dyno’s own slope worth ${effect.toFixed(2)} %`;
const pct = (share: number, digits = 1): string => (100 * share).toFixed(digits);

const WHY = {
  plan: 'A plan made after the first pull can be fitted to the result.',
  asDone: 'What was done outranks what was planned.',
  setting: 'Another hood, fan, fuel or tyre pressure moves the reading as a part does.',
  design: 'The order of the arms decides whether a slow change of car or cell can pass for a gain.',
  warm: 'A warmer engine reads less: arms that started unequally warm make a gain, or hide one.',
  mounting: 'Strapping a car down again moves the reading by about as much as a small part gives.',
  warmUp: 'The first pulls after a start or a swap still adapt; only equal warm-up in every run cancels it.',
  repeats: 'Without repeats nobody can tell a gain from scatter.',
  armScatter: 'An arm that scatters more than the other is known less well than the two together suggest.',
  settled: 'An engine that is still changing pull after pull in one arm makes a gain of it, or hides one.',
  repeatability: 'A car or cell that scatters more than usual has something wrong with it.',
  factor: 'A large correction carries a large error, and a different one per arm looks like a gain.',
  uncorrected: 'What is not corrected for air carries the difference of the air as if it were the part’s.',
  sweep: 'A pull begun earlier, or ramped faster, reads differently at the same rpm.',
  engine: 'An engine that runs otherwise gives another torque, whatever is bolted to it.',
  harm: 'A claim must not rest on an engine that was harmed, nor lead anybody to drive one so.',
  flow: 'Power comes from air and fuel: a gain that neither shows wants another explanation.',
  effect: 'A gain that the pulls do not show cannot be claimed.',
  losses: 'Whoever drives in the lost range must know.',
  accounted: 'A pull that is nowhere could be the one that says otherwise.',
  readings: 'What is no reading of this engine moves the curve without being a gain.',
  baseline: 'A part is credited with whatever the baseline lacked, if nobody names it.',
  every:
    'The best of several tests is not what the part gives: each of them counts, or has a cause that does not depend on its result.',
  copy: 'A pull that stands twice makes the scatter look smaller than it is.',
} as const;

const plan = (message: string, mend?: string): Words => ({
  message,
  why: WHY.plan,
  ...(mend ? { mend } : {}),
});
const because =
  (why: string) =>
  (message: string, mend?: string): Words => ({ message, why, ...(mend ? { mend } : {}) });
const asDone = because(WHY.asDone);
const setting = because(WHY.setting);
const changesText = (changes: readonly SettingChange[]): string =>
  changes.map((c) => `${c.what} (${c.text})`).join('; ');
const gapText = (gap: OneWayGap, control: string): string =>
  ({
    'can be undone': 'by the register the install can be undone',
    'baseline not first': 'the part was measured before the baseline',
    'mountings of the baseline': 'the baseline has fewer than two mountings',
    'mountings of the part': 'the part has fewer than two mountings',
    times: 'when its pulls were made is not known',
    'control changed': `something was done on ${control} between its checks`,
    'check before the baseline': `${control} was not measured before the baseline`,
    'check after the baseline': `${control} was not measured after the baseline`,
    'check before the part': `${control} was not measured before the part`,
    'check after the part': `${control} was not measured after the part`,
    'unequal warm-up': `${control} was not warmed up alike before every check`,
    'variance of mountings': 'the dyno’s variance of mountings is not registered',
    'variance of days': 'the dyno’s variance of days is not registered',
  })[gap];
const design = because(WHY.design);
const mounting = because(WHY.mounting);
const warmUp = because(WHY.warmUp);
const repeats = because(WHY.repeats);
const armScatter = because(WHY.armScatter);
const repeatability = because(WHY.repeatability);
const settled = because(WHY.settled);
const factor = because(WHY.factor);
const uncorrected = because(WHY.uncorrected);
const sweep = because(WHY.sweep);
const warm = because(WHY.warm);
const engine = because(WHY.engine);
const harm = because(WHY.harm);
const flow = because(WHY.flow);
const effect = because(WHY.effect);
const losses = because(WHY.losses);
const accounted = because(WHY.accounted);
const copy = because(WHY.copy);
const every = because(WHY.every);
const baseline = because(WHY.baseline);

/** Pull-to-pull SD of the average, and the dyno's own, per cent. */
interface Scatter {
  readonly sd: number;
  readonly history: number;
}
/** Fields of a plan by what they are called. */
const FIELDS: Readonly<Record<string, string>> = {
  band: 'rpm range',
  coolDownMinutes: 'cool-down',
  addedRun: 'runs',
};
const inWords = (fields: readonly string[]): string => fields.map((f) => FIELDS[f] ?? f).join(', ');
const scatter = ({ sd }: { sd: number }): string => `Pull-to-pull SD of the average ${sd.toFixed(2)} %`;
const usual = ({ history }: Scatter): string => `this dyno’s history has ${history.toFixed(2)} %`;
/** Mean factors of the arms, smallest and largest. */
interface Factors {
  readonly standard: Standard;
  readonly least: number;
  readonly most: number;
}
const factors = ({ standard, least, most }: Factors): string =>
  `Factors by ${STANDARD_NAMES[standard]} ${least.toFixed(4)} to ${most.toFixed(4)} (arms’ means)`;
const factorsApart = (f: Factors): string => `${factors(f)}: ${pct(f.most / f.least - 1)} % apart.`;
const airApart = (apart: number): string =>
  `Not corrected for air; the arms’ air differs by ${pct(apart)} % (${STANDARD_NAMES['sae-j1349']}).`;
const SAME_AIR = 'Choose a correction standard, or run both arms in the same air.';
interface Kept {
  readonly fromRpm: number;
  readonly toRpm: number;
}
const kept = ({ fromRpm, toRpm }: Kept): string => `${grouped(fromRpm)} to ${grouped(toRpm)} rpm`;
interface ArmSds {
  readonly baseline: number;
  readonly other: number;
}
const armSds = ({ baseline, other }: ArmSds): string =>
  `Pull-to-pull SD ${baseline.toFixed(2)} % on the baseline, ${other.toFixed(2)} % on the other arm`;

export const SENTENCES = {
  // ── Settled ──
  ARM_STILL_MOVING: (part: number, base: number) =>
    settled(
      `Pull after pull the part’s runs move by ${signed(part, 2)} %, ` +
        `the baseline’s by ${signed(base, 2)} %: one of the arms had not settled.`,
      'Drive more uncounted pulls before every run, as many for each, until none of them rises or falls any more.',
    ),
  RUN_STILL_MOVING: (run: number, slope: number) =>
    settled(
      `Run ${run} moves by ${signed(slope, 2)} % pull after pull, otherwise than the others.`,
      'Say in the review why; more uncounted pulls before every run would show it settled.',
    ),
  ALL_RUNS_MOVE: (slope: number, confounded: boolean) =>
    settled(
      `All runs move by ${signed(slope, 2)} % pull after pull, alike. ` +
        (confounded
          ? 'The order of the runs does not take that out.'
          : 'The order of the runs takes that out.'),
      'Let the car soak longer, or drive more uncounted pulls before every run.',
    ),
  SETTLED: (runs: number) => settled(`No rise or fall pull after pull beyond the scatter, in ${runs} runs.`),

  // ── True baseline ──
  BASELINE_OTHER_THAN_PLANNED: (planned: string, onDay: string) =>
    baseline(
      `By the vehicle’s ledger the baseline on the day of the pulls was ${onDay}; the plan calls it ${planned}.`,
      'Put the ledger right if it is wrong; otherwise test again under a plan that names what was on the car.',
    ),
  ARM_OTHER_THAN_PLANNED: (label: string, planned: string, onDay: string) =>
    baseline(
      `By the ledger on the day “${label}” differed from the baseline in ${onDay || 'nothing'}; the plan says ${planned || 'nothing'}.`,
      'Put the ledger right if it is wrong; otherwise test again under a plan that names every difference.',
    ),
  WORN_AND_RENEWED: (worn: string) =>
    baseline(
      `The baseline was not fresh (${worn}), and the part renews just that.`,
      'Renew it on the baseline and test again: the part would be credited with a new service item.',
    ),
  BASELINE_WORN: (worn: string) =>
    baseline(`Not fresh on the day, on both arms alike: ${worn}.`, 'Renew it before the next test.'),
  BASELINE_NOT_RECORDED: (what: string) =>
    baseline(`Not known of the baseline: ${what}.`, 'Look at the car and write it into its ledger.'),
  BASELINE_OFF_OTHERS: (pct: number, others: number, here: boolean) =>
    baseline(
      `The baseline reads ${signed(pct, 1)} % against ` +
        `${others === 1 ? 'the other baseline' : `the middle of ${others} other baselines`} of this fitment${here ? ' on this dyno' : ', on other dynos'}.`,
      'Look at the car (leaks, mixture, brakes, tyres) and at the dyno; a weak baseline makes any part look good.',
    ),
  BASELINE_AS_PLANNED: (planned: string, others: number) =>
    baseline(
      `By the ledger of the day the baseline was ${planned}, as planned` +
        (others > 0
          ? `, and near ${others === 1 ? 'the fitment’s other one' : `the fitment’s ${others} others`}.`
          : '.'),
    ),

  // ── Every test counts ──
  ONLY_TEST: () => every('No other finished test of this change on this fitment.'),
  PUT_TOGETHER: (used: readonly OtherTest[], left: readonly OtherTest[]) =>
    every(
      `Counted with ${otherTestsWords(used)}.${left.length > 0 ? ` Not put together: ${otherTestsWords(left)}.` : ''}`,
    ),
  OTHERS_LEFT_OUT: (left: readonly OtherTest[]) => every(`Not put together: ${otherTestsWords(left)}.`),
  NOT_SHOWN_TOGETHER: (used: readonly OtherTest[]) =>
    every(
      `All tests of this change together show no gain: beside this one there is ${otherTestsWords(used)}.`,
      'Tell it as advice, or test another vehicle; one that came out well does not stand for the others.',
    ),
  BEST_OF_SEVERAL: (settings: number) =>
    every(
      `This setting came out best of ${settings} in this test, and has no test of its own: it was picked by its result.`,
      'Test this setting alone against the baseline, on another day; or claim another setting.',
    ),
  ANOTHER_UNFINISHED: (numbers: readonly number[]) =>
    every(
      `Begun, and without a result that can be compared: test ${numbers.join(', ')} of the part on this fitment.`,
      'Complete it, mend what keeps it from being compared, or leave its missing pulls out for their recorded cause: ' +
        'then it counts like every other.',
    ),
  ANOTHER_READS_LESS: (against: readonly OtherTest[]) =>
    every(
      `Another test reads less than is claimed from this one: ${otherTestsWords(against)}.`,
      'It is told with the claim. Test in the same range, by the same standard and in the same setting to put them together.',
    ),
  MAYBE_ONE_CAR: (pairs: readonly (readonly [RunVehicle, RunVehicle])[]) =>
    every(
      `${pairs.map(([a, b]) => `${a.tag} and ${b.tag}`).join('; ')} have run nearly the same distance ` +
        `(${pairs.map((pair) => pair.map(({ odometerKm }) => `${grouped(odometerKm)} km`).join(', ')).join('; ')}).`,
      'If it is one car under two tags, it is one vehicle: put its tests under one of them. If they are two, nothing is to be done.',
    ),
  KIN_READS_LESS: (against: readonly OtherTest[]) =>
    every(
      `Something much like this reads less than is claimed from this test: ${otherTestsWords(against)}.`,
      'If it is the same thing under another name, its tests count: test it again under one name, or say less. If it ' +
        'is another thing, nothing is to be done; it is not told with the claim.',
    ),

  // ── Plan locked ──
  PLAN_NOT_STATED: () =>
    plan('The file does not say when the plan was locked.', 'State when the plan was locked, and by whom.'),
  PLAN_NOT_LOCKED: () =>
    plan(
      'The plan is not locked.',
      'Lock the plan before the first pull; what was captured before stays indicative.',
    ),
  PLAN_LOCKED_LATE: () =>
    plan(
      'The plan was locked after the first pull.',
      'The result stays indicative; repeat the test under a locked plan to claim it.',
    ),
  AMENDED_LATE: (fields: readonly string[]) =>
    plan(
      `After the first pull the plan was amended in what would be claimed (${inWords(fields)}).`,
      'The result stays indicative; repeat the test under the plan as it now is to claim it.',
    ),
  AMENDED_AFTER_FIRST_PULL: (fields: readonly string[]) =>
    plan(`Locked before the first pull, amended after it (${inWords(fields)}), with the reason on record.`),
  PLAN_LOCKED: (amended: boolean) =>
    plan(
      `The plan was locked before the first pull${amended ? ' and amended before it, with the reason on record' : ''}.`,
    ),

  // ── What was done ──
  DONE_AS_PLANNED: () =>
    asDone('Every pull was made in its place on the run sheet, by the record of the dyno.'),
  DONE_OTHERWISE: (departures: readonly Departure[]) =>
    asDone(`Other than on the run sheet: ${departures.map((d) => departureText(d)).join('; ')}.`),
  OTHER_ARM_ON_CAR: (label: string, arm: string, planned: string) =>
    asDone(
      `${label} was made with “${arm}” on the car; its place is of “${planned}”.`,
      'Leave it out for this cause and repeat it with the right arm.',
    ),
  REPLACED_RECORDING: (labels: readonly string[]) =>
    asDone(
      `${labels.join(', ')}: the file is another than was recorded at the dyno in this place.`,
      'Leave the pull out for this cause and repeat it: a file from elsewhere cannot stand for a recording.',
    ),
  SETTING_KEPT: () =>
    setting('Nothing was changed on car or cell between the counted pulls, by the record of the dyno.'),
  SETTING_CHANGED: (changes: readonly SettingChange[]) =>
    setting(
      `Between counted pulls was changed: ${changesText(changes)}.`,
      'Repeat the pulls on one side of the change.',
    ),
  SETTING_TOUCHED: (changes: readonly SettingChange[]) =>
    setting(`Between counted pulls: ${changesText(changes)}.`, 'Say in the review why it does not matter.'),
  RENEWED_BESIDE: (arm: string, text: string) => ({
    message: `With “${arm}” was also renewed or changed: ${text}.`,
    why: 'What else is new on the car may have part in the gain.',
    mend: 'Renew the same on the baseline and test again, or let the wording name it.',
  }),

  // ── Design ──
  AB_REMOUNTED: (label: string) =>
    design(
      `${label}: the vehicle was strapped down anew and the baseline was not repeated.`,
      'Return to the baseline (A-B-A) before a claim.',
    ),
  AB_UNEQUAL: (label: string, pulls: readonly number[]) =>
    design(
      `${label} with unequal runs (${pulls.join(' and ')} pulls).`,
      'Run the same number of pulls in every run and return to the baseline.',
    ),
  AB_PROVISIONAL: (label: string) =>
    design(
      `${label} on one mounting: no return to baseline, a drift bound is added. The result is provisional and cannot be published.`,
      'Add a closing baseline run to make it A-B-A.',
    ),
  UNEQUAL_RUNS: (pulls: readonly number[], warmed: boolean) =>
    design(
      `Runs of unequal length (${pulls.join(', ')} counted pulls)${warmed ? ', each after the same warm-up' : ' without equal warm-up'}.`,
      'Repeat the missing pulls so that every run has the same number.',
    ),
  ALTERNATING_WITHOUT_DRIFT_TERM: (label: string) =>
    design(
      `${label} analysed without a drift term: a steady drift leaves a small bias.`,
      'Analyse with the linear drift term.',
    ),
  DESIGN_SUPPORTS_CLAIM: (label: string, pulls: number, bounded: boolean) =>
    design(
      `${label}, ${pulls} counted pulls in every run: a steady drift ` +
        `cancels${bounded ? ' but for what the drift bound covers, because the part was run off the centre of its bracket' : ''}.`,
    ),

  ONE_WAY_HELD: (label: string, { forGood, control, unused }: OneWay, { difference, limit }: Moved) =>
    design(
      `${label} without return, as the install cannot be undone (${forGood.join('; ')}): each arm was strapped down anew, and ` +
        `${control}, measured before and after each arm, moved by ${signed(difference, 2)} % of its power ` +
        `(${limit.toFixed(2)} % would be scatter). ` +
        'Mountings and days are in the limits; so is what it moved: of the limits with and without it the smaller counts.' +
        (unused > 0
          ? ` ${unused === 1 ? 'One more check' : `${unused} more checks`} around the arms ` +
            `${unused === 1 ? 'was' : 'were'} made and not used: the nearest count.`
          : ''),
      'Another vehicle, measured stock before its own install, is what would show more.',
    ),
  ONE_WAY_NOT_HELD: (label: string, control: string, gaps: readonly OneWayGap[]) =>
    design(
      `${label} without return, and what would stand in for it is not there: ${gaps.map((gap) => gapText(gap, control)).join('; ')}.`,
      'Return to the baseline (A-B-A) where the part can come off; otherwise another vehicle, with everything there.',
    ),
  ONE_WAY_UNEQUAL: (label: string, pulls: readonly number[]) =>
    design(
      `${label} without return, with unequal runs (${pulls.join(', ')} counted pulls).`,
      'Repeat the missing pulls on the arm that is still on the car; otherwise another vehicle.',
    ),
  ONE_WAY_CONTROL_MOVED: (control: string, { difference, limit }: Moved) =>
    design(
      `Between the arms ${control}, on which nothing was changed, moved by ${signed(difference, 2)} % of its power; mountings, days and ` +
        `pulls explain ${limit.toFixed(2)} %.`,
      'Find what the dyno or the air did; the part is to be measured on another vehicle.',
    ),

  // ── Control vehicle ──
  CONTROL_OUT_OF_LIMITS: ({ control, when, off, limit }: Alarm) => ({
    message:
      `At the ${when === 'before' ? 'last check before' : 'first check after'} the session the mean power of the control ` +
      `vehicle ${control} lay ${signed(off, 2)} % from where it belongs (moving mean); its limit is ±${limit.toFixed(2)} %.`,
    why: 'A dyno that does not read its own control vehicle as it used to may have moved during the session.',
    mend: 'Find out why; cross the check out if it was at fault, or repeat the session once the dyno is back.',
  }),
  CONTROL_SET_ASIDE: (setAside: NonNullable<TestDefinition['setAside']>) => ({
    message: `Beside the session something of the control vehicle was set aside: ${setAside
      .map(
        ({ control, what, day, reason }) =>
          `${control}, ${what === 'crossed out' ? `check of ${day} crossed out` : `begun anew on ${day} while out of its limits`}: ` +
          reason.replace(/\.$/, ''),
      )
      .join('; ')}.`,
    why: 'What was set aside can no longer say that the dyno had moved.',
    mend: 'Read the reason; measure the control vehicle again where it does not convince.',
  }),

  // ── Mounting ──
  BASELINE_DID_NOT_RETURN: (difference: number, limit: number, remounted: boolean) =>
    remounted
      ? mounting(
          `The closing baseline lies ${fixed(difference, 2)} % from the first; ` +
            `scatter and strapping down anew explain ${limit.toFixed(2)} %.`,
          'Look for what changed on the car between the runs before you trust the gain.',
        )
      : mounting(
          `One mounting, but the closing baseline lies ${fixed(difference, 2)} % from the first; ${limit.toFixed(2)} % would be scatter.`,
          'Look for heat soak, adaptation or a change to the car between the runs.',
        ),
  ONE_MOUNT: () => mounting('All pulls on one mounting.'),
  MOUNTINGS_AS_UNITS: () =>
    mounting(
      'No variance of mountings is registered: each mounting counts as one value.',
      'Register the dyno’s variance of mountings with a control vehicle.',
    ),
  MOUNTS_BALANCED: () => mounting('Both arms share every mounting evenly.'),
  REMOUNTED_WITHOUT_RETURN: () =>
    mounting('Re-mounted between the arms without a return to baseline.', 'Return to the baseline.'),
  REMOUNTED_REGISTERED: (variance: number) =>
    mounting(
      `Strapped down anew; the registered variance of mountings (SD ${Math.sqrt(variance).toFixed(2)} %) ` +
        'is in the interval and the baseline returned.',
    ),

  MOUNTINGS_WITHOUT_RETURN: (variance: number) =>
    mounting(
      `Strapped down anew within each arm; the registered variance of mountings (SD ${Math.sqrt(variance).toFixed(2)} %) ` +
        'is in the limits. The baseline was not measured again after the part.',
    ),
  BASELINE_MOUNTINGS_APART: (difference: number, limit: number) =>
    mounting(
      `The mountings of the baseline lie ${fixed(difference, 2)} % apart; scatter and strapping down anew explain ${limit.toFixed(2)} %.`,
      'Look for what changed on the car between them before you trust the gain.',
    ),

  // ── Warm-up ──
  WARM_UP_UNEQUAL: (counts: readonly number[], wanted: number) =>
    warmUp(
      `Warm-up pulls before the runs: ${counts.join(', ')}. They must be equal.`,
      `Run ${wanted} uncounted pulls before every run.`,
    ),
  WARM_UP_NONE: (wanted: number) =>
    warmUp('No warm-up pulls are on the run sheet.', `Run ${wanted} uncounted pulls before every run.`),
  WARM_UP_SHORT: (least: number, wanted: number) =>
    warmUp(
      `${least} uncounted ${least === 1 ? 'pull' : 'pulls'} before every run; policy asks for ${wanted}.`,
      `Run ${wanted}, or show from this dyno’s own history that fewer are enough.`,
    ),
  WARM_UP_EQUAL: (least: number) => warmUp(`${least} uncounted pulls before every run.`),

  // ── Repeats ──
  REPEATS_ENOUGH: (least: number) => repeats(`${least} counted pulls or more in every run.`),
  REPEATS_FEW: (least: number, wanted: number) =>
    repeats(
      `A run has ${least} counted ${least === 1 ? 'pull' : 'pulls'}; policy asks for ${wanted}.`,
      'Repeat the missing pulls.',
    ),

  // ── Scatter of the arms ──
  ARM_SCATTER_UNKNOWN: () =>
    armScatter(
      'One arm has a single pull in every run: nothing tells how much it scatters.',
      'Run at least three pulls in every run.',
    ),
  ARMS_DIFFER_IN_SCATTER: (sds: ArmSds, widthTimes: number) =>
    armScatter(
      `${armSds(sds)}: the interval carries it, ${widthTimes.toFixed(1)} times as wide as for arms alike.`,
      'Look for what is loose, hot or still adapting on the noisier arm; run as many pulls with the part as without.',
    ),
  ARMS_ALIKE: (sds: ArmSds) => armScatter(`${armSds(sds)}.`),

  // ── Repeatability ──
  SCATTER_TOO_HIGH: (sd: number, most: number) =>
    repeatability(
      `${scatter({ sd })}, above ${most} %.`,
      'Find the cause (slip, heat, boost leak, fuel) and repeat.',
    ),
  NO_HISTORY: (sd: number) =>
    repeatability(
      `${scatter({ sd })}; this dyno has no registered history to hold it against.`,
      'Register the dyno’s repeatability.',
    ),
  SCATTER_ABOVE_HISTORY: (s: Scatter) =>
    repeatability(`${scatter(s)}; ${usual(s)}.`, 'Find the cause and repeat the run.'),
  SCATTER_FAR_BELOW_HISTORY: (s: Scatter, chance: number) => ({
    message: `${scatter(s)}; ${usual(s)}. So little is to be expected in fewer than one of ${Math.round(1 / chance)} sessions.`,
    why:
      'Pulls that agree better than the dyno can are often copies, or ' +
      'smoothed before they came here, and make a gain look surer than it is.',
    mend: 'Check that the pulls are separate recordings as they came from the logger.',
  }),
  SCATTER_TOO_LOW: (sd: number, history: boolean) =>
    history
      ? repeatability(
          `${scatter({ sd })} is too small to be believed; a floor of 0.05 % is used.`,
          'Check that the pulls are separate recordings.',
        )
      : repeatability(
          `${scatter({ sd })}; this dyno has no registered history to hold it against.`,
          'Register the dyno’s repeatability.',
        ),
  SCATTER_SOMEWHAT_HIGH: (s: Scatter) => repeatability(`${scatter(s)}; ${usual(s)}.`),
  SCATTER_AS_USUAL: (s: Scatter) => repeatability(`${scatter(s)}; ${usual(s)}.`),
  FLYER: (flyers: readonly { pull: string; low: boolean }[]) =>
    repeatability(
      `Unlike the other pulls of its run: ${flyers.map(({ pull, low }) => `${pull}, ${low ? 'low' : 'high'}`).join('; ')}.`,
      'Look for a cause on record. A pull is left out for a cause, never for its number; the result is computed with it.',
    ),
  NOISY_END: ({ side, rpm, times }: NoisyEnd) => ({
    message:
      `The pulls scatter up to ${times.toFixed(1)} times as much ${side === 'low' ? 'below' : 'above'} ${grouped(rpm)} rpm ` +
      `as elsewhere; the band is wider for it over the whole range.`,
    why: 'Scatter that differs strongly along rpm is taken into account everywhere.',
    mend: `Plan the next rpm range to ${side === 'low' ? 'begin' : 'end'} at ${grouped(rpm)} rpm, if the part is not sold for that end.`,
  }),

  // ── Factor ──
  FACTORS_APART: (f: Factors) => factor(factorsApart(f), 'Run both arms in the same air.'),
  FACTORS_SOMEWHAT_APART: (f: Factors) => factor(factorsApart(f), 'Run both arms in the same air.'),
  FACTORS_AGREE: (f: Factors) => factor(`${factors(f)}.`),
  OUTSIDE_STANDARD: (message: string) =>
    factor(message, 'Repeat the pull in air the standard allows, or choose a standard that covers it.'),
  FUEL_RATE_UNKNOWN: (message: string) =>
    factor(message, 'Log fuel flow, or enter fuel per litre and cycle.'),
  UNCORRECTED_AIR_APART: (apart: number) => uncorrected(airApart(apart), SAME_AIR),
  UNCORRECTED_AIR_SOMEWHAT_APART: (apart: number) => uncorrected(airApart(apart), SAME_AIR),
  UNCORRECTED_SAME_AIR: (apart: number) => uncorrected(airApart(apart)),
  APPLIED_FACTOR_WITHOUT_STANDARD: (pull: string) => ({
    message: `${pull}: a factor is stated as applied, but no standard.`,
    mend: 'Say which standard the dyno applied.',
  }),

  // ── Same sweep ──
  RANGE_LOST: (k: Kept, lost: number) =>
    sweep(
      `Trimmed to ${kept(k)}, which every pull covers; ${pct(lost, 0)} % of the rpm range is lost.`,
      'Repeat the short pulls to get the whole rpm range.',
    ),
  TRIMMED: (k: Kept) => sweep(`Trimmed to ${kept(k)}, which every pull covers.`),
  RAMP_RATES_DIFFER: (least: number, most: number) =>
    sweep(
      `Ramp rates from ${grouped(least.toFixed(0))} to ${grouped(most.toFixed(0))} rpm/s.`,
      'Use one ramp setting for the whole test.',
    ),
  SAME_SWEEP: (k: Kept, rates: boolean) =>
    sweep(`Every pull covers ${kept(k)}${rates ? ', at like ramp rates' : ''}.`),

  // ── Effect ──
  PEAK_AT_EDGE: () =>
    effect(
      'The largest power lies at the edge of the rpm range: the peak itself was not reached, so peaks cannot be compared.',
      'Hold the pull to the rev limit and widen the rpm range, or plan another metric.',
    ),
  GAIN_SHOWN: (shown: readonly { readonly name: string; readonly lower: number }[]) =>
    effect(
      `A gain is shown (${shown.map(({ name, lower }) => `${name}: at least ${shownGain(lower)} %`).join('; ')}).`,
    ),
  LOSS_ON_AVERAGE: (upper: number) =>
    effect(
      `A loss is shown: at least ${shownUpper(upper)} % on average over the rpm range.`,
      'Publish as advice, or send back to design.',
    ),
  LOSS_SHOWN: (names: string) =>
    effect(
      `No gain is shown (${names}), and a loss is proven in part of the rpm range.`,
      'Publish as advice, or send back to design.',
    ),
  NO_GAIN_SHOWN: (names: string, upper: number) =>
    effect(
      `No gain shown (${names}); the data still allow up to ${shownUpper(upper)} %.`,
      'Publish as advice (“no gain shown”), or repeat with more pulls if a smaller gain matters.',
    ),

  // ── Losses told ──
  NO_PROVEN_LOSS: () => losses('No proven loss anywhere in the rpm range.'),
  LOSS_OUTSIDE_WINDOW: (beside: Kept, { gain, upper }: { readonly gain: number; readonly upper: number }) =>
    losses(
      `Outside the planned range the files show a loss: ` +
        `${shownGain(gain)} % on average from ${kept(beside)} (at most ${shownUpper(upper)} %).`,
      'It is told with the claim. Plan the range that is driven.',
    ),
  LOSS_TO_DISCLOSE: (all: readonly (Kept & { readonly gain: number; readonly rpm: number })[]) =>
    losses(
      `Proven loss: ${all.map((l) => `${shownGain(l.gain)} % near ${grouped(l.rpm)} rpm (${kept(l)})`).join('; ')}. ` +
        `It goes with every claim from this test.`,
      'The claim carries the disclosure; nobody can take it off.',
    ),

  // ── Accounted ──
  EXCLUDED_INCOMPLETE: (p: { id: string; excluded: string; hasFile: boolean; hasAir: boolean }) => {
    const lost = [...(p.hasFile ? [] : ['its file']), ...(p.hasAir ? [] : ['its air reading'])];
    return accounted(
      `${p.id} was left out (${p.excluded}) and ${lost.join(' and ')} ${lost.length === 1 ? 'is' : 'are'} not ` +
        `there, so nobody can say what the result would be with it.`,
      'Add what is missing, or restore the pull and give the cause of the loss (never recorded, log lost in transfer, air not read).',
    );
  },
  ALL_ANALYSED: () => accounted('Every counted pull is analysed.'),
  EXCLUDED_AFTER_RESULT: (ids: readonly string[]) =>
    accounted(
      `${ids.join(', ')} ${ids.length === 1 ? 'was' : 'were'} left out after the result had been seen.`,
      'The smaller of the results with and without is claimed, whichever it is.',
    ),
  EXCLUDED_NOT_COMPARABLE: (ids: readonly string[]) =>
    accounted(`${ids.join(', ')}: left out, and the recording has no curve to compare with.`),
  LEFT_OUT_WITH_CAUSE: (pulls: readonly { readonly id: string; readonly excluded: string }[]) =>
    accounted(
      `Left out for a recorded cause, before the result was seen: ${pulls.map((p) => `${p.id} (${p.excluded})`).join(', ')}.`,
    ),

  // ── Plausible ──
  COPIED_SAMPLES: (a: string, b: string, shared: number) =>
    copy(
      `${a} and ${b} share ${shared} samples in a row to the last digit: they are one recording.`,
      `Attach the right file to ${b}, or exclude it with its cause.`,
    ),
  SCALED_COPY: (a: string, b: string) =>
    copy(
      `${b} is ${a} times a constant, sample by sample: they are one recording.`,
      `Attach the right file to ${b}, or exclude it with its cause.`,
    ),
  SAYS_CORRECTED: (pull: string, text: string) => ({
    message: `${pull}: the file says “${text}”, but the dyno is held to apply no correction: it would be corrected twice.`,
    why: 'A figure corrected twice is wrong in both arms, and by different amounts.',
    mend: 'Export what was observed, or say in the register what this dyno applies.',
  }),
  SAYS_UNCORRECTED: (pull: string, text: string) => ({
    message:
      `${pull}: the file says “${text}”, ` +
      `but the dyno is held to apply a correction, which would be taken off what never had it.`,
    mend: 'Say in the register what this dyno applies.',
  }),
  NAMES_OTHER_ARM: (pull: string, text: string, arm: string) => ({
    message: `${pull}: the file says “${text}”, but it stands for arm “${arm}”.`,
    why: 'A pull of one arm counted for the other makes a gain of nothing, or hides one.',
    mend: 'Attach the file to the pull it was recorded for.',
  }),
  READ_FROM_DIFFERENT: (ways: readonly { way: string; ids: readonly string[] }[]) => ({
    message: `Pulls are not read alike: ${ways.map(({ way, ids }) => `${ids.join(', ')} from ${way}`).join('; ')}.`,
    why: 'A wrong unit in the files of one arm is a gain that no single file contradicts.',
    mend: 'Export every pull of the session with the same column in the same unit, and attach those.',
  }),
  ARMS_A_UNIT_APART: (units: string, apart: number) => ({
    message: `The arms lie ${signed(apart, 1)} % apart, as far as ${units}, and no airflow bears that out.`,
    why: 'A wrong unit in the files of one arm is a gain that no single file contradicts.',
    mend:
      'Say on the page of the pulls in what unit each file is, or export again. Where the part does give as much, ' +
      'an airflow or fuel flow in the log of both arms shows it.',
  }),
  NAMES_OTHER_PULL: (pull: string, text: string, other: string) => ({
    message: `${pull}: the file says “${text}”, and ${other} is another pull of this test.`,
    why: 'A pull of one arm counted for the other makes a gain of nothing, or hides one.',
    mend: 'Attach the file to the pull it was recorded for.',
  }),
  RECORDED_ON_OTHER_DAY: (first: { id: string; day: string }, last: { id: string; day: string }) => ({
    message: `${first.id} says it was recorded on ${first.day}, ${last.id} on ${last.day}, and both are of one mounting.`,
    why: 'A pull of another day was made on another mounting, in another air.',
    mend: 'Attach the file of this session, or exclude the pull with its cause.',
  }),
  PRESSURE_NOT_OF_SITE: (
    pulls: readonly string[],
    read: { readonly hpa: number; readonly heightM: number; readonly standardHpa: number },
  ) => ({
    message:
      `${pulls.join(', ')}: ${read.hpa} hPa as station pressure; at ` +
      `${read.heightM} m it is about ${Math.round(read.standardHpa)} hPa.`,
    why: 'Sea-level pressure taken as station pressure makes the factor wrong by several per cent.',
    mend: 'Enter what the barometer on site reads, or say that it is sea-level pressure; check the height of the site.',
  }),
  PULLS_AS_HELD: () => ({
    message: 'No pull is a copy of another, and the files say nothing against what they stand for.',
  }),

  READINGS_SOUND: () => ({
    message:
      'Samples follow each other as readings of an engine do: no jumps, dead stretches or breaks in the sweeps.',
    why: WHY.readings,
  }),
  BEYOND_ENGINE: (pull: string, kw: number, rated: number) => ({
    message: `${pull}: peak power ${kw.toFixed(1)} kW at the wheel, where the engine is rated at ${rated.toFixed(0)} kW.`,
    why: WHY.readings,
    mend: 'Check the units of the columns, the gear and the vehicle the file belongs to.',
  }),

  // ── The engine, by its own log ──
  TORQUE_INTERVENTION: (pulls: readonly { id: string; rpm: number; share: number }[]) =>
    engine(
      `Torque was taken back: ${pulls.map((p) => `${p.id} by ${pct(p.share, 0)} % at ${grouped(p.rpm)} rpm`).join('; ')}.`,
      'Switch gearbox and traction control off the same way for every pull; repeat these, and leave them out for this cause.',
    ),
  PART_THROTTLE: (pulls: readonly { id: string; mean: number }[], most: number) =>
    engine(
      `Not at full throttle: ${pulls.map((p) => `${p.id} ${p.mean.toFixed(0)} %`).join(', ')}; the others reach ${most.toFixed(0)} %.`,
      'Leave these pulls out for part throttle, and repeat them.',
    ),
  THROTTLE_NEVER_FULL: (most: number) =>
    engine(
      `The throttle reads ${most.toFixed(0)} % at most in every pull.`,
      'Check that the pedal opens it fully, and what the channel stands for.',
    ),
  KNOCK_UNEQUAL: (difference: number) =>
    engine(
      `This arm had ${fixed(Math.abs(difference), 1)}° ${difference > 0 ? 'more' : 'less'} knock retard than the baseline.`,
      'Same fuel, same temperatures: find out why, and run both arms again.',
    ),
  MIXTURE_DIFFERS: (difference: number, largest: { difference: number; rpm: number }) =>
    engine(
      `The mixture differs: λ ${signed(difference, 3)} on average against the baseline, ` +
        `most (${signed(largest.difference, 3)}) about ${grouped(largest.rpm)} rpm.`,
      'Say with the claim that the part changes the mixture, or find the leak.',
    ),
  IGNITION_DIFFERS: (difference: number, largest: { difference: number; rpm: number }) =>
    engine(
      `The ignition differs: ${signed(difference, 1)}° on average against the baseline, ` +
        `most (${signed(largest.difference, 1)}°) about ${grouped(largest.rpm)} rpm.`,
      'If a calibration changed, name it in the plan; if temperature or knock did it, run again.',
    ),
  BOOST_DIFFERS: (share: number) =>
    engine(
      `Manifold pressure differs by ${signed(100 * share, 1)} % from the baseline’s.`,
      'Say whether the part is expected to change it; boost that was turned up is a calibration.',
    ),
  ENGINE_NOT_LOGGED: (missing: readonly Quantity[]) =>
    engine(
      `Not logged in both arms: ${missing.map(channelName).join(', ')}.`,
      'Record these channels in every pull: without them an engine that ran otherwise is not seen.',
    ),
  ENGINE_ALIKE: () => engine('By its log the engine ran alike in both arms: throttle, mixture, ignition.'),
  LOG_SHIFTED_BY_HAND: (pulls: readonly string[]) =>
    engine(
      `The log of ${pulls.join(', ')} was shifted by hand, otherwise than its engine speed would have it.`,
      'Join the log that was recorded with the pull, and leave the shift as it is found.',
    ),
  STARTED_ALIKE: (sensor: StartSensor, apart: number, effect: number | null) =>
    warm(`The arms started ${kelvin(apart)} apart by ${SENSOR_WORDS[sensor]}${worth(effect)}.`),
  STARTED_UNEQUALLY_WARM: (sensor: StartSensor, apart: number, effect: number | null) =>
    warm(
      `The part’s arm started ${kelvin(apart)} ${apart < 0 ? 'colder' : 'warmer'} by ${SENSOR_WORDS[sensor]}${worth(effect)}.`,
      'Wait for the same start temperature before every pull, and repeat the pulls that began unlike the others.',
    ),
  START_TEMPERATURE_NOT_RECORDED: (sensor: StartSensor | null, pulls: readonly string[]) =>
    warm(
      sensor === null
        ? 'Neither coolant nor oil temperature is logged in every pull: whether the arms started equally warm is not known.'
        : `By ${SENSOR_WORDS[sensor]} it is not known what ${pulls.join(', ')} started from: nothing is adjusted.`,
      'Log the coolant or oil temperature with every pull, and name it in the plan.',
    ),
  TEMPERATURE_SLOPE_DISAGREES: (sensor: StartSensor, own: number, registered: number) =>
    warm(
      `By ${SENSOR_WORDS[sensor]} this session loses ${signed(-own, 2)} % a kelvin, the dyno’s past ones ${signed(-registered, 2)} %: ` +
        'the smaller of the results with and without the slope is claimed.',
      'Look whether the sensor is the same and sits where it did.',
    ),
  LOG_BY_CLOCK: (pulls: readonly string[]) =>
    engine(
      `The log of ${pulls.join(', ')} has no engine speed and lies by the clocks of both files, which are right to about a second.`,
      'Log the engine speed with it: then it is seen which moment of the pull it tells of.',
    ),
  OTHER_GEAR: (pulls: readonly { id: string; share: number }[]) =>
    setting(
      `Engine and roller speed stand in another ratio in ${pulls.map((p) => `${p.id} (${signed(100 * p.share, 0)} %)`).join(', ')}.`,
      'Another gear, or a speed in another unit: leave these pulls out, and repeat them in the planned gear.',
    ),
  ONE_GEAR: (pulls: number) => setting(`One gear by the ratio of engine to roller speed, in ${pulls} pulls.`),
  LEAN_MIXTURE: (pulls: readonly { id: string; value: number; rpm: number }[], limit: number) =>
    harm(
      `Leaner than λ ${limit} at full load: ${pulls.map((p) => `${p.id} λ ${p.value.toFixed(2)} at ${grouped(p.rpm)} rpm`).join('; ')}.`,
      'Find out why before the engine is harmed. Nothing is published until somebody has answered for it below.',
    ),
  KNOCK_SEEN: (pulls: readonly { id: string; value: number; rpm: number }[]) =>
    harm(
      `Ignition was taken back for knock: ${pulls.map((p) => `${p.id} by ${p.value.toFixed(1)}° at ${grouped(p.rpm)} rpm`).join('; ')}.`,
      'Check fuel, temperatures and calibration. Nothing is published until somebody has answered for it below.',
    ),
  MIXTURE_NOT_LOGGED: (pulls: number) =>
    harm(
      `The mixture is not known in ${pulls} ${pulls === 1 ? 'pull' : 'pulls'}.`,
      'Log λ: whether the engine ran safely is otherwise nobody’s knowledge.',
    ),
  MIXTURE_SAFE: (most: number, limit: number, isKnockLogged: boolean) =>
    harm(
      `No leaner than λ ${most.toFixed(2)} at full load (limit ${limit}); ` +
        `${isKnockLogged ? 'no knock in the log' : 'knock was not logged'}.`,
    ),
  FLOW_AGREES: (channel: Quantity, gain: number, power: number) =>
    flow(
      `${sentenceCase(channelName(channel))} ${signed(gain, 1)} %, power as observed ${signed(power, 1)} %: they agree.`,
    ),
  FLOW_DISAGREES: (channel: Quantity, gain: number, power: number) =>
    flow(
      `${sentenceCase(channelName(channel))} ${signed(gain, 1)} %, but power as observed ${signed(power, 1)} %.`,
      'Look at the meter’s range, at leaks, mixture and ignition, and at the readings of the dyno.',
    ),
  FLOW_NOT_LOGGED: () =>
    flow(
      'Neither airflow nor fuel flow was logged in both arms.',
      'Log one of them: it bears a gain out, or does not.',
    ),

  // ── A contrast that cannot be analysed ──
  ERROR_NO_DATA: (arm: string) => ({
    message: `There is no counted pull of “${arm}”. Capture its pulls, or restore excluded ones.`,
  }),
  DRIFT_CONFOUNDED: () => ({
    message:
      'A drift term cannot be told from the gain when one arm was run before the other. Return to the baseline, or use the drift bound.',
  }),
  NOT_ENOUGH_PULLS: () => ({
    message: 'Too few repeats to tell scatter from gain. Run at least three pulls in every run.',
  }),
  TOO_SHORT: () => ({
    message:
      'The range that every pull covers is shorter than 1 000 rpm or 11 points. ' +
      'Start every pull lower and hold it to the rev limit, or widen the rpm range.',
  }),
  DUPLICATE_PULLS: () => ({
    message: 'Two counted pulls are identical. One of them is a copy: attach the right file.',
  }),
  NO_CLAIM_MOUNT_UNKNOWN: () => ({
    message:
      'The vehicle was strapped down anew between the arms and this dyno has no registered ' +
      'variance of mountings. Register it with a control vehicle, or run both arms on one mounting.',
  }),
} as const;
