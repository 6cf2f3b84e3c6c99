import { Validator } from '@seriousme/openapi-schema-validator';
import { expect } from 'chai';
import { openApiDocument } from './openapi.ts';

describe('the OpenAPI document', () => {
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
});
