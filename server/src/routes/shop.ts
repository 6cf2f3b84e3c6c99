/** How the shop works: read, changed with a reason, and its types as files. */
import { text, type Router } from 'express';
import papa from 'papaparse';
import { rowOfType, TYPE_COLUMNS, typeOfRow, type TypeRow } from '@cork-ember/core/battery/typesCsv.ts';
import {
  shopChangeSchema,
  spillSchema,
  stockMoveSchema,
  typesSchema,
} from '@cork-ember/core/contract/shopSchemas.ts';
import { upcastType } from '@cork-ember/core/battery/pastTypes.ts';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import { ProblemError } from '../problems.ts';
import type { Jobs } from '../services/jobs.ts';
import type { ChangeRequest, ShopSettings } from '../services/shop.ts';
import type { CountRequest, SpillRequest, Stock } from '../services/stock.ts';
import { validated } from '../validate.ts';

const MOST_FILE = '2mb';

/**
 * Types from a file, checked row by row.
 * @throws ProblemError naming the line
 */
function typesOf(file: string, isCsv: boolean): readonly ListedType[] {
  if (isCsv) {
    const { data, meta, errors } = papa.parse<TypeRow>(file, {
      header: true,
      skipEmptyLines: 'greedy',
      transform: (value) => value.replace(/^'(?=[=+\-@])/, ''),
    });
    const has = (name: string): boolean => meta.fields?.includes(name) ?? false;
    // Tables of before say a kind and volts where today's say how it is built, and cells.
    const missing = [
      has('id') ? '' : 'id',
      has('construction') || has('kind') ? '' : 'construction',
      has('cells') || has('nominalV') ? '' : 'cells',
      has('capacityAh') ? '' : 'capacityAh',
    ].filter((name) => name !== '');
    if (missing.length > 0)
      throw new ProblemError(
        'bad-input',
        `The table has no column ${missing.join(', ')}; export one to see all columns.`,
      );
    const [broken] = errors.filter(({ type }) => type !== 'Delimiter');
    if (broken) throw new ProblemError('bad-input', `Line ${(broken.row ?? 0) + 2}: ${broken.message}.`);
    return data.map((row, index) => checked(typeOfRow(row), `Line ${index + 2}`));
  }
  const list: unknown = jsonOf(file);
  if (!Array.isArray(list)) throw new ProblemError('bad-input', 'The file holds no list of types.');
  return list.map((one: unknown, index) => checked(one, `Entry ${index + 1}`));
}

function jsonOf(file: string): unknown {
  try {
    return JSON.parse(file);
  } catch {
    throw new ProblemError('bad-input', 'The file is not valid JSON.');
  }
}

function checked(one: unknown, where: string): ListedType {
  const { error, value } = typesSchema.validate([upcastType(one)], { convert: true });
  if (error) throw new ProblemError('bad-input', `${where}: ${error.message}`);
  return (value as readonly ListedType[])[0] as ListedType;
}

function stockRoutes(router: Router, stock: Stock): void {
  router.get('/stock', async (_request, response) => {
    const [levels, moves] = await Promise.all([stock.levels(), stock.moves()]);
    response.json({ levels, moves });
  });
  router.post('/stock', async (request, response) => {
    response.status(201).json(await stock.count(validated<CountRequest>(stockMoveSchema, request.body)));
  });
  router.post('/stock/spill', async (request, response) => {
    response.status(201).json(await stock.spill(validated<SpillRequest>(spillSchema, request.body)));
  });
}

export function shopRoutes(router: Router, settings: ShopSettings, stock: Stock, jobs: Jobs): void {
  stockRoutes(router, stock);
  router.get('/shop', (_request, response) => void response.json(settings.shop));
  router.post('/shop/changes', async (request, response) => {
    const asked = validated<ChangeRequest>(shopChangeSchema, request.body);
    response.status(201).json(await settings.change(asked, () => jobs.standing()));
  });
  router.get('/shop/changes', async (_request, response) => void response.json(await settings.changes()));
  router.get('/types', (_request, response) => void response.json(settings.types));
  router.get('/types.json', (_request, response) => {
    response.attachment('types.json').json(settings.types);
  });
  router.get('/types.csv', (_request, response) => {
    const { decimalMark } = settings.shop.region;
    const rows = settings.types.map((type) => rowOfType(type, decimalMark));
    // Columns name their SI units; where a comma marks decimals a spreadsheet parts columns by semicolons.
    const table = papa.unparse(
      { fields: [...TYPE_COLUMNS], data: rows },
      // What begins like a formula is none, in whatever opens it.
      { delimiter: decimalMark === ',' ? ';' : ',', escapeFormulae: true },
    );
    response.attachment('types.csv').type('text/csv').send(table);
  });
  // What a file says is shown before it is taken: the answer is the list it would become.
  router.post(
    '/types/read',
    text({ type: ['text/csv', 'text/plain'], limit: MOST_FILE }),
    (request, response) => {
      const isCsv = request.is('text/csv') !== false;
      const read = typesOf(String(request.body), isCsv);
      const ids = new Set(read.map(({ id }) => id));
      if (ids.size < read.length)
        throw new ProblemError('bad-input', 'A type code stands twice in this file.');
      response.json([...settings.types.filter(({ id }) => !ids.has(id)), ...read]);
    },
  );
}
