/** Told how far a piece of work is: steps done, of how many. */
export type OnStep = (done: number, of: number) => void;
