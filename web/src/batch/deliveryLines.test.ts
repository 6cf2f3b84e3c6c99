import { expect } from 'chai';
import { GENERIC_TYPES } from '@cork-ember/core/battery/genericTypes.ts';
import { LISTED } from '@cork-ember/core/demo/catalogue.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { batteriesOf, keptText, leftOf, marksOf, type Line } from './deliveryLines.ts';

const SHOP = {
  tagLetters: 'B',
  rules: {},
  hours: { timeZone: 'Etc/UTC', week: [] },
} as unknown as Shop;
const line = (more: Partial<Line> = {}): Line => ({
  typeId: 'LW-A12/9',
  count: 2,
  dateCode: '2026-01',
  owner: '',
  promised: '2026-03-12T17:00',
  ...more,
});
const LABEL = {
  built: 'agm',
  cells: 6,
  capacityAh: 8,
  delivery: 'own-pack',
  packMl: 400,
  packDensity: 1.31,
} as const;

describe('the lines of a delivery', () => {
  it('stand for batteries with tags that go on from line to line', () => {
    const lines = [line(), line({ typeId: 'nothing' }), line({ answers: LABEL, typeId: '' })];
    expect(marksOf(lines, 'B', 7)).to.deep.equal(['B-0007', 'B-0009', 'B-0011']);
    expect(
      batteriesOf(lines, LISTED, SHOP, 7).map(({ id, line: at, isOwn }) => [id, at, isOwn]),
    ).to.deep.equal([
      ['B-0007', 0, false],
      ['B-0008', 0, false],
      ['B-0011', 2, true],
      ['B-0012', 2, true],
    ]);
  });

  it('both batteries of a label are of one type, named by the first of them', () => {
    const [one, other] = batteriesOf([line({ answers: LABEL, typeId: '' })], GENERIC_TYPES, SHOP, 1);
    expect(one?.opened.type).to.deep.include({ construction: 'agm', capacityAh: 8 });
    expect(one?.opened.type.id).to.include('B-0001').and.to.equal(other?.opened.type.id);
  });

  it('a label that wants a figure more is not planned', () => {
    expect(batteriesOf([line({ answers: { built: 'agm' } })], LISTED, SHOP, 1)).to.deep.equal([]);
  });

  it('two like lines each lose what was taken in off them, and no more', () => {
    const lines = [line({ owner: 'harbour' }), line({ owner: 'quay' })];
    const all = batteriesOf(lines, LISTED, SHOP, 1);
    expect(leftOf(lines, all)).to.deep.equal([]);
    expect(leftOf(lines, all.slice(0, 3))).to.deep.equal([{ ...lines[1], count: 1 }]);
    expect(leftOf(lines, all.slice(1, 4))).to.deep.equal([{ ...lines[0], count: 1 }]);
    expect(leftOf(lines, [])).to.deep.equal(lines);
  });

  it('what is left of a label’s line is of the type that is in the list now', () => {
    const lines = [line({ answers: LABEL, typeId: '' })];
    const [first] = batteriesOf(lines, LISTED, SHOP, 1);
    if (!first) throw new Error('none');
    const [left] = leftOf(lines, [first]);
    expect(left).to.include({ count: 1, typeId: first.opened.type.id });
    expect(left).not.to.have.property('answers');
  });

  it('outlive the page with all that was typed, but for pictures', () => {
    const lines = [line({ answers: LABEL, isJustThese: true })];
    expect(
      JSON.parse(keptText([{ ...line({ answers: LABEL, isJustThese: true }), photos: [] }])),
    ).to.deep.equal(lines);
  });
});
