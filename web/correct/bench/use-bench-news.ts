import { useEffect, useRef, useState } from 'react';
import type { BenchNews } from '../../../contract/capture/bench.ts';
import { api } from '../../base/api.ts';
import { useAppDispatch } from '../../base/store.ts';
import { hearing, NOTHING_HEARD, type Live } from './live.ts';

/** Changes come in bursts; the screen reads once for each. */
const TOGETHER_MS = 120;
/** How often samples are drawn, ms. */
const DRAW_MS = 100;

/** Listens to a session: what changed is read anew, what streams is given as it comes. */
export function useBenchNews(testId: string): { live: Live; connected: boolean } {
  const dispatch = useAppDispatch();
  const [live, setLive] = useState(NOTHING_HEARD);
  const [connected, setConnected] = useState(true);
  const heard = useRef(NOTHING_HEARD);
  useEffect(() => {
    heard.current = NOTHING_HEARD;
    let later: ReturnType<typeof setTimeout> | undefined;
    let drawing: ReturnType<typeof setTimeout> | undefined;
    const readAnew = (): void => {
      clearTimeout(later);
      later = setTimeout(() => dispatch(api.util.invalidateTags(['Bench'])), TOGETHER_MS);
    };
    const draw = (): void => {
      drawing ??= setTimeout(() => {
        drawing = undefined;
        setLive(heard.current);
      }, DRAW_MS);
    };
    const source = new EventSource(`/api/tests/${testId}/bench/news`);
    source.onopen = () => {
      setConnected(true);
      readAnew();
    };
    // The browser tries again by itself; what was said meanwhile is read when it is back.
    source.onerror = () => setConnected(false);
    source.onmessage = ({ data }) => {
      const news = JSON.parse(String(data)) as BenchNews;
      if (news.type === 'changed') readAnew();
      else {
        heard.current = hearing(heard.current, news);
        draw();
      }
    };
    return () => {
      source.close();
      clearTimeout(later);
      clearTimeout(drawing);
    };
  }, [testId, dispatch]);
  return { live, connected };
}
