import { expect } from 'chai';
import { partOf } from './later.tsx';

describe('a part that is fetched when it is wanted', () => {
  it('is fetched once, however often it is asked for', async () => {
    let fetches = 0;
    const part = partOf(() => Promise.resolve(++fetches));
    expect(part.now()).to.equal(undefined);
    expect(await Promise.all([part.fetch(), part.fetch()])).to.deep.equal([1, 1]);
    expect(await part.fetch()).to.equal(1);
    expect(part.now()).to.equal(1);
  });

  it('stays failed while its view shows so, and is asked for again after', async () => {
    let isAway = true;
    let fetches = 0;
    const part = partOf(() => {
      fetches += 1;
      return isAway ? Promise.reject(new Error('the server is away')) : Promise.resolve('here');
    });
    const failure = async (): Promise<string> =>
      part.fetch().then(
        () => '',
        (error: unknown) => String(error),
      );
    expect(await failure()).to.include('the server is away');
    expect(await failure()).to.include('the server is away');
    expect(fetches).to.equal(1);
    isAway = false;
    part.forgetFailed();
    expect(await part.fetch()).to.equal('here');
    part.forgetFailed();
    expect(await part.fetch()).to.equal('here');
    expect(fetches).to.equal(2);
  });
});
