import { nanoid } from '@reduxjs/toolkit';
import { useCallback, useRef, useState } from 'react';
import { toast } from 'sonner';
import { refusedWith } from '../base/api.ts';
import { useSendingAgain } from '../base/use-sending-again.ts';
import { useAddPhotographMutation } from '../base/endpoints.ts';
import { keepPhoto, letPhotoGo, photosWaiting, type WaitingPhoto } from './photo-store.ts';

const AGAIN_MS = 4000;
type Said = Pick<WaitingPhoto, 'file' | 'caption' | 'arm'>;
/** How a sending ended: it is there, it was refused with this, or nobody answered. */
type Outcome = 'sent' | 'away' | { readonly refused: string };

type Add = ReturnType<typeof useAddPhotographMutation>[0];
async function sentPhoto(add: Add, testId: string, { file, caption, arm }: Said): Promise<Outcome> {
  const answer = await add({ testId, file, caption, arm });
  if (!('error' in answer)) return 'sent';
  const refused = refusedWith(answer.error);
  return refused === null ? 'away' : { refused };
}

/** Photographs of a test that wait on this device, sent as soon as somebody answers. */
export function useWaitingPhotos(testId: string, personId: string | undefined) {
  const [waiting, setWaiting] = useState<readonly WaitingPhoto[]>([]);
  const [add, { isLoading }] = useAddPhotographMutation();
  const sending = useRef(false);

  const send = useCallback((said: Said) => sentPhoto(add, testId, said), [add, testId]);
  const flush = useCallback(async (): Promise<void> => {
    if (personId === undefined || sending.current) return;
    sending.current = true;
    try {
      const asked = await photosWaiting(testId, personId);
      setWaiting(asked);
      for (const photo of asked) {
        if (photo.refused !== undefined) continue;
        const outcome = await send(photo);
        if (outcome === 'away') break;
        if (outcome === 'sent') {
          await letPhotoGo(photo.id);
          toast.success('The photograph is kept.');
        } else await keepPhoto({ ...photo, refused: outcome.refused });
      }
      setWaiting(await photosWaiting(testId, personId));
    } catch {
      // A browser that gives no room on the device: photographs are sent at once there, or not at all.
    } finally {
      sending.current = false;
    }
  }, [personId, send, testId]);
  useSendingAgain(flush, AGAIN_MS);

  /** @returns why it is neither sent nor kept on the device */
  const keep = async (said: Said): Promise<string | undefined> => {
    if (personId === undefined) return 'Sign in first.';
    try {
      await keepPhoto({ id: `${Date.now()}-${nanoid()}`, testId, personId, ...said });
      setWaiting(await photosWaiting(testId, personId));
    } catch {
      const outcome = await send(said);
      if (outcome === 'sent') return void toast.success('The photograph is kept.');
      return outcome === 'away' ? 'Nobody answers, and this device has no room to keep it.' : outcome.refused;
    }
    void flush();
    return undefined;
  };
  const drop = async (id: string): Promise<void> => {
    await letPhotoGo(id);
    if (personId !== undefined) setWaiting(await photosWaiting(testId, personId));
  };
  return { waiting, isSending: isLoading, keep, drop };
}
