/** What runs low, where it is noticed in time: before a battery is taken in, and at the bench. */
import { PackageMinus } from 'lucide-react';
import { Link } from 'react-router';
import { useStock } from '../api/queries.ts';

const MOST_NAMED = 3;

export function LowStock() {
  const { data } = useStock();
  const low = data?.levels.filter(({ isLow }) => isLow) ?? [];
  if (low.length === 0) return null;
  const named = low.slice(0, MOST_NAMED).map(({ name }) => name);
  const more = low.length - named.length;
  return (
    <Link
      to="/setup?part=stock"
      className="inline-flex min-h-12 items-center gap-2 px-2 font-medium text-brass-ink underline underline-offset-4"
    >
      <PackageMinus aria-hidden className="size-5 shrink-0" />
      Running low: {named.join(', ')}
      {more > 0 && ` and ${more} more`}
    </Link>
  );
}
