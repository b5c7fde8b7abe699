import { Link } from 'react-router';
import type { PartInput } from '../../contract/register/register.ts';
import { likePart } from '../../core/register/near-parts.ts';
import { usePartsInfiniteQuery } from './api.ts';

/** The maker may be written in another way; its first word finds it. */
const firstWord = (maker: string): string => maker.trim().split(/\s+/)[0];

/** Told before a part is added: what the register has of its maker that is called nearly alike. */
export function LikeParts({ part: { maker, category, name } }: { part: PartInput }) {
  const { data } = usePartsInfiniteQuery({ q: firstWord(maker), category });
  const like = (data?.pages.flatMap((page) => page.items) ?? []).filter((other) =>
    likePart({ ...other, partName: other.name }, { maker, category, partName: name }),
  );
  if (like.length === 0) return null;
  return (
    <aside aria-label="Parts like it" className="mb-4 border-l-4 border-ask px-3 py-1.5">
      <p>
        {maker} has{' '}
        {like.map((other, i) => (
          <span key={other.id}>
            {i > 0 && ', '}
            <Link to={`/register/parts/${other.id}`}>
              {other.name} ({other.sku})
            </Link>
          </span>
        ))}{' '}
        in the register.
      </p>
      <p className="text-soft">
        If this is the same thing, give that one a new revision. Tests of parts called alike are shown to
        whoever reviews a claim.
      </p>
    </aside>
  );
}
