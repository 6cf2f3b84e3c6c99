import { expect } from 'chai';
import type { Traits, Setting } from '../candidate/traits.ts';
import type { Reading } from '../observation/readings.ts';
import { candidate } from './candidate.ts';
import { AGM_80, FLOODED_70 } from './modelBench.ts';
import { PorousBattery } from './porousBattery.ts';

/** @param chargedMin a short charge is soon worked out */
const setting = (rating: typeof AGM_80, chargedMin: number): Setting => ({
  rating,
  history: { construction: rating === AGM_80 ? 'agm' : 'flooded', complaint: 'unknown' },
  tempC: 21,
  passages: [
    { amps: rating.capacityAh / 20, volts: 14.6, minutes: chargedMin },
    { amps: 0, volts: 0, minutes: 1440 },
    { amps: 0, volts: 0, minutes: 7 * 1440 },
  ],
});

const battery = (traits: Partial<Traits>, rating = AGM_80, chargedMin = 60): PorousBattery =>
  new PorousBattery(candidate(traits), setting(rating, chargedMin));

function only<K extends Reading['kind']>(
  readings: readonly Reading[],
  kind: K,
): Extract<Reading, { kind: K }> {
  const found = readings.find((one): one is Extract<Reading, { kind: K }> => one.kind === kind);
  if (!found) throw new Error(`no ${kind}`);
  return found;
}

describe('a battery of the second cell', () => {
  it('keeps its label: capacity, resistance, and a load of three times its capacity (handbook 3.2)', () => {
    const full = battery({ charge: 0.98 });
    expect(full.figures('standing').capacity).to.be.closeTo(0.95, 0.06);
    expect(full.figures('standing').cranking).to.be.closeTo(0.95, 0.06);
    const [rested, load] = full.early();
    expect(rested).to.have.property('volts').that.is.within(12.75, 13);
    expect(load).to.have.property('volts').that.is.above(10.5);
  });

  it('gives at 25 A what tables of its class say: about three quarters of its rating', () => {
    const { minutes } = only(battery({ charge: 0.98 }, FLOODED_70).afterCharge(25), 'reserve');
    expect((minutes / 60) * 25).to.be.within(0.65 * 70, 0.85 * 70);
  });

  it('each illness shows as practice knows it', () => {
    const sound = only(battery({ charge: 0.5 }).early(), 'load').volts;
    const film = { cause: 'sulfated-moderate', charge: 0.5, hardShare: 0.4, film: 0.005 } as const;
    expect(only(battery(film).early(), 'load').volts, 'sulfated').to.be.below(sound - 1.5);
    expect(
      only(battery({ cause: 'shorted-cell', severity: 0.1 }).early(), 'ocv').volts,
      'shorted',
    ).to.be.below(11);
    expect(only(battery({ cause: 'open-cell', severity: 0.9 }).early(), 'load').volts, 'open').to.equal(0);
    expect(battery({ left: 0.5, cause: 'worn' }).figures('standing').capacity, 'worn').to.be.within(0.4, 0.6);
    const held = (traits: Partial<Traits>): number => only(battery(traits).afterCharge(25), 'hold').volts;
    expect(held({ cause: 'contaminated' }), 'contaminated').to.be.above(5 * held({}));
  });

  it('hard sulfate is still there after a charge, and a little less of it', () => {
    const { readings, before, after } = ((): {
      readings: readonly Reading[];
      before: number;
      after: number;
    } => {
      const sulfated = battery({ cause: 'sulfated-hard', charge: 0.3, hardShare: 0.6 }, AGM_80, 480);
      const found = sulfated.figures('standing').capacity;
      return { readings: sulfated.afterCharge(25), before: found, after: sulfated.figures('full').capacity };
    })();
    expect(after).to.be.within(before, before + 0.15);
    expect(readings.map(({ kind }) => kind)).to.deep.equal([
      'look',
      'look',
      'ocv',
      'tester',
      'hold',
      'reserve',
    ]);
  });
});
