import { expect } from 'chai';
import type { Scored } from './compare.ts';
import { inOrder, type Tried } from './inOrder.ts';

const way = (id: string, back: number, worth: number, handsMin: number): Scored => ({
  course: { id, title: id, routes: [id] },
  odds: { A: 0, B: back, C: 0, R: 1 - back },
  carried: back,
  hours: 20,
  handsMin,
  mainsWh: 0,
  waterMl: 0,
  cost: 0,
  worth,
  worthLow: worth,
  worthHigh: worth,
});
const CORE = way('retire', 0, 4, 3);
const tried = (id: string, ...ways: readonly Scored[]): Tried => ({
  id,
  scored: [...ways, CORE],
  isDamaged: false,
});

describe('several brought back at once', () => {
  it('begins with what brings most for an hour of hands, not with what is worth most', () => {
    const order = inOrder([
      tried('large', way('slow-charge', 0.6, 64, 120)),
      tried('quick', way('slow-charge', 0.9, 34, 20)),
    ]);
    expect(order.map(({ id }) => id)).to.deep.equal(['quick', 'large']);
    expect(order[0]?.perHour).to.be.closeTo(90, 1e-9);
    expect(order[1]?.perHour).to.be.closeTo(30, 1e-9);
  });

  it('takes of each the way that pays its hands best', () => {
    const [one] = inOrder([tried('a', way('pulse', 0.8, 54, 100), way('slow-charge', 0.6, 34, 30))]);
    expect(one?.way?.course.id).to.equal('slow-charge');
    expect(one?.odds).to.equal(0.8);
  });

  it('advises no way that the house does not take', () => {
    const quick = way('pulse', 0.9, 90, 10);
    const against = { ...quick, course: { ...quick.course, wants: 'off by this house’s rule' } };
    const [one] = inOrder([tried('a', against, way('slow-charge', 0.6, 34, 30))]);
    expect(one?.way?.course.id).to.equal('slow-charge');
    expect(one?.odds).to.equal(0.6);
  });

  it('names the hopeless and puts them last: under one in ten, or with a damaged case', () => {
    const order = inOrder([
      { ...tried('cracked', way('slow-charge', 0.9, 60, 20)), isDamaged: true },
      tried('dead', way('slow-charge', 0.05, 2, 20)),
      tried('alive', way('slow-charge', 0.5, 10, 20)),
    ]);
    expect(order.map(({ id, isHopeless }) => [id, isHopeless])).to.deep.equal([
      ['alive', false],
      ['cracked', true],
      ['dead', true],
    ]);
  });
});
