import { Suspense, useState, type ReactNode } from 'react';

export const menuButton = 'flex min-h-6 items-center gap-1 hover:text-ink';

/**
 * A menu whose code is fetched when somebody goes for it; until then a button that looks like it. Opens at once when it
 * has come.
 */
export function MenuOnDemand({
  name,
  face,
  className,
  fetch,
  children,
}: {
  name: string;
  face: ReactNode;
  className?: string;
  /** Begins to fetch. */ fetch: () => unknown;
  /** The menu, open. */ children: ReactNode;
}) {
  const [wanted, setWanted] = useState(false);
  const button = (
    <button
      type="button"
      aria-label={name}
      aria-haspopup="menu"
      aria-expanded={false}
      className={className ?? menuButton}
      onPointerEnter={() => void fetch()}
      onFocus={() => void fetch()}
      onClick={() => setWanted(true)}
    >
      {face}
    </button>
  );
  return wanted ? <Suspense fallback={button}>{children}</Suspense> : button;
}
