import { expect } from 'chai';
import { expose } from 'comlink';
import { Hired, WorkerLost } from './hired.ts';

interface Sums {
  double(value: number): number;
  never(): Promise<number>;
}

/** A worker as far as a page sees it: a port that answers, can fail and can be ended. */
class Standing extends EventTarget {
  isEnded = false;
  private readonly channel = new MessageChannel();
  postMessage = this.channel.port1.postMessage.bind(this.channel.port1);

  constructor() {
    super();
    this.channel.port1.onmessage = ({ data }) => this.dispatchEvent(new MessageEvent('message', { data }));
    const sums: Sums = { double: (value) => 2 * value, never: () => new Promise(() => undefined) };
    expose(sums, this.channel.port2);
  }

  terminate(): void {
    this.isEnded = true;
    this.channel.port1.close();
  }
}

describe('a hired worker', () => {
  let hiredSoFar: Standing[];
  let worker: Hired<Sums>;
  beforeEach(() => {
    hiredSoFar = [];
    worker = new Hired<Sums>(() => {
      const one = new Standing();
      hiredSoFar.push(one);
      return one as unknown as Worker;
    });
  });
  afterEach(() => worker.dismiss());

  it('is hired when it is first asked, and answers', async () => {
    expect(hiredSoFar).to.have.length(0);
    expect(await worker.ask((sums) => sums.double(21))).to.equal(42);
    await worker.ask((sums) => sums.double(1));
    expect(hiredSoFar).to.have.length(1);
  });

  it('that falls over refuses all it was asked, and the next question hires another', async () => {
    const refused = [1, 2].map(() =>
      worker
        .ask((sums) => sums.never())
        .then(
          () => 'answered',
          (error: unknown) => error,
        ),
    );
    await worker.ask((sums) => sums.double(1));
    hiredSoFar[0]?.dispatchEvent(new Event('error'));
    for (const why of await Promise.all(refused)) expect(why).to.be.instanceOf(WorkerLost);
    expect(hiredSoFar[0]?.isEnded).to.equal(true);
    expect(await worker.ask((sums) => sums.double(4))).to.equal(8);
    expect(hiredSoFar).to.have.length(2);
  });
});
