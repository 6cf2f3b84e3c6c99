import { expect } from 'chai';
import { proofOfFull } from '../runsheet/verdict/commissioningVerdict.ts';
import { contextOf } from '../runsheet/state/context.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import type { InstrumentQuantity } from '../observation/instrument.ts';
import { TestJob } from '../test/testJob.ts';
import { seededNormal } from '../chance/chance.ts';
import { sightOf, type Hidden, type Sight } from './benchBattery.ts';

function benchReading(state: JobState, quantity: InstrumentQuantity, now: number, hidden?: Hidden): number {
  return sightOf(state, now, hidden)(quantity);
}

describe('simulated readings', () => {
  it('are the same for the same battery and moment, and noisy between moments', () => {
    const sheet = new TestJob().fill();
    const read = (at: number) => benchReading(sheet.job.state, 'voltage', at);
    expect(read(sheet.now)).to.equal(read(sheet.now));
    expect(read(sheet.now)).not.to.equal(read(sheet.now + 1000));
  });

  it('noise has the mean and spread of the standard normal', () => {
    const draws = Array.from({ length: 4000 }, (_, i) => seededNormal(`draw ${i}`));
    const mean = draws.reduce((sum, x) => sum + x, 0) / draws.length;
    const variance = draws.reduce((sum, x) => sum + (x - mean) ** 2, 0) / draws.length;
    expect(mean).to.be.closeTo(0, 0.05);
    expect(variance).to.be.closeTo(1, 0.08);
  });

  it('show fresh stock at 12.5 to 12.85 V after the soak, on 6 V half of that', () => {
    const twelve = new TestJob().fill().wait(120);
    expect(benchReading(twelve.job.state, 'voltage', twelve.now)).to.be.within(12.5, 12.85);
    const six = new TestJob('LW-A6/4').fill().wait(120);
    expect(benchReading(six.job.state, 'voltage', six.now)).to.be.within(6.2, 6.45);
  });

  it('warm up on filling and cool again', () => {
    const sheet = new TestJob().fill();
    const warm = benchReading(sheet.job.state, 'temperature', sheet.now);
    expect(warm).to.be.above(23);
    expect(benchReading(sheet.job.state, 'temperature', sheet.now + 240 * 60_000)).to.be.below(warm);
  });

  for (const typeId of ['LW-A6/4', 'LW-A12/9', 'LW-A12/12', 'BK-A12/55'])
    it(`a sound ${typeId} read at every look proves full and passes its test`, () => {
      const sheet = new TestJob(typeId).soak(typeId === 'LW-A6/4' ? 6.35 : 12.7);
      const setA = typeId === 'LW-A12/12' ? 1.2 : sheet.job.state.opened.type.capacityAh / 10;
      sheet.put('chargeStarted', { step: 'charge#1', currentA: setA });
      const readNow = () => {
        const value = (quantity: 'voltage' | 'current' | 'temperature') =>
          benchReading(sheet.job.state, quantity, sheet.now);
        sheet.read(value('voltage'), value('current'), value('temperature'));
      };
      const startedAt = sheet.now;
      for (;;) {
        sheet.wait(15);
        readNow();
        if (sheet.now - startedAt > 540 * 60_000) break;
      }
      const { cells } = sheet.job.state.opened.type;
      expect(proofOfFull(contextOf(sheet.job.state, 1)).sentence).to.include('Proof of full');
      expect(proofOfFull(contextOf(sheet.job.state, 1)).isMet).to.equal(true);
      sheet.put('chargeEnded', { step: 'charge#1', fullSignal: false }).wait(65);
      const rested = benchReading(sheet.job.state, 'voltage', sheet.now);
      expect((rested * 6) / cells).to.be.within(12.78, 13.05);
    });

  it('weigh the acid that went in', () => {
    const sheet = new TestJob().checkIn();
    const dryG = benchReading(sheet.job.state, 'mass', sheet.now);
    const filled = new TestJob().fill();
    expect(benchReading(filled.job.state, 'mass', filled.now) - dryG).to.be.closeTo(
      492 * 1.32,
      492 * 1.32 * 0.015,
    );
  });

  it('a shorted cell hidden in it heats the battery past the pause, where a sound one stays cool', () => {
    const hidden = { faults: [{ kind: 'short', cell: 4, ohms: 1 }], ambientC: 27 } as const;
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(420);
    const { state } = sheet.job;
    expect(benchReading(state, 'temperature', sheet.now, hidden)).to.be.above(50);
    expect(benchReading(state, 'current', sheet.now, hidden)).to.be.closeTo(0.9, 0.03);
    expect(benchReading(state, 'temperature', sheet.now, { ambientC: 27 })).to.be.below(32);
    expect(benchReading(state, 'current', sheet.now, { ambientC: 27 })).to.be.below(0.1);
  });

  it('nothing filled shows nothing but its mass and the warmth of the shop', () => {
    const { job, now } = new TestJob().checkIn();
    const quantities = ['voltage', 'current', 'cranking', 'loadVoltage'] as const;
    for (const quantity of quantities) expect(benchReading(job.state, quantity, now), quantity).to.equal(0);
    expect(benchReading(job.state, 'temperature', now)).to.be.closeTo(21, 1.5);
  });

  it('a charge paused and resumed goes on from where it stood', () => {
    const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 }).wait(60);
    const amps = () => benchReading(sheet.job.state, 'current', sheet.now);
    const before = amps();
    sheet.put('chargePaused', { step: 'charge#1', reason: 'stopped' }).wait(30);
    expect(amps()).to.be.below(0.01);
    sheet.put('chargeResumed', { step: 'charge#1', tempC: 25 }).wait(15);
    expect(amps()).to.be.within(before * 0.6, before * 1.3);
  });
});

describe('a battery brought for recovery', () => {
  const sightAt = (sheet: TestJob, hidden: Hidden = {}): Sight => sightOf(sheet.job.state, sheet.now, hidden);
  const brought = (): TestJob => new TestJob('BK-A12/55', { wakeMethod: 'donor' }, undefined, 'recover-agm');

  it('stands low, and comes up with a charge of its route', () => {
    const sheet = brought();
    const first = sightAt(sheet)('voltage');
    expect(first).to.be.within(9, 12.2);
    sheet.triage(first).route('slow-charge', 'it wakes by itself');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75 }).wait(20 * 60);
    expect(sightAt(sheet)('voltage')).to.be.above(12.5);
    expect(sightAt(sheet)('current')).to.be.at.most(2.9);
  });

  it('with a dead short stalls low on charge, and heats no less', () => {
    const hidden: Hidden = { faults: [{ kind: 'short', cell: 2, ohms: 0.02 }], condition: { charge: 0.4 } };
    const sheet = brought().triage(11);
    sheet
      .route('slow-charge')
      .put('chargeStarted', { step: sheet.current.key, currentA: 2.75 })
      .wait(12 * 60);
    const sound = sightAt(sheet, { condition: { charge: 0.4 } });
    const shorted = sightAt(sheet, hidden);
    expect(sound('voltage') - shorted('voltage')).to.be.within(1.2, 3);
  });

  it('loses what a cycle draws', () => {
    const hidden: Hidden = { condition: { charge: 0.95, hardShare: 0, film: 0 } };
    const sheet = brought().triage(12.7).route('cycle').affirm('cycle-start').wait(240);
    const before = sightOf(brought().job.state, sheet.now, hidden)('voltage');
    sheet.measure('cycle-end', { minutes: 240, endV: 12 }).wait(600);
    expect(sightAt(sheet, hidden)('voltage')).to.be.below(before - 0.2);
  });
});
