/** Does a share of `npm run belief-figures`: hidden batteries of a population, or put before the deciders. */
import { adviceTrial } from './adviceTrial.ts';
import { trial, type Population } from './beliefTrial.ts';
import { doShare, shareAsked } from './resumable.ts';

const share = shareAsked();
doShare(share, (index) =>
  share.kind === 'advice' ? adviceTrial(index) : trial(index, share.kind as Population),
);
