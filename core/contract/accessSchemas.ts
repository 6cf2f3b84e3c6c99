/** What is sent to be let in, and to say who works here. */
import Joi from 'joi';
import { PASSPHRASE, passphraseTrouble, PIN, pinTrouble } from '../access/pins.ts';
import { ROLES } from '../access/rights.ts';
import { personSchema } from './schemas.ts';
import { why } from './shopSchemas.ts';

const id = Joi.string().guid().required();
const role = Joi.string()
  .valid(...ROLES)
  .messages({ '*': 'Role: counter, bench or lead.' });

/** A PIN that is to be kept: what is wrong with it is said in one sentence. */
const newPin = Joi.string()
  .custom((pin: string, { message }) => {
    const trouble = pinTrouble(pin);
    return trouble === undefined ? pin : message({ custom: trouble });
  })
  .messages({ 'string.base': `PIN: ${PIN.least} to ${PIN.most} digits.`, 'string.empty': 'PIN: enter one.' });

const newPassphrase = Joi.string()
  .max(PASSPHRASE.most)
  .messages({
    'string.empty': 'Passphrase: enter one.',
    'string.max': `Passphrase: at most ${PASSPHRASE.most} letters.`,
  });

/** One that is tried: whatever it is, it is right or wrong. */
const tried = (called: string): Joi.StringSchema =>
  Joi.string()
    .max(PASSPHRASE.most)
    .required()
    .messages({ '*': `${called}: enter it.` });

export const signInSchema = Joi.object({ person: id, pin: tried('PIN') });
export const passphraseSchema = Joi.object({ name: personSchema, passphrase: tried('Passphrase') });
export const ownPinSchema = Joi.object({ old: tried('The PIN of now'), pin: newPin.required() });

const withPassphrase = (
  value: { readonly name?: string; readonly passphrase?: string },
  helpers: Joi.CustomHelpers,
) => {
  const trouble =
    value.passphrase === undefined ? undefined : passphraseTrouble(value.passphrase, value.name ?? '');
  return trouble === undefined ? value : helpers.message({ custom: trouble });
};

/** Somebody new. */
export const newPersonSchema = Joi.object({
  name: personSchema,
  role: role.required(),
  pin: newPin.required().messages({ 'any.required': 'PIN: enter one.' }),
  passphrase: newPassphrase,
}).custom(withPassphrase);

/** Somebody changed: what is not named stays. */
export const personChangeSchema = Joi.object({
  role,
  pin: newPin,
  passphrase: newPassphrase,
  badge: Joi.boolean().valid(false).description('the badge opens nothing any more'),
  unlock: Joi.boolean().valid(true),
  gone: Joi.boolean().valid(true).description('works here no more; the name stays on the record'),
})
  .min(1)
  .messages({ 'object.min': 'Say what is to change: role, PIN, passphrase, badge, unlock or gone.' })
  .custom(withPassphrase);

export const tabletSchema = Joi.object({
  code: Joi.string().max(40).required().messages({ '*': 'Code: as it stands beside the picture.' }),
  name: Joi.string()
    .trim()
    .min(1)
    .max(40)
    .required()
    .messages({ '*': 'Name of this tablet: 1 to 40 letters, such as Acid bench.' }),
});

/** How long somebody stays at the bench without a touch. */
export const accessRuleSchema = Joi.object({
  locksAfterMin: Joi.number()
    .integer()
    .min(1)
    .max(240)
    .required()
    .messages({ '*': 'Locks after: 1 to 240 min.' }),
  locksOnLeaving: Joi.boolean()
    .required()
    .description('nobody is at the bench any more once a battery’s page was left'),
});

export const badgeSchema = Joi.object({ badge: tried('Badge') });

const customer = Joi.string()
  .trim()
  .min(1)
  .max(120)
  .required()
  .messages({ '*': 'Customer: the name as it stands on their batteries, 1 to 120 letters.' });

export const customerSchema = Joi.object({ name: customer });
export const forgetSchema = Joi.object({ name: customer, why });
export const pictureGoneSchema = Joi.object({ why });

/** Entries that are somebody's, or are not. */
export const claimsSchema = Joi.object({
  keys: Joi.array()
    .items(Joi.string().guid())
    .min(1)
    .max(1000)
    .required()
    .messages({ '*': 'Entries: which of them.' }),
  isMine: Joi.boolean().required().messages({ '*': 'Say whether they are yours.' }),
});
