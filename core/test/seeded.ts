/** Chance for tests, the same for the same seed. */
export { chanceFrom as randomFrom } from '../chance/chance.ts';
