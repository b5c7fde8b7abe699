import clsx from 'clsx';
import type { ReactNode } from 'react';
import { NavLink, Outlet } from 'react-router';
import { useSessionQuery } from '../base/api.ts';

const PAGES = [
  ['fitments', 'Fitments'],
  ['vehicles', 'Vehicles'],
  ['parts', 'Parts'],
  ['applications', 'Applications'],
  ['calibrations', 'Calibrations'],
  ['dynos', 'Dynos'],
  ['uses', 'Uses'],
  ['before', 'From before'],
  ['policy', 'Policy'],
] as const;

/** The register with its books; one is open at a time. */
export function RegisterLayout() {
  return (
    <div className="grid min-h-full grid-cols-[minmax(0,1fr)] max-lg:content-start lg:grid-cols-[172px_minmax(0,1fr)]">
      <nav
        aria-label="Books of the register"
        className="border-rule max-lg:border-b max-lg:px-5 max-lg:py-1.5 lg:border-r lg:py-5 lg:pl-5"
      >
        <p className="mb-2 text-[12px] text-soft max-lg:hidden">Register</p>
        <ul className="flex flex-wrap gap-x-4 gap-y-1 lg:grid">
          {PAGES.map(([path, name]) => (
            <li key={path}>
              <NavLink
                to={`/register/${path}`}
                className={({ isActive }) =>
                  clsx(
                    'block py-1 no-underline max-lg:border-b-2 lg:border-r-[3px]',
                    isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink',
                  )
                }
              >
                {name}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      <div className="min-w-0">
        <Outlet />
      </div>
    </div>
  );
}

/** What the signed-in person may do in the register. */
export function useMay(): { manage: boolean; prepare: boolean; clearance: boolean } {
  const { data } = useSessionQuery();
  const role = data?.person?.role;
  return {
    manage: role === 'test manager',
    prepare: role === 'test manager' || role === 'operator',
    clearance: data?.person?.clearance ?? false,
  };
}

export function PageHead({
  title,
  children,
  note,
}: {
  title: ReactNode;
  note?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-3">
      <div className="min-w-0">
        <h1>{title}</h1>
        {note && <p className="mt-1 text-soft">{note}</p>}
      </div>
      {children && <div className="flex flex-wrap items-center gap-2">{children}</div>}
    </div>
  );
}

/** Facts in two columns, ruled as in a ledger. */
export function Facts({ rows, wide }: { rows: readonly (readonly [string, ReactNode])[]; wide?: boolean }) {
  return (
    <dl className="border-t-[1.5px] border-ink">
      {rows.map(([term, value]) => (
        <div
          key={term}
          className={clsx(
            'grid gap-2 border-b border-rule py-1.5',
            wide ? 'grid-cols-[170px_1fr]' : 'grid-cols-[120px_1fr]',
          )}
        >
          <dt className="text-soft">{term}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}
