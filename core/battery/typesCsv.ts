/** Battery types as rows of a table, for files a spreadsheet opens; one column for each value. */
import { numberIn } from '../units/region.ts';
import { upcastType } from './pastTypes.ts';
import type { ListedType, PrintedValues } from './types.ts';

const PRINTED = [
  'chargeCurrentA',
  'quickCurrentA',
  'chargeTimeH',
  'ceilingV',
  'packDwellMin',
  'soakMin',
  'fillDensity',
  'postTorqueNm',
] as const satisfies readonly (keyof PrintedValues)[];

export const TYPE_COLUMNS: readonly string[] = [
  'id',
  'maker',
  'construction',
  'duty',
  'delivery',
  'cells',
  'capacityAh',
  'hourRate',
  'crankingA',
  'crankingStandard',
  'crankingIsEquivalent',
  'packCode',
  'packMl',
  'packDensity',
  'reserveMin',
  'dryMassG',
  'wetMassG',
  'newPrice',
  'positivePost',
  'caseCode',
  'hasHiddenPorts',
  'hasVentHose',
  'estimatedFrom',
  'leastAh',
  'mostAh',
  'likeId',
  'isGeneric',
  'isRetired',
  ...PRINTED.map((name) => `label.${name}`),
  ...PRINTED.map((name) => `sheet.${name}`),
];

export type TypeRow = Readonly<Record<string, string>>;

/** @param decimalMark as the shop writes numbers */
export function rowOfType(type: ListedType, decimalMark: '.' | ',' = '.'): TypeRow {
  const word = (value: number | string | boolean | undefined): string => {
    if (value === undefined) return '';
    return typeof value === 'number' ? String(value).replace('.', decimalMark) : String(value);
  };
  const printed = (part: 'label' | 'sheet'): [string, string][] =>
    PRINTED.map((name) => [`${part}.${name}`, word(type[part][name])]);
  return {
    id: type.id,
    maker: type.maker,
    construction: type.construction,
    duty: type.duty,
    delivery: type.delivery,
    cells: word(type.cells),
    capacityAh: word(type.capacityAh),
    hourRate: word(type.hourRate),
    crankingA: word(type.cranking?.amps),
    crankingStandard: word(type.cranking?.standard),
    crankingIsEquivalent: word(type.cranking?.isEquivalent),
    packCode: word(type.pack?.code),
    packMl: word(type.pack?.volumeMl),
    packDensity: word(type.pack?.densityKgPerL),
    reserveMin: word(type.reserveMin),
    dryMassG: word(type.dryMassG),
    wetMassG: word(type.wetMassG),
    newPrice: word(type.newPrice),
    positivePost: type.positivePost,
    caseCode: word(type.caseCode),
    hasHiddenPorts: word(type.hasHiddenPorts),
    hasVentHose: word(type.hasVentHose),
    estimatedFrom: word(type.estimate?.from),
    leastAh: word(type.estimate?.leastAh),
    mostAh: word(type.estimate?.mostAh),
    likeId: word(type.likeId),
    isGeneric: word(type.isGeneric),
    isRetired: word(type.isRetired),
    ...Object.fromEntries([...printed('label'), ...printed('sheet')]),
  };
}

/** A number as typed, decimal comma included; what is no number is kept, so that the check can say so. */
function numberOr(typed: string): number | string {
  const value = numberIn(typed);
  return Number.isNaN(value) ? typed : value;
}

/**
 * What a row says, not yet checked: give it to the type schema. Tables of before, with one word for a kind, are read too.
 * @returns an object shaped like a type, absent cells left out
 */
export function typeOfRow(row: TypeRow): Readonly<Record<string, unknown>> {
  const cell = (name: string): string => (row[name] ?? '').trim();
  const one = (name: string): number | string | undefined =>
    cell(name) === '' ? undefined : numberOr(cell(name));
  const some = (entries: readonly (readonly [string, unknown])[]): Record<string, unknown> =>
    Object.fromEntries(entries.filter(([, value]) => value !== undefined && value !== ''));
  const group = (name: string, entries: readonly (readonly [string, unknown])[]): [string, unknown] => {
    const found = some(entries);
    return [name, Object.keys(found).length === 0 ? undefined : found];
  };
  const claim = (name: string): boolean | string | undefined =>
    cell(name) === '' ? undefined : ({ true: true, false: false }[cell(name)] ?? cell(name));
  const volts = one('nominalV');
  const read = {
    ...some([
      ['id', cell('id')],
      ['maker', cell('maker')],
      ['kind', cell('kind')],
      ['construction', cell('construction')],
      ['duty', cell('duty')],
      ['delivery', cell('delivery')],
      // A list may say volts where another says cells.
      ['cells', one('cells') ?? (typeof volts === 'number' ? volts / 2 : volts)],
      ['capacityAh', one('capacityAh')],
      ['hourRate', one('hourRate')],
      group('cranking', [
        ['amps', one('crankingA')],
        ['standard', cell('crankingStandard')],
        ['isEquivalent', claim('crankingIsEquivalent')],
      ]),
      group('pack', [
        ['code', cell('packCode')],
        ['volumeMl', one('packMl')],
        ['densityKgPerL', one('packDensity')],
      ]),
      ['reserveMin', one('reserveMin')],
      ['dryMassG', one('dryMassG')],
      ['wetMassG', one('wetMassG')],
      ['newPrice', one('newPrice')],
      ['positivePost', cell('positivePost')],
      ['caseCode', cell('caseCode')],
      ['hasHiddenPorts', claim('hasHiddenPorts')],
      ['hasVentHose', claim('hasVentHose')],
      group('estimate', [
        ['from', cell('estimatedFrom')],
        ['leastAh', one('leastAh')],
        ['mostAh', one('mostAh')],
      ]),
      ['likeId', cell('likeId')],
      ['isGeneric', claim('isGeneric')],
      ['isRetired', claim('isRetired')],
    ]),
    label: some(PRINTED.map((name) => [name, one(`label.${name}`)])),
    sheet: some(PRINTED.map((name) => [name, one(`sheet.${name}`)])),
  };
  return upcastType(read) as Readonly<Record<string, unknown>>;
}
