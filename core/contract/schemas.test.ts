import { expect } from 'chai';
import type { Schema } from 'joi';
import { TestJob } from '../test/testJob.ts';
import { appendSchema, clockSchema, entrySchema, intakeFormSchema, jobExportSchema } from './schemas.ts';

const ID = '5ce77e00-0000-4000-8000-000000000001';

function problem(schema: Schema, value: unknown): string {
  return schema.validate(value).error?.message ?? '';
}

describe('schemas of the wire', () => {
  for (const [kind, payload] of [
    ['affirmed', { step: 'identify#1' }],
    ['observed', { step: 'bubbles#1', chambers: [true, false, true] }],
    ['observed', { step: 'pack-code#1', code: 'P-09' }],
    ['denied', { step: 'inspect#1', denial: 'foil-broken' }],
    ['measured', { step: 'label#1', values: {}, source: 'keypad' }],
    ['skipped', { step: 'weigh-dry#1' }],
    ['overridden', { step: 'soak#1', reason: 'customer waits' }],
    ['chargeStarted', { step: 'charge#2', currentA: 0.9 }],
    [
      'chargeRead',
      { step: 'charge#1', values: { voltageV: 14.2, currentA: 0.4, tempC: 27 }, source: 'meter' },
    ],
    ['chargePaused', { step: 'charge#1', reason: 'hot' }],
    ['chargeResumed', { step: 'charge#1', tempC: 33 }],
    ['chargeEnded', { step: 'charge#1', fullSignal: true }],
    ['decided', { step: 'verdict#1', verdict: 'repeat' }],
    ['routed', { step: 'choose-route#1', route: 'slow-charge' }],
    ['routed', { step: 'choose-route#12', route: 'donor-wake', reason: 'the supply is away' }],
    ['routeLeft', { step: 'slow#2', reason: 'stopped by the rule' }],
    ['evidenced', { reading: { kind: 'ocv', volts: 11.9, isRested: true } }],
    ['evidenced', { reading: { kind: 'load', amps: 210, seconds: 15, volts: 9.9 } }],
    ['evidenced', { reading: { kind: 'dips', volts: [1.7, 2.1, 2.1, 2.1, 2.1, 2.1, 0.4] } }],
    ['evidenced', { reading: { kind: 'bubbles', cell: 3, bubbles: 'none' } }],
    ['noted', { text: 'x' }],
    ['placed', { bay: 0 }],
    ['withdrawn', { reason: 'owner came back' }],
    ['corrected', { replaces: '#4', payload: { step: 'label#1', values: {}, source: 'keypad' } }],
    ['undone', { replaces: '#4' }],
  ] as const)
    it(`take ${kind} ${JSON.stringify(payload)}, and not with something added`, () => {
      expect(problem(entrySchema, { kind, payload })).to.equal('');
      expect(problem(entrySchema, { kind, payload: { ...payload, extra: 1 } })).to.include('extra');
    });

  it('name the kinds there are when none is given', () => {
    expect(problem(entrySchema, { kind: 'burnt', payload: {} })).to.include(
      'The entry needs a kind: affirmed',
    );
  });

  it('take a step only with its round', () => {
    expect(problem(entrySchema, { kind: 'affirmed', payload: { step: 'identify' } })).to.include('step');
  });

  it('want a person, a key and the last entry seen', () => {
    const whole = {
      expectedSeq: 1,
      requestKey: ID,
      by: 'Ines',
      entry: { kind: 'noted', payload: { text: 'x' } },
    };
    expect(problem(appendSchema, whole)).to.equal('');
    expect(problem(appendSchema, { ...whole, by: '' })).to.equal('Say who is at the bench.');
    expect(problem(appendSchema, { ...whole, requestKey: 'again' })).to.include('requestKey');
    expect(problem(appendSchema, { ...whole, expectedSeq: 0 })).to.include('expectedSeq');
  });

  it('tidy a tag and trim what is typed', () => {
    const form = {
      battery: { tag: ' sk-0200 ', typeId: 'LW-A12/9', dateCode: '2026-01', owner: '  buoy ' },
      bay: 1,
      promisedAt: 5,
    };
    const { value } = intakeFormSchema.validate(form) as { value: unknown };
    expect(value).to.deep.include({
      battery: { tag: 'SK-0200', typeId: 'LW-A12/9', serial: '', dateCode: '2026-01', owner: 'buoy' },
    });
  });

  for (const [what, change] of [
    ['both a pace and a jump', { pace: 60, jump: 'next-hands' }],
    ['neither', {}],
    ['a pace of 7', { pace: 7 }],
  ] as const)
    it(`move the clock by one thing, not ${what}`, () => {
      expect(problem(clockSchema, change)).not.to.equal('');
    });

  describe('of a job file', () => {
    const { log } = new TestJob().checkIn().job;
    const events = log.map((event) => ({ ...event, job: ID }));
    const file = { format: 'cork-ember-job', version: 1, job: ID, events };

    it('take what a job exports', () => {
      expect(problem(jobExportSchema, file)).to.equal('');
    });

    it('refuse another format, another version, no entries, and a zone no calendar knows', () => {
      expect(problem(jobExportSchema, { ...file, format: 'other' })).to.include('format');
      expect(problem(jobExportSchema, { ...file, version: 3 })).to.include('version');
      expect(problem(jobExportSchema, { ...file, events: [] })).to.include('events');
      const text = JSON.stringify(file).replace('Etc/UTC', 'Moon/Tycho');
      expect(problem(jobExportSchema, JSON.parse(text))).to.include('Moon/Tycho');
    });
  });
});
