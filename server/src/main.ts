/** Starts the shop: settings from the environment, one sentence when they are wrong, a graceful stop. */
import { dirname, join } from 'node:path';
import Joi from 'joi';
import { pino } from 'pino';
import { knownTimeZone } from '@cork-ember/core/contract/timeZone.ts';
import { addresses, isOnNetwork, networkNotice } from './onNetwork.ts';
import type { Trust } from './routes/trust.ts';
import { HttpsError } from './tls/httpsKeys.ts';
import { ShopFileError } from './store/shopFile.ts';
import { openShop, type ShopServer } from './shopServer.ts';

interface Settings {
  readonly CORK_EMBER_FILE: string;
  readonly CORK_EMBER_PORT: number;
  readonly CORK_EMBER_HOST: string;
  readonly CORK_EMBER_DEMO: boolean;
  readonly CORK_EMBER_DEMO_START?: Date;
  readonly CORK_EMBER_CLOCK_START?: Date;
  readonly CORK_EMBER_TIME_ZONE: string;
  readonly CORK_EMBER_NAMES: string;
  readonly CORK_EMBER_HTTPS: boolean;
  readonly CORK_EMBER_PLAIN: boolean;
  readonly CORK_EMBER_HTTPS_PORT?: number;
  readonly CORK_EMBER_CERT?: string;
  readonly CORK_EMBER_KEY?: string;
  readonly CORK_EMBER_COPIES: string;
  readonly CORK_EMBER_WEB: string;
  readonly CORK_EMBER_LOG: string;
}

const settingsSchema = Joi.object({
  CORK_EMBER_FILE: Joi.string().default('data/shop.sqlite'),
  CORK_EMBER_PORT: Joi.number().port().default(4180),
  CORK_EMBER_HOST: Joi.string().default('127.0.0.1'),
  CORK_EMBER_DEMO: Joi.boolean().default(false),
  CORK_EMBER_DEMO_START: Joi.date().iso(),
  // A shop whose clock begins here and can be paced: to practise on, and to test with.
  CORK_EMBER_CLOCK_START: Joi.date().iso(),
  CORK_EMBER_TIME_ZONE: Joi.string()
    .custom(knownTimeZone)
    .messages({ '*': 'CORK_EMBER_TIME_ZONE names no zone; give one such as Europe/Dublin' })
    .default(Intl.DateTimeFormat().resolvedOptions().timeZone),
  // Names of the shop on its network, with commas between, beside this machine's own.
  CORK_EMBER_NAMES: Joi.string().allow('').default(''),
  // On the network https is answered beside http, one port further, by a certificate of its own or one that was given.
  CORK_EMBER_HTTPS: Joi.boolean().default(Joi.ref('CORK_EMBER_HOST', { adjust: isOnNetwork })),
  // On a network that is trusted plain http may answer everything too: whoever listens there reads along, PINs among it.
  CORK_EMBER_PLAIN: Joi.boolean().default(Joi.ref('CORK_EMBER_DEMO')),
  CORK_EMBER_HTTPS_PORT: Joi.number().port(),
  CORK_EMBER_CERT: Joi.string(),
  CORK_EMBER_KEY: Joi.string(),
  // Folders for nightly copies beside the one at the file, with commas between: another disk, a share.
  CORK_EMBER_COPIES: Joi.string().allow('').default(''),
  CORK_EMBER_WEB: Joi.string().default('web/dist'),
  CORK_EMBER_LOG: Joi.string().valid('debug', 'info', 'warn', 'error', 'silent').default('warn'),
})
  .and('CORK_EMBER_CERT', 'CORK_EMBER_KEY')
  .messages({ 'object.and': 'CORK_EMBER_CERT and CORK_EMBER_KEY name two files, give both' })
  .unknown();

function readSettings(): Settings {
  const { error, value } = settingsSchema.validate(process.env);
  if (!error) return value as Settings;
  process.stderr.write(`Cork Ember cannot start: ${error.message}.\n`);
  return process.exit(2);
}

/** One at the file itself, and wherever else was told. */
const copyFolders = (): readonly string[] => [
  join(dirname(settings.CORK_EMBER_FILE), 'copies'),
  ...settings.CORK_EMBER_COPIES.split(',')
    .map((folder) => folder.trim())
    .filter((folder) => folder !== ''),
];

/** @returns the shop; a file that cannot be opened is told in one sentence */
async function opened(): Promise<ShopServer> {
  try {
    return await openShop({
      file: settings.CORK_EMBER_FILE,
      timeZone: settings.CORK_EMBER_TIME_ZONE,
      isDemo: settings.CORK_EMBER_DEMO,
      // The demo is made anew as easily.
      copiesTo: settings.CORK_EMBER_DEMO ? [] : copyFolders(),
      names: settings.CORK_EMBER_NAMES.split(',').map((name) => name.trim()),
      isPlainOpen: settings.CORK_EMBER_PLAIN,
      webRoot: `${process.cwd()}/${settings.CORK_EMBER_WEB}`,
      log,
      ...(demoStart === undefined ? {} : { demoStart }),
      ...(clockStart === undefined ? {} : { clockStart }),
    });
  } catch (error) {
    if (!(error instanceof ShopFileError)) throw error;
    process.stderr.write(`Cork Ember cannot start: ${error.message}.\n`);
    return process.exit(2);
  }
}

/** Https one port further than http, or where it was told to; any that is free where http took any. */
function openOnHttps(port: number): Promise<Trust> {
  const { CORK_EMBER_FILE, CORK_EMBER_PORT, CORK_EMBER_HOST, CORK_EMBER_CERT, CORK_EMBER_KEY } = settings;
  const httpsPort = settings.CORK_EMBER_HTTPS_PORT ?? (CORK_EMBER_PORT === 0 ? 0 : port + 1);
  return shop.listenHttps(httpsPort, CORK_EMBER_HOST, {
    folder: join(dirname(CORK_EMBER_FILE), 'tls'),
    addresses: ['127.0.0.1', ...addresses()],
    ...(CORK_EMBER_CERT !== undefined && CORK_EMBER_KEY !== undefined
      ? { own: { cert: CORK_EMBER_CERT, key: CORK_EMBER_KEY } }
      : {}),
  });
}

/** What a name that is nobody's, and an address that is another's, are answered with. */
const NO_ADDRESS: readonly string[] = ['ENOTFOUND', 'EAI_AGAIN', 'EADDRNOTAVAIL', 'EINVAL'];

/** @throws what is no reason a person could act on */
function reasonOf(error: unknown): string {
  if (error instanceof HttpsError) return error.message;
  const code = error instanceof Error && 'code' in error ? String(error.code) : '';
  if (NO_ADDRESS.includes(code))
    return `this machine has no address ${settings.CORK_EMBER_HOST}; set CORK_EMBER_HOST to one it has, or to 0.0.0.0`;
  if (code === 'EACCES')
    return `port ${settings.CORK_EMBER_PORT} is not for everybody to open; set CORK_EMBER_PORT to one from 1024 on`;
  if (code !== 'EADDRINUSE') throw error;
  const { port } = error as Error & { readonly port?: number };
  const name = port === settings.CORK_EMBER_PORT ? 'CORK_EMBER_PORT' : 'CORK_EMBER_HTTPS_PORT';
  return `port ${port ?? ''} is in use; set ${name} to another`;
}

const settings = readSettings();
const log = pino({ level: settings.CORK_EMBER_LOG });
const demoStart = settings.CORK_EMBER_DEMO_START?.getTime();
const clockStart = settings.CORK_EMBER_CLOCK_START?.getTime();
const shop = await opened();

try {
  await shop.services.jobs.warmUp();
  const port = await shop.listen(settings.CORK_EMBER_PORT, settings.CORK_EMBER_HOST);
  process.stdout.write(`Cork Ember is open on http://localhost:${port}\n`);
  const trust = settings.CORK_EMBER_HTTPS ? await openOnHttps(port) : undefined;
  if (trust) process.stdout.write(`and on https://localhost:${trust.port}\n`);
  if (isOnNetwork(settings.CORK_EMBER_HOST))
    process.stdout.write(
      await networkNotice(port, trust, shop.services.access.way, settings.CORK_EMBER_PLAIN),
    );
  // Read before the first page asks for them.
  shop.services.jobs
    .openJobs()
    .catch((error: unknown) => log.warn({ err: error }, 'the bench was not read ahead'));
} catch (error) {
  process.stderr.write(`Cork Ember cannot start: ${reasonOf(error)}.\n`);
  process.exit(2);
}

const close = (): void => void shop.close().then(() => process.exit(0));
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, close);
// Whoever started it is gone.
process.once('disconnect', close);
