import clsx from 'clsx';
import { Command } from 'cmdk';
import { Dialog as RadixDialog } from 'radix-ui';
import { useEffect, useEffectEvent, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { Person } from '../../contract/base/http.ts';
import type { Found } from '../../contract/overview.ts';
import { useFindQuery } from './endpoints.ts';
import { useCatalogueInfiniteQuery } from './public-endpoints.ts';
import { ProblemNote } from './ui.tsx';
import { useFirstHit } from './use-first-hit.ts';
import { useSettled } from './use-settled.ts';
import { commandsFor, type Deeds } from './commands.ts';
import { useAppSelector } from './store.ts';
import { useCameFrom } from './came-from.ts';

const NOTHING: Found = {
  tests: [],
  claims: [],
  fitments: [],
  parts: [],
  vehicles: [],
  dynos: [],
  calibrations: [],
};
export interface Hit {
  readonly key: string;
  readonly text: string;
  readonly beside?: string | undefined;
  readonly to?: string;
  readonly run?: () => void;
}
const at = (to: string, text: string, beside?: string): Hit => ({ key: to, to, text, beside });

/** What was found, under the heading of its kind. */
const groupsOf = (found: Found): [string, Hit[]][] => [
  ['Tests', found.tests.map((t) => at(`/tests/${t.id}`, `${t.number} · ${t.title}`, t.vehicle))],
  ['Claims', found.claims.map((c) => at(`/claims/${c.id}`, c.wording, `${c.state} · ${c.testTitle}`))],
  ['Fitments', found.fitments.map((f) => at(`/register/fitments/${f.id}`, f.name))],
  ['Parts', found.parts.map((p) => at(`/register/parts/${p.id}`, p.name, p.sku))],
  ['Vehicles', found.vehicles.map((v) => at(`/register/vehicles/${v.id}`, v.tag, v.fitment))],
  ['Dynos', found.dynos.map((d) => at(`/register/dynos/${d.id}`, d.name, d.site))],
  [
    'Calibrations',
    found.calibrations.map((c) => ({
      ...at('/register/calibrations', c.name, c.fitment),
      key: `calibration ${c.id}`,
    })),
  ],
];

/** How well a hit answers what was typed: 0 says the same, then begins with it, holds it, or was found by other words. */
export function rankOf({ text, beside = '' }: Pick<Hit, 'text' | 'beside'>, words: string): number {
  const asked = words.trim().toLowerCase();
  const [own, other] = [text.toLowerCase(), beside.toLowerCase()];
  if (own === asked || other === asked || own.startsWith(`${asked} ·`)) return 0;
  if (own.startsWith(asked) || other.startsWith(asked)) return 1;
  return own.includes(asked) || other.includes(asked) ? 2 : 3;
}
/** Groups in which something answers better come first; among equals they keep their order. */
export const ranked = (groups: readonly [string, Hit[]][], words: string): [string, Hit[]][] => {
  const filled = groups.filter(([, hits]) => hits.length > 0);
  if (words.trim() === '') return filled;
  const best = (hits: readonly Hit[]): number => Math.min(...hits.map((hit) => rankOf(hit, words)));
  return [...filled].sort(([, a], [, b]) => best(a) - best(b));
};

/** Finds any record, page or deed by words; the server looks through the records. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function Finder({
  person,
  deeds,
  onClose,
}: {
  person: Person | null;
  deeds: Deeds;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const [words, setWords] = useState('');
  const settled = useSettled(words.trim(), 150);
  const house = useFindQuery(settled, { skip: !person });
  const shop = useCatalogueInfiniteQuery({ q: settled }, { skip: Boolean(person) || settled === '' });
  const { isFetching, error, refetch } = person ? house : shop;
  const go = ({ to, run }: Hit): void => {
    onClose();
    if (to) void navigate(to);
    run?.();
  };
  const asked = words.trim().toLowerCase().split(/\s+/);
  const preferences = useAppSelector((state) => state.preferences);
  const meant = commandsFor(person, preferences, deeds).filter(({ text }) =>
    asked.every((w) => text.toLowerCase().includes(w)),
  );
  const records = person
    ? groupsOf(house.currentData ?? NOTHING)
    : ([
        [
          'Catalogue',
          (shop.currentData?.pages[0]?.items ?? [])
            .slice(0, 6)
            .map((f) => at(`/catalogue/${f.slug}`, f.name, f.engine)),
        ],
      ] as [string, Hit[]][]);
  const groups = ranked([['Pages and deeds', meant.slice(0, 8)], ...records], words);
  const hits = groups.flatMap(([, of]) => of);
  const [chosen, setChosen] = useFirstHit(hits, (hit) => hit.key);
  const marked = hits.find(({ key }) => key === chosen);
  const busy = isFetching || settled !== words.trim();
  const [taking, setTaking] = useState(false);
  // Enter before the answer to the last letters is there takes what is marked when it is.
  const take = useEffectEvent((hit: Hit) => go(hit));
  useEffect(() => {
    if (!taking || busy) return;
    setTaking(false);
    if (marked) take(marked);
  }, [taking, busy, marked]);
  // The list itself listens a moment after it is drawn, and the focus may lie on the box: Enter is never lost.
  const onEnter = (event: KeyboardEvent): void => {
    if (event.defaultPrevented || event.key !== 'Enter' || event.nativeEvent.isComposing) return;
    event.preventDefault();
    // Pages and deeds need no answer, and are reached without a connection too.
    const isOwn = marked !== undefined && meant.includes(marked);
    if (busy && !isOwn) setTaking(true);
    else if (marked) go(marked);
  };
  return (
    <FinderBox onClose={onClose} onKeyDown={onEnter}>
      {/* The server has chosen already. */}
      <Command label="Find" shouldFilter={false} value={chosen} onValueChange={setChosen} onKeyDown={onEnter}>
        <Command.Input
          autoFocus
          value={words}
          onValueChange={(typed) => {
            setTaking(false);
            setWords(typed);
          }}
          placeholder={person ? 'Any record, page or deed …' : 'Make, model, engine, year …'}
          className="w-full border-b border-rule bg-transparent px-2.5 py-2.5 text-[15px] outline-none placeholder:text-soft"
        />
        <ProblemNote error={error} again={() => void refetch()} />
        <Command.List className="max-h-[50vh] overflow-auto pb-1" aria-busy={busy}>
          <Command.Empty className="px-2.5 py-4 text-soft">
            {busy ? 'Looking …' : 'Nothing by that name.'}
          </Command.Empty>
          {groups.map(([heading, of]) => (
            <FinderGroup key={heading} heading={heading} hits={of} go={go} />
          ))}
        </Command.List>
      </Command>
    </FinderBox>
  );
}

function FinderGroup({ heading, hits, go }: { heading: string; hits: Hit[]; go: (hit: Hit) => void }) {
  return (
    <Command.Group
      heading={heading}
      className={clsx(
        '[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2',
        '[&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-soft',
      )}
    >
      {hits.map((hit) => (
        <Command.Item
          key={hit.key}
          value={hit.key}
          className="cursor-pointer rounded px-2.5 py-2 data-[selected=true]:bg-faint"
          onSelect={() => go(hit)}
        >
          {hit.text} {hit.beside && <span className="text-soft">· {hit.beside}</span>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

function FinderBox({
  onClose,
  onKeyDown,
  children,
}: {
  onClose: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  children: ReactNode;
}) {
  const cameFrom = useCameFrom(true);
  return (
    <RadixDialog.Root
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
    >
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <RadixDialog.Content
          aria-describedby={undefined}
          onKeyDown={onKeyDown}
          {...cameFrom}
          className={clsx(
            'fixed left-1/2 top-[12vh] z-50 w-[600px] max-w-[94vw] -translate-x-1/2',
            'rounded-lg border border-rule bg-sheet p-2 shadow-2xl',
          )}
        >
          <RadixDialog.Title className="sr-only">Find</RadixDialog.Title>
          {children}
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
