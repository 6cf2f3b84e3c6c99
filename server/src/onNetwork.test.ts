import { expect } from 'chai';
import { realNow } from './clock/realTime.ts';
import { makeAuthority } from './tls/authority.ts';
import { fingerprintOf } from './tls/httpsKeys.ts';
import { addresses, isOnNetwork, networkNotice } from './onNetwork.ts';
import { originOf } from './routes/origin.ts';

const card = (address: string, family: 'IPv4' | 'IPv6', internal: boolean) => ({
  address,
  family,
  internal,
  netmask: '',
  mac: '',
  cidr: null,
  ...(family === 'IPv6' ? { scopeid: 0 } : {}),
});

describe('a shop on its network', () => {
  it('is there where it listens to everybody', () => {
    expect(['0.0.0.0', '::', '127.0.0.1', '192.168.1.4'].map(isOnNetwork)).to.deep.equal([
      true,
      true,
      false,
      false,
    ]);
  });

  it('says every address of its own, a code to scan, and what anyone may do', async () => {
    const found = addresses({
      lo: [card('127.0.0.1', 'IPv4', true)],
      wlan: [card('192.168.1.20', 'IPv4', false), card('fe80::1', 'IPv6', false)],
    } as Parameters<typeof addresses>[0]);
    expect(found).to.deep.equal(['192.168.1.20']);
    const notice = await networkNotice(4180, undefined, 'open', false, found);
    expect(notice).to.include('http://192.168.1.20:4180').and.to.include('only this machine records');
    expect(await networkNotice(4180, undefined, 'held', false, found)).to.include('one by one');
    expect(await networkNotice(4180, undefined, 'demo', false, found)).to.include(
      'anyone on this network may try',
    );
    expect(notice.split('\n').length).to.be.greaterThan(10);
  });

  it('says where https is, how a tablet comes to trust it, and the fingerprint to compare', async () => {
    const authority = (await makeAuthority(['localhost'], realNow())).cert;
    const notice = await networkNotice(4180, { port: 4181, authority }, 'held', false, ['192.168.1.20']);
    expect(notice).to.include('https://192.168.1.20:4181').and.to.include('http://192.168.1.20:4180/trust');
    expect(notice).to.include(fingerprintOf(authority)).and.not.to.include('want https');
    const plain = await networkNotice(4180, { port: 4181, authority }, 'held', true, ['192.168.1.20']);
    expect(plain).to.include('reads along').and.to.not.equal(notice);
    expect(notice).to.not.include('reads along');
    const wide = await networkNotice(4180, { port: 4181, authority }, 'held', false, [
      '192.0.2.2',
      '10.0.0.7',
    ]);
    expect(wide).to.include('https://10.0.0.7:4181').and.not.to.include('https://192.0.2.2');
    const given = await networkNotice(4180, { port: 4181 }, 'held', false, ['192.168.1.20']);
    expect(given).to.include('https://192.168.1.20:4181').and.not.to.include('/trust');
  });

  it('says so where there is no network', async () => {
    expect(await networkNotice(4180, undefined, 'held', false, [])).to.include('on no network');
  });
});

describe('the code on a paper', () => {
  for (const [host, address, origin] of [
    ['localhost:4180', 'http://192.168.7.20:4180', 'http://192.168.7.20:4180'],
    ['[::1]:4180', 'http://192.168.7.20:4180', 'http://192.168.7.20:4180'],
    ['127.0.0.1:4180', undefined, 'http://127.0.0.1:4180'],
    ['skerry.local:4180', 'http://192.168.7.20:4180', 'http://skerry.local:4180'],
  ] as const)
    it(`leads to ${origin} where the paper was asked for at ${host}${address === undefined ? ', on no network' : ''}`, () => {
      expect(originOf({ protocol: 'http', headers: { host } }, address)).to.equal(origin);
    });
});
