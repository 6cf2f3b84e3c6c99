/** Where what is printed or shown leads to, read on another device. */
import type { Request } from 'express';
import { nameOf } from '../hosts.ts';

/** This machine by itself: a paper read elsewhere leads nowhere with it. */
const OWN_NAMES: readonly string[] = ['localhost', '127.0.0.1', '::1'];

/** Where the code on a paper leads: as the paper was asked for, but to an address of the network where there is one. */
export function originOf(
  request: Pick<Request, 'protocol' | 'headers'>,
  address: string | undefined,
): string {
  const { host = '' } = request.headers;
  return address !== undefined && OWN_NAMES.includes(nameOf(host))
    ? address
    : `${request.protocol}://${host}`;
}
