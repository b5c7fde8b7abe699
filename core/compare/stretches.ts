/** Contiguous stretches of the grid on which `holds` is true. */
export function stretches(
  rpm: readonly number[],
  holds: (index: number) => boolean,
): { fromRpm: number; toRpm: number; from: number; to: number }[] {
  const out: { fromRpm: number; toRpm: number; from: number; to: number }[] = [];
  for (let j = 0; j < rpm.length; j++) {
    if (!holds(j)) continue;
    const last = out.at(-1);
    if (last && last.to === j - 1) {
      last.to = j;
      last.toRpm = rpm[j]!;
    } else out.push({ from: j, to: j, fromRpm: rpm[j], toRpm: rpm[j] });
  }
  return out;
}
