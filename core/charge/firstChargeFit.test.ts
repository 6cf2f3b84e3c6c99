import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import { STANDARD_RULES, type HouseRules } from '../rules/houseRules.ts';
import { TestJob } from '../test/testJob.ts';
import type { Charger } from './charger.ts';
import { fitFirstCharge, timeInstruction } from './firstChargeFit.ts';

const plain: Charger = {
  id: 'c',
  name: 'Charger',
  kind: 'bench',
  leastA: 0.1,
  mostA: 10,
  mostV: 16,
  nominalV: [6, 12],
  startV: 0,
  efficiency: 0.8,
  because: '',
};

function fit(
  charger: Partial<Charger>,
  typeId = 'LW-A12/9',
  rules: Partial<HouseRules> = {},
  restedV?: number,
) {
  const type = CATALOGUE.find(({ id }) => id === typeId);
  if (!type) throw new Error(`no type ${typeId}`);
  return fitFirstCharge(
    { ...plain, ...charger },
    {
      type,
      setA: Math.min(type.capacityAh / 10, type.capacityAh <= 30 ? 3 : 1e9),
      ceilingV: 14.7,
      rules: { ...STANDARD_RULES, ...rules },
      ...(restedV === undefined ? {} : { restedV }),
    },
  );
}

const reason = (...args: Parameters<typeof fit>): string => {
  const fitting = fit(...args);
  return 'reason' in fitting ? fitting.reason : '';
};

const automatic = { kind: 'automatic', mostV: 14.7, modes: ['agm', 'flooded'] } as const;

describe('a charger held against a first charge', () => {
  it('mistake: car charger on a 6 Ah battery, or on any small one', () => {
    expect(reason({ leastA: 10, mostA: 30 })).to.equal(
      'Charger: gives 10 A at its lowest; this charge takes 0.90 A at most.',
    );
  });

  it('mistake: gel programme on AGM', () => {
    expect(reason({ ...automatic, modes: ['gel'], mostV: 14.1 })).to.include('has only a gel programme');
    expect(reason({ ...automatic, modes: ['gel', 'flooded'] })).to.include('has no AGM programme');
    expect(reason({ ...automatic, modes: ['gel'] }, 'BK-F12/70')).to.include('never for a flooded battery');
  });

  it('mistake: a trickle charger for a first charge, unless the house allows it overnight', () => {
    const trickle = {
      kind: 'taper',
      leastA: 0,
      mostA: 0.05,
      mostV: 14.4,
      openV: 14.4,
      taperOhm: 40,
    } as const;
    expect(reason(trickle)).to.include('it maintains, and never reaches proof of full');
    expect(fit(trickle, 'LW-A12/9', { trickleFirst: 'overnight' })).to.have.property('fit');
  });

  it('mistake: condemned because the charger stayed dark. It says that the charger does not see the battery', () => {
    expect(reason({ ...automatic, startV: 10.5 }, 'LW-A12/9', {}, 6.2)).to.include(
      'does not see a battery below 10.5 V',
    );
    expect(fit({ ...automatic, startV: 10.5 }, 'LW-A6/12', {}, 6.2)).to.have.property('fit');
  });

  it('says what else stands in the way', () => {
    expect(reason({ nominalV: [12] }, 'LW-A6/4')).to.equal('Charger: is for 12 V; this battery has 6 V.');
    expect(reason({ kind: 'pulse' })).to.include('wants a steady current');
    expect(reason({ mostV: 14.1 })).to.equal('Charger: stops at 14.1 V; this battery needs 14.4 V.');
    expect(reason({ kind: 'taper', openV: 17, taperOhm: 1 }, 'LW-A12/9', {}, 12.4)).to.include(
      'would push 4.6 A',
    );
  });

  it('sets the detent at or under the current advised, and tells which knob', () => {
    const fitting = fit({ ...automatic, leastA: 0.4, mostA: 5, detentsA: [0.4, 0.8, 2, 5] });
    expect('fit' in fitting && fitting.fit.amps).to.equal(0.8);
    expect('fit' in fitting && fitting.fit.instructions.join(' ')).to.include(
      'Programme AGM, switch at 0.80 A; never gel',
    );
    const supply = fit({ kind: 'programmable' });
    expect('fit' in supply && supply.fit.instructions.join(' ')).to.include(
      'Current limit 0.90 A, voltage 14.7 V',
    );
  });

  it('says for this very charger how long, and when to look', () => {
    expect(timeInstruction(plain, 325, 60)).to.equal(
      'About 5 h 25 by the clock. Look every 60 min at volts, amps and warmth; the last three looks prove it full.',
    );
    expect(timeInstruction({ ...plain, kind: 'automatic' }, 325, 60)).to.include(
      'or until its lamp shows full',
    );
  });

  it('is enforced where the charge is recorded, not only shown', () => {
    const sheet = new TestJob().soak();
    const start = (charger: Charger) =>
      sheet.put('chargeStarted', { step: 'charge#1', currentA: 0.9, charger });
    expect(() => start({ ...plain, leastA: 10, mostA: 30 })).to.throw(
      RunSheetError,
      'gives 10 A at its lowest',
    );
    expect(start(plain).job.state.steps[sheet.job.state.cursor]?.charge?.charger?.name).to.equal('Charger');
  });
});
