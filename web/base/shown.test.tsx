import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { attributes, html, text } from '../__tests__/rendered.tsx';
import { Chips } from './chips.tsx';
import { Figure } from './figure.tsx';
import { MoreRows } from './paging.tsx';
import { RecordForm } from './record-form.tsx';
import { Mark, ProblemNote } from './ui.tsx';

const nothing = (): void => undefined;
const schema = z.object({
  name: z.string().min(1),
  note: z.string().nullable(),
  hours: z.number(),
  day: z.iso.date().nullable(),
  at: z.string(),
  kind: z.enum(['one', 'two']).nullable(),
  open: z.boolean(),
  steps: z.array(z.string()),
  email: z.string(),
  password: z.string(),
});
const form = (change: Partial<Parameters<typeof RecordForm<typeof schema>>[0]> = {}) => (
  <RecordForm
    schema={schema}
    values={{
      name: 'Cell 1',
      note: null,
      hours: 2.5,
      day: '2026-11-25',
      at: '14:05',
      kind: null,
      open: true,
      steps: ['strap', 'check'],
      email: '',
      password: '',
    }}
    groups={[
      {
        title: 'What it is',
        note: 'As on the plate.',
        fields: [
          { name: 'name', label: 'Name', kind: 'text', hint: 'short' },
          { name: 'note', label: 'Note', kind: 'area', rows: 3 },
          { name: 'hours', label: 'Hours', kind: 'number' },
          {
            name: 'kind',
            label: 'Kind',
            kind: 'select',
            options: ['one', { value: 'two', label: 'Two of them' }],
            empty: 'none',
          },
        ],
      },
      {
        title: '',
        fields: [
          { name: 'day', label: 'Day', kind: 'date' },
          { name: 'at', label: 'Begins', kind: 'time' },
          { name: 'open', label: 'Open', kind: 'check' },
          { name: 'steps', label: 'Steps', kind: 'lines' },
          { name: 'email', label: 'E-mail', kind: 'email', autoComplete: 'username' },
          { name: 'password', label: 'Password', kind: 'password', autoComplete: 'current-password' },
        ],
      },
    ]}
    save={nothing}
    {...change}
  />
);

describe('the form of a record', () => {
  it('gives every field its label, tied to its control', () => {
    const markup = html(form());
    const ids = new Set(attributes(markup, 'id'));
    const labels = attributes(markup, 'for');
    expect(labels.length).toBeGreaterThanOrEqual(9);
    for (const label of labels) expect(ids).toContain(label);
    // A hint is read with its control.
    for (const told of attributes(markup, 'aria-describedby')) expect(ids).toContain(told);
  });
  it('has a heading for each group that has a title, and its note', () => {
    expect(text(form())).toContain('What it is As on the plate. Name short');
    expect(html(form()).match(/<fieldset/g)).toHaveLength(1);
  });
  it('asks for each kind in its own way', () => {
    const markup = html(form());
    expect(attributes(markup, 'inputMode')).toEqual(['decimal']);
    for (const type of ['checkbox', 'email', 'password']) expect(attributes(markup, 'type')).toContain(type);
    expect(attributes(markup, 'autoComplete').concat(attributes(markup, 'autocomplete'))).toContain(
      'current-password',
    );
    expect(attributes(markup, 'value')).toEqual(expect.arrayContaining(['25 Nov 2026', '14:05']));
    // What is chosen stands in the field; the list opens from it.
    expect(text(form())).toContain('Kind none');
    expect(markup).toContain('strap\ncheck');
  });
  it('has a way out only where there is one, and says what it does', () => {
    expect(text(form())).not.toContain('Cancel');
    const closing = text(form({ onCancel: nothing, cancelVerb: 'Done', verb: 'Close it' }));
    expect(closing).toMatch(/Close it Done$/);
  });
  it('cannot be sent twice while it is being saved', () => {
    expect(html(form({ saving: true }))).toMatch(/<button[^>]*type="submit"[^>]* disabled=""/);
    expect(html(form())).not.toMatch(/<button[^>]*type="submit"[^>]* disabled=""/);
  });
  it('says what was refused, beside the buttons', () => {
    const shown = text(
      form({ problem: { status: 409, data: { error: { code: 'X', message: 'Somebody was faster.' } } } }),
    );
    expect(shown).toContain('Somebody was faster.');
  });
});

describe('small things that stand everywhere', () => {
  it('a mark repeats in shape what its colour says', () => {
    const shapes = (['stands', 'ask', 'loss', 'soft'] as const).map((tone) =>
      text(<Mark tone={tone}>x</Mark>),
    );
    expect(new Set(shapes).size).toBe(4);
  });
  it('one choice of a row is pressed', () => {
    const choices = ['all', 'asks'].map((value) => ({ value, text: value }));
    expect(
      attributes(
        html(<Chips label="Show" value="asks" choices={choices} onChange={nothing} />),
        'aria-pressed',
      ),
    ).toEqual(['false', 'true']);
  });
  it('the foot of a list says how much of it is read', () => {
    const foot = (shown: number, total: number, more: boolean) => (
      <MoreRows
        what={['test', 'tests']}
        shown={shown}
        total={total}
        more={more}
        reading={false}
        onMore={nothing}
      />
    );
    expect(text(foot(50, 120, true))).toBe('50 of 120 tests Read more');
    expect(text(foot(1, 1, false))).toBe('1 test');
  });
  it('a figure has its sign, unit and interval, in that order', () => {
    const shown = text(
      <Figure label="Average" value={1.94} unit="%" interval={{ lower: 0.93, upper: 3.02 }} note="named" />,
    );
    // Lower limits are rounded down, upper ones up: an interval is never told narrower than it is.
    expect(shown).toBe('Average +1.9 % (+0.9 to +3.1) named');
  });
  it('no problem is no note', () => {
    expect(html(<ProblemNote error={undefined} />)).toBe('');
    expect(text(<ProblemNote message="The line is cut." />)).toContain('The line is cut.');
  });
});
