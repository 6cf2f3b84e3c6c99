import { expect } from 'chai';
import { FLOODED_70 } from '../test/modelBench.ts';
import { lostAfter, lostToCycles, yearsUntil, type Service } from './ageing.ts';
import { SOUND } from './battery.ts';
import { rest } from './discharge.ts';
import { makeBattery } from './faults.ts';
import { soundBattery } from './parameters.ts';

describe('how plates age', () => {
  const AGM_STARTER: Service = { duty: 'starter', construction: 'agm' };

  it('cycles take a fifth of the capacity at 1.6 times the nominal number, next to nothing at first (Schiffer et al. 2007)', () => {
    expect(lostToCycles(1.6)).to.be.closeTo(0.2, 1e-12);
    expect(lostToCycles(0.8)).to.be.closeTo(0.2 * Math.exp(-2.5), 1e-12);
    expect(lostToCycles(0)).to.be.lessThan(0.0014);
  });

  it('a new one has lost nothing, and each year takes more than the one before', () => {
    expect(lostAfter(0, AGM_STARTER)).to.equal(0);
    const taken = [1, 4, 8, 12].map(
      (years) => lostAfter(years + 1, AGM_STARTER) - lostAfter(years, AGM_STARTER),
    );
    expect(taken).to.deep.equal([...taken].sort((a, b) => a - b));
  });

  for (const duty of ['starter', 'deep-cycle', 'standby'] as const)
    it(`a ${duty} battery is down to 80 % after five to twelve usual years`, () => {
      for (const construction of ['agm', 'flooded'] as const)
        expect(yearsUntil(0.2, { duty, construction }), construction).to.be.within(5, 12.5);
    });

  it('how old plates are is read back from what they lost', () => {
    for (const years of [0.5, 3, 9])
      expect(yearsUntil(lostAfter(years, AGM_STARTER), AGM_STARTER)).to.be.closeTo(years, 1e-5);
    expect(yearsUntil(-0.1, AGM_STARTER)).to.equal(0);
  });
});

describe('layers in the acid', () => {
  const hardAfterMonths = (charge: number, layering: number): number => {
    const cells = makeBattery({
      parameters: soundBattery(FLOODED_70),
      condition: { ...SOUND, charge },
      faults: layering > 0 ? [{ kind: 'layered', share: layering }] : [],
    });
    rest(cells, 60 * 86_400);
    return cells.state.hard[0] as number;
  };

  it('grow hard sulfate in the lower halves, and more beside what grows anyway the fuller it stands', () => {
    expect(hardAfterMonths(0.5, 0.3) / hardAfterMonths(0.5, 0)).to.be.within(1.05, 2);
    expect(hardAfterMonths(0.85, 0.3) / hardAfterMonths(0.85, 0)).to.be.within(1.3, 8);
  });
});
