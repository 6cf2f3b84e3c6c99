import { expect } from 'chai';
import { firstStop, type StopQuestion } from './stopRules.ts';
import type { StopRuleId } from './step.ts';

const type = { cells: 6, capacityAh: 60 } as const;

/** Looks as [minutes, volts, amps, °C]. */
function question(
  looks: readonly (readonly [number, number, number, number])[],
  more: Partial<StopQuestion> = {},
): StopQuestion {
  return {
    looks: looks.map(([minutes, voltageV, currentA, tempC]) => ({
      at: minutes * 60_000,
      voltageV,
      currentA,
      tempC,
    })),
    type,
    setA: 3,
    ceilingV: 14.7,
    minutes: looks.at(-1)?.[0] ?? 0,
    mostMin: 1440,
    ...more,
  };
}

const fires = (rule: StopRuleId, asked: StopQuestion): boolean => firstStop([rule], asked) !== undefined;

describe('stop rules', () => {
  describe('runaway', () => {
    it('is current rising at a held voltage with warmth after it', () => {
      expect(
        fires(
          'runaway',
          question([
            [600, 14.7, 0.6, 30],
            [660, 14.7, 1.0, 32],
            [720, 14.7, 1.6, 35],
          ]),
        ),
      ).to.equal(true);
    });

    for (const [what, looks] of [
      [
        'a current that tapers',
        [
          [600, 14.7, 1.6, 30],
          [660, 14.7, 1.0, 32],
          [720, 14.7, 0.7, 33],
        ],
      ],
      [
        'a current that rises below the ceiling: it wakes',
        [
          [10, 12, 0.6, 22],
          [20, 12.1, 1.2, 23],
          [30, 12.2, 2, 25],
        ],
      ],
      [
        'a rise without warmth',
        [
          [600, 14.7, 0.6, 30],
          [660, 14.7, 1.0, 30],
          [720, 14.7, 1.6, 30.5],
        ],
      ],
      [
        'two looks only',
        [
          [660, 14.7, 1.0, 32],
          [720, 14.7, 1.6, 38],
        ],
      ],
      [
        'noise of the meter',
        [
          [600, 14.7, 0.6, 30],
          [660, 14.7, 0.65, 32],
          [720, 14.7, 0.7, 34],
        ],
      ],
    ] as const)
      it(`is not ${what}`, () => {
        expect(fires('runaway', question(looks))).to.equal(false);
      });
  });

  describe('dead cell', () => {
    it('stalls about 2 V low when five good cells are near full', () => {
      expect(
        fires(
          'dead-cell',
          question([
            [600, 12.4, 3, 26],
            [1150, 12.9, 3, 28],
          ]),
        ),
      ).to.equal(true);
    });

    for (const [what, looks] of [
      [
        'a battery early in its charge',
        [
          [60, 12.2, 3, 22],
          [300, 12.8, 3, 24],
        ],
      ],
      [
        'one at its ceiling, tapering',
        [
          [600, 13.9, 3, 26],
          [1300, 14.7, 0.6, 28],
        ],
      ],
      [
        'one that goes on rising',
        [
          [600, 13.1, 3, 26],
          [1150, 13.9, 3, 28],
        ],
      ],
    ] as const)
      it(`is not ${what}`, () => {
        expect(fires('dead-cell', question(looks))).to.equal(false);
      });

    it('is looked for at half the volts on three cells', () => {
      const looks = [
        [600, 6.2, 3, 26],
        [1150, 6.4, 3, 28],
      ] as const;
      expect(fires('dead-cell', question(looks, { type: { cells: 3, capacityAh: 60 } }))).to.equal(true);
      const sound = [
        [600, 6.4, 3, 26],
        [1150, 6.9, 3, 28],
      ] as const;
      expect(fires('dead-cell', question(sound, { type: { cells: 3, capacityAh: 60 } }))).to.equal(false);
    });
  });

  describe('short heating', () => {
    it('is heat at a low voltage', () => {
      expect(
        fires(
          'short-heating',
          question([
            [10, 11.8, 3, 22],
            [70, 12.1, 3, 33],
          ]),
        ),
      ).to.equal(true);
    });

    it('is not the slow warmth of a long charge, nor heat near the ceiling', () => {
      expect(
        fires(
          'short-heating',
          question([
            [10, 11.8, 3, 22],
            [400, 12.6, 3, 31],
          ]),
        ),
      ).to.equal(false);
      expect(
        fires(
          'short-heating',
          question([
            [10, 13.4, 3, 22],
            [70, 14.6, 3, 33],
          ]),
        ),
      ).to.equal(false);
    });
  });

  describe('not rising', () => {
    it('is a low voltage that stays while it takes the current', () => {
      expect(
        fires(
          'not-rising',
          question([
            [10, 8, 3, 22],
            [40, 8.05, 3, 23],
          ]),
        ),
      ).to.equal(true);
    });

    it('is not one that rises, one that takes nothing yet, or one just begun', () => {
      expect(
        fires(
          'not-rising',
          question([
            [10, 8, 3, 22],
            [40, 9.4, 3, 23],
          ]),
        ),
      ).to.equal(false);
      expect(
        fires(
          'not-rising',
          question([
            [10, 8, 0.2, 22],
            [40, 8, 0.2, 23],
          ]),
        ),
      ).to.equal(false);
      expect(
        fires(
          'not-rising',
          question([
            [5, 8, 3, 22],
            [20, 8, 3, 23],
          ]),
        ),
      ).to.equal(false);
    });
  });

  it('too long counts from the route’s own most, with five minutes’ grace', () => {
    const at = (minutes: number): StopQuestion => question([[minutes, 14.4, 1, 25]], { mostMin: 720 });
    expect(fires('too-long', at(724))).to.equal(false);
    expect(fires('too-long', at(726))).to.equal(true);
  });

  it('only armed rules fire, the first of them first, each in one sentence', () => {
    const asked = question([
      [10, 8, 3, 22],
      [2000, 8.05, 3, 60],
    ]);
    expect(firstStop([], asked)).to.equal(undefined);
    for (const rule of ['not-rising', 'too-long', 'short-heating', 'dead-cell'] as const) {
      const why = firstStop([rule, 'too-long'], asked);
      if (why !== undefined) expect(why).to.match(/^[^.]+.*[.]$/);
    }
    expect(firstStop(['not-rising', 'too-long'], asked)).to.include('suspected short');
    expect(firstStop(['too-long', 'not-rising'], asked)).to.include('is the most');
  });

  it('no look yet stops nothing', () => {
    expect(firstStop(['runaway', 'dead-cell', 'short-heating', 'not-rising'], question([]))).to.equal(
      undefined,
    );
  });
});
