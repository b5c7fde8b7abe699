import clsx from 'clsx';
import { ChevronDown, Search } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { lazy, Suspense, useEffect, useState, type ReactNode } from 'react';
import { Link, NavLink, Outlet, useNavigate } from 'react-router';
import { HOUSE, OVERSEE } from '../../contract/base/roles.ts';
import type { Person } from '../../contract/base/http.ts';
import { useArriving } from './arriving.ts';
import { api, useChooseMutation, useSessionQuery, useSignOutMutation } from './api.ts';
import { Finder } from './finder.tsx';
import { useAccountUnits } from './account-units.ts';
import { CHOICES, preferred, unitsOf, type Preferences } from './preferences.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { Dialog, Kbd } from './ui.tsx';
import { LeaveGuard } from './leave-guard.tsx';

// Fetched when it is opened: readers of the catalogue never need its form.
const PasswordDialog = lazy(async () => ({
  default: (await import('./password-dialog.tsx')).PasswordDialog,
}));

const SignInAgain = lazy(async () => ({ default: (await import('./sign-in-again.tsx')).SignInAgain }));

const isHouse = (person: Person | null | undefined): boolean =>
  person !== null && person !== undefined && HOUSE.includes(person.role);

/** Frame of every page: where one can go, units, who is signed in. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function Shell() {
  const { data: session } = useSessionQuery();
  const [finding, setFinding] = useState(false);
  const [showKeys, setShowKeys] = useState(false);
  const [changing, setChanging] = useState(false);
  const person = session?.person;
  const { keys } = useAppSelector((state) => state.preferences);
  const hasEnded = useAppSelector((state) => state.sessionEnded);
  useArriving();
  useAccountUnits(person?.id);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (
        event.metaKey ||
        event.ctrlKey ||
        event.altKey ||
        keys === 'off' ||
        // Behind a dialog nothing is to happen.
        document.querySelector('[role=dialog], [role=alertdialog]') !== null ||
        target.isContentEditable ||
        ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)
      )
        return;
      if (event.key === '/') {
        event.preventDefault();
        setFinding(true);
      }
      if (event.key === '?') {
        event.preventDefault();
        setShowKeys(true);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [keys]);
  return (
    <div className="grid min-h-screen grid-cols-[minmax(0,1fr)] grid-rows-[auto_1fr]">
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2"
      >
        Skip to the work
      </a>
      <header className="flex min-h-11 flex-wrap items-center gap-x-5 border-b border-rule bg-sheet px-5 max-sm:px-3">
        <Link
          to={person ? '/tests' : '/catalogue'}
          className="font-display text-[17px] font-semibold no-underline"
        >
          Evidentia
        </Link>
        <nav aria-label="Main" className="flex flex-wrap gap-x-5 max-lg:order-last max-lg:w-full">
          {isHouse(person) && <Tab to="/coverage">Coverage</Tab>}
          {person && <Tab to="/tests">Tests</Tab>}
          {isHouse(person) && <Tab to="/schedule">Schedule</Tab>}
          {isHouse(person) && <Tab to="/claims">Claims</Tab>}
          <Tab to="/catalogue">Catalogue</Tab>
          {isHouse(person) && <Tab to="/register">Register</Tab>}
        </nav>
        <div className="ml-auto flex flex-wrap items-center gap-x-4 py-1 text-soft">
          <UnitsMenu isSignedIn={Boolean(person)} />
          <button
            type="button"
            onClick={() => setFinding(true)}
            className="flex items-center gap-1.5 hover:text-ink"
          >
            <Search size={14} aria-hidden />
            Find {keys === 'on' && <Kbd>/</Kbd>}
          </button>
          {person ? (
            <PersonMenu
              person={person}
              onKeys={() => setShowKeys(true)}
              onPassword={() => setChanging(true)}
            />
          ) : (
            <Link to="/sign-in" className="font-medium text-ink">
              Sign in
            </Link>
          )}
        </div>
      </header>
      <div id="work" tabIndex={-1} className="min-w-0 outline-none">
        <Outlet />
      </div>
      {finding && <Finder person={person ?? null} onClose={() => setFinding(false)} />}
      {hasEnded && person && (
        <Suspense>
          <SignInAgain person={person} demo={session?.demo === true} />
        </Suspense>
      )}
      {changing && (
        <Suspense>
          <PasswordDialog demo={session?.demo === true} onClose={() => setChanging(false)} />
        </Suspense>
      )}
      <LeaveGuard />
      <Dialog open={showKeys} onClose={() => setShowKeys(false)} title="Keys">
        <dl className="grid grid-cols-[90px_1fr] gap-y-2">
          {(
            [
              ['/', 'Find a test, claim or page'],
              ['?', 'This list'],
              ['← →', 'Read the gain curve point by point, when it has the focus'],
              ['Page ↑ ↓', 'The same in steps of ten'],
              ['Enter', 'In the air table: go to the reading below'],
              [
                '← → ↑ ↓',
                'In coverage and applications: from cell to cell; in the schedule: move a session by a day or a quarter of an hour',
              ],
              ['Space', 'In a plan’s run order: take a run up and put it down; arrow keys move it'],
              ['Esc', 'Close what is open'],
            ] as const
          ).map(([key, what]) => (
            <div key={key} className="contents">
              <dt>
                <Kbd>{key}</Kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
    </div>
  );
}

const Tab = ({ to, children }: { to: string; children: ReactNode }) => (
  <NavLink
    to={to}
    className={({ isActive }) =>
      clsx(
        'py-[11px] no-underline max-lg:py-2',
        isActive ? 'border-b-2 border-ink font-semibold text-ink' : 'text-soft hover:text-ink',
      )
    }
  >
    {children}
  </NavLink>
);

const menuItem =
  'flex w-full cursor-pointer items-center gap-2 rounded px-2 py-1.5 text-ink ' +
  'outline-none data-[highlighted]:bg-faint data-[state=checked]:font-semibold';
const menuBox = 'z-40 min-w-44 rounded-md border border-rule bg-sheet p-1.5 shadow-xl';
const KIND_NAMES: Record<keyof Preferences, string> = {
  power: 'Power',
  torque: 'Torque',
  temperature: 'Temperature',
  pressure: 'Pressure',
  theme: 'Light',
  keys: 'Single keys: / and ?',
};
const THEME_NAMES = { paper: 'paper (office)', cell: 'dark (dyno cell)' } as const;

function UnitsMenu({ isSignedIn }: { isSignedIn: boolean }) {
  const chosen = useAppSelector((state) => state.preferences);
  const dispatch = useAppDispatch();
  const [keep] = useChooseMutation();
  const choose = (kind: keyof Preferences, value: string): void => {
    const change = { [kind]: value };
    dispatch(preferred(change));
    if (isSignedIn && kind !== 'theme')
      void keep({ name: 'units', value: { ...unitsOf(chosen), ...change } });
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger aria-label="Units and light" className="flex items-center gap-1 hover:text-ink">
        {chosen.power} · {chosen.torque} <ChevronDown size={13} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={8} className={menuBox}>
          {(Object.keys(CHOICES) as (keyof Preferences)[]).map((kind) => (
            <DropdownMenu.RadioGroup
              key={kind}
              value={chosen[kind]}
              onValueChange={(value) => choose(kind, value)}
              className="border-b border-rule py-1 last:border-0"
            >
              <DropdownMenu.Label className="px-2 text-[12px] text-soft">
                {KIND_NAMES[kind]}
              </DropdownMenu.Label>
              <div className={kind === 'theme' ? 'grid' : 'flex'}>
                {CHOICES[kind].map((option) => (
                  <DropdownMenu.RadioItem
                    key={option}
                    value={option}
                    onSelect={(event) => event.preventDefault()}
                    className={menuItem}
                  >
                    <span aria-hidden className="w-2 text-[9px]">
                      {chosen[kind] === option ? '●' : ''}
                    </span>
                    {kind === 'theme' ? THEME_NAMES[option as Preferences['theme']] : option}
                  </DropdownMenu.RadioItem>
                ))}
              </div>
            </DropdownMenu.RadioGroup>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function PersonMenu({
  person,
  onKeys,
  onPassword,
}: {
  person: Person;
  onKeys: () => void;
  onPassword: () => void;
}) {
  const [signOut] = useSignOutMutation();
  const { keys } = useAppSelector((state) => state.preferences);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const leave = async (): Promise<void> => {
    await signOut();
    dispatch(api.util.resetApiState());
    void navigate('/sign-in');
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        className="flex items-center gap-1 text-ink"
        aria-label={`${person.name}, ${person.role}`}
      >
        {person.name.split(',')[0]} <span className="text-soft max-sm:hidden">· {person.role}</span>
        <ChevronDown size={13} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={8} className={menuBox}>
          <DropdownMenu.Item className={menuItem} onSelect={onKeys}>
            Keys {keys === 'on' && <Kbd>?</Kbd>}
          </DropdownMenu.Item>
          {OVERSEE.includes(person.role) && (
            <DropdownMenu.Item className={menuItem} onSelect={() => void navigate('/trail')}>
              Audit trail
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item className={menuItem} onSelect={onPassword}>
            Change password
          </DropdownMenu.Item>
          <DropdownMenu.Item className={menuItem} onSelect={() => void leave()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
