import { expect } from 'chai';
import { CATALOGUE } from '../battery/catalogue.ts';
import type { PrintedValues } from '../battery/types.ts';
import { STANDARD_RULES, type HouseRules } from '../runsheet/houseRules.ts';
import { absoluteCeilingA, settingFor } from './firstCharge.ts';
import { flatProof, type ChargeReading } from './proofOfFull.ts';

function basis(id: string, rules: Partial<HouseRules> = {}, entered: PrintedValues = {}) {
  const type = CATALOGUE.find((candidate) => candidate.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return { type, rules: { ...STANDARD_RULES, ...rules }, entered };
}

describe('first charge', () => {
  it('takes a tenth of capacity and adds the two flat hours to the arithmetic', () => {
    const setting = settingFor(basis('LW-A12/9'), 3);
    expect(setting.current).to.include({ value: 0.9, source: 'handbook' });
    // (1 − 0.80) · 9 Ah / (0.9 A · 0.92) = 2.174 h, handbook 2.5
    expect(setting.bulkMin / 60).to.be.closeTo(2.174, 0.001);
    expect(setting.totalMin).to.equal(255);
    expect(setting.working.join(' ')).to.include('1.8 Ah ÷ (0.90 A × 0.92) = 2.2 h');
  });

  it('lets the label win over C/10 and over the house’s low current', () => {
    expect(settingFor(basis('LW-A12/12'), 3).current).to.include({ value: 1.2, source: 'label' });
    expect(settingFor(basis('LW-A12/9', {}, { chargeCurrentA: 1.1 }), 3).current).to.include({ value: 1.1 });
    expect(settingFor(basis('LW-A12/12', { firstCharge: 'low' }), 3).current.value).to.equal(1.2);
    expect(settingFor(basis('LW-A12/9', { firstCharge: 'low' }), 3).current).to.include({
      value: 0.45,
      source: 'house',
    });
  });

  it('keeps at least the hours the label prints', () => {
    expect(settingFor(basis('LW-A12/12'), 3).totalMin).to.equal(300);
  });

  it('keeps small batteries at or under 3 A, and larger ones at C/10', () => {
    expect(settingFor(basis('TQ-A12/30'), 3).current.value).to.equal(3);
    expect(settingFor(basis('BK-A12/55'), 3).current.value).to.equal(5.5);
  });

  it('allows no more than the label’s rate, or half of capacity without one', () => {
    expect(absoluteCeilingA(basis('LW-A12/12'))).to.equal(1.2);
    expect(absoluteCeilingA(basis('LW-A12/9'))).to.equal(4.5);
  });

  it('charges old stock longer, and believes a low voltage after the soak', () => {
    const fresh = settingFor(basis('LW-A12/9'), 3).totalMin;
    expect(settingFor(basis('LW-A12/9'), 30).totalMin).to.be.above(fresh);
    expect(settingFor(basis('LW-A12/9'), 3, 12.3).totalMin).to.be.above(fresh);
  });
});

describe('proof of full', () => {
  const reading = (minute: number, currentA: number, voltageV = 14.7): ChargeReading => ({
    at: minute * 60_000,
    voltageV,
    currentA,
    tempC: 28,
  });

  it('wants three readings flat over two hours', () => {
    const flat = [reading(0, 0.9, 13.9), reading(120, 0.06), reading(180, 0.05), reading(240, 0.05)];
    expect(flatProof(flat, 9, 6, 120)).to.include({ isFlat: true });
    expect(flatProof(flat.slice(0, 3), 9, 6, 120)).to.include({ isFlat: false });
  });

  it('is broken by a current that still falls or a voltage that still rises', () => {
    expect(flatProof([reading(0, 0.3), reading(60, 0.2), reading(120, 0.1)], 9, 6, 120).isFlat).to.equal(
      false,
    );
    expect(
      flatProof([reading(0, 0.05, 14.5), reading(60, 0.05), reading(120, 0.05)], 9, 6, 120).isFlat,
    ).to.equal(false);
  });

  it('says so when nothing was read', () => {
    expect(flatProof([], 9, 6, 120).sentence).to.equal('No reading was taken on charge.');
  });
});
