import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { expectedOf } from './expected.ts';
import {
  findingWords,
  firstStop,
  timedLook,
  watched,
  type Finding,
  type StopRuleId,
  type Watch,
  type WatchState,
} from './watch.ts';

const ALL: readonly StopRuleId[] = [
  'over-voltage',
  'runaway',
  'dead-cell',
  'short-heating',
  'not-rising',
  'too-long',
];

function watchFor(typeId: string, more: Partial<Watch> = {}): Watch {
  const type = CATALOGUE.find(({ id }) => id === typeId);
  if (!type) throw new Error(`no type ${typeId}`);
  const isFlooded = typeId.includes('-F');
  const setA = type.capacityAh / 20;
  const ceilingV = (14.7 * type.cells) / 6;
  return {
    construction: isFlooded ? 'flooded' : 'agm',
    cells: type.cells,
    capacityAh: type.capacityAh,
    setA,
    ceilingV,
    isCompensated: true,
    absoluteV: 2.5 * type.cells,
    mostMin: 1560,
    missingAh: 0.6 * type.capacityAh,
    expected: expectedOf({
      type,
      entered: {},
      startPercent: 10,
      setA,
      ceilingV,
      isCompensated: true,
      tempC: 21,
    }),
    armed: ALL,
    ...more,
  };
}

/** Looks as [minutes, volts, amps, °C]; what fires first, and at which. */
function fired(
  watch: Watch,
  looks: readonly (readonly [number, number, number, number])[],
): { readonly at: number; readonly finding: Finding } | undefined {
  let state: WatchState | undefined;
  for (const [minute, voltageV, currentA, tempC] of looks) {
    const look = { at: minute * 60_000, voltageV, currentA, tempC };
    const before = state;
    state = watched(watch, before, timedLook(look, before?.last, [{ from: 0 }]));
    const finding = firstStop(watch, state, before);
    if (finding) return { at: minute, finding };
  }
  return undefined;
}

describe('stop rules of a charge', () => {
  const agm = watchFor('BK-A12/55');
  const full = [
    [300, 13.2, 2.75, 23],
    [600, 14.8, 2.6, 24],
    [780, 14.7, 1.2, 24],
    [900, 14.7, 0.6, 24],
  ] as const;

  it('runaway is found at the first look after the taper’s low that is higher and warmer', () => {
    const found = fired(agm, [...full, [960, 14.7, 1.0, 26]]);
    expect(found?.finding.rule).to.equal('runaway');
    expect(found?.finding.saw).to.include('risen from 0.60 A');
  });

  it('runaway over a night nobody saw is judged against the evening’s low', () => {
    const found = fired(agm, [...full, [1540, 14.65, 1.5, 31]]);
    expect(found?.finding).to.include({ rule: 'runaway', sure: 'nearly certain' });
  });

  for (const [name, more] of [
    ['the noise of a meter', [[960, 14.7, 0.63, 24]]],
    ['a rise with neither warmth nor size', [[960, 14.7, 0.75, 24]]],
    ['a taper that goes on', [[960, 14.7, 0.4, 24]]],
  ] as const)
    it(`${name} is no runaway`, () => {
      expect(fired(agm, [...full, ...more])).to.equal(undefined);
    });

  it('a waking battery’s current rises from nearly nothing: good news', () => {
    const waking = [
      [15, 14.9, 0.1, 21],
      [60, 14.8, 0.4, 22],
      [120, 14.8, 1.1, 23],
      [180, 14.7, 2.0, 24],
    ] as const;
    expect(fired(agm, waking)).to.equal(undefined);
  });

  it('a dead cell shows after a twentieth of the capacity, not after a day', () => {
    const found = fired(agm, [
      [60, 10.4, 2.75, 21],
      [120, 10.5, 2.75, 22],
    ]);
    expect(found?.at).to.be.at.most(120);
    expect(found?.finding).to.include({ rule: 'dead-cell', sure: 'nearly certain' });
  });

  it('a dead cell among full ones shows by a voltage that stands still', () => {
    const plateau = [60, 120, 180, 240].map((minute) => [minute, 13.3, 2.75, 22 + minute / 120] as const);
    expect(fired(agm, plateau)?.finding.saw).to.match(/13\.30 V unchanged while \d\.\d Ah went in/);
  });

  it('one cell short is about 2 V on three cells as on six', () => {
    const three = watchFor('TQ-F6/11');
    expect(
      fired(three, [
        [60, 4.1, 0.55, 21],
        [120, 4.2, 0.55, 22],
      ])?.finding.rule,
    ).to.equal('dead-cell');
    expect(
      fired(three, [
        [60, 6.1, 0.55, 21],
        [120, 6.15, 0.55, 22],
      ]),
    ).to.equal(undefined);
  });

  it('heat at low voltage is beyond what a sound one and the room bring', () => {
    const found = fired(agm, [
      [10, 12.2, 2.75, 22],
      [70, 12.4, 2.75, 31],
    ]);
    expect(found?.finding.rule).to.equal('short-heating');
    expect(
      fired(agm, [
        [10, 12.2, 2.75, 22],
        [70, 12.4, 2.75, 25],
      ]),
    ).to.equal(undefined);
    // Above the voltage of gassing warmth is no sign of a short.
    expect(
      fired(agm, [
        [600, 14.6, 2.75, 22],
        [660, 14.7, 2.5, 31],
      ]),
    ).to.equal(undefined);
  });

  it('a charger that passes its ceiling at this warmth is not regulated', () => {
    expect(fired(agm, [[60, 15.6, 2.75, 21]])?.finding.rule).to.equal('over-voltage');
    expect(fired(agm, [[60, 15.1, 2.75, 5]])).to.equal(undefined);
    expect(fired(agm, [[60, 15.1, 2.75, 38]])?.finding.expected).to.equal('at most 14.39 V');
  });

  it('half an hour awake and not rising is a suspected short', () => {
    const rising = [
      [15, 8, 2.75, 21],
      [40, 9.4, 2.75, 22],
    ] as const;
    const still = [
      [15, 8, 2.75, 21],
      [40, 8.05, 2.75, 22],
    ] as const;
    const waking = { ...agm, armed: ['not-rising'] as const };
    expect(fired(waking, still)?.finding.rule).to.equal('not-rising');
    expect(fired(waking, rising)).to.equal(undefined);
  });

  it('too long counts from the charge’s own most, with five minutes’ grace', () => {
    const short = { ...agm, mostMin: 720, armed: ['too-long'] as const };
    expect(fired(short, [[724, 14.4, 1, 25]])).to.equal(undefined);
    expect(fired(short, [[726, 14.4, 1, 25]])?.finding.rule).to.equal('too-long');
  });

  it('each says what it means, what it saw and expected, how sure that is, and what to do', () => {
    const found = fired(agm, [[60, 15.9, 2.75, 21]]);
    expect(found && findingWords(found.finding)).to.match(
      /^The charger does not keep its voltage\. Saw 15\.90 V at 21 °C; expected at most 14\.80 V\. Nearly certain\. Charger off/,
    );
  });

  it('only armed rules fire', () => {
    expect(fired({ ...agm, armed: [] }, [[60, 15.9, 2.75, 21]])).to.equal(undefined);
  });

  it('a label no model can be made from still has the rules that need none', () => {
    const blind = { ...agm, expected: undefined };
    expect(fired(blind, [[120, 10.4, 2.75, 21]])).to.equal(undefined);
    expect(fired(blind, [[60, 15.9, 2.75, 21]])?.finding.rule).to.equal('over-voltage');
  });
});
