import { expect } from 'chai';
import { floatLimits } from './maintained.ts';
import type { Place } from './places.ts';

const at = (tempC: number): Place => ({ kind: 'maintainer', name: '', warmth: { tempC } });

/** Two decimals, as a meter shows them. */
const limits = (construction: 'agm' | 'gel' | 'flooded', cells: number, tempC: number): readonly string[] => {
  const { low, high } = floatLimits({ construction, cells, place: at(tempC) }, 0);
  return [low.toFixed(2), high.toFixed(2)];
};

describe('what a maintainer holds a battery at', () => {
  it('at 25 °C, by its kind', () => {
    expect(limits('flooded', 6, 25)).to.deep.equal(['13.20', '13.50']);
    expect(limits('agm', 6, 25)).to.deep.equal(['13.50', '13.80']);
    expect(limits('gel', 6, 25)).to.deep.equal(['13.50', '13.80']);
    expect(limits('agm', 3, 25)).to.deep.equal(['6.75', '6.90']);
  });

  it('three millivolts a cell and kelvin more where it is cold, less where it is warm', () => {
    expect(limits('agm', 6, 5)).to.deep.equal(['13.86', '14.16']);
    expect(limits('agm', 6, 35)).to.deep.equal(['13.32', '13.62']);
  });
});
