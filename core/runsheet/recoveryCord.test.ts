/** The cord of a recovery: what is forecast of it, and what stays drawn. */
import { expect } from 'chai';
import { brought, start } from '../test/broughtIn.ts';
import { forecast } from './plan/forecast.ts';

const MINUTE = 60_000;

describe('the cord of a recovery', () => {
  it('ends at the next choice, since what follows is not known', () => {
    const sheet = brought('BK-A12/55').triage(11.8);
    const open = forecast(sheet.job.state, sheet.now);
    expect(open.isOpenEnded).to.equal(true);
    expect(open.readyAt - sheet.now).to.be.below(10 * MINUTE);
    start(sheet.route('slow-charge'), 2.75);
    const charging = forecast(sheet.job.state, sheet.now);
    expect(charging.readyAt - sheet.now).to.be.above(24 * 60 * MINUTE);
    expect(charging.segments.some(({ kind }) => kind === 'charge')).to.equal(true);
  });

  it('keeps the charge of a route that was left', () => {
    const sheet = start(brought('BK-A12/55').triage(11.8).route('slow-charge'), 2.75).wait(90);
    const { key } = sheet.current;
    sheet.put('chargePaused', { step: key, reason: 'stopped' });
    sheet.put('routeLeft', { step: key, reason: 'cell 3 stays silent' });
    const charged = forecast(sheet.job.state, sheet.now).segments.filter((one) => one.key === key);
    const [first] = charged.filter(({ kind }) => kind === 'charge');
    expect((first?.to ?? 0) - (first?.from ?? 0)).to.equal(90 * MINUTE);
  });

  it('a charge that was stopped for good asks for another way, not for its end', () => {
    const sheet = start(brought('BK-A12/55').triage(4).route('supply-wake').affirm('supply-polarity'), 2.75);
    sheet.wait(15).read(8, 2.75, 22).wait(20).read(8, 2.75, 24);
    sheet.put('chargePaused', { step: sheet.current.key, reason: 'stopped' });
    expect(forecast(sheet.job.state, sheet.now).knots.filter(({ isDone }) => !isDone)[0]?.title).to.equal(
      'Choose another way',
    );
  });
});
