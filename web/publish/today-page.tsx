import { useState } from 'react';
import { Link } from 'react-router';
import type { Today, TodayGroup, TodayItem } from '../../contract/publish/today.ts';
import { useSessionQuery } from '../base/api.ts';
import { day, dayTime } from '../base/format.ts';
import { Button, Empty, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useTodayQuery } from './today-api.ts';

/** Heading, why it waits here, and how pressing it is. */
const WORDS: Readonly<Record<TodayGroup, { title: string; why: string; tone: 'ask' | 'loss' | 'soft' }>> = {
  'claims to review': {
    title: 'Claims to review',
    why: 'Read the evidence, then approve or return.',
    tone: 'ask',
  },
  'claims in question': {
    title: 'Claims in question',
    why: 'Not shown as current until each change under them is answered.',
    tone: 'loss',
  },
  'sessions due': { title: 'Sessions due', why: 'Booked for today and the week ahead.', tone: 'soft' },
  'pulls to complete': {
    title: 'Pulls to complete',
    why: 'Begun, and a file or an air reading is missing.',
    tone: 'ask',
  },
  'findings to answer': {
    title: 'Findings to answer',
    why: 'Nothing is published from them before somebody has answered.',
    tone: 'loss',
  },
  'plans to lock': { title: 'Plans to lock', why: 'A plan is locked before the first pull.', tone: 'soft' },
  'results to tell': {
    title: 'Results to tell',
    why: 'Judged, and no claim or advice is drafted.',
    tone: 'soft',
  },
  'claims of mine to go on with': {
    title: 'Your claims to go on with',
    why: 'Drafts, and what was returned to you.',
    tone: 'ask',
  },
  'claims gone stale': {
    title: 'Claims gone stale',
    why: 'They say why; nothing newer of the part has taken their place.',
    tone: 'loss',
  },
  'parts that launch without a claim': {
    title: 'Launching without a claim',
    why: 'In the next 60 days, with nothing published of what they promise.',
    tone: 'ask',
  },
  'sensors overdue': { title: 'Sensors overdue', why: 'Their calibration has run out.', tone: 'ask' },
  'to take over into the shop': {
    title: 'To take over into the shop',
    why: 'Published, gone stale or withdrawn since.',
    tone: 'ask',
  },
};

/** What waits for the person who is signed in; each line opens where it is settled. */
export function TodayPage() {
  const { data, error, refetch } = useTodayQuery({});
  const { data: session } = useSessionQuery();
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="what waits for you" />
      </main>
    );
  const waiting = data.groups.filter((group) => group.total > 0);
  const quiet = data.groups.filter((group) => group.total === 0);
  return (
    <main className="max-w-[1080px] px-6 py-5">
      <h1>Today</h1>
      <p className="mb-5 mt-1 text-soft">
        {waiting.length > 0
          ? `What waits for you as ${session?.person?.role}. Each line opens where it is settled.`
          : ''}
      </p>
      {waiting.length === 0 && (
        <Empty title="Nothing waits for you">
          Go to the <Link to="/tests">tests</Link> or to the <Link to="/catalogue">catalogue</Link>.
        </Empty>
      )}
      {waiting.map((group) => (
        <Group key={group.group} {...group} />
      ))}
      {waiting.length > 0 && quiet.length > 0 && (
        <p className="mt-6 text-[12.5px] text-soft">
          Nothing in: {quiet.map((g) => WORDS[g.group].title.toLowerCase()).join(', ')}.
        </p>
      )}
    </main>
  );
}

function Group({ group, total, items }: Today['groups'][number]) {
  const { title, why, tone } = WORDS[group];
  const [isWhole, setWhole] = useState(false);
  const whole = useTodayQuery({ all: group }, { skip: !isWhole });
  const shown = whole.data?.groups[0]?.items ?? items;
  const id = `waits-${group.replaceAll(' ', '-')}`;
  return (
    <section aria-labelledby={id} className="mb-6">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 id={id}>{title}</h2>
        <Mark tone={tone}>{total}</Mark>
        <span className="text-[12.5px] text-soft">{why}</span>
      </div>
      <ul className="mt-1 border-t-[1.5px] border-ink">
        {shown.map((item) => (
          <li key={item.id} className="border-b border-rule py-2">
            <Entry {...item} />
          </li>
        ))}
      </ul>
      {whole.error && <ProblemNote error={whole.error} again={() => void whole.refetch()} />}
      {total > shown.length && (
        <div className="mt-2">
          <Button small disabled={whole.isFetching} onClick={() => setWhole(true)}>
            Show all {total}
          </Button>
        </div>
      )}
    </section>
  );
}

function Entry({ text, detail, at, to }: TodayItem) {
  const isDay = at?.endsWith('T00:00:00.000Z');
  return (
    <>
      <Link to={to}>{text}</Link>
      <div className="text-[12.5px] text-soft">
        {[detail, at && (isDay ? day(at) : dayTime(at))].filter(Boolean).join(' · ')}
      </div>
    </>
  );
}
