import { expect } from 'chai';
import { Trace } from '../charge/trace.ts';
import { AGM_80, FLOODED_70, subjectOf } from '../test/modelBench.ts';
import { answerPlan, winsOf, type PlanAnswer } from './answer.ts';
import { batteryFor, FAULT_NAMES, type Condition, type FaultChoice, type Question } from './question.ts';
import { keptRows, simplified } from '../charge/thin.ts';

const onwards = (): Promise<boolean> => Promise.resolve(true);

function ask(condition: Partial<Condition>, plans: Question['plans'], rating = FLOODED_70): Question {
  return {
    rating,
    subject: subjectOf(rating),
    condition: { charge: 0.3, sulfation: 0, years: 0, tempC: 22, fault: 'none', ...condition },
    plans,
    room: { volumeM3: 30, pricePerKwh: 0.3 },
    hours: 48,
  };
}

async function answer(question: Question, index = 0): Promise<PlanAnswer> {
  const found = await answerPlan(question, index, onwards);
  if (!found) throw new Error('no answer');
  return found;
}

const supply = (plan: Question['plans'][number]['plan']) => ({ plan, charger: 'supply' });

describe('what if', () => {
  it('a sound battery gets full, with time, energy, cost and nothing to fear', async () => {
    const { outcome } = await answer(ask({}, [supply('tenth-timed')]));
    expect(outcome).to.include({ ended: 'full' });
    expect(outcome?.atS).to.be.within(6 * 3600, 14 * 3600);
    // 49 Ah are missing; at about 13.5 V and 85 % from the mains that is some 0.8 kWh.
    expect(outcome?.mainsWh).to.be.within(700, 950);
    expect(outcome?.cost).to.be.closeTo(((outcome?.mainsWh ?? 0) / 1000) * 0.3, 1e-9);
    expect(outcome?.risks).to.deep.equal([]);
    expect(outcome?.endCharge).to.be.above(0.97);
  });

  it('a sulfated and a shorted battery go wrong each in its own way', async () => {
    const sulfated = await answer(ask({ charge: 0.05, sulfation: 0.7 }, [supply('long-soak')], AGM_80));
    expect(sulfated.outcome?.hardLeft).to.be.below((sulfated.outcome?.hardAtStart ?? 0) - 0.1);
    const { seconds = [], columns } = sulfated.outcome ?? {};
    const early = columns?.amps.filter((_, row) => (seconds[row] ?? 0) < 600) ?? [];
    expect(Math.max(...early)).to.be.below(2);
    const shorted = await answer(ask({ fault: 'short' }, [supply('tenth-timed')]));
    const words = shorted.outcome?.risks.map((risk) => risk.words).join(' ');
    expect(words).to.match(/Above 50 °C at \d+ h \d\d/);
    expect(words).to.match(/Cell 3 is shorted\./);
    expect(Math.max(...(shorted.outcome?.columns.volts ?? []))).to.be.below(13.8);
  });

  it('an open cell takes nothing and gains nothing: it ends with the charge it began with', async () => {
    const { outcome } = await answer(ask({ fault: 'open' }, [supply('tenth-timed')]));
    expect(outcome?.mainsWh).to.be.below(5);
    expect(outcome?.endCharge).to.be.closeTo(0.3, 0.01);
  });

  it('names the cell that stands the wrong way round', async () => {
    const { outcome } = await answer(ask({ fault: 'reversed' }, [supply('tenth-timed')]));
    expect(outcome?.risks[0]).to.include({ level: 'danger', atS: 0 });
    expect(outcome?.risks[0]?.words).to.equal('Cell 3 stands the wrong way round from the start.');
  });

  it('an empty battery in the frost is frozen before its charge begins; a full one, or a warm one, is not', async () => {
    const words = async (condition: Partial<Condition>): Promise<string> => {
      const { outcome } = await answer(ask(condition, [supply('tenth-timed')]));
      return outcome?.risks.map((risk) => risk.words).join(' ') ?? '';
    };
    expect(await words({ charge: 0.05, tempC: -15 })).to.match(
      /^At -15 °C acid of 1\.\d{3} freezes \(-\d+ °C\): never charge it frozen/,
    );
    expect(await words({ charge: 0.95, tempC: -15 })).not.to.include('freezes');
    expect(await words({ charge: 0.05, tempC: 5 })).not.to.include('freezes');
  });

  it('says hydrogen with the doors shut, and when', async () => {
    const question = {
      ...ask({ charge: 1 }, [supply('equalise')]),
      room: { volumeM3: 0.4, pricePerKwh: 0.3 },
    };
    const { outcome } = await answer(question);
    expect(outcome?.risks.map((risk) => risk.words).join(' ')).to.match(/Hydrogen above 1 % at \d+ h \d\d/);
  });

  it('says why a plan or a charger is not for this battery', async () => {
    expect((await answer(ask({}, [supply('equalise')], AGM_80))).refusal).to.include('never equalised');
    const automatic = ask({ charge: 0, fault: 'short' }, [{ plan: 'tenth-timed', charger: 'automatic' }]);
    expect((await answer(automatic)).refusal).to.include('does not see a battery below 10.5 V');
  });

  it('names which plan wins on what', async () => {
    const question = ask({ charge: 0.2 }, [supply('constant-voltage'), supply('supply-wake')]);
    const answers = await Promise.all([answer(question, 0), answer(question, 1)]);
    const winner = (on: string): number | undefined => winsOf(answers).find((win) => win.on === on)?.plan;
    expect([winner('Soonest full'), winner('Coolest')]).to.deep.equal([0, 1]);
    expect(winsOf([answers[0], answers[0]].flatMap((each) => (each ? [each] : [])))).to.deep.equal([]);
  });

  it('gives up between slices when told to', async () => {
    expect(await answerPlan(ask({}, [supply('pulse')]), 0, () => Promise.resolve(false))).to.equal(undefined);
  });

  for (const fault of Object.keys(FAULT_NAMES) as FaultChoice[])
    it(`runs with ${FAULT_NAMES[fault].toLowerCase()}`, async () => {
      const { outcome } = await answer(ask({ fault }, [supply('tenth-timed')]));
      for (const values of Object.values(outcome?.columns ?? {}))
        for (const value of values) expect(value).to.satisfy(Number.isFinite);
    });

  it('refuses an impossible condition in one sentence', () => {
    expect(() => batteryFor(ask({ charge: 1.2 }, []))).to.throw(
      'Charge must lie between 0 and 1; 1.2 does not.',
    );
    expect(() => batteryFor(ask({ tempC: 72 }, []))).to.throw('Temperature must lie between -30 and 50 °C');
    expect(() => batteryFor(ask({}, [], { ...AGM_80, cells: 13 }))).to.throw('1 to 12 cells');
  });

  it('thins without losing a peak', () => {
    const trace = new Trace();
    for (let i = 0; i < 5000; i++) {
      trace.open(i * 10);
      trace.set(0, i === 3217 ? 99 : Math.sin(i / 300));
      trace.set(1, i === 77 ? -5 : 1);
    }
    const rows = keptRows(trace, ['volts', 'amps'], 50);
    expect(rows).to.include.members([0, 77, 3217, 4999]);
    expect(rows.length).to.be.below(300);
    const xs = Array.from({ length: 400 }, (_, i) => i);
    const ys = xs.map((x) => (x === 137 ? 5 : Math.sin(x / 60)));
    const few = simplified(xs, ys, 0.01);
    expect(few).to.include.members([0, 137, 399]);
    expect(few.length).to.be.below(60);
    expect(simplified([], [], 1)).to.deep.equal([]);
    expect(keptRows(new Trace(), ['volts'], 5)).to.deep.equal([]);
  });
});
