import { expect } from 'chai';
import { addressOf, askedIn, type Asked } from './address.ts';

const asked = (text: string): Asked => askedIn(new URLSearchParams(text));

describe('what is asked in What-if, as an address', () => {
  it('a plain address asks the usual, and the usual is a plain address', () => {
    const { condition, room, ...usual } = asked('');
    expect([condition, room]).to.deep.equal([undefined, undefined]);
    expect(usual).to.include({ battery: 'hand', hours: 48, isTable: false });
    expect(usual.plans).to.have.length(2);
    expect(addressOf(asked('')).toString()).to.equal('');
  });

  it('whatever is asked comes back as it was', () => {
    const all: Asked = {
      battery: 'tag:SK-0142',
      byHand: { construction: 'gel', duty: 'standby', cells: 3, capacityAh: 12.5 },
      answers: { built: 'agm', cells: 6, capacityAh: 8 },
      condition: { charge: 0.45, sulfation: 0.2, years: 3, tempC: 12, fault: 'dry' },
      plans: [
        { plan: 'long-soak', charger: 'supply' },
        { plan: 'constant-voltage', charger: 'automatic' },
        { plan: 'tenth-timed', charger: 'bench' },
      ],
      hours: 168,
      room: { volumeM3: 44, pricePerKwh: 0.41 },
      isTable: true,
    };
    expect(asked(addressOf(all).toString())).to.deep.equal(all);
  });

  it('what in an address is no answer is as if it were not there', () => {
    const odd =
      'hand=wood,boat,99,-4&at=2,0,0,20,none&plan=nothing.supply&hours=7&room=-1,x&label=%7B&as=song';
    expect(asked(odd)).to.deep.equal(asked(''));
  });

  it('so many plans are compared, and no more', () => {
    const plans = Array.from({ length: 9 }, () => 'plan=long-soak.supply').join('&');
    expect(asked(plans).plans).to.have.length(4);
  });
});
