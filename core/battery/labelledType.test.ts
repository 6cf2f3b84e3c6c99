/** A battery no catalogue has, read off its label: what can be unknown, what follows, and what is refused. */
import { expect } from 'chai';
import fc from 'fast-check';
import { typeSchema } from '../contract/typeSchema.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { estimateCapacity } from './estimateCapacity.ts';
import { labelledType, type LabelAnswers, type Labelled } from './labelledType.ts';
import { leastAh } from './types.ts';

function made(answers: LabelAnswers): Labelled {
  const answer = labelledType(answers, 'SK-0150');
  if ('wants' in answer) throw new Error(answer.wants);
  return answer;
}

describe('a type read off a label', () => {
  it('an AGM with its pack is all the label says', () => {
    const { type } = made({
      built: 'agm',
      cells: 6,
      capacityAh: 8,
      crankingA: 120,
      crankingStandard: 'SAE',
      delivery: 'own-pack',
      packMl: 400,
      packDensity: 1.31,
      code: 'Z-8',
    });
    expect(type).to.deep.include({
      id: 'Z-8',
      construction: 'agm',
      duty: 'starter',
      delivery: 'own-pack',
      hourRate: 10,
      cranking: { amps: 120, standard: 'SAE' },
      pack: { code: 'as it came', volumeMl: 400, densityKgPerL: 1.31 },
    });
    expect(typeSchema.validate(type).error).to.equal(undefined);
  });

  for (const [answers, wants] of [
    [{}, 'How it is built'],
    [{ built: 'gel' }, 'Its volts'],
    [{ built: 'gel', cells: 6 }, 'Its Ah'],
    [{ built: 'agm', cells: 6, capacityAh: 8, delivery: 'own-pack' }, 'What its pack holds'],
  ] as const)
    it(`${JSON.stringify(answers)} still wants one thing, in a sentence`, () => {
      const answer = labelledType(answers, 'T');
      expect('wants' in answer && answer.wants).to.include(wants);
    });

  it('a used one of unknown capacity is estimated, and its limits go by the least', () => {
    const { type, follows } = made({ built: 'flooded', cells: 6, crankingA: 540 });
    expect(type.estimate?.from).to.equal('cranking');
    expect(type.capacityAh).to.be.within(48, 66);
    expect(leastAh(type)).to.be.below(type.capacityAh);
    expect(follows.join(' ')).to.include('limits go by');
    expect(follows.join(' ')).to.include('Standard not said');
  });

  it('sealed and not said which is charged as gel, which harms no AGM', () => {
    const { type, follows } = made({ built: 'sealed', cells: 6, capacityAh: 18 });
    expect(type.construction).to.equal('gel');
    expect(follows[0]).to.include('harms no AGM');
  });

  it('takes what the label leaves out from a known type it is like, and says so', () => {
    const like = CATALOGUE.find(({ id }) => id === 'BK-A12/55');
    if (!like) throw new Error('no such type');
    const { type } = made({ like, capacityAh: 50 });
    expect(type).to.include({
      construction: 'agm',
      cells: 6,
      duty: 'starter',
      hourRate: 20,
      likeId: 'BK-A12/55',
    });
  });

  it('is tested and modelled as an equivalent of its size, recorded as such, and of no other size', () => {
    const like = CATALOGUE.find(({ id }) => id === 'BK-A12/55');
    if (!like?.cranking) throw new Error('no such type');
    const { type, follows } = made({ like, capacityAh: 50 });
    expect(type.cranking).to.deep.equal({ ...like.cranking, isEquivalent: true });
    expect(follows.join(' ')).to.include(`tested and modelled as BK-A12/55, ${like.cranking.amps} A`);
    expect(made({ like, capacityAh: 50, crankingA: 430 }).type.cranking).not.to.have.property('isEquivalent');
    expect(made({ like, capacityAh: 12 }).type.cranking).to.equal(undefined);
    expect(typeSchema.validate(type).error).to.equal(undefined);
  });

  it('reserve minutes tell more than cranking, and cranking of a starter more than its mass', () => {
    const clues = { construction: 'flooded', duty: 'starter', cells: 6, hourRate: 20 } as const;
    const cranking = { amps: 540, standard: 'EN' } as const;
    expect(estimateCapacity({ ...clues, cranking, reserveMin: 100, wetMassG: 15_000 })?.from).to.equal(
      'reserve',
    );
    expect(estimateCapacity({ ...clues, cranking, wetMassG: 15_000 })?.from).to.equal('cranking');
    expect(estimateCapacity({ ...clues, wetMassG: 15_000 })?.from).to.equal('mass');
    expect(estimateCapacity(clues)).to.equal(undefined);
    // Labels that print both: 60 Ah with 100 min, 540 A, 15 kg.
    for (const more of [{ reserveMin: 100 }, { cranking }, { wetMassG: 15_000 }]) {
      const { leastAh: least = 0, mostAh: most = 0 } = estimateCapacity({ ...clues, ...more }) ?? {};
      expect(60, JSON.stringify(more)).to.be.within(least, most);
    }
  });

  it('whatever is answered, what is made passes the schema or is refused in a sentence', () => {
    const maybe = <T>(one: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
      fc.option(one, { nil: undefined });
    fc.assert(
      fc.property(
        fc.record({
          built: fc.constantFrom('flooded', 'agm', 'gel', 'sealed'),
          cells: fc.integer({ min: 1, max: 12 }),
          capacityAh: maybe(fc.double({ min: 0.5, max: 3000, noNaN: true })),
          reserveMin: maybe(fc.integer({ min: 1, max: 600 })),
          crankingA: maybe(fc.integer({ min: 1, max: 3000 })),
          wetMassG: maybe(fc.integer({ min: 300, max: 60_000 })),
        }),
        (raw) => {
          const answers = Object.fromEntries(
            Object.entries(raw).filter(([, value]) => value !== undefined),
          ) as LabelAnswers;
          const answer = labelledType(answers, 'T');
          if ('wants' in answer) return;
          expect(answer.type.capacityAh).to.be.greaterThan(0);
          expect(leastAh(answer.type)).to.be.at.most(answer.type.capacityAh);
          const { error } = typeSchema.validate(answer.type);
          if (error) expect(error.message).to.match(/\.$/);
        },
      ),
    );
  });
});
