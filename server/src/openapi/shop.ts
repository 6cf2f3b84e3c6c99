/** The shop itself: how it works, its stock, its clock, its instruments, and what it tells. */
import { clockSchema, instrumentReadSchema } from '@cork-ember/core/contract/schemas.ts';
import { shopChangeSchema, spillSchema, stockMoveSchema } from '@cork-ember/core/contract/shopSchemas.ts';
import { failingSchema, pushSchema } from '@cork-ember/core/contract/deviceSchemas.ts';
import { bayCheckSchema, bayConfirmSchema, bayToldSchema } from '@cork-ember/core/contract/baySchemas.ts';
import { answer, file, body, inPath, bad, missing, refused, type Paths } from './parts.ts';

export const SHOP_PATHS: Paths = {
  '/api/openapi.json': {
    get: { summary: 'This document', responses: { 200: { description: 'OpenAPI 3.1, as JSON' } } },
  },
  '/api/shop': {
    get: {
      summary: 'Name, hours, bays, people and house rules',
      responses: { 200: answer('The shop', 'Shop') },
    },
  },
  '/api/types': {
    get: { summary: 'The catalogue of battery types', responses: { 200: answer('All types', 'Types') } },
  },
  '/api/types.csv': {
    get: { summary: 'The types as a table', responses: { 200: file('A table', 'text/csv') } },
  },
  '/api/types.json': {
    get: { summary: 'The types as a file', responses: { 200: answer('All types', 'Types') } },
  },
  '/api/types/read': {
    post: {
      summary:
        'What the list of types would become with this file (text/csv, or JSON as text/plain); changes nothing',
      responses: { 200: answer('The list', 'Types'), ...bad },
    },
  },
  '/api/shop/changes': {
    get: {
      summary: 'What was changed of the shop, by whom and why',
      responses: { 200: answer('Changes', 'Changes') },
    },
    post: {
      summary: 'Change house rules, chargers, bays, room or types for jobs to come',
      requestBody: body(shopChangeSchema),
      responses: { 201: answer('The shop', 'Shop'), ...bad },
    },
  },
  '/api/stock': {
    get: {
      summary: 'Acid and consumables, and the latest moves',
      responses: { 200: answer('Levels and moves', 'Stock') },
    },
    post: {
      summary: 'Count something in or out',
      requestBody: body(stockMoveSchema),
      responses: { 201: answer('Levels', 'Levels'), ...bad },
    },
  },
  '/api/stock/spill': {
    post: {
      summary: 'Acid neutralised: takes the acid and the soda off',
      requestBody: body(spillSchema),
      responses: { 201: answer('Levels', 'Levels'), ...bad },
    },
  },
  '/api/clock': {
    get: { summary: 'Shop time and pace', responses: { 200: answer('The clock', 'Clock') } },
    post: {
      summary:
        'Pace the clock or jump to the next moment that needs hands (demo only); take the machine’s clock over (a working shop)',
      requestBody: body(clockSchema),
      responses: { 200: answer('The clock', 'Clock'), ...bad, ...refused },
    },
  },
  '/api/copy': {
    get: {
      summary: 'The whole shop as one SQLite file: everything acknowledged before it was asked for',
      responses: { 200: file('The file', 'application/vnd.sqlite3') },
    },
  },
  '/api/trust': {
    get: {
      summary: 'The port https is answered on, and the fingerprint of the authority a tablet is to trust',
      responses: { 200: answer('Port and fingerprint, null where there is none', 'Trust') },
    },
  },
  '/api/trust/authority.crt': {
    get: {
      summary: 'The certificate of the shop’s own authority',
      responses: { 200: file('DER', 'application/x-x509-ca-cert'), ...missing },
    },
  },
  '/api/instruments': {
    get: { summary: 'Instruments on the bench', responses: { 200: answer('Identities', 'Instruments') } },
  },
  '/api/instruments/{id}/read': {
    post: {
      summary: 'Read one quantity of a job’s battery',
      parameters: [inPath('id')],
      requestBody: body(instrumentReadSchema),
      responses: { 200: answer('The reading', 'Reading'), ...bad, ...missing, ...refused },
    },
  },
  '/api/bays': {
    get: {
      summary: 'Bays with a supply of their own, as each stands',
      responses: { 200: answer('Bays', 'LiveBays') },
    },
  },
  '/api/bays/stop': {
    post: {
      summary: 'Every bay off, whatever it does, and none goes on by itself',
      requestBody: body(bayToldSchema),
      responses: { 200: answer('Bays', 'LiveBays'), ...bad },
    },
  },
  '/api/bays/{bay}/check': {
    post: {
      summary:
        'Look, with a small step of current, whether the charge at hand of a job in this bay may be given by its own supply; nothing goes on flowing',
      parameters: [inPath('bay')],
      requestBody: body(bayCheckSchema),
      responses: { 200: answer('How it stands now', 'LiveBay'), ...bad, ...missing, ...refused },
    },
  },
  '/api/bays/{bay}/confirm': {
    post: {
      summary:
        'A person at the bay has looked: switch it on, and where it has a cut-off of its own, let it go on by itself',
      parameters: [inPath('bay')],
      requestBody: body(bayConfirmSchema),
      responses: { 200: answer('How it stands now', 'LiveBay'), ...bad, ...refused },
    },
  },
  '/api/bays/{bay}/stop': {
    post: {
      summary: 'Off, whatever it does',
      parameters: [inPath('bay')],
      requestBody: body(bayToldSchema),
      responses: { 200: answer('How it stands now', 'LiveBay'), ...bad, ...missing },
    },
  },
  '/api/devices/profiles': {
    get: {
      summary: 'Profiles devices are spoken to by, the shop’s own first',
      responses: { 200: answer('Profiles', 'DeviceProfiles') },
    },
  },
  '/api/devices/profile.schema.json': {
    get: {
      summary: 'What a profile is, as JSON Schema: a device nobody foresaw is added by writing one',
      responses: { 200: { description: 'JSON Schema 2020-12, as JSON' } },
    },
  },
  '/api/devices/{id}/talk': {
    post: {
      summary: 'Ask a device who it is and what it shows; what it does stays as it is',
      parameters: [inPath('id')],
      responses: { 200: answer('What it said, or why not', 'DeviceSaid'), ...missing, ...refused },
    },
  },
  '/api/devices/failings': {
    get: {
      summary: 'Simulated devices of a demo, and what is wrong with each on demand',
      responses: { 200: answer('Each as it stands', 'Failings') },
    },
  },
  '/api/devices/{id}/fail': {
    post: {
      summary: 'Have a simulated device do wrong, or right again (demo only)',
      parameters: [inPath('id')],
      requestBody: body(failingSchema),
      responses: { 200: answer('Each as it stands', 'Failings'), ...bad, ...missing, ...refused },
    },
  },
  '/api/devices/{id}/key': {
    post: {
      summary: 'A new key for a probe that sends by itself; the one before it opens nothing any more',
      parameters: [inPath('id')],
      responses: { 201: answer('The key, told this once', 'ProbeKey'), ...missing },
    },
  },
  '/api/devices/{id}/readings': {
    post: {
      summary:
        'What a probe sends by itself, with its key as a bearer token: one reading or a list, figures by the names of its profile',
      parameters: [inPath('id')],
      requestBody: body(pushSchema),
      responses: { 200: answer('On disk', 'ProbeHeard'), ...bad },
    },
  },
  '/api/devices/{id}/off': {
    post: {
      summary: 'Tell a device to be off, and look whether it is',
      parameters: [inPath('id')],
      responses: { 200: answer('What it said, or why not', 'DeviceSaid'), ...missing, ...refused },
    },
  },
  '/api/stream': {
    get: {
      summary: 'Changes as server-sent events',
      responses: { 200: file('The stream', 'text/event-stream') },
    },
  },
};
