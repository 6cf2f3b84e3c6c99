import { PLAIN_REGION } from '../units/region.ts';
import { expect } from 'chai';
import { USUAL_COSTS } from '../advice/worth.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { CHARGERS } from '../charge/chargers.ts';
import { STANDARD_RULES } from '../rules/houseRules.ts';
import type { Shop } from './answers.ts';
import { wordsOfChange } from './shopWords.ts';

const day: readonly [number, number] = [450, 1080];
const SHOP: Shop = {
  version: 1,
  tagLetters: 'SK',
  stores: [],
  name: 'Loft',
  hours: { timeZone: 'Etc/UTC', week: [null, day, day, day, day, day, null] },
  bays: [{ number: 1, charger: 'supply' }],
  chargers: CHARGERS,
  room: { volumeM3: 40, pricePerKwh: 0.3 },
  costs: USUAL_COSTS,
  region: PLAIN_REGION,
  handInstruments: {},
  people: ['Ines', 'Tarek'],
  rules: STANDARD_RULES,
};
const types = CATALOGUE;
const words = (shop: Partial<Shop>, next = types): string[] =>
  wordsOfChange({ shop: SHOP, types }, { shop: { ...SHOP, ...shop }, types: next });

describe('a change of the shop in words', () => {
  for (const [what, change, expected] of [
    [
      'a rule',
      { rules: { ...STANDARD_RULES, soak: 'm60' } },
      'Soak after the pack is off: 60 min (was 120 min)',
    ],
    ['the name', { name: 'Skerry Loft' }, 'Name: Skerry Loft (was Loft)'],
    ['the room', { room: { volumeM3: 60, pricePerKwh: 0.3 } }, 'Room: 60 m³ (was 40)'],
    [
      'the price',
      { room: { volumeM3: 40, pricePerKwh: 0.25 } },
      'A kilowatt-hour: 0.25\u00a0¤ (was 0.3\u00a0¤)',
    ],
    [
      'an hour of hands',
      { costs: { ...USUAL_COSTS, handsPerHour: 40 } },
      'An hour of hands: 40\u00a0¤ (was 30\u00a0¤)',
    ],
    [
      'what a grade brings',
      { costs: { ...USUAL_COSTS, resale: { ...USUAL_COSTS.resale, B: 0.25 } } },
      'Grade B brings, of new: 0.25 (was 0.3)',
    ],
    ['somebody new', { people: ['Ines', 'Tarek', 'Odd'] }, 'Odd works here now'],
    ['somebody gone', { people: ['Ines'] }, 'Tarek works here no more'],
    [
      'a day that opens',
      { hours: { ...SHOP.hours, week: [null, day, day, day, day, day, [540, 780]] } },
      'Saturday: 09:00–13:00 (was closed)',
    ],
    [
      'a day that closes',
      { hours: { ...SHOP.hours, week: [null, null, day, day, day, day, null] } },
      'Monday: closed (was 07:30–18:00)',
    ],
    ['a charger gone', { chargers: CHARGERS.slice(1) }, `Charger ${CHARGERS[0]?.name ?? ''} removed`],
  ] as const)
    it(`${what}: one line, what it is and what it was`, () => {
      expect(words(change)).to.deep.equal([expected]);
    });

  it('nothing when nothing differs', () => {
    expect(words({})).to.deep.equal([]);
    expect(words({ people: ['Tarek', 'Ines'] })).to.deep.equal([]);
  });

  describe('of a type', () => {
    const changed = (more: Partial<(typeof types)[number]>): string[] =>
      words(
        {},
        types.map((type) => (type.id === 'LW-A12/9' ? { ...type, ...more } : type)),
      );

    it('each printed value has its own line, with its unit and what it was', () => {
      const type = types.find(({ id }) => id === 'LW-A12/9');
      expect(changed({ sheet: { soakMin: 90, packDwellMin: 40 } })).to.have.members([
        'Type LW-A12/9, sheet: soak 90 min (was none)',
        'Type LW-A12/9, sheet: pack stays on 40 min (was none)',
      ]);
      const { chargeCurrentA: was = 0 } = type?.label ?? {};
      expect(changed({ label: { ...type?.label, chargeCurrentA: 1.1 } })).to.deep.equal([
        `Type LW-A12/9, label: charge current 1.1 A (was ${was === 0 ? 'none' : `${was} A`})`,
      ]);
    });

    it('anything else that changes is one line; come and gone have theirs', () => {
      expect(changed({ capacityAh: 10 })).to.deep.equal(['Type LW-A12/9 changed']);
      expect(words({}, types.slice(1))).to.deep.equal([`Type ${types[0]?.id ?? ''} removed`]);
    });
  });
});
