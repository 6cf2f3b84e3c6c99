import { expect } from 'chai';
import { CHARGERS, type Charger } from './chargers.ts';
import { treatmentMisfit, type Wanted } from './treatmentFit.ts';

const SUBJECT = { construction: 'agm', cells: 6, capacityAh: 55 } as const;
const SLOW: Wanted = { mostA: 5.5, ceilingV: 14.7, minutes: 1440, isPulsed: false };
const of = (kind: Charger['kind']): Charger => {
  const found = CHARGERS.find((charger) => charger.kind === kind);
  if (!found) throw new Error(`no charger of kind ${kind}`);
  return found;
};

describe('chargers for a recovery’s charge', () => {
  it('a programmable supply suits whatever it stands at', () => {
    expect(treatmentMisfit(of('programmable'), SLOW, SUBJECT, 0.4)).to.equal(undefined);
  });

  it('an automatic one does not see a deep battery, and says from where it does', () => {
    expect(treatmentMisfit(of('automatic'), SLOW, SUBJECT, 3)).to.match(
      /does not see a battery below [\d.]+ V; this one stands at 3\.0 V/,
    );
  });

  it('one that cannot go low enough is refused by its lowest current', () => {
    const coarse = { ...of('bench'), leastA: 10 };
    expect(treatmentMisfit(coarse, SLOW, SUBJECT, 11)).to.match(
      /gives 10 A at its lowest; this charge takes 5\.50 A/,
    );
  });

  it('pulses want a charger that pulses', () => {
    expect(treatmentMisfit(of('bench'), { ...SLOW, isPulsed: true }, SUBJECT, 12)).to.match(/cannot pulse/);
    expect(treatmentMisfit(of('programmable'), { ...SLOW, isPulsed: true }, SUBJECT, 12)).to.equal(undefined);
  });

  it('one that ends above the ceiling by itself is refused', () => {
    const hot = { ...of('automatic'), mostV: 15.8, leastA: 0.5, startV: 2 };
    expect(treatmentMisfit(hot, SLOW, SUBJECT, 12)).to.match(
      /goes to 15\.8 V by itself; 14\.7 V is the most here/,
    );
  });
});
