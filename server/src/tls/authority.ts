/**
 * The shop's own small certificate authority: what a tablet is told to trust once, and what signs the certificate the shop
 * answers https with. It can sign for a shop's network and for nothing else: whoever stole its key could not pass for a bank.
 */
import 'reflect-metadata';
import { randomBytes, webcrypto } from 'node:crypto';
import { isIP } from 'node:net';
import { AsnConvert } from '@peculiar/asn1-schema';
import { GeneralName, GeneralSubtree, GeneralSubtrees, NameConstraints } from '@peculiar/asn1-x509';
import {
  AuthorityKeyIdentifierExtension,
  BasicConstraintsExtension,
  ExtendedKeyUsage,
  ExtendedKeyUsageExtension,
  Extension,
  KeyUsageFlags,
  KeyUsagesExtension,
  PemConverter,
  SubjectAlternativeNameExtension,
  SubjectKeyIdentifierExtension,
  X509Certificate,
  X509CertificateGenerator,
} from '@peculiar/x509';
import { PRIVATE_NETWORKS } from './privateNetworks.ts';

/** A certificate and its private key, both PEM. */
export interface Pair {
  readonly cert: string;
  readonly key: string;
}

const CURVE = { name: 'ECDSA', namedCurve: 'P-256' } as const;
const SIGNING = { name: 'ECDSA', hash: 'SHA-256' } as const;
const DAY_MS = 86_400_000;
/** A tablet is told once; a shop outlives its tablets. */
const AUTHORITY_DAYS = 3650;
/** Browsers refuse certificates that run longer than 398 days (CA/Browser Forum Baseline Requirements, 6.3.2). */
const CERTIFICATE_DAYS = 365;
/** Clocks of tablets lag. */
const EARLIER_MS = DAY_MS;

/** "1.3.6.1…" of X.509's name constraints. @see RFC 5280, 4.2.1.10 */
const NAME_CONSTRAINTS = '2.5.29.30';

function onlyFor(names: readonly string[]): Extension {
  const bases = [
    ...names.map((dNSName) => new GeneralName({ dNSName })),
    ...PRIVATE_NETWORKS.map(([net, prefix]) => new GeneralName({ iPAddress: `${net}/${prefix}` })),
  ];
  const permittedSubtrees = new GeneralSubtrees(bases.map((base) => new GeneralSubtree({ base })));
  return new Extension(
    NAME_CONSTRAINTS,
    true,
    AsnConvert.serialize(new NameConstraints({ permittedSubtrees })),
  );
}

/** Positive, 16 bytes long and never twice. */
const serialNumber = (): string => `4${randomBytes(16).toString('hex').slice(1)}`;

async function pem(key: webcrypto.CryptoKey): Promise<string> {
  return PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), PemConverter.PrivateKeyTag);
}

async function keyOf(pair: Pair): Promise<webcrypto.CryptoKey> {
  const [der] = PemConverter.decode(pair.key);
  if (!der) throw new Error('The authority’s key holds no key.');
  return webcrypto.subtle.importKey('pkcs8', der, CURVE, false, ['sign']);
}

const lasting = (now: number, days: number): { notBefore: Date; notAfter: Date } => ({
  notBefore: new Date(now - EARLIER_MS),
  notAfter: new Date(now + days * DAY_MS),
});

/**
 * @param names the shop is called by; none but these and those under them can be signed for
 * @param now ms
 */
export async function makeAuthority(names: readonly string[], now: number): Promise<Pair> {
  const keys = await webcrypto.subtle.generateKey(CURVE, true, ['sign', 'verify']);
  const cert = await X509CertificateGenerator.createSelfSigned({
    serialNumber: serialNumber(),
    name: `CN=Cork Ember of this shop, OU=${names.find((name) => name !== 'localhost') ?? 'bench'}`,
    keys,
    signingAlgorithm: SIGNING,
    ...lasting(now, AUTHORITY_DAYS),
    extensions: [
      new BasicConstraintsExtension(true, 0, true),
      new KeyUsagesExtension(KeyUsageFlags.keyCertSign | KeyUsageFlags.cRLSign, true),
      await SubjectKeyIdentifierExtension.create(keys.publicKey),
      onlyFor(names),
    ],
  });
  return { cert: cert.toString('pem'), key: await pem(keys.privateKey) };
}

/**
 * A certificate the shop answers https with.
 * @param hosts names and addresses it stands for; one the authority may not sign for would spoil it for all
 * @param now ms
 */
export async function issue(authority: Pair, hosts: readonly string[], now: number): Promise<Pair> {
  const issuer = new X509Certificate(authority.cert);
  const keys = await webcrypto.subtle.generateKey(CURVE, true, ['sign', 'verify']);
  const cert = await X509CertificateGenerator.create({
    serialNumber: serialNumber(),
    issuer: issuer.subject,
    subject: 'CN=Cork Ember',
    publicKey: keys.publicKey,
    signingKey: await keyOf(authority),
    signingAlgorithm: SIGNING,
    ...lasting(now, CERTIFICATE_DAYS),
    extensions: [
      new BasicConstraintsExtension(false, undefined, true),
      new KeyUsagesExtension(KeyUsageFlags.digitalSignature, true),
      new ExtendedKeyUsageExtension([ExtendedKeyUsage.serverAuth]),
      new SubjectAlternativeNameExtension(
        hosts.map((value) => ({ type: isIP(value) === 0 ? ('dns' as const) : ('ip' as const), value })),
      ),
      await AuthorityKeyIdentifierExtension.create(issuer.publicKey),
    ],
  });
  // The authority goes with it, so that whoever trusts the one finds the way from the other.
  return { cert: `${cert.toString('pem')}\n${authority.cert}`, key: await pem(keys.privateKey) };
}
