/** The shop's own data, in data/shop.sqlite unless told otherwise. */
import { serve } from './serving.ts';

await serve({ CORK_EMBER_LOG: 'info' });
