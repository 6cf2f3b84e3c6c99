import { expect } from 'chai';
import fc from 'fast-check';
import { flatNow, proofOf, putInAh, type ChargeReading, type FullQuestion } from './proofOfFull.ts';

type Row = readonly [minute: number, volts: number, amps: number, tempC?: number, density?: number];

const looksOf = (rows: readonly Row[]): ChargeReading[] =>
  rows.map(([minute, voltageV, currentA, tempC = 25, density]) => ({
    at: minute * 60_000,
    voltageV,
    currentA,
    tempC,
    ...(density === undefined ? {} : { density }),
  }));

const AGM: FullQuestion = {
  construction: 'agm',
  cells: 6,
  capacityAh: 14,
  ceilingV: 14.7,
  isCompensated: true,
  setA: 1.4,
  windowMin: 120,
};
const FLOODED: FullQuestion = {
  construction: 'flooded',
  cells: 6,
  capacityAh: 70,
  ceilingV: 14.6,
  isCompensated: true,
  setA: 7,
  windowMin: 120,
};

const judged = (rows: readonly Row[], question = AGM, from = 0, missingAh = 0) =>
  proofOf({ looks: looksOf(rows), stretches: [{ from: from * 60_000 }], missingAh }, question);

describe('proof of full', () => {
  it('a small one whose tail sinks to what a meter hardly shows is full; one that fell to it is not', () => {
    const small: FullQuestion = { ...AGM, capacityAh: 4, setA: 0.4 };
    const sinking = [
      0.33, 0.18, 0.11, 0.06, 0.04, 0.025, 0.019, 0.015, 0.012, 0.011, 0.011, 0.01, 0.011, 0.01,
    ];
    const rows = sinking.map((amps, hour): Row => [(hour + 1) * 60, 14.7, amps]);
    // Hour after hour from its first tail on: what was full does not cease to be.
    for (let looks = 9; looks <= rows.length; looks++)
      expect(judged(rows.slice(0, looks), small), `after ${looks} looks`).to.deep.include({
        isProven: true,
        by: 'tail',
      });
    const fell = rows.map(([minute, volts, amps]): Row => [minute, volts, minute < 240 ? amps : 0.01]);
    expect(judged(fell, small)).to.deep.include({ isProven: false });
    expect(judged(fell, small).sentence).to.include('no current at all');
  });

  it('an AGM is full with a tail of at most one per cent of its capacity, flat for two hours at its voltage', () => {
    const proof = judged([
      [60, 14.1, 1.4],
      [240, 14.7, 0.12],
      [300, 14.7, 0.1],
      [360, 14.7, 0.09],
    ]);
    expect(proof).to.include({ isProven: true, by: 'tail' });
    expect(proof.window).to.deep.equal({ from: 240 * 60_000, to: 360 * 60_000 });
    expect(proof.sentence).to.equal('0.09 A, 0.9 % of capacity, flat at 14.7 V over 120 min, 3 readings.');
  });

  for (const [name, rows, question, sentence] of [
    [
      'a first charge that stalls at 12.7 V',
      [
        [60, 12.7, 0.9],
        [120, 12.7, 0.9],
        [180, 12.7, 0.9],
      ],
      { ...AGM, capacityAh: 9, setA: 0.9 },
      '12.70 V at the last look; full is judged while 14.3 V or more are held.',
    ],
    [
      'a slow charge that stalls at 12.3 V',
      [
        [60, 12.3, 3.5],
        [120, 12.3, 3.5],
        [180, 12.3, 3.5],
      ],
      { ...FLOODED, setA: 3.5 },
      'full is judged while 14.3 V or more are held.',
    ],
    [
      'looks seconds apart',
      [
        [120, 14.7, 0.08],
        [120.1, 14.7, 0.08],
        [120.2, 14.7, 0.08],
      ],
      AGM,
      '1 reading flat over 0 min; three readings over 120 min are needed.',
    ],
    [
      'a current that still falls',
      [
        [60, 14.7, 0.26],
        [120, 14.7, 0.14],
        [180, 14.7, 0.09],
      ],
      AGM,
      'The current still falls: 0.26 to 0.09 A.',
    ],
    [
      'a current that rises',
      [
        [60, 14.7, 0.05],
        [120, 14.7, 0.1],
        [180, 14.7, 0.14],
      ],
      AGM,
      'The current rises: 0.05 to 0.14 A.',
    ],
    [
      'a flat current above the tail of a full one',
      [
        [60, 14.7, 0.3],
        [120, 14.7, 0.3],
        [180, 14.7, 0.29],
      ],
      AGM,
      'Flat at 0.29 A, 2.1 % of capacity; an AGM that is full takes 1 % or less.',
    ],
    [
      'nothing but the meter’s own zero',
      [
        [60, 14.7, 0.01],
        [120, 14.7, 0.01],
        [180, 14.7, 0.01],
      ],
      AGM,
      'no current at all: a clip that does not touch, or an open cell',
    ],
    [
      'no current at all',
      [
        [60, 14.7, 0],
        [120, 14.7, 0],
        [180, 14.7, 0],
      ],
      AGM,
      'no current at all: a clip that does not touch, or an open cell',
    ],
    [
      'a night nobody saw between two looks',
      [
        [60, 14.7, 0.1],
        [900, 14.7, 0.1],
        [960, 14.7, 0.1],
      ],
      AGM,
      '2 readings flat over 60 min',
    ],
    [
      'a battery that warms meanwhile',
      [
        [60, 14.7, 0.1, 25],
        [120, 14.7, 0.1, 28],
        [180, 14.7, 0.1, 31],
      ],
      AGM,
      '2 readings flat over 60 min',
    ],
    ['nothing', [], AGM, 'No reading was taken since the charger went on.'],
  ] as const satisfies readonly (readonly [string, readonly Row[], FullQuestion, string])[])
    it(`${name} proves nothing, and it says why`, () => {
      const proof = judged(rows, question);
      expect(proof.isProven).to.equal(false);
      expect(proof.sentence).to.include(sentence);
      expect(proof.window).to.equal(undefined);
    });

  it('time switched off breaks it: what was flat before a pause does not count after it', () => {
    const rows: readonly Row[] = [
      [60, 14.7, 0.1],
      [120, 14.7, 0.1],
      [300, 14.7, 0.1],
    ];
    const stretches = [{ from: 0, to: 130 * 60_000 }, { from: 240 * 60_000 }];
    const { isProven, sentence } = proofOf({ looks: looksOf(rows), stretches, missingAh: 0 }, AGM);
    expect(isProven).to.equal(false);
    expect(sentence).to.include('1 reading flat');
  });

  it('the voltage that is held follows warmth: 14.4 V is enough at 40 °C and not at 5 °C', () => {
    const at = (tempC: number): boolean =>
      judged([
        [60, 14.2, 0.1, tempC],
        [120, 14.2, 0.1, tempC],
        [180, 14.2, 0.1, tempC],
      ]).isProven;
    expect(at(40)).to.equal(true);
    expect(at(5)).to.equal(false);
  });

  it('a flooded battery: the current flat while its voltage is held, an antimonial one above C/50 too', () => {
    const proof = judged(
      [
        [60, 14.6, 2.1],
        [120, 14.6, 2.05],
        [180, 14.6, 2.0],
      ],
      FLOODED,
    );
    expect(proof).to.include({ isProven: true, by: 'current' });
    const tooMuch = judged(
      [
        [60, 14.6, 3.5],
        [120, 14.6, 3.5],
        [180, 14.6, 3.5],
      ],
      FLOODED,
    );
    expect(tooMuch.isProven).to.equal(false);
  });

  it('or, at constant current, three hourly densities alike and the voltage flat', () => {
    const rows = (density: readonly number[]): Row[] =>
      density.map((one, index) => [60 * (index + 1), 15.1, 3.5, 25, one]);
    const question = { ...FLOODED, setA: 3.5, ceilingV: 16 };
    expect(judged(rows([1.277, 1.279, 1.28]), question)).to.include({ isProven: true, by: 'density' });
    expect(judged(rows([1.25, 1.265, 1.28]), question).isProven).to.equal(false);
    // While the voltage is held and the current tapers, densities alike say nothing.
    const tapering: Row[] = [
      [60, 14.6, 3.2, 25, 1.272],
      [120, 14.6, 2.4, 25, 1.274],
      [180, 14.6, 1.7, 25, 1.276],
    ];
    expect(judged(tapering, FLOODED).isProven).to.equal(false);
  });

  it('or its voltage flat at constant current where a full one stands', () => {
    const rows = (volts: number): Row[] => [60, 120, 180].map((minute): Row => [minute, volts, 3.5]);
    const question = { ...FLOODED, setA: 3.5, ceilingV: 16.2 };
    expect(judged(rows(15.7), question)).to.include({ isProven: true, by: 'voltage' });
    expect(judged(rows(15.0), question).isProven).to.equal(false);
  });

  it('what was put back stands beside it: a sulfated battery that takes nothing is not full', () => {
    const rows: readonly Row[] = [
      [5, 14.7, 0.1],
      [60, 14.7, 0.1],
      [120, 14.7, 0.1],
      [180, 14.7, 0.1],
    ];
    const { isProven, sentence } = judged(rows, AGM, 0, 11);
    expect(isProven).to.equal(false);
    expect(sentence).to.match(/only 0\.4 of at least 11\.0 Ah that were missing went in/);
    expect(judged(rows, AGM, 0, 1).isProven).to.equal(true);
  });

  it('needs three readings and two hours less a late look, whatever they show', () => {
    const reading = fc.record({
      voltageV: fc.double({ min: 13, max: 14.8, noNaN: true }),
      currentA: fc.double({ min: 0, max: 0.3, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(reading, { maxLength: 8 }), fc.integer({ min: 1, max: 90 }), (list, gapMin) => {
        const looks = list.map((one, index) => ({ ...one, tempC: 25, at: index * gapMin * 60_000 }));
        const { isProven } = flatNow(looks.toReversed(), AGM);
        if (isProven) expect((list.length - 1) * gapMin).to.be.at.least(115);
        if (list.length < 3) expect(isProven).to.equal(false);
      }),
      { seed: 15 },
    );
  });
});

describe('ampere-hours put in', () => {
  it('lie between what two looks allow; before the first between it and what was set', () => {
    const looks = looksOf([
      [60, 13, 4],
      [120, 14.4, 2],
    ]);
    const { low, mean, high } = putInAh(looks, [{ from: 0 }], 5);
    expect(low).to.be.closeTo(4 + 2, 1e-9);
    expect(mean).to.be.closeTo(4.5 + 3, 1e-9);
    expect(high).to.be.closeTo(5 + 4, 1e-9);
  });

  it('time switched off puts nothing in', () => {
    const looks = looksOf([
      [60, 13, 4],
      [240, 13, 4],
    ]);
    const stretches = [{ from: 0, to: 60 * 60_000 }, { from: 180 * 60_000 }];
    expect(putInAh(looks, stretches, 4).mean).to.be.closeTo(8, 1e-9);
  });
});
