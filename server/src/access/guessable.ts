/** Whether a passphrase would be guessed: among those that are tried first, or what anybody could put together of it. */
import { ProblemError } from '../problems.ts';

/**
 * From here on no guesser gets there who is slowed down, nor one who has the hashes within years (10^10 guesses).
 * @see Wheeler 2016, zxcvbn: low-budget password strength estimation, USENIX Security
 */
const LEAST_SCORE = 4;

/**
 * @param besides what whoever guesses knows: a name, the shop's
 * @throws ProblemError where it would be
 */
export async function assertUnguessed(passphrase: string, besides: readonly string[]): Promise<void> {
  // Lists of a megabyte, asked once in a shop's life: loaded then.
  const [{ ZxcvbnFactory }, { dictionary, adjacencyGraphs }] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
  ]);
  const estimator = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const { score } = estimator.check(passphrase, [...besides]);
  if (score < LEAST_SCORE)
    throw new ProblemError(
      'bad-input',
      'Passphrase: one that is not tried first: some words nobody would put together.',
    );
}
