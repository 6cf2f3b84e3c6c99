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
      says: words,
      tag: words,
      job: Joi.string().allow('').required(),
    }),
  ),
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
