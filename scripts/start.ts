/** The shop's own data, in data/shop.sqlite unless told otherwise; with --lan, for the tablets of its network too. */
import { serve } from './serving.ts';

const onNetwork = process.argv.includes('--lan') ? { CORK_EMBER_HOST: '0.0.0.0' } : {};
await serve({ CORK_EMBER_LOG: 'info', ...onNetwork });
