import { expect } from 'chai';
import { percentText } from '../units/percent.ts';
import { candidate } from '../test/candidate.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { Belief } from './belief.ts';
import { CAUSE_IDS } from '../candidate/causes.ts';
import { ON_TOP_IDS, onTopOf } from './onTop.ts';
import { illnessesOf } from './words.ts';
import type { Setting } from '../candidate/traits.ts';

const setting: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 8, complaint: 'slow-crank' },
  tempC: 21,
};

describe('what stands on top of an illness', () => {
  it('is every other one from where it is more than any battery has', () => {
    expect(onTopOf(candidate())).to.deep.equal([]);
    expect(onTopOf(candidate({ cause: 'worn', left: 0.6, hardShare: 0.3, dryShare: 0.2 }))).to.deep.equal([
      'sulfated',
      'dry',
    ]);
    expect(onTopOf(candidate({ cause: 'sulfated-hard', hardShare: 0.7, left: 0.7 }))).to.deep.equal(['worn']);
    const second = { fault: 'weak-cell', cell: 5, severity: 0.5 } as const;
    expect(onTopOf(candidate({ cause: 'shorted-cell', low: 0.1, second }))).to.deep.equal([
      'low-cell',
      'second-cell',
    ]);
    expect(onTopOf(candidate({ cause: 'weak-cell', low: 0.3 }))).to.deep.equal([]);
  });

  it('is believed no oftener than its cause, and told in words where it is likely', () => {
    const belief = new Belief(setting, 200, 3);
    belief.observe({ kind: 'ocv', volts: 12.3, isRested: true });
    const { causes, together } = belief.summary();
    for (const cause of CAUSE_IDS)
      for (const id of ON_TOP_IDS) expect(together[cause][id]).to.be.within(0, causes[cause] + 1e-12);
    const certain = { ...causes, worn: 1 };
    const words = illnessesOf(certain, {
      ...together,
      worn: { ...together.worn, sulfated: 0.64, dry: 0.1, layered: 0, 'low-cell': 0, 'second-cell': 0 },
    }).find(({ name }) => name === 'Worn out');
    expect(words?.onTop).to.equal(`with it: sulfated ${percentText(0.64)}`);
    expect(illnessesOf(causes).every(({ onTop }) => onTop === undefined)).to.equal(true);
  });
});
