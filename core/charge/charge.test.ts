import { expect } from 'chai';
import { durationText } from '../clock/clockText.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import type { PrintedValues } from '../battery/types.ts';
import { HOUSE_RULES, STANDARD_RULES, type HouseRules } from '../rules/houseRules.ts';
import { absoluteCeilingA, settingFor } from './firstCharge.ts';

function basis(id: string, rules: Partial<HouseRules> = {}, entered: PrintedValues = {}) {
  const type = CATALOGUE.find((candidate) => candidate.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return { type, rules: { ...STANDARD_RULES, ...rules }, entered };
}

const firstChargeSchool = (id: keyof typeof HOUSE_RULES.firstCharge.options): string =>
  HOUSE_RULES.firstCharge.options[id];

describe('first charge', () => {
  it('takes a tenth of capacity and adds the two flat hours to the arithmetic', () => {
    const setting = settingFor(basis('LW-A12/9'), { ageMonths: 3 });
    expect(setting.current).to.include({ value: 0.9, source: 'handbook' });
    // (1 − 0.80) · 9 Ah / (0.9 A · 0.92) = 2.174 h, handbook 2.5
    expect(setting.thumbMin).to.equal(255);
    expect(setting.working.join(' ')).to.include('1.8 Ah ÷ (0.90 A × 0.92) = 2.2 h');
  });

  it('lets the label win over C/10 and over the house’s low current', () => {
    expect(settingFor(basis('LW-A12/12'), { ageMonths: 3 }).current).to.include({
      value: 1.2,
      source: 'label',
    });
    expect(settingFor(basis('LW-A12/9', {}, { chargeCurrentA: 1.1 }), { ageMonths: 3 }).current).to.include({
      value: 1.1,
    });
  });

  for (const [school, typeId, entered, value, source] of [
    ['low', 'LW-A12/12', {}, 1, 'house'],
    ['low', 'LW-A12/9', {}, 0.9, 'handbook'],
    ['low', 'BK-F12/70', {}, 2, 'house'],
    ['fast', 'BK-F12/70', {}, 14, 'house'],
    ['fast', 'TQ-F12/14', {}, 2.8, 'house'],
    ['fast', 'TQ-F12/14', { quickCurrentA: 6 }, 6, 'label'],
    ['label', 'LW-A12/12', {}, 1.2, 'label'],
    ['automatic', 'BK-F12/70', {}, 7, 'handbook'],
  ] as const)
    it(`by the school “${firstChargeSchool(school)}” ${typeId} takes ${value} A`, () => {
      const { current } = settingFor(basis(typeId, { firstCharge: school }, entered), { ageMonths: 3 });
      expect(current.value).to.be.closeTo(value, 1e-9);
      expect(current.source).to.equal(source);
    });

  it('by the label’s school the printed hours are the hours, and a flooded charge is never under three', () => {
    const byLabel = settingFor(basis('LW-A12/12', { firstCharge: 'label' }), { ageMonths: 3 });
    expect(byLabel.totalMin).to.equal(300);
    const flooded = settingFor(basis('TQ-F12/14', { firstCharge: 'label' }, { chargeTimeH: 1 }), {
      ageMonths: 3,
    });
    expect(flooded.totalMin).to.equal(180);
  });

  it('keeps at least the hours the label prints', () => {
    expect(settingFor(basis('LW-A12/12'), { ageMonths: 3 }).thumbMin).to.equal(300);
    const long = settingFor(basis('LW-A12/9', {}, { chargeTimeH: 9 }), { ageMonths: 3 });
    expect(long.totalMin).to.equal(540);
    expect(long.working.join(' ')).to.include(
      'The label asks for longer: it is charged that long. In all 9 h 00 on charge, as printed',
    );
  });

  it('keeps small batteries at or under 3 A, and larger ones at C/10', () => {
    expect(settingFor(basis('TQ-A12/30'), { ageMonths: 3 }).current.value).to.equal(3);
    expect(settingFor(basis('BK-A12/55'), { ageMonths: 3 }).current.value).to.equal(5.5);
  });

  it('allows no more than the label’s rate, or a fifth of capacity without one', () => {
    expect(absoluteCeilingA(basis('LW-A12/12'))).to.equal(1.2);
    expect(absoluteCeilingA(basis('LW-A12/9'))).to.be.closeTo(1.8, 1e-9);
    expect(absoluteCeilingA(basis('TQ-A12/30'))).to.equal(3);
  });

  it('waits for the model, which knows the taper the rule of thumb leaves out', () => {
    const setting = settingFor(basis('LW-A12/9'), { ageMonths: 3 });
    expect(setting.modelMin).to.be.within(setting.thumbMin, setting.thumbMin * 1.8);
    expect(setting.totalMin).to.be.within(setting.modelMin ?? 0, (setting.modelMin ?? 0) + 5);
    expect(setting.working.at(-1)).to.match(
      /^In all 7 h \d\d on charge, by the model, which follows the taper; warmest 2\d °C\.$/,
    );
    const total = durationText(setting.totalMin * 60_000);
    expect(setting.working.join(' ')).to.include(`In all ${total} on charge`);
    const slower = settingFor(basis('LW-A12/9'), { ageMonths: 3 }, 0.45);
    expect(slower.totalMin).to.be.above(setting.totalMin);
  });

  it('sets less where the model foresees a pause for heat, never less than the label’s own rate', () => {
    const warm = { ageMonths: 3, tempC: 39 };
    const house = { warmBattery: 'stopWarm' } as const;
    const gentler = settingFor(basis('TQ-A12/30', house), warm).current;
    expect(gentler.source).to.equal('model');
    expect(gentler.value).to.be.below(3);
    expect(gentler.because).to.equal('At 3.00 A the model foresees more than 37 °C.');
    expect(settingFor(basis('LW-A12/12', house), warm).current).to.include({ value: 1.2, source: 'label' });
  });

  it('falls back on the rule of thumb for a label no model can be made from', () => {
    const odd = basis('LW-A12/9');
    const type = { ...odd.type, cranking: { amps: 2000, standard: 'EN' as const } };
    const setting = settingFor({ ...odd, type }, { ageMonths: 3 });
    expect(setting.modelMin).to.equal(undefined);
    expect(setting.totalMin).to.equal(255);
    expect(setting.working.at(-1)).to.include('rule of thumb stands alone');
  });

  it('charges old stock longer, and believes a low voltage after the soak', () => {
    const fresh = settingFor(basis('LW-A12/9'), { ageMonths: 3 }).totalMin;
    expect(settingFor(basis('LW-A12/9'), { ageMonths: 30 }).totalMin).to.be.above(fresh);
    expect(settingFor(basis('LW-A12/9'), { ageMonths: 3, restedV: 12.3 }).totalMin).to.be.above(fresh);
  });
});
