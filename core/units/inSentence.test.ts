import { expect } from 'chai';
import { measuredWords } from '../runsheet/definition/measuredWords.ts';
import { procedureById } from '../runsheet/procedures/procedures.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { TestJob } from '../test/testJob.ts';
import { inSentence } from './inSentence.ts';

describe('a title within a sentence', () => {
  for (const [title, within] of [
    ['Load tester', 'load tester'],
    ['25 A, minutes', '25 A, minutes'],
    ['AGM programme', 'AGM programme'],
    ['One cell at 2.1 V', 'one cell at 2.1 V'],
    ['Über 50 °C', 'über 50 °C'],
    ['', ''],
  ] as const)
    it(`“${title}” is “${within}”`, () => expect(inSentence(title)).to.equal(within));

  it('keeps the units of a choice on the record: a capacity test by 25 A', () => {
    const { routes = [] } = procedureById('recover-agm');
    const step = routes.flatMap((route) => route.steps).find(({ id }) => id === 'prove-capacity');
    const { state } = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').job;
    const words =
      step?.kind === 'measure'
        ? measuredWords(step, { method: 'reserve', reserveMin: 97 }, contextOf(state, 1))
        : [];
    expect(words[0]).to.equal('How: 25 A, minutes');
  });
});
