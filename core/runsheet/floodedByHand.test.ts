import { expect } from 'chai';
import { judgeCommissioning } from './verdict/commissioningVerdict.ts';
import { RunSheetError } from './entries/errors.ts';
import type { HouseRules } from '../rules/houseRules.ts';
import { contextOf } from './state/context.ts';
import { EDITION } from './entries/events.ts';
import { TestJob } from '../test/testJob.ts';

/** A flooded battery with its caps off and its electrolyte right. */
function opened(rules: Partial<HouseRules> = {}, typeId = 'TQ-F12/14'): TestJob {
  return new TestJob(typeId, rules)
    .checkIn()
    .affirm('caps-off', 'vent-plug')
    .measure('electrolyte', { density: 1.266, acidC: 22 });
}

function charged(): TestJob {
  const sheet = opened().chambers('fill').wait(31).chambers('top-up').affirm('caps-loose');
  sheet.measure('ocv-soak', { ocvV: 12.45, tempC: 26 });
  sheet.put('chargeStarted', { step: 'charge#1', currentA: 1.4 }).wait(300);
  sheet.read(14.6, 0.2).wait(60).read(14.6, 0.2).wait(60).read(14.6, 0.19);
  return sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).wait(6).affirm('disconnect');
}

const refusal = (act: () => unknown): string => {
  try {
    act();
  } catch (error) {
    if (error instanceof RunSheetError) return error.message;
    throw error;
  }
  return '';
};

describe('a flooded battery filled by hand', () => {
  it('goes from caps off to a pass', () => {
    const sheet = charged()
      .measure('water', { added: 'distilled', ml: 40 })
      .chambers('levels')
      .affirm('caps-on');
    sheet.wait(30).measure('test-ocv', { ocvV: 12.66, tempC: 22 });
    sheet.measure('test-load', { method: 'load', loadV: 10.4 });
    expect(judgeCommissioning(contextOf(sheet.job.state, 1)).verdict).to.equal('pass');
    sheet.decide('pass').affirm('hand-over', 'certify');
    expect(sheet.job.state.outcome).to.equal('certified');
  });

  it('is sent back when its plug is missing', () => {
    const sheet = new TestJob('BK-F12/70').affirm('identify').measure('label', {}).affirm('safety');
    sheet.put('denied', { step: 'inspect#1', denial: 'plug-missing' });
    expect(sheet.job.state).to.include({ outcome: 'returned' });
  });

  it('mistake: temperature-uncorrected density. 1.265 read at 30 °C is right, 1.265 read hotter is refused as too warm', () => {
    const sheet = new TestJob('TQ-F12/14').checkIn().affirm('caps-off', 'vent-plug');
    sheet.measure('electrolyte', { density: 1.265, acidC: 38 });
    expect(sheet.current.why).to.include('38.0 °C: electrolyte is filled at 15.6 to 30 °C');
    sheet.measure('electrolyte', { density: 1.28, acidC: 20 });
    expect(sheet.current.why).to.match(/1\.27\d at 25 °C; this battery takes 1\.265/);
    sheet.measure('electrolyte', { density: 1.262, acidC: 29 });
    expect(sheet.current.stepId).to.equal('fill');
  });

  it('takes 1.280 where its sheet says so', () => {
    const sheet = new TestJob('TQ-F12/14').affirm('identify').measure('label', { fillDensity: 1.28 });
    sheet
      .affirm('safety', 'inspect', 'caps-off', 'vent-plug')
      .measure('electrolyte', { density: 1.281, acidC: 25 });
    expect(sheet.current.stepId).to.equal('fill');
  });

  it('mistake: cell left under level. It holds until every cell is at the line', () => {
    const sheet = opened().chambers('fill', [2, 5]);
    expect(sheet.current.why).to.include('Cells 2, 5: off the line. Fill it to the UPPER line');
    expect(sheet.chambers('fill').current.stepId).to.equal('soak');
  });

  it('mistake: acid used to top up after first charge. It is held, and passed only with a reason', () => {
    const sheet = charged().measure('water', { added: 'acid' });
    expect(sheet.current).to.include({ stepId: 'water', status: 'held', canOverride: true });
    expect(sheet.current.why).to.include('Acid no longer goes in after the first charge');
    sheet.put('overridden', { step: 'water#1', reason: 'Drawn off again to the line at once.' });
    expect(sheet.current.stepId).to.equal('levels');
  });

  it('mistake: tap water', () => {
    expect(charged().measure('water', { added: 'tap' }).current.why).to.include(
      'Draw it off and use distilled water',
    );
    expect(refusal(() => charged().measure('water', { added: 'distilled' }))).to.include(
      'All cells together',
    );
  });

  it('mistake: vent plug left in, both vents plugged, vent hose cut up to fill', () => {
    for (const [denial, words] of [
      ['both-plugged', 'both vents closed bursts'],
      ['hose-cut', 'new vent hose'],
    ] as const) {
      const sheet = new TestJob('BK-F12/70').checkIn().affirm('caps-off');
      expect(sheet.put('denied', { step: 'vent-plug#1', denial }).current.why).to.include(words);
    }
    const end = charged().measure('water', { added: 'nothing' }).chambers('levels');
    end.put('denied', { step: 'caps-on#1', denial: 'vent-plug-on' });
    expect(end.current).to.include({ stepId: 'caps-on', status: 'held' });
  });

  it('mistake: filled at four o’clock with no time to charge', () => {
    const late = new TestJob('TQ-F12/14', {}, Date.parse('2026-03-10T15:50:00Z')).checkIn();
    late.affirm('caps-off', 'vent-plug').measure('electrolyte', { density: 1.265, acidC: 22 });
    expect(refusal(() => late.put('overridden', { step: 'fill#1', reason: 'no' }))).to.include('8 letters');
    expect(late.current.stepId).to.equal('fill');
    expect(refusal(() => late.chambers('fill'))).to.include('cannot be charged before the shop closes');
  });

  it('tests three cells at half the voltage', () => {
    const sheet = opened({}, 'TQ-F6/11').chambers('fill', [3]);
    expect(sheet.current.why).to.include('Cell 3');
    expect(contextOf(sheet.job.state, 1).threshold('passOcvV').value).to.be.closeTo(6.2, 1e-9);
  });
});

describe('an AGM filled at the factory', () => {
  it('is charged, rested and tested', () => {
    const sheet = new TestJob('BK-S12/75').checkIn().measure('ocv-soak', { ocvV: 12.5, tempC: 21 });
    expect(sheet.current.stepId).to.equal('charge');
    sheet.put('chargeStarted', { step: 'charge#1', currentA: 7.5 }).wait(360);
    sheet.read(14.7, 0.4).wait(60).read(14.7, 0.4).wait(60).read(14.7, 0.4);
    sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).wait(6).affirm('disconnect').wait(60);
    sheet
      .measure('test-ocv', { ocvV: 12.9, tempC: 22 })
      .measure('test-load', { method: 'load', loadV: 10.3 });
    expect(sheet.decide('pass').affirm('hand-over', 'certify').job.state.outcome).to.equal('certified');
  });

  it('may leave uncharged only where the house says so, and a sound one that stands low is then offered a charge', () => {
    const sheet = new TestJob('BK-S12/75', { activatedAgm: 'fitAsIs' }).checkIn();
    sheet.measure('ocv-soak', { ocvV: 12.7, tempC: 21 }).affirm('uncharged');
    sheet
      .measure('test-ocv', { ocvV: 12.7, tempC: 21 })
      .measure('test-load', { method: 'load', loadV: 10.3 });
    const judged = judgeCommissioning(contextOf(sheet.job.state, 1));
    expect(judged.verdict).to.equal('pass');
    expect(judged.reasons[1]?.sentence).to.include('Not charged here, by house rule');
    const weak = new TestJob('BK-S12/75', { activatedAgm: 'vehicle' }).checkIn();
    weak.measure('ocv-soak', { ocvV: 12.4, tempC: 21 }).affirm('uncharged');
    weak.measure('test-ocv', { ocvV: 12.4, tempC: 21 }).measure('test-load', { method: 'load', loadV: 10.3 });
    expect(judgeCommissioning(contextOf(weak.job.state, 1)).verdict).to.equal('repeat');
    weak.decide('repeat');
    expect(weak.current.key).to.equal('charge#2');
  });

  it('from display at 11.9 V is discharged, not filled short; at 10.6 V a cell is dead', () => {
    const read = (ocvV: number, edition = EDITION): TestJob =>
      new TestJob('BK-S12/75', {}, undefined, 'display-refresh', { edition })
        .checkIn()
        .measure('ocv-soak', { ocvV, tempC: 20 });
    expect(read(11.9).current.stepId).to.equal('charge');
    expect(read(10.6).current.why).to.include('suspect a dead cell');
    expect(read(11.9, 2).current.why).to.include('filled short or dead');
  });

  it('from display is charged, tagged with the date and shelved', () => {
    const sheet = new TestJob('BK-S12/75', {}, undefined, 'display-refresh');
    const ids = sheet.job.state.steps.map(({ stepId }) => stepId);
    expect(ids.slice(-2)).to.deep.equal(['tag-date', 'certify']);
    expect(ids).to.include('charge');
  });
});
