/** What the server answers of people, browsers and who did what. */
import Joi from 'joi';
import {
  AUDIT_KINDS,
  type AuditEntry,
  type Badge,
  type Claim,
  type EnrolmentCode,
  type Person,
  type PersonKept,
  type SessionAnswer,
  type Tablet,
} from '../../access/people.ts';
import type { Customer, CustomerData, Forgotten } from '../customers.ts';
import { RIGHTS, ROLES } from '../../access/rights.ts';
import { count, id, listOf, moment, objectOf, words } from './parts.ts';

const role = Joi.string()
  .valid(...ROLES)
  .required();
const truth = Joi.boolean().required();

const person = objectOf<Person>({ id, name: words, role });

export const OF_ACCESS = {
  Session: objectOf<SessionAnswer>({
    mode: Joi.string().valid('open', 'held').required(),
    isDemo: truth,
    secure: Joi.string(),
    tablet: Joi.string(),
    person: person.optional(),
    rights: listOf(Joi.string().valid(...Object.keys(RIGHTS))),
    people: listOf(person.append<SessionAnswer['people'][number]>({ pin: Joi.string() })),
    isByBadge: Joi.boolean(),
    locked: Joi.array().items(Joi.string()),
    locksAfterMin: count,
    locksOnLeaving: truth,
    version: words,
  }),
  People: listOf(
    objectOf<PersonKept>({
      id,
      name: words,
      role,
      hasPin: truth,
      hasPassphrase: truth,
      hasBadge: truth,
      isLocked: truth,
    }),
  ),
  Tablets: listOf(objectOf<Tablet>({ id, name: words, at: moment, by: words })),
  EnrolmentCode: objectOf<EnrolmentCode>({ code: words, forMin: count, url: words, picture: words }),
  Badge: objectOf<Badge>({ name: words, code: words, picture: words }),
  Claims: listOf(
    objectOf<Claim>({
      key: id,
      by: words,
      sentBy: words,
      tablet: words,
      at: moment,
      kind: words,
      tag: words,
      job: Joi.string().allow('').required(),
    }),
  ),
  Customers: listOf(objectOf<Customer>({ name: words, batteries: count, machines: count })),
  CustomerData: objectOf<CustomerData>({
    format: Joi.string().valid('cork-ember-customer').required(),
    version: Joi.number().valid(1).required(),
    name: words,
    at: moment,
    shop: words,
    program: words,
    batteries: listOf(Joi.object().unknown()),
    machines: listOf(Joi.object().unknown()),
    jobs: listOf(Joi.object({ job: id, events: Joi.array().required() })),
    shelf: listOf(Joi.object().unknown()),
  }),
  Forgotten: objectOf<Forgotten>({
    batteries: count,
    machines: count,
    jobs: count,
    stillSaid: listOf(Joi.string()),
  }),
  Audit: listOf(
    objectOf<AuditEntry>({
      id: count,
      at: moment,
      by: words,
      tablet: words,
      kind: Joi.string()
        .valid(...AUDIT_KINDS)
        .required(),
      what: words,
    }),
  ),
} as const;
