import { expect } from 'chai';
import { Queue } from './queue.ts';

const tick = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

describe('queue', () => {
  it('does work of one name in order, of different names side by side', async () => {
    const queue = new Queue();
    const done: string[] = [];
    const slow = async (name: string): Promise<void> => {
      done.push(`${name} begins`);
      await tick();
      done.push(`${name} ends`);
    };
    await Promise.all([
      queue.run('a', () => slow('a1')),
      queue.run('a', () => slow('a2')),
      queue.run('b', () => slow('b1')),
    ]);
    expect(done.indexOf('a2 begins')).to.be.above(done.indexOf('a1 ends'));
    expect(done.indexOf('b1 begins')).to.be.below(done.indexOf('a1 ends'));
  });

  it('goes on after work that failed, and tells only its own caller', async () => {
    const queue = new Queue();
    const failing = queue.run('a', () => Promise.reject(new Error('no')));
    const next = queue.run('a', () => Promise.resolve('yes'));
    expect(await failing.catch((error: Error) => error.message)).to.equal('no');
    expect(await next).to.equal('yes');
  });
});
