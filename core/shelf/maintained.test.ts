import { expect } from 'chai';
import { CHARGERS } from '../charge/chargers.ts';
import { floatLimits, maintains, suits } from './maintained.ts';
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

describe('a charger that maintains', () => {
  const charger = (id: string) => {
    const one = CHARGERS.find((known) => known.id === id);
    if (!one) throw new Error(`no charger ${id}`);
    return one;
  };
  const pulse = charger('pulse');
  const on = (construction: 'agm' | 'flooded', cells: number, tempC: number) => ({
    construction,
    cells,
    place: at(tempC),
  });

  it('has a programme for it, or its leaflet says what it holds', () => {
    expect(CHARGERS.filter(maintains).map(({ id }) => id)).to.include('pulse');
    expect(maintains(charger('taper'))).to.equal(false);
  });

  it('is for what it holds within the limits, warm or cold', () => {
    // 13.2 to 13.6 V by its leaflet.
    const agm = suits(pulse, on('agm', 6, 25), 0);
    expect(agm.held?.low).to.be.closeTo(13.2, 1e-9);
    expect(agm.held?.high).to.be.closeTo(13.6, 1e-9);
    expect([agm.isPulsed, agm.against]).to.deep.equal([true, undefined]);
    expect(suits(pulse, on('flooded', 6, 25), 0).against).to.include('above 13.50 V it dries this one out');
    expect(suits(pulse, on('flooded', 6, 15), 0).against).to.equal(undefined);
    expect(suits(pulse, on('agm', 6, 5), 0).against).to.include('below 13.86 V this one does not stay full');
  });

  it('holds a voltage: one that holds a current overcharges what is full', () => {
    expect(suits(charger('taper'), on('flooded', 6, 25), 0).against).to.include(
      'holds a current, not a voltage',
    );
  });

  it('is not for volts it was not made for', () => {
    const twelve = { ...pulse, nominalV: [12] };
    expect(suits(twelve, on('agm', 3, 25), 0).against).to.include('is not made for 6 V');
  });
});
