/** The menus of the frame: how one reads, and what one may do with oneself. */
import clsx from 'clsx';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useNavigate } from 'react-router';
import type { Person } from '../../contract/base/http.ts';
import { OVERSEE } from '../../contract/base/roles.ts';
import { CHOICES, type Preferences } from './preferences.ts';
import { useAppSelector } from './store.ts';
import { menuButton } from './menu-on-demand.tsx';
import { Kbd } from './ui.tsx';

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

export function UnitsMenu({ onPrefer }: { onPrefer: (kind: keyof Preferences, value: string) => void }) {
  const chosen = useAppSelector((state) => state.preferences);
  return (
    <DropdownMenu.Root modal={false} defaultOpen>
      <DropdownMenu.Trigger aria-label="Units and light" className={menuButton}>
        {chosen.power} · {chosen.torque} <ChevronDown size={13} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={8} className={menuBox}>
          {(Object.keys(CHOICES) as (keyof Preferences)[]).map((kind) => (
            <DropdownMenu.RadioGroup
              key={kind}
              value={chosen[kind]}
              onValueChange={(value) => onPrefer(kind, value)}
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

export function PersonMenu({
  person,
  onKeys,
  onPassword,
  onSignOut,
}: {
  person: Person;
  onKeys: () => void;
  onPassword: () => void;
  onSignOut: () => void;
}) {
  const { keys } = useAppSelector((state) => state.preferences);
  const navigate = useNavigate();
  return (
    <DropdownMenu.Root modal={false} defaultOpen>
      <DropdownMenu.Trigger
        className={clsx(menuButton, 'text-ink')}
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
          <DropdownMenu.Item className={menuItem} onSelect={onSignOut}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
