import { expect } from 'chai';
import { GENERIC_TYPES } from '@cork-ember/core/battery/genericTypes.ts';
import { LISTED } from '@cork-ember/core/demo/catalogue.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import {
  batteriesOf,
  keptOf,
  leftOf,
  marksOf,
  typeOf,
  wantedOf,
  type Line,
  type LineBattery,
  type Taken,
} from './deliveryLines.ts';
import { labelCheck, type LabelCheck } from '../label/readLabel.ts';

const takenOf = ({ line, isOwn, opened }: LineBattery): Taken => ({ line, isOwn, typeId: opened.type.id });

const SHOP = {
  tagLetters: 'B',
  rules: {},
  hours: { timeZone: 'Etc/UTC', week: [] },
} as unknown as Shop;
const NOW = Date.parse('2026-03-10T08:00:00Z');
let lines = 0;
const line = (more: Partial<Line> = {}): Line => ({
  id: `line ${++lines}`,
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
  let check: LabelCheck;
  before(async () => (check = await labelCheck.fetch()));

  it('stand for batteries with tags that go on from line to line', () => {
    const lines = [line(), line({ typeId: 'nothing' }), line({ answers: LABEL, typeId: '' })];
    expect([...marksOf(lines, 'B', 7).values()]).to.deep.equal(['B-0007', 'B-0009', 'B-0011']);
    expect(
      batteriesOf(lines, LISTED, SHOP, 7, NOW, check).map(({ id, line: at, isOwn }) => [id, at, isOwn]),
    ).to.deep.equal([
      ['B-0007', lines[0]?.id, false],
      ['B-0008', lines[0]?.id, false],
      ['B-0011', lines[2]?.id, true],
      ['B-0012', lines[2]?.id, true],
    ]);
  });

  it('both batteries of a label are of one type, named by the first of them', () => {
    const [one, other] = batteriesOf(
      [line({ answers: LABEL, typeId: '' })],
      GENERIC_TYPES,
      SHOP,
      1,
      NOW,
      check,
    );
    expect(one?.opened.type).to.deep.include({ construction: 'agm', capacityAh: 8 });
    expect(one?.opened.type.id).to.include('B-0001').and.to.equal(other?.opened.type.id);
  });

  it('a label that wants a figure more is not planned', () => {
    expect(batteriesOf([line({ answers: { built: 'agm' } })], LISTED, SHOP, 1, NOW, check)).to.deep.equal([]);
  });

  it('two like lines each lose what was taken in off them, and no more', () => {
    const lines = [line({ owner: 'harbour' }), line({ owner: 'quay' })];
    const all = batteriesOf(lines, LISTED, SHOP, 1, NOW, check);
    expect(leftOf(lines, all.map(takenOf))).to.deep.equal([]);
    expect(leftOf(lines, all.slice(0, 3).map(takenOf))).to.deep.equal([{ ...lines[1], count: 1 }]);
    expect(leftOf(lines, all.slice(1, 4).map(takenOf))).to.deep.equal([{ ...lines[0], count: 1 }]);
    expect(leftOf(lines, [])).to.deep.equal(lines);
  });

  it('what is left of a label’s line is of the type that is in the list now', () => {
    const lines = [line({ answers: LABEL, typeId: '' })];
    const [first] = batteriesOf(lines, LISTED, SHOP, 1, NOW, check);
    if (!first) throw new Error('none');
    const [left] = leftOf(lines, [takenOf(first)]);
    expect(left).to.include({ count: 1, typeId: first.opened.type.id });
    expect(left).not.to.have.property('answers');
  });

  it('two lines with the same label are of one type, named by the first', () => {
    const two = [
      line({ answers: LABEL, typeId: '', owner: 'harbour' }),
      line({ answers: LABEL, typeId: '', owner: 'quay' }),
    ];
    const all = batteriesOf(two, LISTED, SHOP, 1, NOW, check);
    expect(new Set(all.map(({ opened }) => opened.type.id)).size).to.equal(1);
    expect(all.map(({ opened }) => opened.battery.owner)).to.deep.equal([
      'harbour',
      'harbour',
      'quay',
      'quay',
    ]);
  });

  for (const [what, more, sentence] of [
    ['a date code that is no month', { dateCode: '26/13' }, 'Date code “26/13” is no month'],
    ['a month to come', { dateCode: '2026-09' }, 'Date code 2026-09 lies ahead'],
    ['no type', { typeId: '' }, 'Choose its type'],
    ['none of them', { count: 0 }, 'How many: 1 to 30'],
    ['no moment', { promised: '' }, 'Promised: say when'],
    ['a moment gone by', { promised: '2026-03-09T10:00' }, 'must lie ahead'],
    ['lithium', { typeId: 'VX-L12/7' }, 'lithium'],
  ] as const)
    it(`${what} is named, and its line is not planned`, () => {
      const wanting = line(more);
      expect(wantedOf(wanting, typeOf(wanting, LISTED, 'B-0001', check), 'Etc/UTC', NOW)).to.include(
        sentence,
      );
      expect(batteriesOf([wanting], LISTED, SHOP, 1, NOW, check)).to.deep.equal([]);
    });

  it('outlive the page with all that was typed, but for pictures', () => {
    const typed = line({ answers: LABEL, isJustThese: true });
    expect(keptOf([{ ...typed, photos: [] }])).to.deep.equal([typed]);
  });
});
