import type { Standard } from '../../base/standards.ts';
import type { AirReading } from '../../capture/air-reading.ts';
import type { PullFile } from '../../capture/pull-file-types.ts';

/** A counted pull with what its file and its record say. */
export interface HeldPull {
  readonly id: string;
  readonly arm: string;
  readonly mount: number | string;
  readonly file: PullFile;
  readonly air: AirReading | undefined;
  readonly applied: { readonly standard: Standard; readonly factor?: number | undefined } | undefined;
}
export interface NamedArm {
  readonly id: string;
  readonly label?: string | undefined;
}
