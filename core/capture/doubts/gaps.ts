/** Places in the record of a sweep where time passed without samples. */
import { median } from '../../base/robust.ts';

/** A pause between samples is a gap from so many usual ones on. */
const TIMES_USUAL = 5;
/** And when the engine went on by so much, rpm, and so many usual steps. */
const LEAST_RPM = 50;
const TIMES_STEP = 4;

/** Places of the first sample behind each gap. */
export function gapsIn(time: Float64Array, rpm: Float64Array): number[] {
  if (time.length < 3) return [];
  const pause = new Float64Array(time.length - 1);
  const step = new Float64Array(pause.length);
  for (let i = 0; i < pause.length; i++) {
    pause[i] = time[i + 1] - time[i];
    step[i] = Math.abs(rpm[i + 1] - rpm[i]);
  }
  const [usual, usualStep] = [median(pause), median(step)];
  const out: number[] = [];
  for (let i = 0; i < pause.length; i++)
    if (pause[i] > TIMES_USUAL * usual && step[i] > Math.max(LEAST_RPM, TIMES_STEP * usualStep))
      out.push(i + 1);
  return out;
}
