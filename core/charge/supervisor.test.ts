import { expect } from 'chai';
import { ModelSupply } from './modelSupply.ts';
import { soundBattery } from '../model/parameters.ts';
import { AGM_80, chargeOn, FLOODED_70, partCharged, subjectOf } from '../test/modelBench.ts';
import { ChargeEngine, type Command, type EngineReading } from './engine.ts';
import { planFor } from './library.ts';
import { Supervisor, SupplyError, type Supply } from './supervisor.ts';

const HOUR = 3600;
const EVERY_S = 60;

class Hands {
  at = 0;
  now(): number {
    return this.at;
  }
  wait(seconds: number): void {
    this.at += seconds * 1000;
  }
}

async function ran(supervisor: Supervisor, clock: Hands, mostS: number): Promise<number> {
  await supervisor.look();
  while (supervisor.state?.ended === undefined && clock.at < mostS * 1000) {
    clock.wait(EVERY_S);
    await supervisor.look();
  }
  return clock.at / 1000;
}

/** Answers as told, and remembers what it was told. */
class Puppet implements Supply {
  readonly told: Command[] = [];
  reading: EngineReading = { atS: 0, volts: 12.4, amps: 0, tempC: 24 };
  isDeaf = false;

  read(): Promise<EngineReading> {
    return this.isDeaf ? Promise.reject(new Error('no answer')) : Promise.resolve(this.reading);
  }

  set(command: Command): Promise<void> {
    this.told.push(command);
    return Promise.resolve();
  }
}

async function problemOf(work: Promise<unknown>): Promise<SupplyError> {
  const problem = await work.then(
    () => undefined,
    (error: unknown) => error,
  );
  expect(problem).to.be.instanceOf(SupplyError);
  return problem as SupplyError;
}

describe('a plan on a live supply', () => {
  for (const rating of [AGM_80, FLOODED_70])
    it(`ends as the same plan run on the model: ${rating.construction}`, async () => {
      const plan = planFor('tenth-timed', subjectOf(rating));
      const forecast = chargeOn(rating, partCharged(soundBattery(rating), [], 0.6), plan);
      forecast.runUntil(30 * HOUR);
      const clock = new Hands();
      const cells = partCharged(soundBattery(rating), [], 0.6);
      const engine = new ChargeEngine(plan, subjectOf(rating));
      const supervisor = new Supervisor(engine, new ModelSupply(cells, clock), EVERY_S);
      const endedS = await ran(supervisor, clock, 30 * HOUR);
      expect(supervisor.state).to.include({ ended: 'full' });
      expect(endedS).to.be.closeTo(forecast.atS, 20 * EVERY_S);
      const [liveAh = 0, forecastAh = 1] = [cells.state.shared[1], forecast.cells.state.shared[1]];
      expect(liveAh / forecastAh).to.be.closeTo(1, 0.005);
    });

  it('is switched off when hot, on the supply itself', async () => {
    const clock = new Hands();
    const cells = partCharged(soundBattery(AGM_80), [{ kind: 'short', cell: 3, ohms: 0.02 }], 0.7, 30);
    const supply = new ModelSupply(cells, clock);
    const engine = new ChargeEngine(planFor('tenth-timed', subjectOf(AGM_80)), subjectOf(AGM_80));
    const supervisor = new Supervisor(engine, supply, EVERY_S);
    await supervisor.look();
    for (let look = 0; look < 48 * 60 && supervisor.state?.isPaused !== true; look++) {
      clock.wait(EVERY_S);
      await supervisor.look();
    }
    const { amps, tempC } = await supply.read();
    expect(amps).to.be.closeTo(0, 1e-6);
    expect(tempC).to.be.within(45, 45.5);
  });

  it('goes off by itself when nobody tells it to go on', async () => {
    const clock = new Hands();
    const supply = new ModelSupply(partCharged(soundBattery(AGM_80), [], 0.5), clock);
    await supply.set({ isOn: true, amps: 2, volts: 14.4 }, 180);
    clock.wait(170);
    expect((await supply.read()).amps).to.be.closeTo(2, 0.01);
    clock.wait(20);
    expect((await supply.read()).amps).to.be.closeTo(0, 1e-6);
  });

  const puppetry = (): { puppet: Puppet; supervisor: Supervisor } => {
    const puppet = new Puppet();
    const engine = new ChargeEngine(planFor('tenth-timed', subjectOf(AGM_80)), subjectOf(AGM_80));
    return { puppet, supervisor: new Supervisor(engine, puppet, EVERY_S) };
  };

  it('tells a supply that does not answer to switch off, and says so', async () => {
    const { puppet, supervisor } = puppetry();
    await supervisor.look();
    expect(puppet.told.at(-1)).to.include({ isOn: true, amps: 8 });
    puppet.isDeaf = true;
    const problem = await problemOf(supervisor.look());
    expect(problem.message).to.include('charger off at the mains by hand');
    expect(puppet.told.at(-1)).to.include({ isOn: false });
  });

  it('tells one that gives more than asked, or shows nonsense, to switch off', async () => {
    const { puppet, supervisor } = puppetry();
    await supervisor.look();
    puppet.reading = { atS: 60, volts: 13, amps: 12, tempC: 24 };
    const disobedient = await problemOf(supervisor.look());
    expect(disobedient.message).to.equal('The supply gives 12.00 A where 8.00 A were asked: switched off.');
    expect(puppet.told.at(-1)).to.include({ isOn: false });
    puppet.reading = { atS: 120, volts: Number.NaN, amps: 0, tempC: 24 };
    const blind = await problemOf(supervisor.look());
    expect(blind.message).to.include('shows no number');
  });

  for (const [name, reading, sentence] of [
    [
      'gives more volts than asked',
      { atS: 60, volts: 17.2, amps: 8, tempC: 24 },
      /^The supply shows 17\.20 V where 14\.\d\d V were asked: switched off\.$/,
    ],
    [
      'whose clock stands still',
      { atS: 0, volts: 13, amps: 8, tempC: 24 },
      /clock of the supply stands still/,
    ],
    ['that was silent for ten minutes', { atS: 600, volts: 13, amps: 8, tempC: 24 }, /No reading for 10 min/],
    [
      'whose probe has come off',
      { atS: 60, volts: 13, amps: 8, tempC: 4 },
      /went from 24 to 4 °C within 60 s/,
    ],
    ['whose probe shows nonsense', { atS: 60, volts: 13, amps: 8, tempC: -127 }, /it is not on a battery/],
  ] as const)
    it(`tells one ${name} to switch off`, async () => {
      const { puppet, supervisor } = puppetry();
      await supervisor.look();
      puppet.reading = reading;
      expect((await problemOf(supervisor.look())).message).to.match(sentence);
      expect(puppet.told.at(-1)).to.include({ isOn: false });
    });
});
