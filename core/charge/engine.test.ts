import { expect } from 'chai';
import fc from 'fast-check';
import { makeBattery, type Fault } from '../model/faults.ts';
import { SOUND } from '../model/battery.ts';
import { rest } from '../model/discharge.ts';
import { soundBattery, type Rating } from '../model/parameters.ts';
import { AGM_80, chargeOn, FLOODED_70, partCharged, subjectOf } from '../test/modelBench.ts';
import { chargerById, CHARGERS, misfit, shapeOf } from './chargers.ts';
import { donorWake, inrushA, leadsOhm, postsOhm } from './donor.ts';
import { ChargeEngine, describeExit } from './engine.ts';
import { planFor, PLAN_NAMES, refusalOf } from './library.ts';
import { ModelRun } from './modelRun.ts';
import { averageA, heatingRatio, type Profile, type Purpose, type Stage, type Subject } from './profile.ts';

const HOUR = 3600;
const subject: Subject = { construction: 'flooded', cells: 6, capacityAh: 70 };

function oneStage(stage: Partial<Stage>, purpose: Purpose = 'charge'): Profile {
  const filled: Stage = {
    id: 'only',
    name: 'Only',
    amps: 7,
    volts: 14.4,
    isCompensated: false,
    exits: [],
    ...stage,
  };
  return { id: 'constant-voltage', name: 'One', purpose, reason: '', isAttended: false, stages: [filled] };
}

describe('charge engine', () => {
  it('never commands above a ceiling, whatever the plan asks for', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<Subject['construction']>('agm', 'flooded'),
        fc.integer({ min: 1, max: 12 }),
        fc.double({ min: 1, max: 400, noNaN: true }),
        fc.constantFrom<Purpose>('first-charge', 'charge', 'wake', 'soak', 'pulse', 'maintain'),
        fc.double({ min: 0, max: 1e4, noNaN: true }),
        fc.double({ min: 0.1, max: 1e3, noNaN: true }),
        fc.double({ min: -40, max: 49, noNaN: true }),
        fc.option(fc.double({ min: 0.1, max: 50, noNaN: true }), { nil: undefined }),
        (construction, cells, capacityAh, purpose, amps, volts, tempC, labelA) => {
          const on: Subject = {
            construction,
            cells,
            capacityAh,
            ...(labelA === undefined ? {} : { labelA }),
          };
          const pulse = { spikeA: amps * 5, spikeS: 1, settleA: amps, settleS: 1, offS: 1 };
          const engine = new ChargeEngine(oneStage({ amps, volts, isCompensated: true, pulse }, purpose), on);
          const state = engine.next(engine.begin(), { atS: 0, volts: 1, amps: 0, tempC });
          const command = engine.command(state);
          const perCell = construction === 'agm' ? 2.5 : 16 / 6;
          const most = Math.max(capacityAh / 2, labelA ?? 0);
          expect(command.volts).to.be.at.most(perCell * cells + 1e-9);
          expect(command.amps).to.be.at.most(most + 1e-9);
          for (const atS of [0.5, 1.5, 2.5])
            expect(engine.pulseA(state, atS).amps).to.be.at.most(engine.ceilings.amps + 1e-9);
        },
      ),
      { numRuns: 400, seed: 3 },
    );
  });

  it('ranks the current ceilings of a first charge: label, then 3 A on small ones, then C/5', () => {
    const ceiling = (capacityAh: number, labelA?: number): number =>
      new ChargeEngine(oneStage({}, 'first-charge'), {
        construction: 'agm',
        cells: 6,
        capacityAh,
        ...(labelA === undefined ? {} : { labelA }),
      }).ceilings.amps;
    expect(ceiling(12, 1.2)).to.equal(1.2);
    expect(ceiling(28)).to.equal(3);
    expect(ceiling(9)).to.equal(1.8);
    expect(ceiling(55)).to.equal(11);
  });

  it('refuses in one sentence what a battery must never have', () => {
    expect(() => planFor('equalise', subjectOf(AGM_80))).to.throw('never equalised');
    expect(() => new ChargeEngine(oneStage({}, 'equalise'), subjectOf(AGM_80))).to.throw('never equalised');
    expect(() => planFor('constant-current', subjectOf(AGM_80))).to.throw('dries an AGM out');
    expect(() => planFor('long-soak', subject)).to.throw('boil off its water');
    for (const rating of [AGM_80, subject]) expect(refusalOf('gel', rating)).to.include('stops at 14.1 V');
    expect(() => planFor('donor', { ...subject, capacityAh: 9 })).to.throw('Below 30 Ah');
    expect(() => planFor('label', subject)).to.throw('prints no charging current');
    expect(() => new ChargeEngine(oneStage({ amps: -1 }), subject)).to.throw('it has -1 A and 14.4 V.');
    expect(
      () => new ChargeEngine(oneStage({ exits: [{ on: 'time', seconds: 1, next: 'gone' }] }), subject),
    ).to.throw('leads to “gone”');
    expect(() => new ChargeEngine(oneStage({}), { ...subject, capacityAh: 0 })).to.throw('0 Ah does not');
    expect(() => new ChargeEngine({ ...oneStage({}), stages: [] }, subject)).to.throw('has no stage');
  });

  it('compensates from 25 °C by −4 mV a cell and kelvin, no colder than 0 and no warmer than 45 °C', () => {
    const engine = new ChargeEngine(oneStage({ isCompensated: true }), subject);
    const stage = engine.profile.stages[0] as Stage;
    const volts = (tempC: number): number => engine.heldVolts(stage, tempC);
    expect(volts(25)).to.equal(14.4);
    expect(volts(35)).to.be.closeTo(14.16, 1e-9);
    expect(volts(-10)).to.equal(volts(0));
    expect(volts(60)).to.equal(volts(45));
  });

  it('holds no more than the label prints, whatever the plan asks for, and follows warmth from there', () => {
    const engine = new ChargeEngine(oneStage({}), { ...subject, labelV: 14.1 });
    const [stage] = engine.profile.stages;
    if (!stage) throw new Error('no stage');
    expect(engine.heldVolts(stage, 25)).to.be.closeTo(14.1, 1e-9);
    expect(engine.heldVolts(stage, 15)).to.be.at.most(14.1 + 0.24 + 1e-9);
  });

  it('a battery that takes nothing of what it lacks is not full, however flat', () => {
    const plan = oneStage({ exits: [{ on: 'full', forS: 7200, next: 'full' }] });
    const run = (missingAh: number): string | undefined => {
      const engine = new ChargeEngine(plan, { ...subject, missingAh });
      let state = engine.begin();
      for (let minute = 0; minute <= 240; minute += 10)
        state = engine.next(state, { atS: minute * 60, volts: 14.4, amps: 0.2, tempC: 25 });
      return state.ended;
    };
    expect(run(0)).to.equal('full');
    expect(run(40)).to.equal(undefined);
  });

  it('time paused does not count as flat', () => {
    const plan = oneStage({ exits: [{ on: 'full', forS: 7200, next: 'full' }] });
    const engine = new ChargeEngine(plan, subject);
    let state = engine.begin();
    const look = (minute: number, tempC: number, amps: number): void => {
      state = engine.next(state, { atS: minute * 60, volts: 14.4, amps, tempC });
    };
    for (let minute = 0; minute <= 100; minute += 10) look(minute, 49, 0.2);
    look(105, 51, 0.2);
    for (let minute = 110; minute <= 200; minute += 10) look(minute, minute < 190 ? 45 : 39, 0);
    for (let minute = 210; minute <= 300; minute += 10) look(minute, 39, 0.2);
    expect(state.ended).to.equal(undefined);
    for (let minute = 310; minute <= 330; minute += 10) look(minute, 39, 0.2);
    expect(state.ended).to.equal('full');
  });

  it('pauses above 50 °C, goes on below 40, and adds the lost time', () => {
    const engine = new ChargeEngine(
      oneStage({ exits: [{ on: 'time', seconds: 3600, next: 'full' }] }),
      subject,
    );
    const at = (minute: number, tempC: number) => ({ atS: minute * 60, volts: 13, amps: 7, tempC });
    let state = engine.next(engine.begin(), at(0, 30));
    state = engine.next(state, at(30, 50.5));
    expect(engine.command(state).isOn).to.equal(false);
    state = engine.next(state, at(60, 42));
    expect(state.isPaused).to.equal(true);
    state = engine.next(state, at(90, 39.9));
    expect(engine.command(state).isOn).to.equal(true);
    expect(engine.next(state, at(110, 45)).ended).to.equal(undefined);
    expect(engine.next(state, at(120, 45)).ended).to.equal('full');
  });

  it('stops a runaway: current rising at held voltage in a warm battery', () => {
    const engine = new ChargeEngine(oneStage({}), subject);
    const at = (minute: number, amps: number, tempC: number) => ({
      atS: minute * 60,
      volts: 14.4,
      amps,
      tempC,
    });
    let state = engine.next(engine.begin(), at(0, 7, 41));
    state = engine.next(state, at(60, 6, 42));
    state = engine.next(state, at(120, 1.2, 43));
    expect(engine.next(state, at(180, 1.9, 46)).ended).to.equal('runaway');
    expect(engine.next(state, at(180, 1.9, 42)).ended).to.equal(undefined);
    expect(engine.next(state, at(180, 1.3, 46)).ended).to.equal(undefined);
  });

  for (const [exit, before, met] of [
    [
      { on: 'voltage-above', volts: 14 },
      { volts: 13.9, amps: 7 },
      { volts: 14, amps: 7 },
    ],
    [
      { on: 'current-below', amps: 1 },
      { volts: 14.4, amps: 1.1 },
      { volts: 14.4, amps: 0.9 },
    ],
    [
      { on: 'charge', ah: 7.5 },
      { volts: 13, amps: 7 },
      { volts: 13, amps: 8 },
    ],
    [
      { on: 'voltage-drop', volts: 0.2 },
      { volts: 15, amps: 7 },
      { volts: 14.8, amps: 7 },
    ],
    [
      { on: 'accepts', amps: 3.5, belowV: 14.4 },
      { volts: 14.6, amps: 3.5 },
      { volts: 14.2, amps: 3.5 },
    ],
    [
      { on: 'time', seconds: 3600 },
      { volts: 13, amps: 7 },
      { volts: 13, amps: 7 },
    ],
  ] as const)
    it(`leaves a stage on ${describeExit(exit)}, and not before`, () => {
      const plan = oneStage({ volts: 14.4, exits: [{ ...exit, next: 'full' }] });
      const engine = new ChargeEngine(plan, subject);
      let state = engine.next(engine.begin(), { atS: 0, tempC: 25, ...before });
      state = engine.next(state, { atS: 1800, tempC: 25, ...before });
      expect(state.ended).to.equal(undefined);
      state = engine.next(state, { atS: 3601, tempC: 25, ...met });
      expect(state.ended).to.equal('full');
      expect(state.because).to.equal(describeExit(exit));
    });

  for (const quantity of ['current-flat', 'density-flat'] as const)
    it(`waits until ${quantity} has lasted`, () => {
      const exit =
        quantity === 'current-flat'
          ? { on: quantity, bandA: 0.05, forS: 2 * HOUR, next: 'full' }
          : { on: quantity, band: 0.002, forS: 2 * HOUR, next: 'full' };
      const engine = new ChargeEngine(oneStage({ exits: [exit] }), subject);
      let state = engine.begin();
      [0.5, 0.4, 0.4, 0.39].forEach((amps, hour) => {
        const density = 1.2 + amps / 10;
        state = engine.next(state, { atS: hour * HOUR, volts: 14.4, amps, tempC: 25, density });
        expect(state.ended).to.equal(hour < 3 ? undefined : 'full');
      });
    });
});

describe('plans', () => {
  it('scale with capacity and each give their reason', () => {
    for (const { id } of PLAN_NAMES)
      for (const capacityAh of [9, 80]) {
        const on: Subject = { construction: 'flooded', cells: 6, capacityAh, labelA: capacityAh / 8 };
        if (refusalOf(id, on) !== undefined) continue;
        const plan = planFor(id, on);
        expect(plan.reason.length).to.be.above(30);
        for (const stage of plan.stages) expect(stage.amps / capacityAh).to.be.within(0.01, 0.26);
      }
  });

  it('pulses in the average give what pulses one by one give, within 1 % of charge and 30 mV', () => {
    const run = (resolvesPulses: boolean): ModelRun => {
      const cells = makeBattery({ parameters: soundBattery(AGM_80), condition: { ...SOUND, charge: 0.4 } });
      const pulsed = chargeOn(AGM_80, cells, planFor('pulse', subjectOf(AGM_80)), { resolvesPulses });
      pulsed.runUntil(HOUR / 2);
      return pulsed;
    };
    const averaged = run(false);
    const resolved = run(true);
    const ah = (of: ModelRun): number => of.cells.state.shared[1] ?? 0;
    expect(ah(averaged) / ah(resolved)).to.be.closeTo(1, 0.01);
    rest(averaged.cells, 1800);
    rest(resolved.cells, 1800);
    expect(averaged.volts()).to.be.closeTo(resolved.volts(), 0.03);
    const { pulse } = planFor('pulse', subjectOf(AGM_80)).stages[0] as Stage;
    expect(pulse && averageA(pulse)).to.be.closeTo(80 / 20, 0.001);
    expect(pulse && heatingRatio(pulse)).to.be.above(1);
  });

  it('what pulses add over their average is nothing unless a gain is assumed', () => {
    const hardLeft = (pulseGain: number): number => {
      const parameters = soundBattery(AGM_80);
      const cell = { ...(parameters.cells[0] as (typeof parameters.cells)[number]), pulseGain };
      const cells = makeBattery({
        parameters: { ...parameters, cells: parameters.cells.map(() => cell) },
        condition: { ...SOUND, charge: 0.2, hardShare: 0.7 },
      });
      chargeOn(AGM_80, cells, planFor('pulse', subjectOf(AGM_80))).runUntil(72 * HOUR);
      return cells.state.hard[0] ?? 0;
    };
    const steady = hardLeft(1);
    expect(hardLeft(1.5)).to.be.below(steady * 0.95);
  });
});

describe('chargers', () => {
  const nine: Subject = { construction: 'agm', cells: 6, capacityAh: 9 };

  it('say why they do not suit', () => {
    const plan = planFor('tenth-timed', nine);
    expect(misfit(chargerById('automatic'), plan, nine, 12.7)).to.equal(
      'Automatic charger: gives 4 A at its lowest; this charge takes 0.90 A at most.',
    );
    const deep = planFor('tenth-timed', subject);
    expect(misfit(chargerById('automatic'), deep, subject, 4.2)).to.include(
      'below 10.5 V; this one stands at 4.2 V',
    );
    expect(misfit(chargerById('automatic'), deep, subject, 12.1)).to.equal(
      'Automatic charger: runs only its own programme; choose “Automatic programme”.',
    );
    expect(misfit(chargerById('automatic'), planFor('automatic', subject), subject, 12.1)).to.equal(
      undefined,
    );
    expect(misfit(chargerById('bench'), planFor('pulse', subject), subject, 12)).to.include('cannot pulse');
    expect(
      CHARGERS.filter((charger) => misfit(charger, plan, nine, 12.7) === undefined),
    ).to.have.length.above(1);
    // 15.5 V open behind 1.1 Ω into 12.7 V is 2.5 A; a 9-Ah battery's first charge takes 1.8 A at most.
    expect(misfit(chargerById('taper'), plan, nine, 12.7)).to.equal(
      'Taper charger: would push 2.5 A at the start; this charge takes 1.8 A at most.',
    );
    expect(misfit(chargerById('taper'), deep, subject, 12)).to.equal(undefined);
    expect(() => chargerById('none')).to.throw('no charger “none”');
  });

  it('an automatic one runs bulk, hold and float, and gives up on a battery that never rises', () => {
    const run = (faults: readonly Fault[]) => {
      const cells = partCharged(soundBattery(AGM_80), faults);
      const automatic = { supply: shapeOf(chargerById('automatic'), 6) };
      const made = chargeOn(AGM_80, cells, planFor('automatic', subject), automatic);
      made.runUntil(40 * HOUR);
      return made;
    };
    const sound = run([]);
    expect(sound.stages.map(({ name }) => name)).to.deep.equal(['Bulk', 'Hold', 'Float']);
    expect(sound.engineState).to.include({ ended: 'full' });
    expect(sound.trace.at(HOUR, 'amps')).to.be.closeTo(8, 0.05);
    const shorts = [2, 3].map((cell): Fault => ({ kind: 'short', cell, ohms: 0.02 }));
    expect(run(shorts).engineState.ended).to.equal('stop');
  });

  it('a taper charger gives less as the battery rises', () => {
    const rating: Rating = { ...FLOODED_70, capacityAh: 40, crankingA: 360 };
    const cells = makeBattery({ parameters: soundBattery(rating), condition: { ...SOUND, charge: 0.3 } });
    const run = chargeOn(rating, cells, planFor('constant-voltage', subjectOf(rating)), {
      supply: shapeOf(chargerById('taper'), 6),
    });
    run.runUntil(10 * HOUR);
    const early = run.trace.at(600, 'amps');
    expect(early).to.be.within(2, 4);
    expect(run.trace.at(9 * HOUR, 'amps')).to.be.below(early * 0.85);
  });
});

describe('a donor beside a deep battery', () => {
  const deep = (faults: readonly Fault[] = [], film = 0.4) => {
    const parameters = { ...soundBattery(AGM_80), leadsOhm: leadsOhm(2, 10) };
    return makeBattery({
      parameters,
      condition: { ...SOUND, charge: -0.145, hardShare: 0.3, film },
      faults,
    });
  };

  it('lifts it past 10.5 V within an hour or so, cool', () => {
    const flat = deep(
      [2, 5].map((cell): Fault => ({ kind: 'reversed', cell })),
      0,
    );
    rest(flat, 60);
    expect(flat.terminalV).to.be.below(8);
    const donor = makeBattery({ parameters: soundBattery(AGM_80) });
    rest(donor, 60);
    const looks = donorWake(donor, flat, 8, HOUR);
    // With the leads on, its posts show the donor: it is read ten minutes after they came off.
    rest(flat, 600);
    expect(flat.terminalV).to.be.above(10.5);
    expect(looks.at(-1)?.flatC).to.be.below(45);
  });

  it('draws hundreds of amperes into shorted cells, which heat instead', () => {
    const shorted = deep(
      [
        { kind: 'short', cell: 1, ohms: 0.004 },
        { kind: 'short', cell: 2, ohms: 0.004 },
        { kind: 'short', cell: 3, ohms: 0.004 },
      ],
      0,
    );
    rest(shorted, 60);
    const flatV = shorted.terminalV;
    const donor = makeBattery({ parameters: soundBattery(AGM_80) });
    rest(donor, 60);
    const inrush = inrushA(
      12.9,
      flatV,
      postsOhm(donor),
      postsOhm(shorted) - leadsOhm(2, 10),
      leadsOhm(2, 10),
    );
    expect(inrush).to.be.above(100);
    const looks = donorWake(donor, shorted, 8, HOUR);
    rest(shorted, 600);
    expect(shorted.terminalV).to.be.below(10.5);
    expect(looks.at(-1)?.flatC).to.be.above((looks[0]?.flatC ?? 0) + 10);
  });
});
