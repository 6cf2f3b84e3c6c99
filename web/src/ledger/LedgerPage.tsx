/** The ledger: every battery the shop has had, which ways brought them back, and which belong together. */
import { NavLink, useParams } from 'react-router';
import { useShop } from '../api/queries.ts';
import { Waiting } from '../ui/Waiting.tsx';
import { BatteriesPart } from './BatteriesPart.tsx';
import { SetsPart } from './SetsPart.tsx';
import { ShopsPart } from './ShopsPart.tsx';
import { WaysPart } from './WaysPart.tsx';
import { Title } from '../ui/Title.tsx';

const PARTS = [
  { to: '/ledger', name: 'Batteries' },
  { to: '/ledger/ways', name: 'Ways that worked' },
  { to: '/ledger/sets', name: 'Sets' },
  { to: '/ledger/shops', name: 'Shops' },
] as const;

export function LedgerPage() {
  const { part } = useParams();
  const { data: shop, error, refetch } = useShop();
  if (!shop) return <Waiting on={[{ data: shop, error, refetch }]} />;
  return (
    <div className="p-5" data-scans="">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <Title>Ledger</Title>
        <nav aria-label="Parts of the ledger" className="print:hidden flex flex-wrap gap-1">
          {PARTS.map(({ to, name }) => (
            <NavLink
              key={to}
              to={to}
              end
              className={({ isActive }) =>
                `inline-flex min-h-12 items-center border-b-4 px-3 font-medium ${isActive ? 'border-cork' : 'border-transparent text-soft hover:text-char'}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
      </div>
      <div className="mt-3">
        {part === 'ways' ? (
          <WaysPart />
        ) : part === 'sets' ? (
          <SetsPart />
        ) : part === 'shops' ? (
          <ShopsPart shop={shop} />
        ) : (
          <BatteriesPart timeZone={shop.hours.timeZone} />
        )}
      </div>
    </div>
  );
}
