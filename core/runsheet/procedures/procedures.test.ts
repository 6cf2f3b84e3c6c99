import { expect } from 'chai';
import { CATALOGUE } from '../../demo/catalogue.ts';
import type { Delivery, ListedType } from '../../battery/types.ts';
import { CAUTIONS } from '../../rules/cautions.ts';
import { RunSheetError } from '../entries/errors.ts';
import { HOUSE_RULES } from '../../rules/houseRules.ts';
import { contextOf } from '../state/context.ts';
import type { ChargeStep, Procedure, Step } from '../definition/step.ts';
import { THRESHOLDS } from '../../rules/thresholds.ts';
import { TestJob } from '../../test/testJob.ts';
import { procedureById, proceduresFor } from './procedures.ts';

function stepOf(procedure: Procedure, id: string): Step {
  const found = procedure.steps.find((step) => step.id === id);
  if (!found) throw new Error(`no step ${id}`);
  return found;
}

/** Where a step stands among the others. */
const placeIn =
  (procedure: Procedure) =>
  (id: string): number =>
    procedure.steps.indexOf(stepOf(procedure, id));

for (const [id, typeId] of [
  ['agm-from-pack', 'LW-A12/9'],
  ['flooded-by-hand', 'BK-F12/70'],
  ['agm-activated', 'BK-S12/75'],
  ['display-refresh', 'BK-S12/75'],
  ['refresh', 'LW-A12/9'],
  ['refresh', 'BK-F12/70'],
] as const)
  describe(`the procedure ${id} of ${typeId}`, () => {
    const procedure = procedureById(id);
    const place = placeIn(procedure);
    const types = CATALOGUE.filter((type) => proceduresFor(type).includes(procedure));

    it('names each step once, and each with an order a technician can carry out', () => {
      const ids = procedure.steps.map((step) => step.id);
      expect(new Set(ids).size).to.equal(ids.length);
      for (const step of procedure.steps) {
        expect(step.title, step.id).to.match(/^[A-Z]/);
        expect(step.title.length, step.id).to.be.at.most(34);
        expect(step.overdueAfterMin, step.id).to.be.above(0);
      }
    });

    it('only speaks of steps, cautions, thresholds and rules that exist', () => {
      const ids = procedure.steps.map((step) => step.id);
      for (const step of procedure.steps) {
        for (const caution of step.cautions) expect(CAUTIONS).to.have.property(caution);
        for (const id of step.shows ?? []) expect(THRESHOLDS).to.have.property(id);
        if (step.needs) expect(ids).to.include(step.needs);
        if (step.when) {
          const options = Object.keys(HOUSE_RULES[step.when.rule].options);
          expect(options).to.include.members([...step.when.isOneOf]);
        }
      }
      expect(ids).to.include.members([...procedure.loop.from.slice(-1), procedure.loop.to]);
    });

    it('gives every gate at least one no, and every no a way on', () => {
      for (const step of procedure.steps) {
        if (step.kind !== 'gate') continue;
        expect(step.denials.length, step.id).to.be.above(0);
        for (const denial of step.denials) {
          expect(denial.say, denial.id).to.match(/^[A-Z].*[.]$/);
          expect(denial.leads).to.be.oneOf(['hold', 'end']);
        }
      }
    });

    it('starts every dwell by a step that comes before it, whatever the school', () => {
      for (const packDwell of ['byCapacity', 'short', 'asSheet'] as const) {
        const context = contextOf(new TestJob(typeId, { packDwell }, undefined, id).job.state, 1);
        for (const step of procedure.steps)
          if (step.kind === 'dwell')
            expect(place(step.clockStart(context)), step.id).to.be.below(place(step.id));
      }
    });

    it('says in words what each step asks, for every battery it is for', () => {
      for (const type of types) {
        const context = contextOf(new TestJob(type.id, {}, undefined, id).job.state, 1);
        for (const step of procedure.steps) {
          const text = step.detail(context);
          expect(text, `${type.id} ${step.id}`).to.match(/^\S.*[.?]$/);
          expect(text, `${type.id} ${step.id}`).not.to.match(/undefined|NaN/);
        }
      }
    });

    it('asks only for readings whose expected range lies inside the possible one', () => {
      for (const type of types) {
        const context = contextOf(new TestJob(type.id, {}, undefined, id).job.state, 1);
        for (const step of procedure.steps) {
          if (step.kind !== 'measure') continue;
          for (const field of step.fields) {
            if (field.kind !== 'number') continue;
            const { possible, plausible } = field.spec(context);
            expect(plausible.min, `${type.id} ${field.id}`).to.be.at.least(possible.min);
            expect(plausible.max, `${type.id} ${field.id}`).to.be.at.most(possible.max);
            expect(plausible.max, `${type.id} ${field.id}`).to.be.above(plausible.min);
          }
        }
      }
    });
  });

describe('the order of work', () => {
  const place = placeIn(procedureById('agm-from-pack'));
  const stepById = (id: string): Step => stepOf(procedureById('agm-from-pack'), id);

  it('keeps the handbook’s order of work', () => {
    const order = [
      'safety',
      'inspect',
      'pack-code',
      'foil-off',
      'pack-on',
      'bubbles',
      'empty',
      'pack-dwell',
      'pack-off',
      'soak',
      'ocv-soak',
      'charge',
      'gas-wait',
      'disconnect',
      'lid',
      'rest',
      'test-ocv',
      'test-load',
      'verdict',
      'hand-over',
      'certify',
    ];
    expect(order.map(place)).to.deep.equal([...order.map(place)].sort((a, b) => a - b));
  });

  it('puts the caution before acid, charge, clips, load and posts', () => {
    for (const [id, caution] of [
      ['safety', 'acid'],
      ['foil-off', 'acid'],
      ['pack-on', 'acid'],
      ['pack-off', 'packDrips'],
      ['charge', 'gas'],
      ['charge', 'clipsFirst'],
      ['disconnect', 'chargerOffFirst'],
      ['lid', 'neverStruck'],
      ['test-load', 'sparkAtTest'],
      ['hand-over', 'posts'],
      ['soak', 'notReady'],
    ] as const)
      expect(stepById(id).cautions, id).to.include(caution);
  });

  it('is the handbook’s for a flooded battery too, and acid goes in for the last time before the charge', () => {
    const order = [
      'safety',
      'inspect',
      'caps-off',
      'vent-plug',
      'electrolyte',
      'fill',
      'soak',
      'top-up',
      'caps-loose',
      'ocv-soak',
      'charge',
      'gas-wait',
      'disconnect',
      'water',
      'levels',
      'caps-on',
      'rest',
      'test-ocv',
      'test-load',
      'verdict',
      'certify',
    ];
    const places = order.map(placeIn(procedureById('flooded-by-hand')));
    expect(places).to.deep.equal([...places].sort((a, b) => a - b));
  });
});

/** Every step of a procedure, its routes' too. */
const allSteps = ({ steps, routes = [] }: Procedure): readonly Step[] => [
  ...steps,
  ...routes.flatMap((route) => route.steps),
];

describe('cautions', () => {
  const RECOVERIES = ['recover-agm', 'recover-flooded'] as const;
  const COMMISSIONINGS = ['agm-from-pack', 'flooded-by-hand', 'agm-activated', 'display-refresh'] as const;
  const EVERY = [...RECOVERIES, ...COMMISSIONINGS, 'refresh'].map((id) => procedureById(id));
  const chargesOf = (procedure: Procedure): readonly ChargeStep[] =>
    allSteps(procedure).filter((step) => step.kind === 'charge');

  it('before every charge: hydrogen, clips and polarity; while it is on: the rotten-egg smell', () => {
    for (const procedure of EVERY)
      for (const { id, cautions, cautionsWhileOn } of chargesOf(procedure)) {
        expect(cautions, `${procedure.id} ${id}`).to.include.members(['gas', 'clipsFirst']);
        expect(cautionsWhileOn, `${procedure.id} ${id}`).to.include.members(['gas', 'rottenEgg']);
      }
  });

  it('a used battery may hold gas inside: said before and during each of its charges', () => {
    for (const procedure of [...RECOVERIES, 'refresh'].map((id) => procedureById(id)))
      for (const { id, cautions, cautionsWhileOn } of chargesOf(procedure)) {
        expect(cautions, id).to.include('gasInside');
        expect(cautionsWhileOn, id).to.include('gasInside');
      }
  });

  it('what must not be left alone says so before and during the charge', () => {
    for (const [typeId, id] of [
      ['BK-A12/55', 'recover-agm'],
      ['BK-F12/70', 'recover-flooded'],
    ] as const) {
      const job = new TestJob(typeId, {}, undefined, id).triage(9.4).job;
      const context = contextOf(job.state, 1);
      const attended = chargesOf(procedureById(id)).filter(
        ({ treatment }) => treatment?.(context).isAttended === true,
      );
      expect(attended.length).to.be.above(3);
      for (const step of attended) {
        expect(step.cautions, step.id).to.include('attended');
        expect(step.cautionsWhileOn, step.id).to.include('attended');
      }
    }
  });

  it('mistake: charged frozen. A battery read at 0 °C or below is warned of before every way to charge it', () => {
    for (const tempC of [-9, 21]) {
      const job = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.8, { tempC }).job;
      const context = contextOf(job.state, 1);
      for (const { id, cautionsFor } of chargesOf(procedureById('recover-agm')))
        expect(cautionsFor?.(context) ?? [], id).to[tempC > 0 ? 'not' : 'deep'].include('coldCharge');
    }
  });

  it('filling: the smell, acid on clothes, and static before the first post is touched', () => {
    for (const [id, filling] of [
      ['agm-from-pack', 'pack-dwell'],
      ['flooded-by-hand', 'fill'],
    ] as const) {
      const procedure = procedureById(id);
      expect(stepOf(procedure, filling).cautions, id).to.include('rottenEgg');
      expect(stepOf(procedure, 'safety').cautions, id).to.include.members(['acid', 'static']);
    }
    expect(CAUTIONS.acid).to.match(/clothes it touched come off at once and are rinsed/);
  });

  it('prying and drilling are named where a sealed battery makes one think of them', () => {
    const inspect = stepOf(procedureById('recover-agm'), 'inspect');
    expect(inspect.cautions).to.include('neverPry');
    const agm = contextOf(new TestJob('BK-A12/55', {}, undefined, 'recover-agm').job.state, 1);
    const water = allSteps(procedureById('recover-agm')).filter(
      ({ cautionsFor }) => cautionsFor?.(agm).includes('neverPry') === true,
    );
    expect(water.map(({ id }) => id)).to.deep.equal(['water-dose']);
    expect(stepOf(procedureById('recover-flooded'), 'inspect').cautions).not.to.include('neverPry');
  });

  it('the symbols of a label are explained once, where it is read', () => {
    for (const procedure of EVERY.filter(({ steps }) => steps.some(({ id }) => id === 'label')))
      expect(
        allSteps(procedure)
          .filter(({ explains }) => explains === 'label-symbols')
          .map(({ id }) => id),
        procedure.id,
      ).to.deep.equal(['label']);
  });
});

describe('procedures', () => {
  it('are found by kind of battery, and honestly not found', () => {
    const [base] = CATALOGUE;
    if (!base) throw new Error('no types');
    const works = (construction: ListedType['construction'], delivery: Delivery): readonly string[] =>
      proceduresFor({ ...base, construction, delivery } as ListedType).map(({ id }) => id);
    expect(works('agm', 'own-pack')).to.deep.equal([
      'agm-from-pack',
      'display-refresh',
      'recover-agm',
      'refresh',
    ]);
    expect(works('flooded', 'bulk-acid')).to.deep.equal(['flooded-by-hand', 'recover-flooded', 'refresh']);
    expect(works('flooded', 'own-pack')[0]).to.equal('flooded-by-hand');
    for (const sealed of ['agm', 'gel'] as const)
      expect(works(sealed, 'factory-activated')).to.deep.equal([
        'agm-activated',
        'display-refresh',
        'recover-agm',
        'refresh',
      ]);
    expect(works('gel', 'in-service')).to.deep.equal(['recover-agm', 'display-refresh', 'refresh']);
    expect(works('flooded', 'in-service')).to.deep.equal(['recover-flooded', 'refresh']);
    expect(works('lithium', 'in-service')).to.deep.equal([]);
    expect(() => procedureById('by-guess')).to.throw(RunSheetError, 'no procedure “by-guess”');
  });
});
