import { MOST_LINE } from './device-protocol.ts';

/**
 * Cuts what comes over a connection into lines.
 * @returns takes the next piece and gives the lines that are whole with it
 * @throws RangeError when a line is longer than any message
 */
export function lineCutter(): (piece: string) => string[] {
  let rest = '';
  return (piece) => {
    const lines = (rest + piece).split('\n');
    rest = lines.pop() ?? '';
    if (rest.length > MOST_LINE) throw new RangeError(`A line has more than ${MOST_LINE} characters.`);
    return lines.map((line) => line.trim()).filter((line) => line !== '');
  };
}
