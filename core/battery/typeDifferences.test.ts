import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { typeDifferences } from './typeDifferences.ts';

describe('what two readings of a type say differently', () => {
  const [type] = CATALOGUE;
  if (!type) throw new Error('no types');

  it('a line a value, what it was beside it; none where they agree', () => {
    expect(typeDifferences(type, type)).to.deep.equal([]);
    const { pack: _none, ...rest } = type;
    expect(
      typeDifferences(type, { ...rest, capacityAh: 5, label: { ...type.label, ceilingV: 7.2 } }),
    ).to.deep.equal([
      'capacityAh: 5 (was 4)',
      'packCode: none (was P-04)',
      'packMl: none (was 110)',
      'packDensity: none (was 1.32)',
      'label.ceilingV: 7.2 (was none)',
    ]);
  });

  it('of a new one what it says', () => {
    expect(typeDifferences(undefined, type))
      .to.include('construction: agm')
      .and.not.include('isRetired: none');
  });
});
