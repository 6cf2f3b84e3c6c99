import { Validator } from '@seriousme/openapi-schema-validator';
import { expect } from 'chai';
import { ANSWERS, type AnswerName } from '@cork-ember/core/contract/answerSchemas.ts';
import { openTestShop, type TestShop } from '../test/testShop.ts';
import { openApiDocument } from './openapi.ts';

type Operations = Readonly<Record<string, { readonly responses: Readonly<Record<string, Answer>> }>>;
interface Answer {
  readonly content?: Readonly<Record<string, { readonly schema?: { readonly $ref?: string } }>>;
}

/** Every answer in JSON the document speaks of: which call, and the name of its schema. */
function answersIn(): readonly (readonly [call: string, name: string | undefined])[] {
  return Object.entries(openApiDocument()['paths'] as Readonly<Record<string, Operations>>).flatMap(
    ([path, operations]) =>
      Object.entries(operations).flatMap(([method, { responses }]) =>
        Object.entries(responses).flatMap(([status, { content = {} }]) =>
          Object.entries(content).flatMap(([type, { schema }]) =>
            type.includes('json')
              ? [[`${method} ${path} ${status}`, schema?.$ref?.split('/').at(-1)] as const]
              : [],
          ),
        ),
      ),
  );
}

describe('the OpenAPI document', () => {
  let shop: TestShop;
  before(async () => {
    shop = await openTestShop();
  });
  after(() => shop.cleanUp());

  it('is valid OpenAPI 3.1', async () => {
    const { valid, errors } = await new Validator().validate(JSON.parse(JSON.stringify(openApiDocument())));
    expect(valid, JSON.stringify(errors)).to.equal(true);
  });

  it('says the same of an entry as the schema that checks it', () => {
    const text = JSON.stringify(openApiDocument());
    for (const kind of ['chargeStarted', 'overridden', 'corrected', 'undone'])
      expect(text).to.include(`"${kind}"`);
    expect(text).to.include('"format":"uuid"');
  });

  it('says of every answer what is in it', () => {
    const known = new Set(Object.keys((openApiDocument()['components'] as { schemas: object }).schemas));
    const said = answersIn();
    expect(said.length).to.be.greaterThan(40);
    for (const [call, name] of said) expect(known.has(name ?? ''), `${call}: ${String(name)}`).to.equal(true);
  });

  it('and the shop answers so', async () => {
    const first = await shop.intake();
    const { id } = first.body as { id: string };
    const noted = await shop.append(id, 1, { kind: 'noted', payload: { text: 'warm' } });
    await shop.api
      .post('/api/shop/changes')
      .send({ by: 'Ines', why: 'a taller room', room: { volumeM3: 44, pricePerKwh: 0.31 } })
      .expect(201);
    const ended = (await shop.services.seals.unsealed()).length;
    expect(ended, 'nothing of the demo stands unsealed').to.equal(0);
    const { code } = (
      await shop.services.seals.seals((await shop.services.store.jobs())[0]?.id ?? '')
    )[0] ?? {
      code: '',
    };
    const answers: readonly (readonly [AnswerName, string])[] = [
      ['Shop', '/api/shop'],
      ['Types', '/api/types'],
      ['Types', '/api/types.json'],
      ['Changes', '/api/shop/changes'],
      ['Stock', '/api/stock'],
      ['Clock', '/api/clock'],
      ['Trust', '/api/trust'],
      ['BatteryPage', '/api/batteries'],
      ['Battery', '/api/batteries/SK-0102'],
      ['NextTag', '/api/tags/next'],
      ['Ways', '/api/ledger/ways'],
      ['Learned', '/api/ledger/learned'],
      ['Shelf', '/api/ledger/shelf'],
      ['Bench', '/api/bench'],
      ['ShelvedBatteries', '/api/shelf'],
      ['Feed', '/api/shelf/feed'],
      ['OpenJobs', '/api/jobs'],
      ['Job', `/api/jobs/${id}`],
      ['Quarantine', '/api/quarantine'],
      ['Check', `/api/check/${code}`],
      ['Instruments', '/api/instruments'],
    ];
    const bodies = await Promise.all(
      answers.map(async ([name, path]) => [name, path, (await shop.api.get(path)).body as unknown] as const),
    );
    const { body: problem } = await shop
      .append(id, 1, { kind: 'noted', payload: { text: 'too late' } })
      .expect(409);
    for (const [name, path, body] of [
      ...bodies,
      ['Job', 'an intake', first.body as unknown] as const,
      ['Event', 'an entry', noted.body as unknown] as const,
      ['Problem', 'a stale entry', problem as unknown] as const,
    ]) {
      const { error } = ANSWERS[name].validate(body, { convert: false });
      expect(error?.message, `${name}, ${path}`).to.equal(undefined);
    }
  });
});
