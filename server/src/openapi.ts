/** The OpenAPI 3.1 document, made from the very schemas that check the requests. */
import { ANSWERS } from '@cork-ember/core/contract/answerSchemas.ts';
import { jobExportDocumentSchema } from '@cork-ember/core/contract/schemas.ts';
import { ACCESS_PATHS } from './openapi/access.ts';
import { BATTERY_PATHS } from './openapi/batteries.ts';
import { JOB_PATHS } from './openapi/jobs.ts';
import { jsonSchema, type Json } from './openapi/parts.ts';
import { SHOP_PATHS } from './openapi/shop.ts';
import { VERSION } from './version.ts';
import { recordFileSchema } from './record/fileSchema.ts';

export function openApiDocument(): Json {
  return {
    openapi: '3.1.0',
    info: {
      title: 'Cork Ember',
      version: VERSION,
      description:
        'The bench companion of a battery technician. Times are shop time in milliseconds since 1970-01-01 UTC.',
    },
    paths: { ...ACCESS_PATHS, ...SHOP_PATHS, ...BATTERY_PATHS, ...JOB_PATHS },
    components: {
      schemas: {
        ...Object.fromEntries(Object.entries(ANSWERS).map(([name, schema]) => [name, jsonSchema(schema)])),
        JobFile: jsonSchema(recordFileSchema),
        JobExport: jsonSchema(jobExportDocumentSchema),
      },
    },
  };
}
