/** Cells whose acid stands apart: equalised, or stirred by gas round after round. */
import { expect } from 'chai';
import { brought, end, start, treatmentAtHand } from '../test/broughtIn.ts';
import type { TestJob } from '../test/testJob.ts';
import { atHand } from './plan/atHand.ts';
import type { HouseRules } from '../rules/houseRules.ts';

describe('equalise', () => {
  const spread = [1.24, 1.24, 1.2, 1.24, 1.24, 1.24];
  const expert: Partial<HouseRules> = { equalise: 'expert' };

  /** Charged to full here, and every cell read after it. */
  const charged = (densities: readonly number[]): TestJob => {
    const sheet = brought('BK-F12/70', expert).triage(12.5, { densities: spread }).slowCharge(12.7);
    densities.forEach((density, index) =>
      sheet.put('evidenced', { reading: { kind: 'density', cell: index + 1, density, tempC: 25 } }),
    );
    return sheet;
  };
  const onEqualise = (): TestJob => start(charged(spread).route('equalise').affirm('equalise-expert'), 2.8);
  const look = (sheet: TestJob, cellDensities: readonly number[], tempC = 25): TestJob =>
    sheet.put('chargeRead', {
      step: sheet.current.key,
      values: { voltageV: 15.6, currentA: 2.8, tempC, cellDensities },
      source: 'meter',
    });

  it('wants an expert, a level above the plates, and is over in four hours', () => {
    const sheet = charged(spread).route('equalise');
    sheet.put('denied', { step: sheet.current.key, denial: 'level-low' });
    expect(sheet.current.status).to.equal('held');
    sheet.affirm('equalise-expert');
    expect(treatmentAtHand(sheet)).to.include({ hotC: 45, mostMin: 240 });
    expect(treatmentAtHand(sheet).ceilingV).to.be.closeTo(15.8, 1e-9);
    start(sheet, 2.8).wait(60).read(15.6, 2.8, 46);
    expect(sheet.current.why).to.include('45 °C is the limit.');
  });

  it('is done once three hourly densities of every cell are alike, not before', () => {
    const sheet = onEqualise();
    const even = spread.map(() => 1.262);
    const phase = (): unknown => atHand(sheet.job.state, sheet.now)?.phase;
    look(sheet.wait(10), spread);
    for (const minutes of [15, 10, 10, 40]) look(sheet.wait(minutes), even);
    expect(phase()).to.equal('running');
    look(sheet.wait(60), even);
    expect(phase()).to.equal('complete');
  });

  it('a density of every cell is one for each, and possible', () => {
    const sheet = onEqualise().wait(60);
    expect(() => look(sheet, [1.24, 1.25])).to.throw('6 are needed, 2 came');
    expect(() => look(sheet, [1.24, 1.24, 1.24, 1.24, 1.24, 1.9])).to.throw('Density, cell 6');
  });

  it('cells that differ before a charge are no reason; after one those alike or too far apart want one', () => {
    expect(() => brought('BK-F12/70', expert).triage(12.5, { densities: spread }).route('equalise')).to.throw(
      'say nothing of their acid: charge it to full',
    );
    expect(() => charged(spread.map(() => 1.26)).route('equalise')).to.throw('nothing to even out');
    expect(() => charged([1.25, 1.25, 1.15, 1.25, 1.25, 1.25]).route('equalise')).to.throw(
      'more likely a bad cell',
    );
    expect(charged(spread).route('equalise').current.stepId).to.equal('equalise-expert');
  });
});

describe('layered acid', () => {
  const round = (sheet: TestJob, density: number): TestJob => {
    end(start(sheet, 3.5).wait(120)).wait(6).affirm('mix-clips');
    return sheet.measure('mix-density', { ...sheet.eachCell('density', () => density), acidC: 25 });
  };

  it('is mixed round after round until three are alike within 0.010, then closed', () => {
    const sheet = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    for (const density of [1.2, 1.23, 1.25, 1.258]) {
      round(sheet, density);
      expect(sheet.current.stepId, `after ${density}`).to.equal('mix');
    }
    round(sheet, 1.26);
    expect(sheet.current.stepId).to.equal('mix-to-line');
    sheet.closed('mix');
    expect(sheet.current.stepId).to.equal('choose-route');
    expect(sheet.job.state.routes?.map(({ route }) => route)).to.deep.equal([
      'slow-charge',
      ...Array.from({ length: 5 }, () => 'layered'),
    ]);
  });

  it('by bands it is level when three rounds show the same, and says how far bands tell', () => {
    const sheet = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    const banded = (band: string): void => {
      end(start(sheet, 3.5).wait(120)).wait(6).affirm('mix-clips');
      sheet.measure('mix-density', { by: 'bands', ...sheet.eachCell('band', () => band) });
    };
    for (const band of ['white', 'green', 'green']) {
      banded(band);
      expect(sheet.current.stepId, band).to.equal('mix');
    }
    banded('green');
    expect(sheet.current.stepId).to.equal('mix-to-line');
  });

  it('eight rounds are the most, and a route that is left goes no further round', () => {
    const sheet = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    for (let times = 0; times < 8; times++) round(sheet, times % 2 === 0 ? 1.2 : 1.24);
    expect(sheet.closed('mix').current.stepId).to.equal('choose-route');
    expect(() => sheet.route('layered')).to.throw('Eight rounds have not brought it level');
    const left = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    round(left, 1.2).put('routeLeft', { step: left.current.key, reason: 'a cell leaks' });
    expect(left.current.stepId).to.equal('choose-route');
  });

  it('wants a full charge first, open cells, and only a small one is rocked', () => {
    expect(() => brought('BK-F12/70').triage(12.4).route('layered')).to.throw('not proven full yet');
    expect(() => brought('BK-A12/55').triage(12.4).route('layered')).to.throw('held in its mats');
    const small = brought('TQ-F6/11').triage(6.2).slowCharge(6.4).route('layered');
    end(start(small, 0.55).wait(120)).wait(6).affirm('mix-clips');
    expect(small.current.stepId).to.equal('mix-rock');
    expect(small.leaveOut('mix-rock').current.stepId).to.equal('mix-density');
  });
});
