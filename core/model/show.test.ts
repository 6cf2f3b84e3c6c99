import { expect } from 'chai';
import { densityAt } from '../electrolyte/density.ts';
import { AGM_80, chargeOn, FLOODED_70, steadyCharge } from '../test/modelBench.ts';
import { SOUND } from './battery.ts';
import { makeBattery } from './faults.ts';
import { soundBattery } from './parameters.ts';
import {
  acidG,
  chargeShare,
  hydrogenL,
  leastCharge,
  meanDensity,
  meanOver,
  quickDensity,
  waterG,
  waterLostG,
} from './show.ts';

describe('what can be said of a battery from its state', () => {
  it('density from the fine table agrees with the published one', () => {
    for (let percent = 0; percent <= 58; percent += 0.7)
      expect(quickDensity(percent / 100)).to.be.closeTo(densityAt(percent / 100, 25), 1e-5);
  });

  it('a full cell holds its pack’s acid; an empty one has given it to the plates', () => {
    const at = (charge: number): number => {
      const cells = makeBattery({ parameters: soundBattery(FLOODED_70), condition: { ...SOUND, charge } });
      return meanDensity(cells, 0);
    };
    expect(at(1)).to.be.closeTo(1.28, 0.002);
    // Battery Council International: about 1.12 to 1.13 when empty, of 1.265 to 1.280.
    expect(at(0)).to.be.within(1.1, 1.145);
    expect(at(0.5)).to.be.within(at(0), at(1));
  });

  it('a battery made with so much charge shows so much, sound or worn', () => {
    for (const rating of [AGM_80, FLOODED_70])
      for (const charge of [0.1, 0.3, 0.8])
        for (const faults of [[], [{ kind: 'worn', share: 0.6 }]] as const) {
          const cells = makeBattery({
            parameters: soundBattery(rating),
            condition: { ...SOUND, charge },
            faults,
          });
          expect(leastCharge(cells)).to.be.closeTo(charge, 0.005);
        }
  });

  it('the weakest cell decides what a battery still gives', () => {
    const cells = makeBattery({
      parameters: soundBattery(FLOODED_70),
      condition: { ...SOUND, charge: 0.9 },
      faults: [{ kind: 'short', cell: 2, ohms: 0.02 }],
    });
    expect(leastCharge(cells)).to.be.below(0.01);
    const [group = 0] = cells.groupOf;
    expect(chargeShare(cells, group)).to.be.above(0.85);
    expect(meanOver(cells, (each) => chargeShare(cells, each))).to.be.closeTo(
      (5 * chargeShare(cells, group)) / 6,
      0.01,
    );
  });

  it('water lost left as hydrogen and oxygen, by Faraday', () => {
    const cells = makeBattery({ parameters: soundBattery(FLOODED_70) });
    const before = acidG(cells, 0) + waterG(cells, 0);
    chargeOn(FLOODED_70, cells, steadyCharge(FLOODED_70, 7, 48)).runUntil(48 * 3600);
    const lost = waterLostG(cells);
    expect(lost).to.be.above(2);
    // 18.015 g of water give 24.465 L of hydrogen at 25 °C.
    expect(hydrogenL(cells, 0)).to.be.closeTo((lost / 18.015) * 24.465, 0.01 * lost);
    expect(before - (acidG(cells, 0) + waterG(cells, 0))).to.be.closeTo(lost / 6, 0.6);
  });

  it('an AGM gives next to nothing away while its mats are full', () => {
    const loss = (rating: typeof AGM_80): number => {
      const cells = makeBattery({ parameters: soundBattery(rating) });
      chargeOn(rating, cells, steadyCharge(rating, 8, 48)).runUntil(48 * 3600);
      return waterLostG(cells) / rating.capacityAh;
    };
    expect(loss(AGM_80)).to.be.below(loss(FLOODED_70) / 20);
  });
});
