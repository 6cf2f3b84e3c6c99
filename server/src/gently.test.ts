import { expect } from 'chai';
import { together } from './gently.ts';

describe('work that many ask for at once', () => {
  /** Counts how often it began, and ends when it is told to. */
  function work(): { begun: number; end: (error?: Error) => void; ask: () => Promise<number> } {
    const made = { begun: 0, end: (_error?: Error): void => undefined, ask: () => Promise.resolve(0) };
    made.ask = together(
      () =>
        new Promise<number>((resolve, reject) => {
          const which = (made.begun += 1);
          made.end = (error) => (error ? reject(error) : resolve(which));
        }),
    );
    return made;
  }

  const soon = (): Promise<void> => new Promise((resolve) => void setImmediate(resolve));

  it('is done once more for all who came meanwhile, and not again', async () => {
    const made = work();
    const first = made.ask();
    const late = [made.ask(), made.ask(), made.ask()];
    made.end();
    expect(await first).to.equal(1);
    await soon();
    late.push(made.ask());
    made.end();
    // Whoever came while the second went on is answered with a third.
    const [second, ...others] = await Promise.all(late.slice(0, 3));
    expect([second, ...others]).to.deep.equal([2, 2, 2]);
    await soon();
    made.end();
    expect(await late[3]).to.equal(3);
    expect(made.begun).to.equal(3);
  });

  it('what fails for one does not fail for whoever asks after', async () => {
    const made = work();
    const first = made.ask().catch((error: Error) => error.message);
    const next = made.ask();
    made.end(new Error('no'));
    expect(await first).to.equal('no');
    await soon();
    made.end();
    expect(await next).to.equal(2);
  });
});
