import { useEffect, useState } from 'react';
import type { Pull } from '../../contract/capture/capture.ts';
import type { Quantity } from '../../core/base/quantities.ts';
import { PREVIEW_BYTES, previewColumns, type PreviewColumn } from '../../core/capture/column-preview.ts';

interface Asked {
  readonly testId: string;
  readonly pullId: string;
  readonly file?: File | undefined;
  readonly stored?: NonNullable<Pull['file']> | undefined;
}

/** The first bytes of a file at hand, or of the stored one; none where it may not be read by this person. */
async function firstBytes({ testId, pullId, file }: Asked): Promise<Uint8Array | undefined> {
  if (file) return new Uint8Array(await file.slice(0, PREVIEW_BYTES).arrayBuffer());
  const answer = await fetch(`/api/tests/${testId}/pulls/${pullId}/file`, { credentials: 'same-origin' });
  return answer.ok
    ? new Uint8Array(await (await answer.blob()).slice(0, PREVIEW_BYTES).arrayBuffer())
    : undefined;
}
/** What the server found, without cells: where the bytes cannot be shown, it is still known what the columns are. */
const asFound = (stored: Asked['stored']): PreviewColumn[] =>
  (stored?.found.columns ?? []).map(({ header, quantity, unit }) => ({
    header,
    quantity: quantity as Quantity | null,
    unit,
    cells: [],
  }));

/** Columns of a file with their first cells; a stored file's as it is read now. */
export function useColumnPreview(asked: Asked): readonly PreviewColumn[] {
  const { testId, pullId, file, stored } = asked;
  const [columns, setColumns] = useState<readonly PreviewColumn[]>(() => asFound(stored));
  useEffect(() => {
    let gone = false;
    void firstBytes({ testId, pullId, file })
      .then((bytes) => {
        if (gone || !bytes) return;
        const now = asFound(stored);
        const seen = previewColumns(bytes).columns;
        setColumns(
          seen.map((column) => {
            const read = now.find((c) => c.header === column.header);
            return read ? { ...read, cells: column.cells } : column;
          }),
        );
      })
      // What has no table is told by the server, with its reason.
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [testId, pullId, file, stored]);
  return columns;
}
