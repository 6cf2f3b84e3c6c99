/** What is said where the shop is opened to its network: addresses, a code for a tablet's camera, and who may do what. */
import { hostname, networkInterfaces } from 'node:os';
import qrcode from 'qrcode';
import type { Trust } from './routes/trust.ts';
import { fingerprintOf } from './tls/httpsKeys.ts';
import { maySignFor } from './tls/privateNetworks.ts';

/** Hosts that listen to more than this machine. */
const EVERYBODY: readonly string[] = ['0.0.0.0', '::'];

export const isOnNetwork = (host: string): boolean => EVERYBODY.includes(host);

/** Addresses of this machine on its networks, IPv4. */
export function addresses(interfaces = networkInterfaces()): readonly string[] {
  return Object.values(interfaces)
    .flat()
    .flatMap((one) => (one && !one.internal && one.family === 'IPv4' ? [one.address] : []));
}

const WANTS_HTTPS = 'Camera, wake lock and notifications want https or this machine itself; all else works.';

/** How a tablet gets to https, and what it can compare so that nobody stands between. */
function secureLines(address: string, port: number, { port: httpsPort, authority }: Trust): string[] {
  const secure = `https://${address}:${httpsPort}`;
  if (authority === undefined) return [`On https, with camera, wake lock and notifications: ${secure}`];
  return [
    `On https, with camera, wake lock and notifications: ${secure}`,
    `A tablet is told once to trust it; http://${address}:${port}/trust shows how. The fingerprint to compare (SHA-256):`,
    `  ${fingerprintOf(authority)}`,
  ];
}

/** Who may do what from the network. */
const WHO_MAY = {
  held: 'Browsers are let in one by one under Setup, People; who stands at one says so by PIN.',
  open: 'Nobody has a PIN yet: this network can read, and only this machine records. Setup, People makes the first lead.',
  demo: 'It is a demo: anyone on this network may try it, under any name.',
} as const;

const READ_ALONG =
  'Plain http answers everything here beside https: whoever listens on this network reads along, PINs among it.';

/** Lines for the screen it was started on; the first address stands as a code too. */
export async function networkNotice(
  port: number,
  trust: Trust | undefined,
  may: keyof typeof WHO_MAY,
  isPlainOpen: boolean,
  found: readonly string[] = addresses(),
): Promise<string> {
  const urls = found.map((address) => `http://${address}:${port}`);
  const [first] = urls;
  if (first === undefined) return 'This machine is on no network: the shop is open on this machine alone.\n';
  return [
    'On the shop’s network:',
    ...urls.map((url) => `  ${url}`),
    // A tablet trusts the shop first, and then goes on by https.
    await qrcode.toString(trust?.authority === undefined || isPlainOpen ? first : `${first}/trust`, {
      type: 'terminal',
      small: true,
    }),
    ...(trust && isPlainOpen ? [READ_ALONG] : []),
    WHO_MAY[may],
    // An address of the wide world is in no certificate: the name is.
    ...(trust
      ? secureLines(found.find((one) => maySignFor([], one)) ?? hostname(), port, trust)
      : [WANTS_HTTPS]),
    '',
  ].join('\n');
}
