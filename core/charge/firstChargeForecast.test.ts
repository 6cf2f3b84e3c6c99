import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { STANDARD_RULES } from '../rules/houseRules.ts';
import { settingFor } from './firstCharge.ts';
import { firstChargeFigures, forecastFirstCharge, hydrogenLPerH } from './firstChargeForecast.ts';

describe('a first charge forecast by the model', () => {
  for (const type of CATALOGUE)
    it(`${type.id}: agrees with the rule of thumb within a factor, and shows its ceiling and taper`, () => {
      const setting = settingFor({ type, rules: STANDARD_RULES, entered: {} }, { ageMonths: 6 });
      const curve = forecastFirstCharge({
        type,
        entered: {},
        startPercent: setting.startPercent,
        setA: setting.current.value,
        ceilingV: setting.ceiling.value,
        tailMin: setting.tailMin,
        tempC: 21,
      });
      expect(curve.doneMin / setting.thumbMin).to.be.within(1, 1.9);
      expect(Math.max(...curve.amps)).to.be.closeTo(setting.current.value, 0.01 * setting.current.value);
      expect(Math.max(...curve.volts)).to.be.within(setting.ceiling.value - 0.2, setting.ceiling.value + 0.2);
      expect(curve.amps.at(-1)).to.be.below(type.capacityAh / 50);
      expect(curve.minutes.length).to.be.below(120);
    });

  it('the same question has the same answer, whatever was asked before: sheet and entered values count', () => {
    const type = CATALOGUE.find(({ id }) => id === 'LW-A12/9');
    if (!type) throw new Error('no such type');
    const question = {
      type,
      entered: {},
      startPercent: 70,
      setA: 0.9,
      ceilingV: 14.7,
      tailMin: 120,
      tempC: 21,
    };
    const plain = firstChargeFigures(question).doneMin;
    const bySheet = firstChargeFigures({ ...question, type: { ...type, sheet: { ceilingV: 14.1 } } }).doneMin;
    const byJob = firstChargeFigures({ ...question, entered: { ceilingV: 14.1 } }).doneMin;
    expect(Math.abs(bySheet - plain)).to.be.above(5);
    expect(byJob).to.be.closeTo(bySheet, 1e-6);
    expect(firstChargeFigures(question).doneMin).to.equal(plain);
  });

  it('older stock takes longer, a higher current less', () => {
    const type = CATALOGUE.find(({ id }) => id === 'LW-A12/9');
    if (!type) throw new Error('no such type');
    const done = (startPercent: number, setA: number): number =>
      forecastFirstCharge({ type, entered: {}, startPercent, setA, ceilingV: 14.6, tailMin: 120, tempC: 21 })
        .doneMin;
    expect(done(50, 0.9)).to.be.above(done(80, 0.9) + 60);
    expect(done(50, 1.8)).to.be.below(done(50, 0.9));
  });

  it('a flooded battery gases at the end of its charge, never more than its current can; an AGM hardly', () => {
    const curveOf = (id: string, setA: number) => {
      const type = CATALOGUE.find((one) => one.id === id);
      if (!type) throw new Error('no such type');
      return forecastFirstCharge({
        type,
        entered: {},
        startPercent: 80,
        setA,
        ceilingV: 14.6,
        tailMin: 120,
        tempC: 21,
      });
    };
    const flooded = curveOf('TQ-F12/14', 1.4);
    expect(hydrogenLPerH(flooded, 10)).to.be.below(0.1);
    const late = hydrogenLPerH(flooded, flooded.doneMin - 10);
    // Faraday: 0.456 L per Ah and cell at 25 °C, of all the current and no more.
    expect(late).to.be.within(0.05, 1.001 * 6 * 0.456 * (flooded.amps.at(-1) ?? 0) + 0.02);
    expect(hydrogenLPerH(flooded, flooded.doneMin + 500)).to.be.closeTo(late, 0.5 * late);
    const agm = curveOf('LW-A12/12', 1.2);
    expect(hydrogenLPerH(agm, agm.doneMin - 10)).to.be.below(late / 3);
  });
});
