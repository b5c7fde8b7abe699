import { EventEmitter } from 'node:events';
import type { Request } from 'express';
import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { PullFileError } from '../../core/base/errors.ts';
import { askedFor, foundBy } from '../../core/register/phrase.ts';
import { cursorOf, readCursor, type CursorKind } from './cursor.ts';
import { rawBody, rawText } from './raw-body.ts';
import { conflict, notFound, RefusalError, refusalOf } from './refusals.ts';

describe('cursors', () => {
  const valueOf: Readonly<Record<CursorKind, fc.Arbitrary<string | number>>> = {
    text: fc.string().filter((text) => !text.includes('\0')),
    number: fc.double({ noNaN: true, noDefaultInfinity: true }).map((v) => (Object.is(v, -0) ? 0 : v)),
    integer: fc.integer(),
    id: fc.uuid(),
    time: fc.date({ noInvalidDate: true }).map((at) => at.toISOString()),
  };
  const kinds = fc.array(fc.constantFrom(...(Object.keys(valueOf) as CursorKind[])), {
    minLength: 1,
    maxLength: 6,
  });
  const cursors = kinds.chain((list) =>
    fc.tuple(fc.constant(list), fc.tuple(...list.map((kind) => valueOf[kind]))),
  );
  it('come back as what they were made of', () =>
    fc.assert(
      fc.property(cursors, ([list, values]) => {
        expect(readCursor(cursorOf(values), list)).toEqual(values);
        expect(cursorOf(values)).toMatch(/^[\w-]*$/);
      }),
    ));
  it('anything else is refused, never half-read', () =>
    fc.assert(
      fc.property(fc.string(), kinds, (text, list) => {
        expect(() => readCursor(text, list)).toThrow(RefusalError);
      }),
    ));
  it('no cursor is the first page; one of another list is refused', () => {
    expect(readCursor(undefined, ['text'])).toBeUndefined();
    expect(() => readCursor(cursorOf(['a', 'b']), ['text'])).toThrow('cannot be found');
    expect(() => readCursor(cursorOf(['a', 1]).slice(0, -2), ['text', 'number'])).toThrow(RefusalError);
  });
  it.each<[CursorKind, string | number]>([
    ['id', 'no id'],
    ['id', 7],
    ['integer', 1.5],
    ['integer', 1e12],
    ['integer', '1'],
    ['number', '1'],
    ['time', 'yesterday, about noon'],
    ['text', 'a\0b'],
    ['text', 1],
  ])('a value that is no %s is refused before the database sees it: %j', (kind, value) => {
    expect(() => readCursor(cursorOf([value]), [kind])).toThrow(RefusalError);
  });
});

describe('bodies', () => {
  /** A request as a stream of chunks, as node hands it over. */
  const request = (chunks: readonly Buffer[], change: Partial<Request> = {}): Request => {
    const stream = Object.assign(new EventEmitter(), {
      readableEnded: false,
      ...change,
    }) as unknown as Request;
    queueMicrotask(() => {
      for (const chunk of chunks) stream.emit('data', chunk);
      stream.emit('end');
    });
    return stream;
  };
  const tooLarge = (size: number): Error => new RefusalError(413, 'TOO_LARGE', `${size} bytes`);
  it('arrive whole', async () =>
    expect((await rawBody(request([Buffer.from('a,'), Buffer.from('b')]), 10, tooLarge)).toString()).toBe(
      'a,b',
    ));
  it('over the limit are read to their end and refused with their size', async () => {
    await expect(rawBody(request([Buffer.alloc(8), Buffer.alloc(8)]), 10, tooLarge)).rejects.toThrow(
      '16 bytes',
    );
  });
  it('that were read already do not wait for ever', async () => {
    await expect(rawBody(request([], { readableEnded: true }), 10, tooLarge)).rejects.toMatchObject({
      status: 415,
      code: 'SENT_AS_JSON',
    });
  });
  it('that break off say so', async () => {
    const stream = Object.assign(new EventEmitter(), { readableEnded: false }) as unknown as Request;
    queueMicrotask(() => stream.emit('aborted'));
    await expect(rawBody(stream, 10, tooLarge)).rejects.toMatchObject({ code: 'UPLOAD_BROKE_OFF' });
  });
  it('of older spreadsheets are read as they were written', async () => {
    expect(await rawText(request([Buffer.from('Größe', 'utf8')]))).toBe('Größe');
    expect(await rawText(request([Buffer.from('Größe', 'latin1')]))).toBe('Größe');
    // UTF-16, as spreadsheets write “Unicode text”, either way round.
    const wide = Buffer.from('\ufeffSKU\tName\nA-1\tGröße', 'utf16le');
    expect(await rawText(request([wide]))).toBe('SKU\tName\nA-1\tGröße');
    expect(await rawText(request([Buffer.from(wide).swap16()]))).toBe('SKU\tName\nA-1\tGröße');
    expect(await rawText(request([]))).toBe('');
    await expect(rawText(request([Buffer.from([0x50, 0x4b, 3, 4, 0, 0])]))).rejects.toMatchObject({
      code: 'NOT_TEXT',
    });
    // A letter parted between two chunks is one letter.
    const bytes = Buffer.from('ö', 'utf8');
    expect(await rawText(request([bytes.subarray(0, 1), bytes.subarray(1)]))).toBe('ö');
  });
});

describe('refusals', () => {
  test.each([
    [notFound('vehicle'), 404, 'NOT_FOUND'],
    [conflict('TAG_TAKEN', 'Taken.', 'Choose another.'), 409, 'TAG_TAKEN'],
    [
      new PullFileError('FILE_TOO_LARGE', 'Too large.', 'Send less.', { file: 'p1.csv' }),
      413,
      'FILE_TOO_LARGE',
    ],
    [new PullFileError('EMPTY_FILE', 'Empty.', 'Copy it again.', { file: 'p1.csv' }), 422, 'EMPTY_FILE'],
  ])('%s', (error, status, code) => {
    const refusal = refusalOf(error)!;
    expect(refusal).toMatchObject({ status, body: { error: { code } } });
    expect(refusal.body.error.message.length).toBeGreaterThan(10);
  });
  it('what nobody foresaw is none', () => expect(refusalOf(new Error('boom'))).toBeUndefined());
});

test('the words a fitment is found by answer the ways people type it', () => {
  const text = foundBy(
    'Varrick',
    'Holm 2.2 D van',
    'VH2',
    'V22D',
    '2.2',
    '4cyl',
    'turbo-intercooled',
    'diesel',
    'rear',
    2016,
  );
  const answers = (phrase: string): boolean =>
    askedFor(phrase).every((words) =>
      words.some((word) => (word.length < 3 ? text.includes(` ${word}`) : text.includes(word))),
    );
  for (const phrase of [
    'holm 2,2',
    'HOLM 2.2D',
    'varrick van diesel',
    'holm turbo 2016',
    'the Holm for rwd',
    '2.2 litre holm',
  ])
    expect(answers(phrase), phrase).toBe(true);
  for (const phrase of ['holm petrol', 'holm 2012', 'tern 2.2']) expect(answers(phrase), phrase).toBe(false);
});
