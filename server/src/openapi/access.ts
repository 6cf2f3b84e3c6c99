/** People, browsers, and who did what. */
import {
  accessRuleSchema,
  badgeSchema,
  claimsSchema,
  customerSchema,
  forgetSchema,
  newPersonSchema,
  ownPinSchema,
  passphraseSchema,
  personChangeSchema,
  signInSchema,
  tabletSchema,
} from '@cork-ember/core/contract/accessSchemas.ts';
import {
  answer,
  bad,
  body,
  file,
  inPath,
  inQuery,
  jsonSchema,
  missing,
  refused,
  type Paths,
} from './parts.ts';

const standing = answer('How the browser stands now', 'Session');
const done = { description: 'Done' };

export const ACCESS_PATHS: Paths = {
  '/api/session': {
    get: { summary: 'How this browser stands in the shop, and who is at it', responses: { 200: standing } },
    post: {
      summary: 'Come to the bench with a PIN',
      requestBody: body(signInSchema),
      responses: { 200: standing, ...bad },
    },
    delete: { summary: 'Leave the bench', responses: { 204: done } },
  },
  '/api/session/passphrase': {
    post: {
      summary: 'Come in from a browser that is not the shop’s, by name and passphrase (leads)',
      requestBody: body(passphraseSchema),
      responses: { 200: standing, ...bad },
    },
  },
  '/api/session/badge': {
    post: {
      summary: 'Come to the bench with a badge; a lead does what the bench does until a PIN is shown',
      requestBody: body(badgeSchema),
      responses: { 200: standing, ...bad },
    },
  },
  '/api/session/touch': { post: { summary: 'Somebody is still there', responses: { 204: done } } },
  '/api/session/pin': {
    post: {
      summary: 'A new PIN for whoever is at the bench',
      requestBody: body(ownPinSchema),
      responses: { 200: standing, ...bad },
    },
  },
  '/api/people': {
    get: { summary: 'Who works here', responses: { 200: answer('People', 'People') } },
    post: {
      summary: 'Somebody new; the first leads the shop',
      requestBody: body(newPersonSchema),
      responses: { 201: answer('People', 'People'), ...bad },
    },
  },
  '/api/people/{id}': {
    post: {
      summary: 'Another role, PIN or passphrase; unlocked after wrong tries; gone',
      parameters: [inPath('id')],
      requestBody: body(personChangeSchema),
      responses: { 200: answer('People', 'People'), ...bad, ...missing, ...refused },
    },
  },
  '/api/people/{id}/badge': {
    post: {
      summary: 'A badge for somebody, shown once; the one before opens nothing any more',
      parameters: [inPath('id')],
      responses: { 201: answer('The badge', 'Badge'), ...missing },
    },
  },
  '/api/claims': {
    get: {
      summary: 'Entries under a name the browser knew and nobody proved yet',
      responses: { 200: answer('Entries', 'Claims') },
    },
    post: {
      summary: 'Whether such entries are theirs, by whoever is meant or by a lead',
      requestBody: body(claimsSchema),
      responses: { 200: answer('What is left', 'Claims'), ...bad },
    },
  },
  '/api/tablets': {
    get: { summary: 'Browsers of the shop', responses: { 200: answer('Browsers', 'Tablets') } },
    post: {
      summary: 'Become one of the shop’s browsers by a one-time code',
      requestBody: body(tabletSchema),
      responses: { 201: standing, ...bad },
    },
  },
  '/api/tablets/codes': {
    post: {
      summary: 'A one-time code for a new browser',
      responses: { 201: answer('The code', 'EnrolmentCode') },
    },
  },
  '/api/tablets/{id}': {
    delete: {
      summary: 'A browser is the shop’s no more',
      parameters: [inPath('id')],
      responses: { 204: done, ...missing },
    },
  },
  '/api/customers': {
    get: {
      summary: 'Whose batteries and machines the shop has had',
      responses: { 200: answer('By name', 'Customers') },
    },
  },
  '/api/customers/data': {
    get: {
      summary: 'Everything that is kept of one customer, as a file for them',
      parameters: [
        inQuery('name', jsonSchema(customerSchema.extract('name')), 'as it stands on their batteries'),
      ],
      responses: { 200: answer('The file', 'CustomerData'), ...bad, ...missing },
    },
  },
  '/api/customers/forget': {
    post: {
      summary: 'Delete a customer’s name; sealed records stand without it',
      requestBody: body(forgetSchema),
      responses: { 200: answer('What came of it', 'Forgotten'), ...bad, ...missing },
    },
  },
  '/api/access': {
    post: {
      summary: 'How long somebody stays at the bench without a touch, and whether leaving a battery ends it',
      requestBody: body(accessRuleSchema),
      responses: { 200: standing, ...bad },
    },
  },
  '/api/audit': {
    get: { summary: 'Who did what, the latest first', responses: { 200: answer('Entries', 'Audit') } },
  },
  '/api/audit.csv': {
    get: { summary: 'The same as a table', responses: { 200: file('A table', 'text/csv') } },
  },
};
