/** An opened battery in the order of the trade: look, density, cell voltages, load, then water; bare plates first of all. */
import { expect } from 'chai';
import { illnessesOf } from '../belief/words.ts';
import { CAUSE_IDS, type CauseId } from '../candidate/causes.ts';
import { courseOf } from '../adapters/fromJob.ts';
import { brought, end, start } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { contextOf } from './state/context.ts';
import { definitionOf, procedureOf } from './state/sheet.ts';

/** Up to where its cells are opened. */
const atItsCells = (): TestJob =>
  brought('BK-F12/70')
    .affirm('identify')
    .measure('label', {})
    .affirm('safety', 'inspect')
    .measure('history', { complaint: 'parked' })
    .affirm('clean')
    .measure('first-ocv', { ocvV: 12.3, tempC: 21, rested: 'yes' });
const levels = (sheet: TestJob, of: (cell: number) => string): TestJob =>
  sheet.measure('levels-cells', sheet.eachCell('level', of));

describe('an opened battery', () => {
  it('is read before water goes in: density, voltage along the cells, load', () => {
    const sheet = levels(atItsCells().measure('open-cells', { caps: 'caps' }), () => 'low');
    const order = [];
    for (const leave of ['density-before', 'dips-before', 'load-before']) {
      order.push(sheet.current.stepId);
      sheet.leaveOut(leave);
    }
    expect([...order, sheet.current.stepId]).to.deep.equal([
      'density-before',
      'dips-before',
      'load-before',
      'water-before',
    ]);
  });

  it('with plates bare they are covered first, and no load is put on it', () => {
    const sheet = levels(atItsCells().measure('open-cells', { caps: 'caps' }), (cell) =>
      cell === 4 ? 'plates-bare' : 'low',
    );
    sheet.leaveOut('density-before');
    expect(sheet.current.stepId).to.equal('water-cover');
    sheet.measure('water-cover', { added: 'distilled', ml4: 90 }).leaveOut('dips-before');
    expect(sheet.current.stepId).to.equal('first-tester');
  });

  it('one low cell is named, and reaches the belief as that cell', () => {
    const sheet = levels(atItsCells().measure('open-cells', { caps: 'caps' }), (cell) =>
      cell === 3 ? 'low' : 'at-line',
    );
    const step = sheet.job.state.steps.find(({ stepId }) => stepId === 'levels-cells');
    const definition = step && definitionOf(sheet.job.state, step);
    if (definition?.kind !== 'measure' || !step?.values) throw new Error('no levels');
    expect(definition.remark?.(step.values, undefined as never)).to.equal('Cell 3 low: suspect that cell.');
    expect(courseOf(sheet.job.state).readings.filter(({ kind }) => kind === 'level')[2]).to.deep.equal({
      kind: 'level',
      cell: 3,
      level: 'low',
    });
  });

  it('dips and load of the run sheet are readings', () => {
    const sheet = levels(atItsCells().measure('open-cells', { caps: 'caps' }), () => 'at-line');
    sheet.leaveOut('density-before');
    const dips = [1.74, 2.1, 2.1, 2.1, 2.1, 2.1, 0.36];
    sheet.measure('dips-before', Object.fromEntries(dips.map((volts, index) => [`dip${index + 1}`, volts])));
    sheet.measure('load-before', { loadV: 9.7 });
    const kinds = courseOf(sheet.job.state).readings.map(({ kind }) => kind);
    expect(kinds).to.include.members(['dips', 'load']);
    expect(courseOf(sheet.job.state).readings.find(({ kind }) => kind === 'dips')).to.deep.include({
      volts: dips,
    });
  });

  it('hidden ports that the type is known for are the answer at hand', () => {
    const { type } = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded').job.state.opened;
    const stepOf = (of: typeof type): unknown => {
      const { state } = new TestJob(of, {}, undefined, 'recover-flooded').job;
      const step = procedureOf(state).steps.find(({ id }) => id === 'open-cells');
      return step?.kind === 'measure' ? step.initial?.(contextOf(state, 1)) : undefined;
    };
    expect(stepOf(type)).to.deep.equal({});
    expect(stepOf({ ...type, hasHiddenPorts: true })).to.deep.equal({ caps: 'hidden' });
  });

  it('hidden ports: the label is lifted whole, caps must seal; one that stays closed is asked nothing of its cells', () => {
    const hidden = atItsCells().measure('open-cells', { caps: 'hidden' });
    expect(hidden.current.stepId).to.equal('hidden-ports');
    hidden.put('denied', { step: hidden.current.key, denial: 'will-not-seal' });
    expect(hidden.current.why).to.include('find a cap that does');
    const closed = atItsCells().measure('open-cells', { caps: 'closed' });
    expect(closed.current.stepId).to.equal('load-before');
    closed.leaveOut('load-before');
    expect(closed.current.stepId).to.equal('first-tester');
    closed.leaveOut('first-tester').route('slow-charge');
    end(start(closed, 3.5).wait(24 * 60))
      .wait(6)
      .affirm('slow-clips')
      .wait(60);
    expect(closed.current.stepId).to.equal('after-charge');
  });

  it('after every charge its levels come to the line and its caps back on', () => {
    const sheet = brought('BK-F12/70').triage(12.1).route('constant-current');
    end(start(sheet, 7).wait(12 * 60))
      .wait(6)
      .affirm('current-clips');
    expect(sheet.current.stepId).to.equal('current-to-line');
    sheet.measure('current-to-line', { added: 'acid' });
    expect(sheet.current.why).to.include('Acid never goes into a battery in service');
    sheet.measure('current-to-line', { added: 'distilled', ml: 180 }).affirm('current-caps');
    expect(sheet.wait(60).current.stepId).to.equal('after-charge');
  });
});

describe('what was read in the vehicle', () => {
  it('its crank dip is a reading of a battery that came charged enough, and none of a flat one', () => {
    const kinds = (ocvV: number): string[] =>
      courseOf(
        brought('BK-A12/55').triage(ocvV, {
          told: { complaint: 'slow-crank', vehicleV: 12.4, vehicleCrankV: 8.9 },
        }).job.state,
      ).readings.map(({ kind }) => kind);
    expect(kinds(12.4)).to.include('crank');
    expect(kinds(6)).not.to.include('crank');
  });
});

describe('a recovered battery that is fitted here', () => {
  it('is readied, fitted and cranked before it is signed', () => {
    const fitted = new TestJob('BK-A12/55', {}, undefined, 'recover-agm', { fitting: true });
    fitted.triage(12.2).slowCharge();
    fitted.prove({
      ocvV: 12.8,
      test: { method: 'tester', testerA: 480 },
      capacity: { method: 'slow', drawnAh: 52 },
      weekV: 12.79,
    });
    fitted.decide('pass').affirm('tell-customer', 'hand-over', 'fit').measure('crank', { crankV: 10.1 });
    expect(fitted.affirm('sign-recovered').job.state.outcome).to.equal('recovered');
  });
});

describe('evidence that says “acid layered”', () => {
  it('names its way', () => {
    const causes = Object.fromEntries(CAUSE_IDS.map((id) => [id, id === 'layered' ? 0.7 : 0.01])) as Record<
      CauseId,
      number
    >;
    expect(illnessesOf(causes)[0]?.leadsTo).to.include('Mix layered acid');
    expect(illnessesOf(causes).filter(({ leadsTo }) => leadsTo !== undefined)).to.have.length(1);
  });
});
