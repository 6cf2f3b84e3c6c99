import { expect } from 'chai';
import { FIGURES, readFigures, writeFigures } from './figures.ts';
import type { Prediction } from './prediction.ts';

describe('what is foretold, as rows of numbers', () => {
  it('comes back as it was written, dates that are too far off left out, and nothing of one nothing is known of', () => {
    const known: Prediction = {
      volts: { low: 12.5, likely: 12.6, high: 12.7 },
      charge: 0.8,
      recharge: { soonest: 1, early: 2, likely: 3, late: 4 },
      harm: { soonest: 5, early: 6 },
      start: {},
      rate: { low: 0.5, likely: 1, high: 2 },
      isSuspect: true,
      readings: 3,
    };
    const figures = new Float64Array(3 * FIGURES);
    writeFigures(figures, 0, known);
    writeFigures(figures, 1, undefined);
    writeFigures(figures, 2, { ...known, isSuspect: false, readings: 0 });
    expect(readFigures(figures, 0)).to.deep.equal(known);
    expect(readFigures(figures, 1)).to.equal(undefined);
    expect(readFigures(figures, 2)).to.deep.equal({ ...known, isSuspect: false, readings: 0 });
  });
});
