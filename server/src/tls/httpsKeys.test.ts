import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect } from 'node:tls';
import { expect } from 'chai';
import { realNow } from '../clock/realTime.ts';
import { issue, makeAuthority } from './authority.ts';
import { fingerprintOf, httpsKeys, HttpsError, isGoodFor, type HttpsOptions } from './httpsKeys.ts';

// Whoever trusts looks at the machine's clock.
const NOW = realNow();
const DAY = 86_400_000;

/** What somebody who trusts the authority thinks of the shop under a name. */
async function trusted(keys: { cert: string; key: string }, ca: string, host: string): Promise<string> {
  const server = createServer(keys, (_request, response) => response.end());
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const verdict = await new Promise<string>((resolve) => {
    const socket = connect(
      { port, host: '127.0.0.1', ca, servername: host, rejectUnauthorized: false },
      () => {
        resolve(socket.authorized ? 'trusted' : String(socket.authorizationError));
        socket.destroy();
      },
    );
  });
  await new Promise((resolve) => server.close(resolve));
  return verdict;
}

describe('the shop’s https', () => {
  let folder: string;
  const options = (more: Partial<HttpsOptions> = {}): HttpsOptions => ({
    folder: join(folder, 'tls'),
    names: ['localhost', 'loft.local', 'skerry.test'],
    addresses: ['127.0.0.1', '192.168.1.20'],
    ...more,
  });

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'cork-ember-tls-'));
  });

  afterEach(() => rmSync(folder, { recursive: true }));

  it('is trusted under each of its names by whoever trusts its authority, and by nobody else', async () => {
    const keys = await httpsKeys(options(), NOW);
    expect(keys.authority).to.be.a('string');
    for (const host of ['localhost', 'skerry.test', 'loft.local'])
      expect(await trusted(keys, keys.authority ?? '', host)).to.equal('trusted');
    const other = await makeAuthority(['localhost'], NOW);
    expect(await trusted(keys, other.cert, 'localhost')).not.to.equal('trusted');
  });

  it('an address of the wide world is left out, and spoils nothing', async () => {
    const keys = await httpsKeys(options({ addresses: ['192.0.2.2', '192.168.1.20'] }), NOW);
    expect(await trusted(keys, keys.authority ?? '', 'localhost')).to.equal('trusted');
    expect(isGoodFor(keys.cert, ['192.168.1.20'], NOW)).to.equal(true);
    expect(isGoodFor(keys.cert, ['192.0.2.2'], NOW)).to.equal(false);
  });

  it('its authority cannot sign for a name that is not the shop’s', async () => {
    const keys = await httpsKeys(options(), NOW);
    const key = readFileSync(join(folder, 'tls', 'authority.key'), 'utf8');
    const forged = await issue({ cert: keys.authority ?? '', key }, ['bank.example'], NOW);
    expect(await trusted(forged, keys.authority ?? '', 'bank.example')).not.to.equal('trusted');
    const fair = await issue({ cert: keys.authority ?? '', key }, ['till.loft.local'], NOW);
    expect(await trusted(fair, keys.authority ?? '', 'till.loft.local')).to.equal('trusted');
  });

  it('is kept: the same authority and certificate at the next start', async () => {
    const first = await httpsKeys(options(), NOW);
    expect(await httpsKeys(options(), NOW + DAY)).to.deep.equal(first);
    expect(statSync(join(folder, 'tls', 'authority.key')).mode & 0o077).to.equal(0);
    expect(statSync(join(folder, 'tls', 'shop.key')).mode & 0o077).to.equal(0);
  });

  it('is renewed a month before it ends, and when the machine has another address, by the authority tablets know', async () => {
    const first = await httpsKeys(options(), NOW);
    const later = await httpsKeys(options(), NOW + 340 * DAY);
    expect(later.authority).to.equal(first.authority);
    expect(later.cert).not.to.equal(first.cert);
    expect(Date.parse(new X509Certificate(later.cert).validTo)).to.be.greaterThan(NOW + 600 * DAY);
    const moved = await httpsKeys(options({ addresses: ['10.0.0.7'] }), NOW + 340 * DAY);
    expect(moved.authority).to.equal(first.authority);
    expect(isGoodFor(moved.cert, ['10.0.0.7'], NOW)).to.equal(true);
  });

  it('makes another authority only where the shop is called otherwise, and says its fingerprint', async () => {
    const first = await httpsKeys(options(), NOW);
    const renamed = await httpsKeys(options({ names: ['localhost', 'new.test'] }), NOW);
    expect(fingerprintOf(renamed.authority ?? '')).to.match(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/);
    expect(fingerprintOf(renamed.authority ?? '')).not.to.equal(fingerprintOf(first.authority ?? ''));
  });

  it('runs no longer than browsers allow', async () => {
    const { cert } = await httpsKeys(options(), NOW);
    const { validFrom, validTo } = new X509Certificate(cert);
    expect(Date.parse(validTo) - Date.parse(validFrom)).to.be.at.most(398 * DAY);
  });

  it('takes a certificate the shop was given, and says in one sentence where there is none', async () => {
    const authority = await makeAuthority(['loft.local'], NOW);
    const given = await issue(authority, ['loft.local'], NOW);
    const own = { cert: join(folder, 'own.crt'), key: join(folder, 'own.key') };
    const missing = await httpsKeys(options({ own }), NOW).then(
      () => undefined,
      (error: unknown) => error,
    );
    expect(missing)
      .to.be.instanceOf(HttpsError)
      .with.property('message', `No certificate at ${own.cert}, or no key at ${own.key}`);
    writeFileSync(own.cert, given.cert);
    writeFileSync(own.key, given.key);
    const keys = await httpsKeys(options({ own }), NOW);
    expect(keys).to.deep.equal(given);
    writeFileSync(own.cert, 'nothing');
    const broken = await httpsKeys(options({ own }), NOW).catch((error: unknown) => error);
    expect(broken).to.be.instanceOf(HttpsError);
  });
});
