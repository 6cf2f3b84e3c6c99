import { expect } from 'chai';
import type { HouseRules } from '../rules/houseRules.ts';
import { GENERIC_SUPPLY } from '../devices/genericProfiles.ts';
import { TestJob } from '../test/testJob.ts';
import { airNeeded, airWords, chargerOf, gassingNow, unattendedRefusal, type Gassing } from './bayRoom.ts';
import { bayChargeOf } from './bayCharge.ts';

const HOUR = 3_600_000;
const FLOODED: Gassing = { cells: 6, capacityAh: 60, venting: 'vented', amps: 5, volts: 14.8 };
const AGM: Gassing = { cells: 6, capacityAh: 9, venting: 'valve-regulated', amps: 0.9, volts: 14.4 };

describe('the air of a room where bays charge', () => {
  it('is that of the standard: five amperes on six vented cells want 1.5 m³/h and an opening of 42 cm²', () => {
    const { airM3PerH, openingCm2 } = airNeeded([FLOODED]);
    expect(airM3PerH).to.be.closeTo(1.5, 1e-9);
    expect(openingCm2).to.be.closeTo(42, 1e-9);
    expect(airWords([FLOODED])).to.equal(
      'Air for this charge: 1.5 m³/h, through an opening of 42 cm² in and another out.',
    );
  });

  it('of a valve-regulated one by 8 mA an Ah up to 2.40 V a cell, and by its current above', () => {
    expect(airNeeded([AGM]).airM3PerH).to.be.closeTo(0.05 * 6 * 0.008 * 9, 1e-9);
    expect(airNeeded([{ ...AGM, volts: 14.7 }]).airM3PerH).to.be.closeTo(0.05 * 6 * 0.9, 1e-9);
  });

  it('is the sum of all that charge, and of none that are paused', () => {
    expect(airWords([FLOODED, FLOODED, AGM])).to.include('the 3 charges that run then: 3.0 m³/h');
    const sheet = new TestJob().soak();
    const now = (): number => sheet.job.log.at(-1)?.at ?? 0;
    expect(gassingNow(sheet.job.state, now())).to.equal(undefined);
    sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
    expect(gassingNow(sheet.job.state, now())).to.include({ amps: 0.9, venting: 'valve-regulated' });
    sheet.wait(10).put('chargePaused', { step: 'charge#1', reason: 'stopped' });
    expect(gassingNow(sheet.job.state, now())).to.equal(undefined);
  });
});

describe('a bay that is left alone', () => {
  const { opened } = new TestJob().job.state;
  const noon = Date.parse('2026-03-10T11:00:00Z');
  const night = noon + 14 * HOUR;
  const refusal = (
    hasCutOff: boolean,
    now: number,
    isAttended = false,
    rules: Partial<HouseRules> = { bayAtNight: 'cutOff' },
  ): string | undefined =>
    unattendedRefusal({ ...opened, rules: { ...opened.rules, ...rules } }, { hasCutOff, isAttended }, now);

  it('may charge while the shop is open, with a cut-off or without', () => {
    for (const hasCutOff of [true, false]) expect(refusal(hasCutOff, noon)).to.equal(undefined);
  });

  it('goes on at night with a cut-off of its own alone, and where the house lets it', () => {
    expect(refusal(true, night)).to.equal(undefined);
    expect(refusal(false, night)).to.include('no cut-off of its own');
    expect(refusal(true, night, false, { unattended: 'never' })).to.include('nothing charges then');
    expect(refusal(true, night, false, {}), 'unless it says so').to.include('no bay charges by itself then');
  });

  it('never goes on alone with a way that somebody stands beside', () => {
    expect(refusal(true, night, true)).to.include('never left alone');
  });

  it('is known to the sheet as a charger that ends by itself where it has a cut-off, and as none where it has not', () => {
    const sheet = new TestJob().soak();
    const now = sheet.job.log.at(-1)?.at ?? 0;
    const outfit = { bay: 3, source: GENERIC_SUPPLY, hasCutOff: true };
    const { begins } = bayChargeOf(sheet.job.state, now, outfit);
    expect(begins(24).payload).to.have.property('charger').that.includes({ kind: 'programmable', mostA: 20 });
    expect(chargerOf({ ...outfit, hasCutOff: false })).to.equal(undefined);
    const entry = begins(24);
    if (entry.kind === 'chargeStarted') sheet.put('chargeStarted', entry.payload);
    expect(sheet.current.charge?.charger?.name).to.equal('Supply of bay 3');
  });
});
