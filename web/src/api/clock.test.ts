import { expect } from 'chai';
import { setClock, shopNow } from './clock.ts';

const MORNING = Date.parse('2026-03-10T08:05:00Z');
const HOUR = 3_600_000;
const said = (shopMs: number, saidAt: number): void => setClock({ shopMs, pace: 1, isPaced: true, saidAt });

describe('the shop’s clock in the browser', () => {
  it('goes by the server’s word, and on from there', () => {
    said(MORNING, 1000);
    expect(shopNow() - MORNING).to.be.within(0, 5000);
  });

  it('an answer that was overtaken on its way does not turn it back', () => {
    said(MORNING + 72 * HOUR, 2000);
    said(MORNING + 1, 1500);
    expect(shopNow()).to.be.at.least(MORNING + 72 * HOUR);
  });

  it('takes the next word, of the same moment too', () => {
    said(MORNING + 73 * HOUR, 2000);
    expect(shopNow()).to.be.at.least(MORNING + 73 * HOUR);
    said(MORNING + 74 * HOUR, 2500);
    expect(shopNow()).to.be.at.least(MORNING + 74 * HOUR);
  });
});
