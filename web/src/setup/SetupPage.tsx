/** Setup: how this shop works. Every change says who, when and why, and holds for jobs to come. */
import { Tabs } from 'radix-ui';
import { useSearchParams } from 'react-router';
import { READINGS_MONTHS } from '@cork-ember/core/devices/samples.ts';
import { USUAL_LEARNING } from '@cork-ember/core/learning/topics.ts';
import { leadsOf, useMay, useSession } from '../api/session.ts';
import { useShop, useTypes } from '../api/queries.ts';
import { Waiting } from '../ui/Waiting.tsx';
import { CostsPart } from './CostsPart.tsx';
import { Held } from './Held.tsx';
import { RulesPart } from './RulesPart.tsx';
import { Title } from '../ui/Title.tsx';
import { later } from '../ui/later.tsx';

const RegionPart = later(async () => (await import('./RegionPart.tsx')).RegionPart);

const ShopPart = later(async () => (await import('./ShopPart.tsx')).ShopPart);

const ChangesPart = later(async () => (await import('./ChangesPart.tsx')).ChangesPart);

const LearningPart = later(async () => (await import('./LearningPart.tsx')).LearningPart);

const StockPart = later(async () => (await import('./StockPart.tsx')).StockPart);

const TypesPart = later(async () => (await import('./TypesPart.tsx')).TypesPart);

const PeoplePart = later(async () => (await import('./PeoplePart.tsx')).PeoplePart);

const AuditPart = later(async () => (await import('./AuditPart.tsx')).AuditPart);

const BaysPart = later(async () => (await import('./BaysPart.tsx')).BaysPart);

const DevicesPart = later(async () => (await import('./DevicesPart.tsx')).DevicesPart);

const PARTS = [
  { id: 'rules', name: 'House rules' },
  { id: 'bays', name: 'Chargers and bays' },
  { id: 'devices', name: 'Devices' },
  { id: 'shop', name: 'Shop' },
  { id: 'people', name: 'People' },
  { id: 'region', name: 'Figures and money' },
  { id: 'costs', name: 'Costs' },
  { id: 'types', name: 'Types' },
  { id: 'stock', name: 'Acid and stock' },
  { id: 'learning', name: 'Learned' },
  { id: 'changes', name: 'Record' },
  { id: 'audit', name: 'Who did what' },
] as const;

/** Parts that say themselves what whoever stands there may. */
const FOR_OTHERS: ReadonlySet<string> = new Set(['stock', 'people', 'changes', 'audit']);

export function SetupPage() {
  const [shops, listed] = [useShop(), useTypes()];
  const { data: shop } = shops;
  const { data: types } = listed;
  const [params, setParams] = useSearchParams();
  const session = useSession();
  const mayChange = useMay('changeShop');
  const leads = session ? leadsOf(session).join(', ') : '';
  const asked = params.get('part');
  const part = PARTS.some(({ id }) => id === asked) ? (asked ?? 'rules') : 'rules';
  const isShown = !mayChange && !FOR_OTHERS.has(part);
  if (!shop || !types) return <Waiting on={[shops, listed]} />;
  return (
    <div className="p-5" data-scans="">
      <Title>Setup</Title>
      <p className="mt-1 text-soft">
        {shop.name}. The maker’s label and sheet always win over what is set here.
        {session && ` Cork Ember ${session.version}.`}
      </p>
      <Tabs.Root value={part} onValueChange={(next) => setParams({ part: next }, { replace: true })}>
        <Tabs.List
          aria-label="Parts of the setup"
          className="mt-4 flex flex-wrap gap-0.5 border-b-2 border-line max-sm:grid max-sm:grid-cols-2"
        >
          {PARTS.map(({ id, name }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="-mb-0.5 min-h-12 border-b-4 border-transparent px-2 font-medium text-soft hover:text-char data-[state=active]:border-ember data-[state=active]:text-char"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {isShown && (
          <p className="pt-5 text-soft">
            This can be read here; it is changed by a lead{leads === '' ? '' : ` (${leads})`}.
          </p>
        )}
        <fieldset disabled={isShown} className="pt-5">
          <Tabs.Content value="rules">
            <Held current={shop.rules}>{(rules) => <RulesPart rules={rules} />}</Held>
          </Tabs.Content>
          <Tabs.Content value="bays">
            <Held
              current={{
                bays: shop.bays,
                chargers: shop.chargers,
                room: shop.room,
                handInstruments: shop.handInstruments,
              }}
            >
              {(held) => <BaysPart shop={held} />}
            </Held>
          </Tabs.Content>
          <Tabs.Content value="devices">
            <Held
              current={{
                devices: shop.devices ?? [],
                profiles: shop.profiles ?? [],
                alarmsTo: shop.alarmsTo ?? '',
                readingsMonths: shop.readingsMonths ?? READINGS_MONTHS,
              }}
            >
              {(held) => <DevicesPart shop={held} />}
            </Held>
          </Tabs.Content>
          <Tabs.Content value="shop">
            <Held
              current={{
                name: shop.name,
                tagLetters: shop.tagLetters,
                hours: shop.hours,
                people: shop.people,
              }}
            >
              {(held) => <ShopPart shop={held} />}
            </Held>
          </Tabs.Content>
          <Tabs.Content value="region">
            <Held current={{ region: shop.region }}>{(held) => <RegionPart shop={held} />}</Held>
          </Tabs.Content>
          <Tabs.Content value="costs">
            <Held current={{ costs: shop.costs }}>{(held) => <CostsPart shop={held} />}</Held>
          </Tabs.Content>
          <Tabs.Content value="types">
            <TypesPart types={types} timeZone={shop.hours.timeZone} />
          </Tabs.Content>
          <Tabs.Content value="stock">
            <StockPart timeZone={shop.hours.timeZone} />
          </Tabs.Content>
          <Tabs.Content value="learning">
            <Held current={{ learning: shop.learning ?? USUAL_LEARNING }}>
              {(held) => <LearningPart shop={held} />}
            </Held>
          </Tabs.Content>
          <Tabs.Content value="people">
            <PeoplePart timeZone={shop.hours.timeZone} />
          </Tabs.Content>
          <Tabs.Content value="audit">
            <AuditPart timeZone={shop.hours.timeZone} />
          </Tabs.Content>
          <Tabs.Content value="changes">
            <ChangesPart timeZone={shop.hours.timeZone} />
          </Tabs.Content>
        </fieldset>
      </Tabs.Root>
    </div>
  );
}
