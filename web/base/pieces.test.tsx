import { describe, expect, it } from 'vitest';
import '../__tests__/rendered.tsx';
import { RefusalSchema } from '../../contract/base/http.ts';
import { refusalOf } from '../../contract/base/refusal.ts';
import { ranked, rankOf, type Hit } from './finder.tsx';
import { wrongIn } from './hand-checked.ts';
import { choicesOf } from './select.tsx';

describe('options of a select', () => {
  it('are read as the platform reads them: a text is its own value, groups and lists are opened', () => {
    const kinds = ['natural', 'turbo'];
    expect(
      choicesOf(
        <>
          <option value="">choose</option>
          {kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
          {false}
          <option value={3}>
            {'SV-014'}, {'grey'}
          </option>
        </>,
      ),
    ).toEqual([
      { value: '', label: 'choose' },
      { value: 'natural', label: 'natural' },
      { value: 'turbo', label: 'turbo' },
      { value: '3', label: 'SV-014, grey' },
    ]);
  });
});

describe('what the finder shows first', () => {
  const hit = (text: string, beside?: string): Hit => ({ key: text, text, beside });
  it('a number, a name or an SKU that is the same comes before what begins with it, then what holds it', () => {
    expect(rankOf(hit('8 · Tubular manifold'), '8')).toBe(0);
    expect(rankOf(hit('Tubular manifold', 'TM-118'), 'tm-118')).toBe(0);
    expect(rankOf(hit('Cell 1'), 'cell')).toBe(1);
    expect(rankOf(hit('Oriel Tern 1.8 estate'), 'tern')).toBe(2);
    expect(rankOf(hit('found by its engine code'), 'o18n')).toBe(3);
  });
  it('groups follow their best hit; equals and nothing typed keep the order they have', () => {
    const groups: [string, Hit[]][] = [
      ['Tests', [hit('12 · Rear silencer on Cell 1')]],
      ['Claims', []],
      ['Dynos', [hit('Cell 1')]],
    ];
    expect(ranked(groups, 'cell 1').map(([name]) => name)).toEqual(['Dynos', 'Tests']);
    expect(ranked(groups, '').map(([name]) => name)).toEqual(['Tests', 'Dynos']);
  });
});

describe('answers checked by hand', () => {
  it.each([
    [{ items: [], total: 0 }, []],
    [{ items: {}, total: 0 }, ['items']],
    [{ total: '0' }, ['items', 'total']],
    [null, ['the whole']],
    [[], ['the whole']],
  ])('%j lacks %j', (answer, wrong) => {
    expect(wrongIn(answer, { items: 'list', total: 'number' })).toEqual(wrong);
  });
  it('nobody is a person, too', () => {
    expect(wrongIn({ person: null, demo: true }, { person: 'maybe', demo: 'boolean' })).toEqual([]);
  });
  it.each([
    { error: { code: 'X', message: 'No.' } },
    { error: { code: 'X', message: 'No.', details: { wouldFit: 'then' } } },
    { error: { code: 1, message: 'No.' } },
    { error: { code: 'X', message: 'No.', details: [] } },
    { error: 'no' },
    'no',
    null,
  ])('a refusal is one where its contract says so: %j', (answer) => {
    expect(refusalOf(answer) !== undefined).toBe(RefusalSchema.safeParse(answer).success);
  });
});
