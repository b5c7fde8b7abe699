/** What a device’s channel holds: told by its name and unit, by the words of the heads of pull files. */
import type { Quantity } from '../../base/quantities.ts';
import { readHeader, type ColumnGuess } from '../columns.ts';

export interface RecordedChannel {
  readonly name: string;
  readonly unit: string;
}
/** As it stands in the head of a pull file. */
export const channelHeader = ({ name, unit }: RecordedChannel): string => (unit ? `${name} (${unit})` : name);
export const channelGuess = (channel: RecordedChannel): ColumnGuess => readHeader(channelHeader(channel));
/** Place of the channel that holds a quantity; −1 where none does. */
export const channelOf = (channels: readonly RecordedChannel[], quantity: Quantity): number =>
  channels.findIndex((channel) => channelGuess(channel).quantity === quantity);
