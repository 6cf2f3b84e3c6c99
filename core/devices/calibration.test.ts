import { expect } from 'chai';
import {
  calibrated,
  calibrationDueAt,
  corrected,
  lineProblem,
  uncorrected,
  type Calibration,
  type CalibrationLine,
} from './calibration.ts';
import type { Driver } from './driver.ts';
import { GENERIC_SUPPLY } from './genericProfiles.ts';

/** Shows 20 mV too much at 10 V and 50 mV too much at 15 V. */
const LINE: CalibrationLine = [
  { shown: 10.02, is: 10 },
  { shown: 15.05, is: 15 },
];
const AT = Date.parse('2026-03-10T11:06:00Z');
const CALIBRATION: Calibration = { at: AT, everyMonths: 12, lines: { volts: LINE } };

describe('a device that was calibrated', () => {
  it('is right at its two points, and straight between and beyond', () => {
    expect(corrected(LINE, 10.02)).to.be.closeTo(10, 1e-12);
    expect(corrected(LINE, 15.05)).to.be.closeTo(15, 1e-12);
    expect(corrected(LINE, 12.535)).to.be.closeTo(12.5, 1e-9);
    for (const volts of [0, 12.7, 14.4])
      expect(corrected(LINE, uncorrected(LINE, volts))).to.be.closeTo(volts, 1e-12);
  });

  it('is put right in what it shows and in what it is told, and in nothing else', async () => {
    const told: (readonly [string, number | undefined])[] = [];
    const plain: Driver = {
      profile: GENERIC_SUPPLY,
      identify: () => Promise.resolve('SUPPLY'),
      ask: (what) => Promise.resolve(what === 'isOn' ? 1 : 15.05),
      tell: (what, value) => {
        told.push([what, value]);
        return Promise.resolve();
      },
    };
    const driver = calibrated(plain, CALIBRATION);
    expect(await driver.ask('volts')).to.be.closeTo(15, 1e-12);
    expect(await driver.ask('setVolts')).to.be.closeTo(15, 1e-12);
    expect(await driver.ask('amps')).to.equal(15.05);
    expect(await driver.ask('isOn')).to.equal(1);
    await driver.tell('setVolts', 15);
    await driver.tell('setAmps', 8);
    await driver.tell('off');
    expect(told[0]?.[1]).to.be.closeTo(15.05, 1e-12);
    expect(told.slice(1)).to.deep.equal([
      ['setAmps', 8],
      ['off', undefined],
    ]);
    expect(await driver.identify()).to.equal('SUPPLY');
    expect(calibrated(plain, undefined)).to.equal(plain);
  });

  it('is not calibrated by points that are one, or of another device', () => {
    expect(lineProblem('volts', LINE)).to.equal(undefined);
    expect(lineProblem('volts', [LINE[0], { shown: 10.5, is: 10.5 }])).to.include('at least 1 apart');
    expect(lineProblem('volts', [LINE[0], { shown: 15, is: 12 }])).to.include('off by more than a tenth');
    expect(lineProblem('tempC', [{ shown: Number.NaN, is: 0 }, LINE[1]])).to.include('at least 5 apart');
  });

  it('is due again when its time is over', () => {
    expect(calibrationDueAt(CALIBRATION)).to.be.closeTo(Date.parse('2027-03-10T11:06:00Z'), 2 * 86_400_000);
  });
});
