/** What practitioners hold in their hands, taken as it is: colours, bands, ranges, and nothing at all. */
import { expect } from 'chai';
import { courseOf } from '../adapters/fromJob.ts';
import { CHARGERS } from '../charge/chargers.ts';
import { pulseStage } from '../charge/charger.ts';
import { brought, end, start } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { parseReading } from '../units/reading.ts';
import { describeEvent } from './log/describe.ts';
import { CHARGE_DENSITY } from './definition/fields.ts';
import { evidenceOf } from './state/context.ts';
import { toolsFor } from './plan/tools.ts';

describe('a load tester whose scale is only green, yellow, red', () => {
  const tested = (scale: string): TestJob =>
    new TestJob()
      .soak()
      .charge()
      .wait(5)
      .affirm('disconnect', 'lid')
      .wait(60)
      .measure('test-ocv', { ocvV: 12.85, tempC: 22 })
      .measure('test-load', { method: 'scale', scale });

  it('passes a new battery in the green, and no other', () => {
    expect(tested('green').decide('pass').current.stepId).to.equal('hand-over');
    for (const scale of ['yellow', 'red'])
      expect(() => tested(scale).decide('pass')).to.throw('do not allow');
  });

  it('grades a recovered one at most B, in the yellow not at all, in the red out', () => {
    const grade = (test: Record<string, string>): string => {
      const sheet = brought('BK-A12/55').triage(12.2).slowCharge();
      sheet.prove({ ocvV: 12.8, test, capacity: { method: 'slow', drawnAh: 52 }, weekV: 12.79 });
      const said = sheet.decide('pass');
      return said.current.stepId;
    };
    expect(grade({ method: 'scale', scale: 'green' })).to.equal('tell-customer');
    expect(() => grade({ method: 'silent' })).to.throw('do not allow');
  });
});

describe('a tester that does not register', () => {
  it('is an answer at the door: charged, rested, tested again; condemned only where the house does', () => {
    const nothing = { shows: 'nothing' };
    const sheet = brought('BK-A12/55').triage(11.2, { tester: nothing });
    expect(sheet.current.stepId).to.equal('choose-route');
    const strict = brought('BK-A12/55', { zeroHealth: 'condemn' }).triage(11.2, { tester: nothing });
    expect(strict.current.why).to.include('It does not register: no health');
  });

  it('a range on its slip is a reading: its middle reaches the belief', () => {
    const sheet = brought('BK-A12/55').triage(12.5, {
      tester: { shows: 'figure', testerA: 400, testerToA: 440 },
    });
    expect(courseOf(sheet.job.state).readings).to.deep.include({ kind: 'tester', amps: 420 });
  });

  it('a range is taken by the tests of pulses too', () => {
    const sheet = brought('BK-A12/55').triage(12.5).route('pulse');
    end(start(sheet, 1).wait(7 * 24 * 60 + 1))
      .wait(6)
      .affirm('pulse-clips')
      .wait(240);
    sheet.measure('pulse-read', { ocvV: 12.6, testerA: 400, testerToA: 440, tempC: 21 });
    expect(courseOf(sheet.job.state).readings).to.deep.include({ kind: 'tester', amps: 420, stage: 2 });
    expect(courseOf(sheet.job.state).readings).to.deep.include({
      kind: 'ocv',
      volts: 12.6,
      isRested: true,
      stage: 2,
    });
  });

  it('and of cycles, where the tester may be left out', () => {
    const sheet = brought('BK-A12/55').triage(12.7).route('cycle').affirm('cycle-start').wait(300);
    sheet.measure('cycle-end', { minutes: 300, endV: 11.5 });
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('cycle-charge-clips')
      .wait(240);
    sheet.measure('cycle-read', { ocvV: 12.8, testerA: 500, testerToA: 520, tempC: 25 });
    expect(courseOf(sheet.job.state).readings).to.deep.include({ kind: 'tester', amps: 510, stage: 3 });
  });
});

describe('a hydrometer', () => {
  it('read as 1140 is 1.140', () => {
    expect(parseReading('1140', CHARGE_DENSITY)).to.deep.include({ kind: 'value', value: 1.14 });
    expect(parseReading('1.140', CHARGE_DENSITY)).to.deep.include({ kind: 'value', value: 1.14 });
    expect(parseReading('114', CHARGE_DENSITY).kind).not.to.equal('value');
  });

  it('with bands or balls gives an interval, and the belief trusts it no closer', () => {
    const sheet = brought('BK-F12/70').triage(12.3, {
      bands: ['green', 'green', 'red', 'green', 'green', 'white'],
    });
    const densities = courseOf(sheet.job.state).readings.filter(({ kind }) => kind === 'density');
    expect(densities).to.have.length(6);
    expect(densities[2]).to.deep.include({ cell: 3, density: 1.1625, within: 0.0625 });
  });
});

describe('a desulfating charger', () => {
  const pulse = CHARGERS.find(({ id }) => id === 'pulse');

  it('is followed by its own programme’s length', () => {
    const sheet = brought('BK-A12/55').triage(12.2).route('pulse');
    sheet.put('chargeStarted', {
      step: sheet.current.key,
      currentA: 2.75,
      ...(pulse ? { charger: pulse } : {}),
    });
    expect(sheet.current.charge?.dueMin).to.equal(72 * 60);
    const plain = start(brought('BK-A12/55').triage(12.2).route('pulse'), 2.75);
    expect(plain.current.charge?.dueMin).to.equal(7 * 24 * 60);
  });

  for (const [volts, amps, stage] of [
    [12.9, 2.7, 'charging'],
    [14.0, 2, 'pulsing'],
    [15.5, 1, 'reconditioning'],
    [13.4, 0.1, 'maintaining'],
    [13.4, 2.5, 'charging'],
  ] as const)
    it(`at ${volts} V and ${amps} A it is ${stage}`, () => {
      if (!pulse?.pulses) throw new Error('no pulse charger');
      expect(pulseStage(pulse.pulses, { volts, amps }, { cells: 6, capacityAh: 55 })).to.equal(stage);
      expect(pulseStage(pulse.pulses, { volts: volts / 2, amps }, { cells: 3, capacityAh: 55 })).to.equal(
        stage,
      );
    });
});

describe('the voltage of a charge somebody stands by', () => {
  it('is set below what its way allows, never above, and full is judged by it', () => {
    const sheet = brought('BK-A12/55').triage(5).route('supply-wake').affirm('supply-polarity');
    start(sheet, 1.1);
    expect(() => sheet.put('chargeSet', { step: sheet.current.key, voltageV: 16 })).to.throw(
      'outside 12.0 to 15.0 V',
    );
    sheet.put('chargeSet', { step: sheet.current.key, voltageV: 14.2 });
    const evidence = evidenceOf(sheet.job.state, sheet.current);
    expect(evidence?.limits.ceilingV).to.equal(14.2);
    expect(evidence?.setA).to.equal(1.1);
    expect(describeEvent(sheet.job.log.at(-1) as never, sheet.job.state)).to.equal('Voltage set to 14.2 V');
  });
});

describe('density printed on a sealed bag', () => {
  it('is taken as printed, marked so, and corrected for no warmth', () => {
    const at = (values: Record<string, number | string>): TestJob =>
      new TestJob('TQ-F6/11').checkIn().affirm('caps-off', 'vent-plug').measure('electrolyte', values);
    expect(at({ densityFrom: 'bag', density: 1.265, acidC: 29 }).current.stepId).to.equal('fill');
    expect(at({ density: 1.25, acidC: 29 }).current.why).to.include('this battery takes 1.265');
  });
});

describe('what a job needs on the bench', () => {
  const of = (sheet: TestJob): readonly string[] => toolsFor(sheet.job.state.opened);

  it('is listed before it begins, each once', () => {
    const agm = of(new TestJob());
    expect(agm).to.include.members([
      'Goggles, acid gloves, apron',
      'Acid pack P-09, its own',
      'Scale',
      'Multimeter',
    ]);
    expect(new Set(agm).size).to.equal(agm.length);
    const flooded = of(new TestJob('TQ-F6/11'));
    expect(flooded).to.include('Hydrometer');
    expect(flooded.join()).to.match(/\d00 mL of electrolyte/);
    expect(of(brought('BK-F12/70'))).to.include.members([
      'Dip probes, two of one metal',
      'Distilled water, a lamp',
    ]);
  });
});

describe('loose caps before a further charge of a flooded battery', () => {
  it('are a gate in each repeat, not before the first charge', () => {
    const sheet = new TestJob('TQ-F6/11').checkIn().affirm('caps-off', 'vent-plug');
    sheet.measure('electrolyte', { density: 1.265, acidC: 25 }).chambers('fill').wait(31).chambers('top-up');
    sheet.affirm('caps-loose').measure('ocv-soak', { ocvV: 6.3, tempC: 25 });
    expect(sheet.current.stepId).to.equal('charge');
    sheet.put('chargeStarted', { step: 'charge#1', currentA: 1.1 }).wait(900);
    sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).wait(6).affirm('disconnect');
    sheet.measure('water', { added: 'nothing' }).chambers('levels').affirm('caps-on').wait(60);
    sheet.measure('test-ocv', { ocvV: 6.1, tempC: 22 }).measure('test-load', { method: 'load', loadV: 5.3 });
    sheet.decide('repeat');
    expect(sheet.current.key).to.equal('caps-loose-again#2');
    expect(sheet.affirm('caps-loose-again').current.key).to.equal('charge#2');
  });
});
