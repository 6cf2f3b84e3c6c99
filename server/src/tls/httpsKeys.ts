/** What the shop answers https with: its own certificate, or one of its own small authority, made and renewed here. */
import { X509Certificate } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { isIP } from 'node:net';
import { join } from 'node:path';
import type { Pair } from './authority.ts';
import { maySignFor } from './privateNetworks.ts';

const DAY_MS = 86_400_000;
/** Renewed while it still runs so long. */
const RENEW_DAYS = 30;

/** Files of a certificate the shop was given by somebody else. */
interface OwnFiles {
  readonly cert: string;
  readonly key: string;
}

export interface HttpsOptions {
  /** Where the authority and its certificates are kept; only this user may read the keys. */
  readonly folder: string;
  /** Names the shop is called by. */
  readonly names: readonly string[];
  /** Its addresses. */
  readonly addresses: readonly string[];
  readonly own?: OwnFiles;
}

export interface HttpsKeys extends Pair {
  /** The authority a tablet is told to trust, PEM; none where the shop has a certificate of its own. */
  readonly authority?: string;
}

/** A sentence for whoever starts the shop. */
export class HttpsError extends Error {}

async function readPair(cert: string, key: string): Promise<Pair | undefined> {
  if (!existsSync(cert) || !existsSync(key)) return undefined;
  return { cert: await readFile(cert, 'utf8'), key: await readFile(key, 'utf8') };
}

async function writePair(folder: string, name: string, pair: Pair): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  await writeFile(join(folder, `${name}.key`), pair.key, { mode: 0o600 });
  await writeFile(join(folder, `${name}.crt`), pair.cert);
}

/** Whether a certificate still runs long enough at a moment, and stands for all these hosts. */
export function isGoodFor(cert: string, hosts: readonly string[], now: number): boolean {
  const parsed = new X509Certificate(cert);
  const standsFor = (host: string): boolean =>
    (isIP(host) === 0 ? parsed.checkHost(host) : parsed.checkIP(host)) !== undefined;
  return endOf(cert) - now > RENEW_DAYS * DAY_MS && hosts.every(standsFor);
}

/** Whether an authority may sign for these names: it was made for them, and runs on. */
const signsFor = async (folder: string, names: readonly string[]): Promise<boolean> => {
  const list = join(folder, 'authority.names');
  if (!existsSync(list)) return false;
  const known = (await readFile(list, 'utf8')).split('\n');
  return names.every((name) => known.includes(name));
};

async function authorityIn({ folder, names }: HttpsOptions, now: number): Promise<Pair> {
  const [cert, key] = [join(folder, 'authority.crt'), join(folder, 'authority.key')];
  const known = await readPair(cert, key);
  if (known && isGoodFor(known.cert, [], now) && (await signsFor(folder, names))) return known;
  const { makeAuthority } = await import('./authority.ts');
  const made = await makeAuthority(names, now);
  await writePair(folder, 'authority', made);
  await writeFile(join(folder, 'authority.names'), names.join('\n'));
  return made;
}

async function ownKeys({ cert, key }: OwnFiles): Promise<HttpsKeys> {
  const pair = await readPair(cert, key);
  if (!pair) throw new HttpsError(`No certificate at ${cert}, or no key at ${key}`);
  try {
    new X509Certificate(pair.cert);
  } catch {
    throw new HttpsError(`${cert} holds no certificate; give one in PEM`);
  }
  return pair;
}

/**
 * The keys for now: what is kept where it is good still, made or renewed where it is not. To be asked again each day.
 * @param now ms, of the machine's clock: certificates live by it
 * @throws HttpsError where files that were named are not there
 */
export async function httpsKeys(options: HttpsOptions, now: number): Promise<HttpsKeys> {
  if (options.own) return ownKeys(options.own);
  const { folder, names, addresses } = options;
  const hosts = [...names, ...addresses].filter((host) => maySignFor(names, host));
  const authority = await authorityIn(options, now);
  const known = await readPair(join(folder, 'shop.crt'), join(folder, 'shop.key'));
  const isSigned = known?.cert.includes(authority.cert.trim()) === true;
  if (known && isSigned && isGoodFor(known.cert, hosts, now)) return { ...known, authority: authority.cert };
  const { issue } = await import('./authority.ts');
  const made = await issue(authority, hosts, now);
  await writePair(folder, 'shop', made);
  return { ...made, authority: authority.cert };
}

/** Until when a certificate runs, ms. */
export const endOf = (cert: string): number => Date.parse(new X509Certificate(cert).validTo);

/** As a tablet shows it: "AB:CD:…", SHA-256. */
export const fingerprintOf = (cert: string): string => new X509Certificate(cert).fingerprint256;

/** As tablets take it in: DER. */
export const derOf = (cert: string): Buffer => new X509Certificate(cert).raw;
