/** Photographs of a test: kept as they came, shown as copies that say nothing but what is to be seen. */
import { and, asc, eq } from 'drizzle-orm';
import pLimit from 'p-limit';
import type { Person } from '../../contract/base/http.ts';
import { HOUSE } from '../../contract/base/roles.ts';
import type { PhotoQuery, Photos } from '../../contract/capture/photograph.ts';
import { recordAudit } from '../base/audit.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound, RefusalError } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { keepBytes } from './keep-bytes.ts';
import { people } from '../base/tables.ts';
import { findTest } from '../plan/repository.ts';
import { testArms } from '../plan/tables.ts';
import { testIsEmbargoed } from '../register/embargo.ts';
import { kept } from '../register/references.ts';
import { photoCopy, photoFacts, type PhotoSize } from './photo-copy.ts';
import { photographs, rawFiles } from './tables.ts';

const MOST_PHOTOS = 200;
/** Large pictures that are decoded at once. */
const decoding = pLimit(2);
/** What a list shows of each: not its bytes. */
const SHOWN = {
  id: photographs.id,
  name: photographs.name,
  caption: photographs.caption,
  arm: photographs.arm,
  sha256: photographs.sha256,
  width: photographs.width,
  height: photographs.height,
  saysWhere: photographs.saysWhere,
  addedAt: photographs.addedAt,
};

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPhotographs({ db, now, newId }: Needs) {
  /** A picture may show the part: who may not know of it sees none of them. */
  async function mayLook(person: Person, testId: string): Promise<void> {
    await findTest(db, testId, person);
    if (!person.clearance && (await testIsEmbargoed(db, testId, now())))
      throw forbidden('The part is under embargo, and a photograph may show it.');
  }
  async function one(testId: string, photoId: string) {
    const [row] = await db
      .select({ photo: photographs, bytes: rawFiles.bytes })
      .from(photographs)
      .innerJoin(rawFiles, eq(rawFiles.sha256, photographs.sha256))
      .where(and(eq(photographs.id, photoId), eq(photographs.testId, testId)));
    if (!row) throw notFound('photograph');
    return row;
  }
  return {
    /** Throws when this person has no such test: asked before a picture is read. */
    async isTheirs(person: Person, testId: string): Promise<void> {
      await findTest(db, testId, person);
    },
    async add(
      person: Person,
      testId: string,
      { name, caption, arm }: PhotoQuery,
      bytes: Buffer,
    ): Promise<void> {
      await findTest(db, testId, person);
      const facts = await photoFacts(bytes);
      const thumb = await photoCopy(bytes, 'thumb');
      const sha256 = await sha256Of(bytes);
      const [keptName, keptCaption] = [await kept(db, name, person), await kept(db, caption, person)];
      await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const there = await tx
          .select({ sha256: photographs.sha256 })
          .from(photographs)
          .where(eq(photographs.testId, testId));
        // Sent again it is there already.
        if (there.some((p) => p.sha256 === sha256)) return;
        if (there.length >= MOST_PHOTOS)
          throw conflict(
            'TOO_MANY_PHOTOGRAPHS',
            `A test has at most ${MOST_PHOTOS} photographs.`,
            'Choose those that show something.',
          );
        const [known] = arm
          ? await tx
              .select({ key: testArms.key })
              .from(testArms)
              .where(and(eq(testArms.testId, testId), eq(testArms.key, arm)))
          : [];
        if (arm && !known)
          throw new RefusalError(
            422,
            'UNKNOWN_ARM',
            'The test has no such arm.',
            'Choose one of its arms, or none.',
          );
        await keepBytes(tx, sha256, bytes, { at: now(), personId: person.id });
        await tx.insert(photographs).values({
          id: newId(),
          testId,
          sha256,
          name: keptName,
          caption: keptCaption,
          arm: arm ?? null,
          ...facts,
          thumb,
          addedAt: now(),
          addedBy: person.id,
        });
        await recordAudit(tx, now(), person, 'added photograph', 'test', testId, { name: keptName, sha256 });
      });
    },
    async list(person: Person, testId: string): Promise<Photos> {
      await mayLook(person, testId);
      const rows = await db
        .select({ ...SHOWN, size: rawFiles.size, addedBy: people.name })
        .from(photographs)
        .innerJoin(rawFiles, eq(rawFiles.sha256, photographs.sha256))
        .innerJoin(people, eq(people.id, photographs.addedBy))
        .where(eq(photographs.testId, testId))
        .orderBy(asc(photographs.addedAt), asc(photographs.id));
      return {
        photographs: rows.map((row) => ({ ...row, addedAt: row.addedAt.toISOString() })),
      };
    },
    /** A copy without position, time or camera. */
    async copy(person: Person, testId: string, photoId: string, size: PhotoSize): Promise<Buffer> {
      await mayLook(person, testId);
      const { photo, bytes } = await one(testId, photoId);
      return size === 'thumb' ? photo.thumb : decoding(() => photoCopy(bytes, size));
    },
    /** As it came, with all it says of itself: stays in the house. */
    async raw(person: Person, testId: string, photoId: string) {
      await mayLook(person, testId);
      if (!HOUSE.includes(person.role))
        throw forbidden('A photograph as it came may say where it was taken; take the copy.');
      const { photo, bytes } = await one(testId, photoId);
      return { name: photo.name, sha256: photo.sha256, bytes };
    },
  };
}
export type Photographs = ReturnType<typeof createPhotographs>;
