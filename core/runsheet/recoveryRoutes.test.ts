/** Ways back by charging, each by itself: its steps in order, its limits, and what ends it. */
import { expect } from 'chai';
import { courseOf } from '../adapters/fromJob.ts';
import { brought, end, start, treatmentAtHand } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { atHand } from './plan/atHand.ts';

const DAY = 24 * 60;

describe('high, then low', () => {
  const high = (): TestJob =>
    brought('BK-F12/70', { firstHours: 'highLow' }).triage(10.9).route('high-then-low');

  const seen = (sheet: TestJob, of: Record<number, 'silent' | 'hot'> = {}): Record<string, string> =>
    sheet.eachCell('cell', (cell) => of[cell] ?? 'bubbling');
  const bite = (sheet: TestJob, minutes = 15): TestJob => end(start(sheet, 15).wait(minutes));

  it('goes in bites of a quarter of an hour, looks at every cell, then goes gently', () => {
    const sheet = high();
    expect(treatmentAtHand(sheet)).to.include({ setA: 17.5, dueMin: 15, mostMin: 20 });
    start(sheet, 17).wait(15).read(12.9, 17, 26);
    end(sheet).measure('bite-cells', seen(sheet));
    bite(sheet).measure('bite-cells-two', seen(sheet));
    expect(treatmentAtHand(sheet)).to.include({ setA: 5, mostA: 5 });
  });

  it('all awake only after the second bite: ten minutes more, caps laid on, then low', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    bite(sheet).measure('bite-cells-two', seen(sheet));
    expect(sheet.current.stepId).to.equal('bite-last');
    expect(treatmentAtHand(sheet)).to.include({ dueMin: 10, mostMin: 15 });
    expect(bite(sheet, 10).current.stepId).to.equal('low');
  });

  it('one silent cool cell after two bites may be the last to wake: ten minutes more, not the end', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    bite(sheet).measure('bite-cells-two', seen(sheet, { 3: 'silent' }));
    expect(sheet.current.stepId).to.equal('bite-three');
    expect(bite(sheet, 10).measure('bite-cells-three', seen(sheet)).current.stepId).to.equal('low');
  });

  it('a bite left on is called out after twenty minutes', () => {
    const sheet = start(high(), 17).wait(28).read(13.4, 17, 30);
    expect(sheet.current.why).to.include('h at most');
  });

  it('a cell that stays silent through a third bite ends it', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    bite(sheet).measure('bite-cells-two', seen(sheet, { 3: 'silent' }));
    bite(sheet, 10).measure('bite-cells-three', seen(sheet, { 3: 'silent' }));
    expect(sheet.current.why).to.include('Cell 3 silent after a third bite: shorted or dead');
    expect(sheet.current.canOverride).to.equal(false);
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'cell 3 is dead' });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('a cell that heats ends it at once, and no reason passes over it', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 5: 'hot' }));
    expect(sheet.current.why).to.include('Cell 5 heats on charge: shorted');
    expect(() => sheet.put('overridden', { step: sheet.current.key, reason: 'it is only warm' })).to.throw(
      'must be met',
    );
  });

  it('every cell is asked for, and what was seen reaches the belief as it was on charge', () => {
    const sheet = bite(high());
    expect(() => sheet.measure('bite-cells', { cell1: 'bubbling' })).to.throw('Seen, cell 2: choose bubbles');
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    const bubbles = courseOf(sheet.job.state).readings.filter(({ kind }) => kind === 'bubbles');
    expect(bubbles).to.have.length(6);
    expect(bubbles[2]).to.deep.include({ cell: 3, bubbles: 'none', midway: 15 });
  });
});

describe('constant current', () => {
  it('says at its end that this is not full, and what goes on', () => {
    for (const [typeId, ends] of [
      ['BK-F12/70', '14.50 V'],
      ['TQ-F6/11', '7.25 V'],
    ] as const) {
      const sheet = brought(typeId)
        .triage(typeId.includes('6/') ? 6 : 12)
        .route('constant-current');
      expect(treatmentAtHand(sheet).done).to.equal(
        `${ends} reached, which is not full: off, read it rested, then the slow charge goes on.`,
      );
    }
  });

  it('is done at 14.5 V, and a fifth of capacity is the most it may be set to', () => {
    const sheet = brought('BK-F12/70').triage(11.8).route('constant-current');
    expect(() => start(sheet, 15)).to.throw('outside 0.70 to 14.00 A');
    start(sheet, 7).wait(120).read(13.2, 7, 24).wait(240).read(14.49, 7, 29);
    expect(atHand(sheet.job.state, sheet.now)?.phase).to.equal('complete');
    end(sheet)
      .wait(6)
      .affirm('current-clips')
      .closed('current')
      .wait(60)
      .measure('after-charge', { ocvV: 12.6, tempC: 22 });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('is off after twelve hours whatever it reads', () => {
    const sheet = start(brought('BK-F12/70').triage(11.8).route('constant-current'), 7);
    sheet.wait(12 * 60 + 10).read(14.1, 7, 30);
    expect(sheet.current.why).to.include('expected 12 h at most');
  });
});

describe('long soak', () => {
  it('is held a tenth lower the first time than the second, and not a third time', () => {
    const sheet = brought('BK-A12/55').triage(12.2);
    for (const volts of [14.7, 14.9]) {
      sheet.route('long-soak');
      expect(treatmentAtHand(sheet).ceilingV).to.be.closeTo(volts, 1e-9);
      end(start(sheet, 5.5).wait(16 * 60 + 1));
      sheet
        .wait(6)
        .affirm('soak-clips')
        .wait(3 * DAY)
        .measure('after-charge', { ocvV: 12.7, tempC: 21 });
    }
    expect(() => sheet.route('long-soak')).to.throw('Soaked twice already');
  });

  it('its days of rest may be cut short only with a reason', () => {
    const sheet = brought('BK-A12/55').triage(12.2).route('long-soak');
    end(start(sheet, 5.5).wait(16 * 60 + 1))
      .wait(6)
      .affirm('soak-clips');
    expect(() => sheet.measure('after-charge', { ocvV: 12.7, tempC: 21 })).to.throw('not open yet');
    sheet.put('overridden', { step: 'soak-rest#1', reason: 'the ferry cannot wait' });
    expect(sheet.current.stepId).to.equal('after-charge');
  });
});

describe('a 6 V battery brought back', () => {
  const six = (): TestJob => brought('LW-A6/12');

  it('has half the limits everywhere', () => {
    const sheet = six().triage(2.1).route('supply-wake').affirm('supply-polarity');
    expect(treatmentAtHand(sheet).ceilingV).to.equal(7.5);
    const strict = new TestJob('LW-A6/12', { recoverBelow: 'strict' }, undefined, 'recover-agm');
    strict
      .affirm('identify')
      .measure('label', {})
      .affirm('safety', 'inspect')
      .measure('history', { complaint: 'unknown' });
    strict.affirm('clean').measure('first-ocv', { ocvV: 5.2, tempC: 20, rested: 'yes' });
    expect(strict.current.why).to.include('below 5.25 V');
  });

  it('asks for three densities, not six', () => {
    const sheet = new TestJob('TQ-F6/11', {}, undefined, 'recover-flooded').triage(5.9);
    expect(
      Object.keys(sheet.job.state.steps.find(({ stepId }) => stepId === 'density-before')?.values ?? {}),
    ).to.have.length(4);
  });
});
