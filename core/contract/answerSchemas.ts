/**
 * What the server answers, as schemas: each is held to its type when this compiles, to the very answers in the server's
 * tests, and the OpenAPI document says the same.
 */
import { OF_ACCESS } from './answered/ofAccess.ts';
import { OF_CUSTOMERS } from './answered/ofCustomers.ts';
import { ledgerFileSchema } from './ledgerFile.ts';
import { OF_BATTERIES } from './answered/ofBatteries.ts';
import { OF_JOBS } from './answered/ofJobs.ts';
import { OF_LEDGER } from './answered/ofLedger.ts';
import { OF_SHOP } from './answered/ofShop.ts';

export const ANSWERS = {
  ...OF_ACCESS,
  ...OF_CUSTOMERS,
  ...OF_SHOP,
  ...OF_BATTERIES,
  ...OF_LEDGER,
  ...OF_JOBS,
  LedgerFile: ledgerFileSchema,
} as const;

export type AnswerName = keyof typeof ANSWERS;
