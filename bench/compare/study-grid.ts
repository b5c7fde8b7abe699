/** Engine speeds on which the interval rules are tried. */
export const STUDY_GRID = { fromRpm: 2500, stepRpm: 50, points: 81 } as const;
export const STUDY_RPM = Array.from(
  { length: STUDY_GRID.points },
  (_, j) => STUDY_GRID.fromRpm + STUDY_GRID.stepRpm * j,
);
