import clsx from 'clsx';
import { Bookmark, ChevronDown, X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { KeptView, type KeptList } from '../../contract/base/choices.ts';
import { problemOf, useChoicesQuery, useChooseMutation, useSessionQuery } from './api.ts';
import { RecordForm } from './record-form.tsx';
import { Dialog } from './dialog.tsx';

const NameOnly = KeptView.pick({ name: true });

/** Views of a list kept under a name, with the account: words, filter and order as the address has them. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function KeptViews({ list, search }: { list: KeptList; search: string }) {
  const { data: session } = useSessionQuery();
  const isSignedIn = Boolean(session?.person);
  const { data: chosen } = useChoicesQuery(undefined, { skip: !isSignedIn });
  const [choose, { isLoading, error }] = useChooseMutation();
  const [naming, setNaming] = useState(false);
  if (!isSignedIn || !chosen) return null;
  const all = chosen.views ?? [];
  const own = all.filter((v) => v.list === list);
  const keep = async (views: KeptView[]): Promise<boolean> => {
    const answer = await choose({ name: 'views', value: views });
    if ('error' in answer) toast.error(problemOf(answer.error).message);
    return !('error' in answer);
  };
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          className={clsx(
            'inline-flex min-h-7 items-center gap-1.5',
            'rounded-md border border-rule bg-sheet px-2.5 py-1 hover:border-ink',
          )}
        >
          <Bookmark size={13} aria-hidden />
          Views <ChevronDown size={13} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-40 min-w-52 rounded-md border border-rule bg-sheet p-1.5 shadow-xl"
          >
            {own.map((view) => (
              <div key={view.name} className="flex items-center">
                <DropdownMenu.Item
                  asChild
                  className="min-w-0 grow rounded px-2 py-1.5 no-underline outline-none data-[highlighted]:bg-faint"
                >
                  <Link to={{ search: view.search }}>{view.name}</Link>
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  aria-label={`Forget the view ${view.name}`}
                  className="cursor-pointer rounded p-1.5 text-soft outline-none data-[highlighted]:bg-faint"
                  onSelect={() => void keep(all.filter((v) => v !== view))}
                >
                  <X size={13} aria-hidden />
                </DropdownMenu.Item>
              </div>
            ))}
            {own.length === 0 && <p className="px-2 py-1.5 text-soft">None kept yet.</p>}
            <DropdownMenu.Item
              className="cursor-pointer rounded border-t border-rule px-2 py-1.5 outline-none data-[highlighted]:bg-faint"
              onSelect={() => setNaming(true)}
            >
              Keep this view …
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog open={naming} onClose={() => setNaming(false)} title="Keep this view">
        <RecordForm
          schema={NameOnly}
          values={{ name: '' }}
          groups={[
            {
              title: '',
              fields: [
                {
                  name: 'name',
                  label: 'Name',
                  kind: 'text',
                  span: 12,
                  hint: 'Words, filter and order as they are now; a view of that name is replaced.',
                },
              ],
            },
          ]}
          saving={isLoading}
          problem={error}
          verb="Keep it"
          onCancel={() => setNaming(false)}
          save={async ({ name }) => {
            const others = all.filter((v) => v.list !== list || v.name !== name);
            if (!(await keep([...others, { list, name, search }]))) return false;
            setNaming(false);
            toast.success(`Kept as “${name}”.`);
            return true;
          }}
        />
      </Dialog>
    </>
  );
}
