import { expect } from 'chai';
import { upcastType } from './pastTypes.ts';

const past = (more: object): object => ({
  id: 'X',
  maker: 'M',
  nominalV: 12,
  cells: 6,
  capacityAh: 9,
  hourRate: 10,
  positivePost: 'left',
  label: { ceilingV: 14.6 },
  sheet: {},
  ...more,
});

describe('types as files had them before', () => {
  for (const [kind, cranking, construction, duty, delivery] of [
    ['agm-dry-charged', { amps: 130, standard: 'EN' }, 'agm', 'starter', 'own-pack'],
    ['agm-activated', undefined, 'agm', 'standby', 'factory-activated'],
    ['flooded-dry-charged', { amps: 640, standard: 'EN' }, 'flooded', 'starter', 'bulk-acid'],
    ['flooded-dry-charged', undefined, 'flooded', 'deep-cycle', 'bulk-acid'],
    ['lithium', undefined, 'lithium', 'standby', 'in-service'],
  ] as const)
    it(`“${kind}” ${cranking ? 'with' : 'without'} a rating is ${construction}, ${duty}, ${delivery}; nothing else is lost`, () => {
      const upcast = upcastType(past({ kind, ...(cranking ? { cranking } : {}) }));
      expect(upcast).to.deep.equal({
        ...Object.fromEntries(Object.entries(past({})).filter(([name]) => name !== 'nominalV')),
        ...(cranking ? { cranking } : {}),
        construction,
        duty,
        delivery,
      });
      expect(upcastType(upcast)).to.equal(upcast);
    });

  it('what is no type of then comes back as it is, for the schema to judge', () => {
    for (const other of [undefined, null, 7, [], {}, past({ kind: 'nuclear' }), { kind: 3 }])
      expect(upcastType(other)).to.equal(other);
  });
});
