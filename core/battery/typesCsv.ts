/** Battery types as rows of a table, for files a spreadsheet opens; one column for each value. */
import type { BatteryType, PrintedValues } from './types.ts';

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
  'kind',
  'nominalV',
  'capacityAh',
  'hourRate',
  'crankingA',
  'crankingStandard',
  'packCode',
  'packMl',
  'packDensity',
  'dryMassG',
  'newPrice',
  'positivePost',
  ...PRINTED.map((name) => `label.${name}`),
  ...PRINTED.map((name) => `sheet.${name}`),
];

export type TypeRow = Readonly<Record<string, string>>;

const word = (value: number | string | undefined): string => (value === undefined ? '' : String(value));

export function rowOfType(type: BatteryType): TypeRow {
  const printed = (part: 'label' | 'sheet'): [string, string][] =>
    PRINTED.map((name) => [`${part}.${name}`, word(type[part][name])]);
  return {
    id: type.id,
    maker: type.maker,
    kind: type.kind,
    nominalV: word(type.nominalV),
    capacityAh: word(type.capacityAh),
    hourRate: word(type.hourRate),
    crankingA: word(type.cranking?.amps),
    crankingStandard: word(type.cranking?.standard),
    packCode: word(type.pack?.code),
    packMl: word(type.pack?.volumeMl),
    packDensity: word(type.pack?.densityKgPerL),
    dryMassG: word(type.dryMassG),
    newPrice: word(type.newPrice),
    positivePost: type.positivePost,
    ...Object.fromEntries([...printed('label'), ...printed('sheet')]),
  };
}

/** A number as typed, decimal comma included; what is no number is kept, so that the check can say so. */
function numberOr(typed: string): number | string {
  const value = Number(typed.replace(',', '.'));
  return Number.isNaN(value) ? typed : value;
}

/**
 * What a row says, not yet checked: give it to the type schema.
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
  const nominalV = one('nominalV');
  return {
    ...some([
      ['id', cell('id')],
      ['maker', cell('maker')],
      ['kind', cell('kind')],
      ['nominalV', nominalV],
      ['cells', typeof nominalV === 'number' ? nominalV / 2 : undefined],
      ['capacityAh', one('capacityAh')],
      ['hourRate', one('hourRate')],
      group('cranking', [
        ['amps', one('crankingA')],
        ['standard', cell('crankingStandard')],
      ]),
      group('pack', [
        ['code', cell('packCode')],
        ['volumeMl', one('packMl')],
        ['densityKgPerL', one('packDensity')],
      ]),
      ['dryMassG', one('dryMassG')],
      ['newPrice', one('newPrice')],
      ['positivePost', cell('positivePost')],
    ]),
    label: some(PRINTED.map((name) => [name, one(`label.${name}`)])),
    sheet: some(PRINTED.map((name) => [name, one(`sheet.${name}`)])),
  };
}
