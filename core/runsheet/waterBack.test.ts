/** What is put into a battery brought back: water by its measure, salts by the case against them. */
import { expect } from 'chai';
import { brought, end, start } from '../test/broughtIn.ts';
import type { TestJob } from '../test/testJob.ts';
import { agmDoseMl } from './procedures/recovery/waterBack.ts';
import { contextOf } from './state/context.ts';
import { definitionOf, procedureOf } from './state/sheet.ts';
import type { MeasureStep } from './definition/step.ts';

describe('water back', () => {
  /** An AGM open by hand, its mats looked at. */
  const mats = (typeId = 'BK-A12/55', mat = 'dry'): TestJob => {
    const sheet = brought(typeId, { agmWater: 'measured' }).triage(11.9).route('water-back');
    return sheet.affirm('agm-water-case').measure(
      'agm-mats',
      sheet.eachCell('mat', () => mat),
    );
  };

  it('left half-way it is closed before anything else flows through it, and asked no more once a way was gone', () => {
    const sheet = mats('BK-A12/55', 'wet');
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'its mats are wet' }).route('slow-charge');
    expect(sheet.current.stepId).to.equal('slow-charge-closed-first');
    expect(() => start(sheet, 2.75)).to.throw('does not take this kind of entry');
    sheet.affirm('slow-charge-closed-first');
    expect(sheet.current.stepId).to.equal('slow');
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('slow-clips')
      .wait(60);
    sheet.measure('after-charge', { ocvV: 12.7, tempC: 21 }).route('long-soak');
    expect(sheet.current.stepId).to.equal('soak');
    expect(brought('BK-A12/55').triage(12.1).route('slow-charge').current.stepId).to.equal('slow');
  });

  it('an AGM is opened by hand or not at all, its mats looked at, closed and weighed', () => {
    const sheet = brought('BK-A12/55', { agmWater: 'measured' }).triage(11.9).route('water-back');
    sheet.put('denied', { step: sheet.current.key, denial: 'must-be-pried' });
    expect(sheet.current.why).to.include('Then it stays closed');
    expect(mats('BK-A12/55', 'wet').current.why).to.include('Cell 1, 2, 3, 4, 5, 6: the mat shines');
    const dosed = mats().measure('water-mass', { deficitG: 120 }).measure('water-dose', { ml: 120 });
    expect(dosed.current.stepId).to.equal('agm-closed');
    dosed.affirm('agm-closed').measure('agm-weighed', { gainedG: 118 });
    expect(dosed.current.stepId).to.equal('choose-route');
  });

  it('into a flooded battery needs no house rule, and is recorded', () => {
    const sheet = brought('BK-F12/70').triage(11.9).route('water-back');
    sheet.put('skipped', { step: 'water-mass#1' }).measure('water-dose', { ml: 250 });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('cells that do not add up to all of it, and no figure at all, want another look', () => {
    const dose = (values: Record<string, number>): string =>
      brought('BK-F12/70')
        .triage(11.9)
        .route('water-back')
        .put('skipped', { step: 'water-mass#1' })
        .measure('water-dose', values).current.why ?? '';
    expect(dose({})).to.include('How much went in?');
    expect(dose({ ml1: 60, ml2: 60, ml: 250 })).to.include('add up to 120 mL');
    expect(dose({ ml1: 60, ml2: 60, ml: 125 })).to.equal('');
    expect(dose({ ml1: 60, ml2: 60 })).to.equal('');
  });

  it('an AGM’s dose follows its deficit in mass where that is known', () => {
    const sheet = mats();
    sheet.measure('water-mass', { deficitG: 180 });
    const { state } = sheet.job;
    expect(definitionOf(state, sheet.current).detail(contextOf(state, 1))).to.include(
      '180 mL in all, 30 mL a cell',
    );
    sheet.measure('water-dose', { ml: 260 });
    expect(sheet.current.why).to.include('more than the dose of 180 mL');
  });

  it('weighed, it is held against a full one of its type; heavier than that wants another look', () => {
    const weighed = (massG: number): TestJob => mats().measure('water-mass', { massG });
    const dose = ({ job: { state } }: TestJob): number => agmDoseMl(contextOf(state, 1));
    expect(dose(weighed(17_820))).to.equal(180);
    expect(dose(weighed(18_120))).to.equal(0);
    expect(weighed(18_120).current.why).to.equal(undefined);
    expect(weighed(18_250).current.why).to.include('It is 250 g heavier than a full one');
    expect(() => mats().measure('water-mass', {})).to.throw('Mass on the scale');
  });

  it('asks how much lighter it is only where no scale can say', () => {
    const asked = (typeId: string): string[] => {
      const sheet = typeId.includes('-A') ? mats(typeId) : brought(typeId).triage(11.9).route('water-back');
      const { fields } = definitionOf(sheet.job.state, sheet.current) as MeasureStep;
      const { type } = sheet.job.state.opened;
      return fields.flatMap((field) => (field.kind === 'number' && field.isFor?.(type) ? field.id : []));
    };
    expect(asked('BK-A12/55')).to.deep.equal(['massG']);
    expect(asked('BK-F12/70')).to.deep.equal(['deficitG']);
  });
});

describe('salt change', () => {
  it('shows the case against it, wants a vessel, and goes at most four times', () => {
    const sheet = brought('BK-F12/70', { additives: 'sodium' }).triage(12);
    const route = procedureOf(sheet.job.state).routes?.find(({ id }) => id === 'salt-change');
    expect(route?.against).to.include('beside plain water no gain was seen');
    for (let times = 0; times < 4; times++)
      sheet.route('salt-change').affirm('salt-case').measure('salt-in', { ml: 3000 });
    expect(() => sheet.route('salt-change')).to.throw('Four times');
  });
});
