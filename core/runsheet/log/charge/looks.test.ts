import { expect } from 'chai';
import { TestJob } from '../../../test/testJob.ts';
import { describeEvent } from '../describe.ts';
import { RunSheetError } from '../../entries/errors.ts';
import { readingsOf } from '../../state/looks.ts';

type Row = readonly [afterMin: number, voltageV: number, currentA: number, tempC: number];

/** A slow charge that has been on for so many minutes. */
function charging(minutes: number): TestJob {
  const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(12.0).route('slow-charge');
  return sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75 }).wait(minutes);
}

const logged = (sheet: TestJob, rows: readonly Row[]): TestJob =>
  sheet.put('chargeLogged', {
    step: sheet.current.key,
    file: 'bay-3.csv',
    rows: 86_400,
    readings: rows.map(([afterMin, voltageV, currentA, tempC]) => ({ afterMin, voltageV, currentA, tempC })),
  });
const volts = (sheet: TestJob): number[] =>
  readingsOf(sheet.job.state, sheet.current.key).map(({ voltageV }) => voltageV);

describe('a logger’s file of a charge', () => {
  it('stands among the looks that were typed, in order of time', () => {
    const sheet = charging(60).read(12.8, 2.75, 22).wait(60);
    logged(sheet, [
      [0, 12.4, 2.75, 21],
      [30, 12.6, 2.75, 21],
      [110, 13, 2.75, 23],
    ]);
    expect(volts(sheet)).to.deep.equal([12.4, 12.6, 12.8, 13]);
  });

  it('taken in twice, as it grows, doubles nothing', () => {
    const sheet = charging(120);
    const rows: Row[] = [
      [0, 12.4, 2.75, 21],
      [60, 12.8, 2.75, 22],
    ];
    logged(sheet, rows);
    logged(sheet, [...rows, [110, 13, 2.75, 23]]);
    expect(volts(sheet)).to.deep.equal([12.4, 12.8, 13]);
  });

  it('what was typed at a moment stands, whatever the log says of it', () => {
    const sheet = charging(60).read(12.8, 2.75, 22);
    logged(sheet, [
      [0, 12.4, 2.75, 21],
      [60, 12.9, 2.75, 22],
    ]);
    expect(volts(sheet)).to.deep.equal([12.4, 12.8]);
  });

  it('of another charge is refused: it lasts longer than this one does', () => {
    expect(() =>
      logged(charging(60), [
        [0, 12.4, 2.75, 21],
        [600, 13, 2.75, 23],
      ]),
    ).to.throw(RunSheetError, 'The log lasts 600 min, this charge 60 min so far');
  });

  it('that runs backwards is refused', () => {
    expect(() =>
      logged(charging(60), [
        [30, 12.4, 2.75, 21],
        [10, 13, 2.75, 23],
      ]),
    ).to.throw(RunSheetError, 'Row 2 of the log is before');
  });

  it('with an impossible number is refused whole, and leaves nothing behind', () => {
    const sheet = charging(60);
    expect(() =>
      logged(sheet, [
        [0, 12.4, 2.75, 21],
        [30, 99, 2.75, 21],
      ]),
    ).to.throw(RunSheetError);
    expect(volts(sheet)).to.deep.equal([]);
  });

  it('fires the stop rules: heating at low voltage ends the charge', () => {
    const sheet = charging(180);
    logged(
      sheet,
      Array.from({ length: 30 }, (_, index): Row => [index * 6, 11.2, 2.75, 21 + index * 0.45]),
    );
    expect(sheet.current.status).to.equal('held');
    expect(sheet.current.why).to.match(/The charge turns to heat.* Charger off/);
    expect(() => sheet.put('chargeEnded', { step: sheet.current.key, fullSignal: true })).to.throw('off');
  });

  it('too hot at its end wants the charger off', () => {
    const sheet = charging(180);
    logged(sheet, [
      [0, 12.4, 2.75, 21],
      [170, 14, 2.75, 52],
    ]);
    expect(sheet.current.why).to.match(/52\.0 °C: charger off now/);
  });

  it('is told of in the log of the job', () => {
    const sheet = charging(60);
    logged(sheet, [
      [0, 12.4, 2.75, 21],
      [30, 12.6, 2.75, 21],
    ]);
    const last = sheet.job.log.at(-1);
    expect(last && describeEvent(last, sheet.job.state)).to.include('bay-3.csv, 86400 rows');
  });
});
