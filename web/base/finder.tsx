import clsx from 'clsx';
import { Command } from 'cmdk';
import { Dialog as RadixDialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { Person } from '../../contract/base/http.ts';
import { HOUSE } from '../../contract/base/roles.ts';
import type { Found } from '../../contract/overview.ts';
import { useFindQuery } from './endpoints.ts';
import { ProblemNote } from './ui.tsx';
import { useSettled } from './use-settled.ts';

const isHouse = (person: Person | null): boolean => person !== null && HOUSE.includes(person.role);
const NOTHING: Found = { tests: [], claims: [], fitments: [], parts: [], vehicles: [] };

/** Pages a person may open, by the words they are called. */
function pagesOf(person: Person | null): [string, string][] {
  return [
    ...(person ? [['/tests', 'Tests'] as [string, string]] : []),
    ...(person?.role === 'test manager' ? [['/tests/new', 'Plan a new test'] as [string, string]] : []),
    ...(isHouse(person)
      ? ([
          ['/coverage', 'Coverage'],
          ['/schedule', 'Schedule'],
          ['/claims', 'Claims'],
          ['/register/fitments', 'Register: fitments'],
          ['/register/vehicles', 'Register: vehicles'],
          ['/register/parts', 'Register: parts'],
          ['/register/applications', 'Register: applications'],
          ['/register/calibrations', 'Register: calibrations'],
          ['/register/dynos', 'Register: dynos'],
        ] as [string, string][])
      : []),
    ['/catalogue', 'Catalogue'],
  ];
}

interface Hit {
  readonly to: string;
  readonly text: string;
  readonly beside?: string;
}
/** What was found, under the heading of its kind. */
const groupsOf = (found: Found): [string, Hit[]][] => [
  [
    'Tests',
    found.tests.map((t) => ({ to: `/tests/${t.id}`, text: `${t.number} · ${t.title}`, beside: t.vehicle })),
  ],
  [
    'Claims',
    found.claims.map((c) => ({
      to: `/claims/${c.id}`,
      text: c.wording,
      beside: `${c.state} · ${c.testTitle}`,
    })),
  ],
  ['Fitments', found.fitments.map((f) => ({ to: `/register/fitments/${f.id}`, text: f.name }))],
  ['Parts', found.parts.map((p) => ({ to: `/register/parts/${p.id}`, text: p.name, beside: p.sku }))],
  [
    'Vehicles',
    found.vehicles.map((v) => ({ to: `/register/vehicles/${v.id}`, text: v.tag, beside: v.fitment })),
  ],
];

/** Finds a test, a claim, a fitment, a part, a vehicle or a page by words; the server looks through all of them. */
export function Finder({ person, onClose }: { person: Person | null; onClose: () => void }) {
  const navigate = useNavigate();
  const [words, setWords] = useState('');
  const settled = useSettled(words.trim(), 150);
  const {
    currentData: found = NOTHING,
    isFetching,
    error,
    refetch,
  } = useFindQuery(settled, { skip: !person });
  const go = (to: string): void => {
    onClose();
    void navigate(to);
  };
  const asked = words.trim().toLowerCase().split(/\s+/);
  const pages = pagesOf(person).filter(([, name]) => asked.every((w) => name.toLowerCase().includes(w)));
  const groups: [string, Hit[]][] = [
    ['Pages', pages.map(([to, text]) => ({ to, text }))],
    ...groupsOf(found),
  ];
  return (
    <FinderBox onClose={onClose}>
      {/* The server has chosen already. */}
      <Command label="Find" shouldFilter={false}>
        <Command.Input
          autoFocus
          value={words}
          onValueChange={setWords}
          placeholder="A test, a claim, a fitment, a part, a page …"
          className="w-full border-b border-rule bg-transparent px-2.5 py-2.5 text-[15px] outline-none placeholder:text-soft"
        />
        <ProblemNote error={error} again={() => void refetch()} />
        <Command.List className="max-h-[50vh] overflow-auto pb-1">
          <Command.Empty className="px-2.5 py-4 text-soft">
            {isFetching || settled !== words.trim() ? 'Looking …' : 'Nothing by that name.'}
          </Command.Empty>
          {groups.map(([heading, hits]) =>
            hits.length === 0 ? null : <FinderGroup key={heading} heading={heading} hits={hits} go={go} />,
          )}
        </Command.List>
      </Command>
    </FinderBox>
  );
}

function FinderGroup({ heading, hits, go }: { heading: string; hits: Hit[]; go: (to: string) => void }) {
  return (
    <Command.Group
      heading={heading}
      className={clsx(
        '[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2',
        '[&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-soft',
      )}
    >
      {hits.map(({ to, text, beside }) => (
        <Command.Item
          key={to}
          value={to}
          className="cursor-pointer rounded px-2.5 py-2 data-[selected=true]:bg-faint"
          onSelect={() => go(to)}
        >
          {text} {beside && <span className="text-soft">· {beside}</span>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

function FinderBox({ onClose, children }: { onClose: () => void; children: ReactNode }) {
  return (
    <RadixDialog.Root
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
    >
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <RadixDialog.Content
          aria-describedby={undefined}
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
