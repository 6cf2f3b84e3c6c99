/** What hands, bays and batteries cost and bring here: whether a way back is worth it is reckoned with these. */
import { MONEY } from '@cork-ember/core/units/localise.ts';
import { useState } from 'react';
import { COST_WORDS, costAt, isShare, withCost } from '@cork-ember/core/advice/worth.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';
import { card } from '../ui/card.ts';

const GROUPS = [
  { title: 'What work takes', paths: ['handsPerHour', 'bayPerDay', 'waterPerL', 'consumables'] },
  { title: 'A new one, and a core', paths: ['newBase', 'newPerAh.flooded', 'newPerAh.agm', 'corePerAh'] },
  { title: 'Recovered and sold, of new (0 to 1)', paths: ['resale.A', 'resale.B', 'resale.C'] },
  {
    title: 'Recovered for its owner (0 to 1)',
    paths: ['lifeLeft.A', 'lifeLeft.B', 'lifeLeft.C', 'fee'],
  },
] as const;

export function CostsPart({ shop }: { shop: Pick<Shop, 'costs'> }) {
  const [costs, setCosts] = useState(shop.costs);
  const change = useShopChange();
  const isChanged = JSON.stringify(costs) !== JSON.stringify(shop.costs);
  return (
    <div>
      <p className="max-w-prose text-soft">
        In the shop’s own money, ¤. Energy is priced with the room, under Chargers and bays. These weigh the
        ways back against each other; they never open one that safety or a rule forbids.
      </p>
      <div className="mt-4 grid max-w-4xl gap-6 md:grid-cols-2">
        {GROUPS.map(({ title, paths }) => (
          <fieldset key={title} className={card({ pad: 'wide' })}>
            <legend className="px-1 font-bold">{title}</legend>
            <div className="space-y-3">
              {COST_WORDS.filter(({ path }) => (paths as readonly string[]).includes(path)).map(
                ({ path, label }) => (
                  <NumberField
                    key={path}
                    label={label}
                    unit={isShare(path) ? '' : MONEY}
                    value={costAt(costs, path)}
                    onChange={(value) => setCosts(withCost(costs, path, value ?? Number.NaN))}
                  />
                ),
              )}
            </div>
          </fieldset>
        ))}
      </div>
      {isChanged && (
        <WhyBar
          summary="Costs changed."
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, costs })}
          onDrop={() => setCosts(shop.costs)}
        />
      )}
    </div>
  );
}
