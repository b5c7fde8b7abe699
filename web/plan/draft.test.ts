import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { madeArm, madeDetail } from '../__tests__/made.ts';
import { PROTOCOL_KEYS, protocolOf } from '../../core/plan/protocols.ts';
import { PlanRequest } from '../../contract/plan/test.ts';
import {
  baselineOf,
  BLANK_DRAFT,
  likeDraft,
  partArmsOf,
  withArm,
  withArmAdded,
  withOrder,
  withoutArm,
  withProtocol,
  type Draft,
} from './draft.ts';
import { followed } from './follow-vehicle.ts';
import {
  addDays,
  clockAt,
  dateAt,
  dayName,
  instantAt,
  minutesAt,
  mondayOf,
  snapped,
} from './schedule-time.ts';

const ids = {
  fitmentId: '00000000-0000-4000-8000-000000000001',
  vehicleId: '00000000-0000-4000-8000-000000000002',
  dynoId: '00000000-0000-4000-8000-000000000003',
};
const filled = (draft: Draft): Draft => ({
  ...draft,
  ...ids,
  controlId: draft.protocol === 'one-way' ? ids.dynoId : null,
  question: 'What does it give?',
  gear: '4th',
  fuel: '95 RON',
});

describe('a draft', () => {
  it('leaves mountings and control vehicle of a plan without return behind with it', () => {
    const oneWay = { ...withProtocol(BLANK_DRAFT, 'one-way'), controlId: ids.dynoId };
    expect(oneWay).toMatchObject({ remount: true, order: ['stock', 'stock', 'part', 'part'] });
    for (const key of ['A-B-A', 'A-B', 'ladder'] as const)
      expect(withProtocol(oneWay, key)).toMatchObject({ remount: false, controlId: null });
    expect(withOrder(oneWay, ['stock', 'part', 'stock'])).toMatchObject({
      protocol: 'custom',
      controlId: null,
    });
  });
  it('is a plan once it is filled, under every protocol', () => {
    for (const key of PROTOCOL_KEYS) {
      const checked = PlanRequest.safeParse(filled(withProtocol(BLANK_DRAFT, key)));
      expect(checked.success, `${key}: ${checked.error?.issues[0]?.message}`).toBe(true);
    }
  });
  it('stays one whatever protocols it goes through and whatever arms are added and taken out', () => {
    const step = fc.oneof(
      fc.constantFrom(...PROTOCOL_KEYS).map((key) => (d: Draft) => withProtocol(d, key)),
      fc.constant((d: Draft) =>
        partArmsOf(d).length < protocolOf(d.protocol).parts.most ? withArmAdded(d) : d,
      ),
      fc.nat(5).map((i) => (d: Draft) => {
        const parts = partArmsOf(d);
        return parts.length > protocolOf(d.protocol).parts.least
          ? withoutArm(d, parts[i % parts.length].key)
          : d;
      }),
      fc.nat(5).map((i) => (d: Draft) => withArm(d, d.arms[i % d.arms.length].key, { label: `arm ${i}` })),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        const draft = steps.reduce((d, change) => change(d), BLANK_DRAFT);
        const checked = PlanRequest.safeParse(filled(draft));
        expect(checked.success, checked.error?.issues.map((i) => i.message).join('; ')).toBe(true);
        expect(baselineOf(draft).key).toBe('stock');
        expect(new Set(draft.arms.map((a) => a.key)).size).toBe(draft.arms.length);
      }),
    );
  });
  it('a ladder builds every stage on the one before, also when one in the middle goes', () => {
    const three = withArmAdded(withProtocol(BLANK_DRAFT, 'ladder'));
    expect(partArmsOf(three).map((a) => a.from)).toEqual([null, 'part', 'part-2']);
    expect(three.order).toEqual(['stock', 'part', 'part-2', 'part-3', 'stock']);
    const two = withoutArm(three, 'part-2');
    expect(partArmsOf(two).map((a) => [a.key, a.from])).toEqual([
      ['part', null],
      ['part-3', 'part'],
    ]);
  });
  it('an arm that comes back into an order of one’s own is run in it', () => {
    const many = PROTOCOL_KEYS.find((key) => protocolOf(key).parts.least > 1 && key !== 'ladder')!;
    const one = withProtocol(withProtocol(BLANK_DRAFT, many), 'A-B-A');
    expect(one.order).toEqual(['stock', 'part', 'stock']);
    expect(withProtocol(one, 'custom').order).toEqual(['stock', 'part', 'part-2', 'stock']);
  });
  it('what was put into an arm is kept when the protocol changes', () => {
    const changes = [{ kind: 'fuel' as const, text: '98 RON' }];
    const draft = withProtocol(
      withProtocol(withArm(BLANK_DRAFT, 'part', { label: 'mine', changes }), 'bracket'),
      'A-B-B-A',
    );
    expect(partArmsOf(draft)).toEqual([{ key: 'part', label: 'mine', role: 'part', from: null, changes }]);
    expect(draft.order).toEqual(['stock', 'part', 'part', 'stock']);
  });
  it('an order of one’s own makes the protocol one’s own, and a re-mount is no matter for A-B', () => {
    expect(withOrder(BLANK_DRAFT, ['stock', 'part', 'stock', 'part'])).toMatchObject({
      protocol: 'custom',
      order: ['stock', 'part', 'stock', 'part'],
    });
    expect(withProtocol({ ...BLANK_DRAFT, remount: true }, 'A-B').remount).toBe(false);
    expect(withProtocol({ ...BLANK_DRAFT, remount: true }, 'A-B-B-A').remount).toBe(true);
  });
});

describe('wall clocks', () => {
  it('an instant goes to the clock of the site and back', () =>
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2024-01-01'), max: new Date('2035-01-01'), noInvalidDate: true }),
        fc.constantFrom('Europe/Oslo', 'UTC', 'America/Chicago', 'Asia/Kolkata'),
        (date, zone) => {
          const iso = new Date(Math.floor(date.getTime() / 60_000) * 60_000).toISOString();
          const back = instantAt(dateAt(iso, zone), minutesAt(iso, zone), zone);
          // In the hour that comes twice when the clocks go back, the clock alone does not say which it is.
          expect([0, 3_600_000]).toContain(Math.abs(Date.parse(back) - Date.parse(iso)));
        },
      ),
    ));
  it('weeks begin on Monday, also over the end of a month', () => {
    expect(mondayOf('2026-11-25')).toBe('2026-11-23');
    expect(mondayOf('2026-11-29')).toBe('2026-11-23');
    expect(mondayOf('2026-12-01')).toBe('2026-11-30');
    expect(addDays('2026-12-30', 3)).toBe('2027-01-02');
    expect(dayName('2026-11-25')).toBe('Wed 25 Nov');
  });
  it('a session begins on a quarter of an hour', () => {
    expect([0, 7, 8, 22.4, 52.6].map(snapped)).toEqual([0, 0, 15, 15, 60]);
    expect(clockAt('2026-07-01T06:30:00Z', 'Europe/Oslo')).toBe('08:30');
  });
});

describe('gear and fuel follow the vehicle', () => {
  const van = { gear: '4th, 1.02:1', fuel: 'diesel' };
  const estate = { gear: '5th, 0.98:1', fuel: '95 RON' };
  it('are filled in where nothing stands', () =>
    expect(followed({ gear: '', fuel: '' }, null, van)).toEqual(van));
  it('change with the vehicle', () => expect(followed(van, van, estate)).toEqual(estate));
  it('stay where a person typed something else', () =>
    expect(followed({ gear: '3rd', fuel: 'diesel' }, van, estate)).toEqual({ fuel: '95 RON' }));
});

describe('arms of a protocol that has no room for them', () => {
  const three = withArmAdded(withArmAdded(withProtocol(BLANK_DRAFT, 'options')));
  it('come back with one that has, as they were', () => {
    const named = withArm(three, three.arms[2].key, { label: 'insert out' });
    const one = withProtocol(named, 'A-B-A');
    expect(partArmsOf(one)).toHaveLength(1);
    const again = withProtocol(one, 'options');
    expect(partArmsOf(again).map((a) => a.label)).toEqual(partArmsOf(named).map((a) => a.label));
    expect(new Set(again.arms.map((a) => a.key)).size).toBe(again.arms.length);
  });
  it('are never sent, and no new arm takes their name', () => {
    const one = withProtocol(three, 'A-B-A');
    expect(Object.keys(PlanRequest.safeParse(one).data ?? {})).not.toContain('spare');
    const more = withArmAdded(one);
    expect([...more.arms, ...(more.spare ?? [])].map((a) => a.key)).toHaveLength(
      new Set([...more.arms, ...(more.spare ?? [])].map((a) => a.key)).size,
    );
  });
});

describe('a plan like another', () => {
  const detail = madeDetail({
    arms: [madeArm('stock'), madeArm('part')],
    plan: {
      order: ['stock', 'part'],
      protocol: 'A-B',
      pullsPerRun: 3,
      due: '2026-12-01',
      notBefore: '2026-11-01',
    },
  });
  const like = (asked: string): Draft => likeDraft(detail, new URLSearchParams(asked));
  it('has its arms and what is held, the runs that are asked for, and no dates of its own yet', () => {
    const draft = like('pulls=5&order=A-B-B-A');
    expect(draft).toMatchObject({ pullsPerRun: 5, protocol: 'A-B-B-A', due: null, notBefore: null });
    expect(draft.order).toEqual(['stock', 'part', 'part', 'stock']);
    expect(draft.arms.map((a) => a.key)).toEqual(['stock', 'part']);
    expect(draft.question).toContain(`Again after test ${detail.summary.number}.`);
  });
  it('of one arm alone runs that against the baseline', () => {
    const several = madeDetail({
      arms: [madeArm('stock'), madeArm('part'), madeArm('small'), madeArm('large')].map((arm) =>
        arm.key === 'stock' ? arm : { ...arm, role: 'part' as const },
      ),
      plan: { order: ['stock', 'part', 'small', 'large', 'stock'], protocol: 'options', pullsPerRun: 3 },
    });
    const draft = likeDraft(several, new URLSearchParams('only=large'));
    expect(draft.arms.map((a) => a.key)).toEqual(['stock', 'large']);
    expect(draft).toMatchObject({ protocol: 'A-B-A', order: ['stock', 'large', 'stock'] });
    expect(likeDraft(several, new URLSearchParams('only=none')).arms).toHaveLength(4);
  });
  it.each(['', 'pulls=1', 'pulls=999', 'pulls=x', 'order=B-A-B', 'order=<b>'])(
    'keeps its runs for “%s”',
    (asked) => {
      expect(like(asked)).toMatchObject({ pullsPerRun: 3, protocol: 'A-B', order: ['stock', 'part'] });
    },
  );
});
