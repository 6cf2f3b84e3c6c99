/** Reads a ledger that another shop gave out. */
import Joi from 'joi';
import type { LedgerFile } from '../ledger/branches.ts';
import { finding } from './answered/ofBatteries.ts';
import { listOf, moment, objectOf, words } from './answered/parts.ts';

export const ledgerFileSchema = objectOf<LedgerFile>({
  format: Joi.string()
    .valid('cork-ember-ledger')
    .required()
    .messages({ '*': 'it does not say that it is one' }),
  version: Joi.number().valid(1).required(),
  program: words,
  shop: words,
  at: moment,
  findings: listOf(finding),
});

/**
 * @param text of the file
 * @throws RangeError in one sentence, where it is no such file
 */
export function ledgerFileIn(text: string): LedgerFile {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    throw new RangeError(
      'The file is no ledger: it is not even JSON. A shop gives one out under Ledger, Shops.',
    );
  }
  const { error, value } = ledgerFileSchema.validate(parsed);
  if (error)
    throw new RangeError(`The file is no ledger of a shop: ${error.message}. Nothing of it was read.`);
  return value as LedgerFile;
}
