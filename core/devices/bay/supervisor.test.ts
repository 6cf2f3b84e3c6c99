import { expect } from 'chai';
import { ChargeEngine } from '../../charge/engine.ts';
import { planFor } from '../../charge/library.ts';
import { SOUND } from '../../model/battery.ts';
import { makeBattery } from '../../model/faults.ts';
import type { CellString } from '../../model/cellString.ts';
import { soundBattery } from '../../model/parameters.ts';
import { AGM_80, chargeOn, subjectOf } from '../../test/modelBench.ts';
import { VirtualBench, type BenchParts } from '../../test/virtualBench.ts';
import type { BayPhase } from './supervisor.ts';
import type { Clips } from '../simulated/failings.ts';

const battery = (charge: number, tempC = 25): CellString =>
  makeBattery({ parameters: soundBattery(AGM_80), condition: { ...SOUND, charge }, faults: [], tempC });

const plan = planFor('tenth-timed', subjectOf(AGM_80));

function bench(parts: Partial<BenchParts> = {}, charge = 0.6): VirtualBench {
  return new VirtualBench({
    cells: battery(charge),
    engine: new ChargeEngine(plan, subjectOf(AGM_80)),
    ...parts,
  });
}

const phaseOf = ({ supervisor }: VirtualBench): BayPhase => supervisor.phase;

/** On charge for a minute. */
async function running(parts: Partial<BenchParts> = {}): Promise<VirtualBench> {
  const one = bench(parts);
  await one.begin();
  await one.runFor(60);
  expect(one.circuit.batteryA).to.be.closeTo(8, 0.1);
  return one;
}

const sayingOf = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'nothing',
    (error: unknown) => (error instanceof Error ? error.message : String(error)),
  );

describe('a bay under its own supply', () => {
  it('is off until it was checked and a person said so', async () => {
    const one = bench();
    await one.time.until(one.supervisor.look());
    expect(one.supervisor.phase).to.have.property('kind', 'off');
    expect(await sayingOf(one.supervisor.confirm())).to.include('checked before');
    await one.time.until(one.supervisor.check());
    await one.runFor(30);
    expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
    await one.time.until(one.supervisor.confirm());
    await one.runFor(1);
    expect(one.circuit.batteryA).to.be.closeTo(8, 0.1);
  });

  it('is not taken for one that went off while it is being switched on', async () => {
    const one = bench();
    await one.time.until(one.supervisor.check());
    const confirming = one.supervisor.confirm();
    for (let look = 0; look < 40; look++) {
      const looking = one.supervisor.look();
      await one.time.runTo(one.time.now() + 5);
      void looking;
    }
    await one.time.until(confirming);
    expect(one.alarms).to.deep.equal([]);
    expect(phaseOf(one).kind).to.equal('running');
  });

  for (const [clips, words] of [
    ['reversed', 'wrong way round'],
    ['off', 'clip has no hold'],
    ['touching', 'touch'],
  ] as const satisfies readonly (readonly [Clips, string])[])
    it(`does not switch on where clips are ${clips}, and says what it saw`, async () => {
      const one = bench({ hasMeter: false });
      one.circuit.clip(clips);
      expect(
        await sayingOf(one.time.until(one.supervisor.check(clips === 'reversed' ? 12.4 : undefined))),
      ).to.include(words);
      await one.runFor(5);
      expect(one.circuit.supplyA).to.be.closeTo(0, 1e-6);
      expect(await sayingOf(one.supervisor.confirm())).to.include('checked before');
    });

  it('a stop button beats everything: pressed, cut or silent it is off, and not checked until it is free', async () => {
    const one = await running();
    one.stop.fail('pressed');
    expect(await one.secondsUntilOff(5)).to.be.below(2);
    expect(one.alarms.map(({ says }) => says)).to.deep.equal(['The stop button is pressed. Switched off.']);
    expect(await sayingOf(one.time.until(one.supervisor.check()))).to.include('button is pressed');
    one.stop.fail('silent');
    expect(await sayingOf(one.time.until(one.supervisor.check()))).to.include('does not answer');
    one.stop.fail(undefined);
    await one.begin();
    one.stop.fail('silent');
    expect(await one.secondsUntilOff(5)).to.be.below(2);
  });

  it('gives pulses as they are planned, second by second, and watches each of them', async () => {
    const subject = subjectOf(AGM_80);
    const pulsing = (): VirtualBench =>
      bench({ engine: new ChargeEngine(planFor('pulse', subject), subject) });
    const one = pulsing();
    await one.begin();
    await one.runFor(10);
    const amps = new Map<string, number>();
    for (let at = 0; at < 400; at++) {
      await one.runFor(0.1);
      const now = one.circuit.batteryA.toFixed(1);
      amps.set(now, (amps.get(now) ?? 0) + 1);
    }
    // 2.4 times a twentieth for a second, 0.8 times for two, nothing for one.
    for (const [now, share] of [
      ['9.6', 0.25],
      ['3.2', 0.5],
      ['0.0', 0.25],
    ] as const)
      expect((amps.get(now) ?? 0) / 400, `${now} A`).to.be.closeTo(share, 0.03);
    expect(one.alarms).to.deep.equal([]);

    one.supply.fail('reads-low');
    await one.runFor(2);
    expect(one.alarms.map(({ says }) => says).join(' ')).to.include('one of them is wrong');
    expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
  });

  it('a stop beats a check under way, and a start', async () => {
    const one = bench();
    const checking = sayingOf(one.time.until(one.supervisor.check()));
    await one.runFor(1.5);
    expect(one.circuit.batteryA, 'a small step flows').to.be.above(0.5);
    expect(await sayingOf(one.supervisor.check()), 'twice at once').to.include('stopped before');
    await one.time.until(one.supervisor.stop('Stopped by hand.'));
    expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
    expect(await checking).to.include('Stopped by hand');
    expect(one.supervisor.phase).to.have.property('kind', 'off');
    await one.time.until(one.supervisor.check());
    const starting = one.supervisor.confirm();
    await one.runFor(0.02);
    await one.time.until(one.supervisor.stop('Stopped by hand.'));
    await one.time.until(starting);
    await one.runFor(5);
    expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
    expect(one.alarms).to.deep.equal([]);
  });

  it('is checked again after a run, whose watchdogs are armed still', async () => {
    const one = await running();
    await one.time.until(one.supervisor.stop('Stopped by hand.'));
    await one.runFor(10);
    const checking = one.supervisor.check();
    await one.runFor(6);
    expect(await checking).to.have.property('ohms');
    expect(one.supervisor.phase).to.have.property('kind', 'ready');
  });

  it('looks while it is checked do not take the small step for a supply that stays on', async () => {
    const one = bench();
    const checking = one.supervisor.check();
    for (let second = 0; second < 3; second++) {
      await one.runFor(1);
      await one.time.until(one.supervisor.look());
    }
    await one.time.until(checking);
    expect(one.alarms).to.deep.equal([]);
    expect(one.supervisor.phase).to.have.property('kind', 'ready');
  });

  it('does not switch on a battery that is not the one of the job', async () => {
    const one = bench();
    expect(await sayingOf(one.time.until(one.supervisor.check(11)))).to.include(
      'this battery stood at 11.00 V',
    );
  });

  const FAULTS: readonly (readonly [string, (one: VirtualBench) => void, RegExp, number])[] = [
    ['the supply falls silent', ({ supply }) => supply.fail('silent'), /does not answer/, 2],
    ['it answers nonsense', ({ supply }) => supply.fail('garbage'), /no text/, 2],
    ['it answers too late', ({ supply }) => supply.fail('slow'), /does not answer/, 2],
    [
      'it reads low and gives more',
      ({ supply }) => supply.fail('reads-low'),
      /one of them is wrong|above/,
      2,
    ],
    ['the meter falls silent', ({ meter }) => meter.fail('silent'), /meter at the posts|probe/, 2],
    ['a lead falls off', ({ circuit }) => circuit.clip('off'), /come off|one of them is wrong/, 2],
    ['the shop’s clock is set', (one) => (one.movedMs = 3_600_000), /clock was moved/, 2],
    ['the disk is full', (one) => (one.unkept = 'no room is left'), /no longer be kept/, 2],
    [
      'the contact opens by itself',
      ({ circuit }) => circuit.part(true),
      /opened by itself|come off|wrong/,
      2,
    ],
  ];
  for (const [name, happens, words, withinS] of FAULTS)
    it(`switches off, calls for hands and stays off: ${name}`, async () => {
      const one = await running();
      const sinceS = one.time.now() / 1000;
      happens(one);
      expect(await one.secondsUntilOff(10), 'seconds until off').to.be.at.most(withinS);
      await one.runFor(3);
      const [alarm] = one.alarms;
      expect(alarm?.says).to.match(words);
      expect((alarm?.atS ?? 1e9) - sinceS, 'seconds until called').to.be.at.most(2);
      one.supply.fail(undefined);
      one.circuit.clip('on');
      await one.runFor(600);
      expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
      expect(one.supervisor.phase).to.have.property('kind', 'off');
    });

  it('gives a battery that is too hot nothing, and goes on by itself when it has cooled', async () => {
    const cells = battery(0.6, 44.5);
    cells.ambientC = 90;
    const one = bench({ cells });
    await one.begin();
    await one.runFor(3 * 3600);
    expect(one.circuit.caseC).to.be.above(45);
    expect(one.circuit.batteryA).to.be.closeTo(0, 1e-6);
    cells.ambientC = -20;
    for (let hour = 0; hour < 12 && one.circuit.caseC > 39.5; hour++) await one.runFor(3600);
    await one.runFor(60);
    expect(one.circuit.batteryA).to.be.closeTo(8, 0.1);
  });

  it('frozen figures are asked about before they are taken for frozen, within a minute', async () => {
    const one = await running();
    one.supply.fail('frozen');
    expect(await one.secondsUntilOff(120)).to.be.within(10, 61);
    await one.runFor(2);
    expect(one.alarms[0]?.says).to.include('whatever it was told');
  });

  it('a supply that does not switch off is parted from its battery, and its mains plug is called for', async () => {
    const one = await running();
    one.supply.fail('stuck-on');
    await one.time.until(one.supervisor.stop('Stopped by hand.'));
    expect(await one.secondsUntilOff(3)).to.be.at.most(0.5);
    const bare = await running({ hasCutOff: false });
    bare.supply.fail('stuck-on');
    await bare.time.until(bare.supervisor.stop('Stopped by hand.'));
    await bare.runFor(2);
    expect(bare.alarms[0]?.says).to.include('mains plug');
  });

  it('a supervisor that dies leaves a supply with a watchdog, or a cut-off, that acts by itself', async () => {
    for (const parts of [{ hasCutOff: false }, { hasWatchdog: false }]) {
      const one = await running(parts);
      one.die();
      expect(await one.secondsUntilOff(10)).to.be.at.most(3.1);
    }
  });

  it('goes through the stages the model goes through, each within one look', async () => {
    const forecast = chargeOn(AGM_80, battery(0.95), plan, {
      resolvesPulses: true,
    });
    forecast.runUntil(10 * 3600);
    const one = bench({}, 0.95);
    await one.begin();
    const beganS = one.time.now() / 1000;
    const changes: number[] = [];
    let stage: number | undefined = 0;
    for (let second = 0; second < 8 * 3600 && one.supervisor.phase.kind === 'running'; second++) {
      await one.runFor(1);
      const phase = phaseOf(one);
      if (phase.kind === 'off') throw new Error(phase.why);
      if (
        (phase.kind === 'running' || phase.kind === 'ended') &&
        phase.state &&
        phase.state.stage !== stage
      ) {
        ({ stage } = phase.state);
        changes.push(one.time.now() / 1000 - beganS);
      }
    }
    expect(one.supervisor.phase).to.have.property('kind', 'ended');
    for (const [index, { atS }] of forecast.stages.slice(1).entries())
      expect(changes[index], `stage ${index + 2}`).to.be.closeTo(atS, 1 + 0.005 * atS);
  });
});
