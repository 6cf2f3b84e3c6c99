import { expect } from 'chai';
import { faultOf, unanswered, type Look, type Watched } from './faults.ts';
import type { BaySeen, SupplySeen } from './seen.ts';

const WATCHED: Watched = { source: 'supply', cells: 6, ceilingV: 15, everyS: 1, leadsOhm: 0.02 };
const SUPPLY: SupplySeen = { volts: 13.2, amps: 8, isOn: true, setVolts: 14.4, setAmps: 8 };
const SEEN: BaySeen = {
  atS: 101,
  shopMs: 101_000,
  pace: 1,
  supply: SUPPLY,
  posts: { volts: 13.04 },
  probe: { tempC: 24 },
  cutoff: { isClosed: true },
};
const HELD = { volts: 14.4, amps: 8, isOn: true };
const BEFORE = { seen: { ...SEEN, atS: 100, shopMs: 100_000 }, supply: SUPPLY };

const paced = (pace: number): typeof BEFORE => ({ ...BEFORE, seen: { ...BEFORE.seen, pace } });

interface Change {
  readonly supply?: Partial<SupplySeen>;
  readonly seen?: Partial<BaySeen>;
  readonly look?: Partial<Look>;
  readonly watched?: Partial<Watched>;
}

function saidOf({ supply, seen, look, watched }: Change): string | undefined {
  const now = { ...SUPPLY, ...supply };
  const whole: Look = {
    seen: { ...SEEN, supply: now, ...seen },
    supply: now,
    before: BEFORE,
    held: HELD,
    isNew: false,
    mostA: HELD.amps,
    settledA: 8,
    ...look,
  };
  return faultOf(whole, { ...WATCHED, ...watched })?.says;
}

/** What is seen, and what is said of it; nothing where all is well. */
const TABLE: readonly (readonly [string, Change, string | undefined])[] = [
  ['as it should be', {}, undefined],
  ['a supply that switched itself off', { supply: { isOn: false } }, 'switched itself off'],
  ['a knob that was turned', { supply: { setVolts: 15 } }, 'is set to 15.00 V where 14.40 V were asked'],
  ['and the other', { supply: { setAmps: 12 } }, 'is set to 12.00 A where 8.00 A were asked'],
  ['more amperes than were told', { supply: { amps: 12 } }, 'gives 12.00 A where 8.00 A were asked'],
  ['within its regulation', { supply: { amps: 8.3 } }, undefined],
  [
    'one that is on though it was told off',
    { look: { held: { ...HELD, isOn: false } } },
    'is on where it was told to be off',
  ],
  [
    'more volts than were told',
    { supply: { volts: 17.2 }, seen: { posts: { volts: 17 } }, look: { settledA: undefined } },
    'shows 17.20 V where 14.40 V',
  ],
  ['on their way to a new command', { supply: { amps: 12 }, look: { isNew: true, mostA: 12 } }, undefined],
  [
    'on their way to more than was ever told',
    { supply: { amps: 14 }, look: { isNew: true, mostA: 12 } },
    'gives 14.00 A where 12.00 A were asked',
  ],
  [
    'a battery that feeds the supply',
    { supply: { amps: -1 }, look: { settledA: undefined } },
    'gives 1.00 A into the supply',
  ],
  [
    'a current that is gone at once',
    { supply: { amps: 0 }, seen: { posts: { volts: 13.2 } } },
    'a lead or the battery has come off',
  ],
  ['one that tapers', { supply: { amps: 7 }, seen: { posts: { volts: 13.06 } } }, undefined],
  [
    'posts above what the battery bears',
    { supply: { volts: 14.4 }, seen: { posts: { volts: 15.6 } } },
    'above the 15.00 V',
  ],
  ['two instruments that differ', { supply: { volts: 14.4 } }, 'one of them is wrong'],
  ['no second instrument', { supply: { volts: 14.4 }, seen: { posts: { trouble: 'x' } } }, undefined],
  ['a probe on nothing', { seen: { probe: { tempC: -127 } } }, 'not on a battery'],
  ['a probe that came off', { seen: { probe: { tempC: 4 } } }, 'went from 24 to 4 °C'],
  ['a battery that warms', { seen: { probe: { tempC: 24.5 } } }, undefined],
  ['a cut-off that opened', { seen: { cutoff: { isClosed: false } } }, 'opened by itself'],
  ['a look that came late', { seen: { atS: 104, shopMs: 104_000 } }, 'No look for 4.0 s'],
  ['a clock that stands still', { seen: { atS: 100, shopMs: 100_000 } }, 'stands still'],
  ['a shop’s clock that was set', { seen: { shopMs: 3_700_000 } }, 'moved by 3599 s'],
  ['or set back', { seen: { shopMs: 90_000 } }, 'moved by 11 s'],
  [
    'a paced clock that keeps its pace',
    { seen: { shopMs: 160_000, pace: 60 }, look: { before: paced(60) } },
    undefined,
  ],
  [
    'one that is told of late, at its pace',
    { seen: { shopMs: 160_000 + 3000, pace: 60 }, look: { before: paced(60) } },
    undefined,
  ],
  [
    'and one that was set, at its pace',
    { seen: { shopMs: 160_000 + 60_000, pace: 60 }, look: { before: paced(60) } },
    'moved by 60 s',
  ],
  ['one that was set to another pace', { seen: { shopMs: 131_000, pace: 60 } }, undefined],
  ['or back', { seen: { shopMs: 80_000 }, look: { before: paced(60) } }, undefined],
  ['but not by an hour', { seen: { shopMs: 3_700_000, pace: 60 } }, 'The shop’s clock was moved'],
  ['nothing that keeps readings', { seen: { unkept: 'the disk is full' } }, 'the disk is full'],
];

describe('what switches a bay off', () => {
  for (const [name, change, said] of TABLE)
    it(`${name}: ${said === undefined ? 'goes on' : 'is off'}`, () => {
      if (said === undefined) expect(saidOf(change)).to.equal(undefined);
      else expect(saidOf(change)).to.include(said);
    });

  it('names the device that did not answer', () => {
    expect(unanswered(SEEN, WATCHED)).to.equal(undefined);
    const silent = unanswered({ ...SEEN, cutoff: { trouble: 'it does not answer.' } }, WATCHED);
    expect(silent).to.deep.equal({ id: 'no-answer', says: 'The cut-off: it does not answer.' });
  });
});
