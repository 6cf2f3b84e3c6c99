/** The shop on https, with keys that are looked after each day while it runs. */
import { createServer, type Server } from 'node:https';
import type { RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { realNow } from '../clock/realTime.ts';
import type { Trust } from '../routes/trust.ts';
import { endOf, httpsKeys, type HttpsOptions } from './httpsKeys.ts';

const DAY_MS = 86_400_000;

/** A connection nobody asks anything over stays open so long: longer than hands pause, so that an entry seldom meets one that closes. */
export const KEEP_ALIVE_MS = 75_000;

export interface HttpsServer {
  readonly server: Server;
  readonly trust: () => Trust;
  /** Until when the certificate it answers with runs, ms. */
  readonly endsAt: () => number;
  close(): Promise<void>;
}

/**
 * @param onTrouble told when keys could not be renewed; those at hand go on
 * @throws HttpsError where files that were named are not there
 */
export async function openHttps(
  options: HttpsOptions,
  answer: RequestListener,
  port: number,
  host: string,
  onTrouble: (error: unknown) => void,
): Promise<HttpsServer> {
  let keys = await httpsKeys(options, realNow());
  const server = createServer({ cert: keys.cert, key: keys.key, keepAliveTimeout: KEEP_ALIVE_MS }, answer);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, resolve);
  });
  const renew = async (): Promise<void> => {
    const fresh = await httpsKeys(options, realNow());
    if (fresh.cert === keys.cert) return;
    server.setSecureContext({ cert: fresh.cert, key: fresh.key });
    keys = fresh;
  };
  const timer = setInterval(() => void renew().catch(onTrouble), DAY_MS);
  timer.unref();
  return {
    server,
    trust: () => ({
      port: (server.address() as AddressInfo).port,
      ...(keys.authority === undefined ? {} : { authority: keys.authority }),
    }),
    endsAt: () => endOf(keys.cert),
    close: async () => {
      clearInterval(timer);
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
