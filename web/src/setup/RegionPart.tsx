/** How figures are written, under Setup; the page is loaded anew in what was chosen. */
import { useState } from 'react';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { RegionFields } from './RegionFields.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';

export function RegionPart({ shop }: { shop: Pick<Shop, 'region'> }) {
  const [region, setRegion] = useState(shop.region);
  const change = useShopChange(() => window.location.reload());
  return (
    <div>
      <p className="mb-4 max-w-prose text-soft">
        On every screen, paper and file, and so figures are typed. The record keeps SI units whatever is
        chosen: a change rewrites nothing.
      </p>
      <RegionFields region={region} onChange={setRegion} />
      {JSON.stringify(region) !== JSON.stringify(shop.region) && (
        <WhyBar
          summary="How figures are written changed."
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, region })}
          onDrop={() => setRegion(shop.region)}
        />
      )}
    </div>
  );
}
