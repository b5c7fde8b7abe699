/** Photographs that are not with the server yet: whole on the device, through a reload and a day without a network. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

export interface WaitingPhoto {
  readonly id: string;
  readonly testId: string;
  readonly personId: string;
  readonly file: File;
  readonly caption: string;
  readonly arm: string;
  /** Why the server would not have it; it stays until somebody drops it. */ readonly refused?: string;
}
interface Shelf extends DBSchema {
  photos: { key: string; value: WaitingPhoto; indexes: { 'by test': [testId: string, personId: string] } };
}
let shelf: Promise<IDBPDatabase<Shelf>> | undefined;
const opened = (): Promise<IDBPDatabase<Shelf>> =>
  (shelf ??= openDB<Shelf>('evidentia', 1, {
    upgrade: (db) => {
      db.createObjectStore('photos', { keyPath: 'id' }).createIndex('by test', ['testId', 'personId']);
    },
  }));

/** What waits of a test and a person, in the order it was kept; ids are ordered by time. */
export const photosWaiting = async (testId: string, personId: string): Promise<WaitingPhoto[]> =>
  (await opened()).getAllFromIndex('photos', 'by test', [testId, personId]);
/** @throws where the device has no room, or gives none */
export const keepPhoto = async (photo: WaitingPhoto): Promise<void> => {
  await (await opened()).put('photos', photo);
};
export const letPhotoGo = async (id: string): Promise<void> => {
  await (await opened()).delete('photos', id);
};
