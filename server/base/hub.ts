/**
 * News between processes: whoever writes tells the database (`pg_notify`), and every process that somebody listens in
 * hears of it. One connection a process, opened when the first one listens and closed after the last.
 */
import pg from 'pg';
import type { Logger } from 'pino';

const CHANNEL = 'bench';
const AGAIN_MS = 1000;

export interface News {
  /** The test it is about. */ readonly test: string;
  readonly news: unknown;
}
type Hear = (news: News | 'missed') => void;
export interface Hub {
  /** @param hear told of all news, and that some were missed while the database was away @returns how to stop */
  listen(hear: Hear): () => void;
  close(): Promise<void>;
}

export function createHub(config: pg.ClientConfig, log: Logger): Hub {
  const hearing = new Set<Hear>();
  let client: pg.Client | undefined;
  let again: NodeJS.Timeout | undefined;

  function tell(news: News | 'missed'): void {
    for (const hear of hearing) hear(news);
  }
  async function open(): Promise<void> {
    const own = new pg.Client({ ...config, application_name: 'evidentia news' });
    client = own;
    const lost = (): void => {
      if (client !== own) return;
      client = undefined;
      if (hearing.size > 0) again = setTimeout(() => void open(), AGAIN_MS);
    };
    own.on('error', lost);
    own.on('end', lost);
    own.on('notification', ({ payload }) => {
      if (payload) tell(JSON.parse(payload) as News);
    });
    try {
      await own.connect();
      await own.query(`listen ${CHANNEL}`);
      // What happened before it listened is read by those who are told that they missed something.
      tell('missed');
    } catch (error) {
      log.warn({ error: error instanceof Error ? error.message : String(error) }, 'news cannot be heard');
      lost();
    }
  }
  function close(): Promise<void> {
    clearTimeout(again);
    const own = client;
    client = undefined;
    return own ? own.end().catch(() => undefined) : Promise.resolve();
  }
  return {
    listen(hear) {
      hearing.add(hear);
      if (!client) {
        clearTimeout(again);
        void open();
      }
      return () => {
        hearing.delete(hear);
        if (hearing.size === 0) void close();
      };
    },
    close,
  };
}
