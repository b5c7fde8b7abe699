import connectPgSimple from 'connect-pg-simple';
import type { RequestHandler } from 'express';
import session from 'express-session';
import type pg from 'pg';
import type { Logger } from 'pino';

/** How long a session lives without a request, ms. */
const LIVES_MS = 12 * 3600 * 1000;

/** Sessions of the web application, kept in the database. */
export function webSession(
  pool: pg.Pool,
  log: Logger,
  { secret, secure }: { secret: string; secure: boolean },
): RequestHandler {
  const Store = connectPgSimple(session);
  const sessions = session({
    name: 'evidentia',
    secret,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    store: new Store({
      pool,
      tableName: 'web_sessions',
      createTableIfMissing: false,
      errorLog: (...said: unknown[]) => log.error({ error: said.map(String) }, 'sessions'),
    }),
    cookie: { httpOnly: true, sameSite: 'strict', secure, maxAge: LIVES_MS },
  });
  return (req, res, next) => {
    sessions(req, res, (error?: unknown) => {
      // A session that could not be prolonged after its answer: to go on would tear the answer off its connection.
      if (error && res.headersSent)
        log.warn(
          { path: req.path, error: error instanceof Error ? error.message : 'unknown' },
          'session not prolonged',
        );
      else next(error);
    });
  };
}
