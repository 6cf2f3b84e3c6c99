/** Whom the shop's authority may sign for: its names, and addresses that mean nothing outside its house. */
import { BlockList, isIP } from 'node:net';

/** Networks nobody outside can be reached by. @see RFC 1918, RFC 3927, RFC 4193, RFC 4291, RFC 6598 */
export const PRIVATE_NETWORKS = [
  ['10.0.0.0', 8, 'ipv4'],
  ['172.16.0.0', 12, 'ipv4'],
  ['192.168.0.0', 16, 'ipv4'],
  ['100.64.0.0', 10, 'ipv4'],
  ['169.254.0.0', 16, 'ipv4'],
  ['127.0.0.0', 8, 'ipv4'],
  ['fc00::', 7, 'ipv6'],
  ['fe80::', 10, 'ipv6'],
  ['::1', 128, 'ipv6'],
] as const;

const privateNetworks = new BlockList();
for (const [net, prefix, family] of PRIVATE_NETWORKS) privateNetworks.addSubnet(net, prefix, family);

/** Whether an address by number is one nobody outside can be reached by. */
export const isPrivate = (host: string): boolean =>
  isIP(host) !== 0 && privateNetworks.check(host, isIP(host) === 6 ? 'ipv6' : 'ipv4');

/** Whether the authority may sign for a host: a name it was made for, or an address of a private network. */
export const maySignFor = (names: readonly string[], host: string): boolean =>
  isIP(host) === 0 ? names.includes(host) : isPrivate(host);
