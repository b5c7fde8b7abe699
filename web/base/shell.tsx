import clsx from 'clsx';
import { ChevronDown, Search } from 'lucide-react';
import { MenuOnDemand, menuButton } from './menu-on-demand.tsx';
import { lazy, Suspense, useEffect, useState, type ReactNode } from 'react';
import { Link, NavLink, Outlet, useMatch } from 'react-router';
import { HOUSE, SHELF } from '../../contract/base/roles.ts';
import type { Person } from '../../contract/base/http.ts';
import { useArriving } from './arriving.ts';
import { useSessionQuery } from './api.ts';
import { useDeeds } from './deeds.ts';
import { useAccountUnits } from './account-units.ts';
import { useAppSelector } from './store.ts';
import { Kbd } from './ui.tsx';
import { LeaveGuard } from './leave-guard.tsx';

// Fetched when it is opened: readers of the catalogue never need its form.
const PasswordDialog = lazy(async () => ({
  default: (await import('./password-dialog.tsx')).PasswordDialog,
}));

const KeysDialog = lazy(async () => ({ default: (await import('./keys-dialog.tsx')).KeysDialog }));
const finder = () => import('./finder.tsx');
const Finder = lazy(async () => ({ default: (await finder()).Finder }));
const menus = () => import('./menus.tsx');
const UnitsMenu = lazy(async () => ({ default: (await menus()).UnitsMenu }));
const PersonMenu = lazy(async () => ({ default: (await menus()).PersonMenu }));
const Toaster = lazy(async () => ({ default: (await import('sonner')).Toaster }));
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
  const preferences = useAppSelector((state) => state.preferences);
  const { keys } = preferences;
  // The screen beside the dyno has a head of its own, and room for nothing else.
  const isBare = useMatch('/tests/:testId/bench') !== null;
  const hasEnded = useAppSelector((state) => state.sessionEnded);
  useArriving();
  useAccountUnits(person?.id);
  // There before it is asked for: who types at once loses no letter.
  useEffect(() => {
    if (person) void finder();
  }, [person]);
  const deeds = useDeeds({
    isSignedIn: Boolean(person),
    showKeys: () => setShowKeys(true),
    changePassword: () => setChanging(true),
  });
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
      <header
        hidden={isBare}
        className="flex min-h-11 flex-wrap items-center gap-x-5 border-b border-rule bg-sheet px-5 max-sm:px-3"
      >
        <Link
          to={person ? '/today' : '/catalogue'}
          className="font-display text-[17px] font-semibold no-underline"
        >
          Evidentia
        </Link>
        <nav aria-label="Main" className="flex flex-wrap gap-x-5 max-lg:order-last max-lg:w-full">
          {person && <Tab to="/today">Today</Tab>}
          {isHouse(person) && <Tab to="/coverage">Coverage</Tab>}
          {person && <Tab to="/tests">Tests</Tab>}
          {isHouse(person) && <Tab to="/schedule">Schedule</Tab>}
          {isHouse(person) && <Tab to="/claims">Claims</Tab>}
          <Tab to="/catalogue">Catalogue</Tab>
          {person && SHELF.includes(person.role) && <Tab to="/shelf">To take over</Tab>}
          {isHouse(person) && <Tab to="/register">Register</Tab>}
        </nav>
        <div className="ml-auto flex flex-wrap items-center gap-x-4 py-1 text-soft">
          <MenuOnDemand
            name="Units and light"
            face={
              <>
                {preferences.power} · {preferences.torque} <ChevronDown size={13} aria-hidden />
              </>
            }
            fetch={menus}
          >
            <UnitsMenu onPrefer={deeds.prefer} />
          </MenuOnDemand>
          <button
            type="button"
            onClick={() => setFinding(true)}
            className="flex items-center gap-1.5 hover:text-ink"
          >
            <Search size={14} aria-hidden />
            Find {keys === 'on' && <Kbd>/</Kbd>}
          </button>
          {person ? (
            <MenuOnDemand
              key={person.id}
              name={`${person.name}, ${person.role}`}
              className={`${menuButton} text-ink`}
              face={
                <>
                  {person.name.split(',')[0]} <span className="text-soft max-sm:hidden">· {person.role}</span>
                  <ChevronDown size={13} aria-hidden />
                </>
              }
              fetch={menus}
            >
              <PersonMenu
                person={person}
                onKeys={deeds.showKeys}
                onPassword={deeds.changePassword}
                onSignOut={deeds.signOut}
              />
            </MenuOnDemand>
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
      {finding && (
        <Suspense>
          <Finder person={person ?? null} deeds={deeds} onClose={() => setFinding(false)} />
        </Suspense>
      )}
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
      {/* Who only reads is told nothing in passing. */}
      {person && (
        <Suspense>
          <Toaster position="bottom-right" toastOptions={{ classNames: { toast: 'font-sans!' } }} />
        </Suspense>
      )}
      {showKeys && (
        <Suspense>
          <KeysDialog onClose={() => setShowKeys(false)} />
        </Suspense>
      )}
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
