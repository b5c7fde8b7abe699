import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asAway, databaseAway, inTime } from './away.ts';
import { refuseUnkeepable } from './readable-text.ts';
import { RefusalError } from './refusals.ts';

const withCode = (code: string, message = 'it failed'): Error => Object.assign(new Error(message), { code });

describe('errors of the connection', () => {
  // Codes of PostgreSQL 15, Appendix A; of the operating system by libuv's names.
  it.each(['57P01', '57P02', '57P03', '08000', '08006', '53300', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE'])(
    '%s: the records cannot be reached',
    (code) => {
      expect(asAway(withCode(code))).toMatchObject({ status: 503, code: 'DATABASE_AWAY' });
      // As the query builder hands it on, inside its own.
      expect(asAway(new Error('Failed query', { cause: withCode(code) }))).toMatchObject({
        code: 'DATABASE_AWAY',
      });
    },
  );
  it.each(['57014', '55P03', '25P03'])('%s: it took too long', (code) => {
    expect(asAway(withCode(code))).toMatchObject({ status: 503, code: 'DATABASE_BUSY' });
  });
  it.each(['Connection terminated unexpectedly', 'timeout exceeded when trying to connect'])(
    '“%s” has no code, and is known by its words',
    (message) => expect(asAway(new Error(message))).toMatchObject({ code: 'DATABASE_AWAY' }),
  );
  it.each([withCode('23505'), withCode('22003'), new TypeError('x is not a function'), 'a text', undefined])(
    '%s is another error',
    (error) => expect(asAway(error)).toBeUndefined(),
  );
});

describe('what comes in time', () => {
  it('is given on', async () => expect(await inTime(Promise.resolve('there'))).toBe('there'));
  it('is nothing when it does not come, or the database is away', async () => {
    expect(await inTime(new Promise(() => undefined), 5)).toBeUndefined();
    expect(await inTime(Promise.reject(withCode('57P01')))).toBeUndefined();
  });
  it('does not count the time in which this process stood still', async () => {
    const answer = new Promise<string>((resolve) => setTimeout(() => resolve('there'), 30));
    const asked = inTime(answer, 250);
    for (const end = performance.now() + 400; performance.now() < end;);
    expect(await asked).toBe('there');
  });
  it('an error of another kind is not swallowed', async () => {
    await expect(inTime(Promise.reject(new TypeError('a slip')))).rejects.toThrow('a slip');
  });
  it('what is told has words for people', () => {
    expect(databaseAway().message).toContain('cannot be reached');
  });
});

describe('characters that no database keeps', () => {
  const refusal = (value: unknown): RefusalError | undefined => {
    try {
      refuseUnkeepable(value);
      return undefined;
    } catch (error) {
      if (error instanceof RefusalError) return error;
      throw error;
    }
  };
  it('whatever people type in any script is kept', () => {
    fc.assert(
      fc.property(fc.jsonValue({ stringUnit: 'grapheme' }), (value) => {
        const text = JSON.stringify(value);
        return text.includes('\\u0000') || refusal(value) === undefined;
      }),
    );
    expect(refusal({ name: 'Größe 😀 “quoted” 尺', list: [1, null, true, { deep: 'é' }] })).toBeUndefined();
  });
  it.each(['a\0b', '\ud83d', 'x\ude00', '\ude00\ud83d'])(
    '%j is refused, with the place it stands at',
    (text) => {
      expect(refusal({ arms: [{ label: 'fine' }, { label: text }] })).toMatchObject({
        status: 400,
        code: 'TEXT_UNREADABLE',
        message: expect.stringContaining('arms.1.label') as string,
      });
    },
  );
  it('also in a name of a value, and in what is nested deeper than anything is', () => {
    expect(refusal({ ['a\0']: 1 })).toBeDefined();
    let nested: unknown = 1;
    for (let i = 0; i < 60; i++) nested = [nested];
    expect(refusal(nested)).toBeDefined();
  });
});
