/** All calculators of the reckoner, in the order they are listed. */
import { ACID_CALCULATORS } from './acid.ts';
import type { Calculator } from './calculator.ts';
import { CHARGING_CALCULATORS } from './charging.ts';
import { TESTING_CALCULATORS } from './testing.ts';

export const CALCULATORS: readonly Calculator[] = [
  ...CHARGING_CALCULATORS,
  ...ACID_CALCULATORS,
  ...TESTING_CALCULATORS,
];
