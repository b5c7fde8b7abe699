/** Copies of a photograph that may leave the house: turned upright, made smaller, with nothing but the picture in them. */
import sharp from 'sharp';
import { RefusalError } from '../base/refusals.ts';

/** More points than any camera beside a dyno takes: a picture made to fill the memory. */
const MOST_POINTS = 80_000_000;
const LONGEST = { thumb: 320, view: 1600 } as const;
export type PhotoSize = keyof typeof LONGEST;

export interface PhotoFacts {
  readonly width: number;
  readonly height: number;
  readonly saysWhere: boolean;
}
const open = (bytes: Buffer): sharp.Sharp => sharp(bytes, { limitInputPixels: MOST_POINTS, failOn: 'error' });

/** Tag of the position block in the picture’s own notes (Exif 2.3, tag 0x8825), in either byte order. */
const POSITION = [Buffer.from([0x88, 0x25, 0x00, 0x04]), Buffer.from([0x25, 0x88, 0x04, 0x00])];

/**
 * What a picture is, upright.
 * @throws RefusalError for bytes that are no picture, or too large a one
 */
export async function photoFacts(bytes: Buffer): Promise<PhotoFacts> {
  try {
    const { width, height, orientation = 1, format, exif } = await open(bytes).metadata();
    if (!['jpeg', 'png', 'webp'].includes(format)) throw new Error(`a picture of the kind ${format}`);
    // Bytes that only begin like a picture are found by looking at all of it.
    await open(bytes).resize(16).toBuffer();
    const turned = orientation >= 5;
    return {
      width: turned ? height : width,
      height: turned ? width : height,
      saysWhere: exif !== undefined && POSITION.some((tag) => exif.includes(tag)),
    };
  } catch (error) {
    throw new RefusalError(
      422,
      'NO_PHOTOGRAPH',
      `This is no picture that can be read${error instanceof Error ? ` (${error.message.split('\n')[0]})` : ''}.`,
      'Send a JPEG, PNG or WebP picture of at most 80 million points; nothing was stored.',
    );
  }
}

/** Everything that is not the picture is left behind: where and when it was taken, by which camera. */
export const photoCopy = (bytes: Buffer, size: PhotoSize): Promise<Buffer> =>
  open(bytes)
    .rotate()
    .resize(LONGEST[size], LONGEST[size], { fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: 82 })
    .toBuffer();
