import { expect } from 'chai';
import { atHand } from '../runsheet/plan/atHand.ts';
import { judgeCommissioning } from '../runsheet/verdict/commissioningVerdict.ts';
import { HOUSE_RULES, STANDARD_RULES, type HouseRuleId, type HouseRules } from './houseRules.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { TestJob } from '../test/testJob.ts';
import { resolveThreshold, THRESHOLDS, type ThresholdId } from './thresholds.ts';

const MINUTE = 60_000;

/** What a shop with these rules would go by for one type. */
function resolved(id: ThresholdId, rules: Partial<HouseRules>, typeId = 'LW-A12/9') {
  return contextOf(new TestJob(typeId, rules).job.state, 1).threshold(id);
}

describe('house rules', () => {
  it('each name a default among their options, and a reason in a sentence', () => {
    for (const [id, point] of Object.entries(HOUSE_RULES)) {
      expect(Object.keys(point.options), id).to.include(point.standard);
      expect(Object.keys(point.options).length, id).to.be.at.least(2);
      expect(point.reason, id).to.match(/^[A-Z0-9].*[.]$/);
      expect(STANDARD_RULES[id as HouseRuleId], id).to.equal(point.standard);
    }
  });

  for (const [rules, id, value] of [
    [{ packDwell: 'short' }, 'packDwellMin', 20],
    [{ soak: 'm60' }, 'soakMin', 60],
    [{ soak: 'm20' }, 'soakMin', 20],
    [{ soak: 'none' }, 'soakMin', 0],
    [{ warmBattery: 'stopWarm' }, 'hotPauseC', 40],
    [{ warmBattery: 'stopWarm' }, 'hotResumeC', 30],
    [{ passOcv: 'floor128' }, 'passOcvV', 12.8],
    [{ restBeforeTest: 'm30' }, 'restMin', 30],
    [{ restBeforeTest: 'h24' }, 'restMin', 1440],
  ] as const)
    it(`${JSON.stringify(rules)} gives ${id} ${value}, said to be the house’s`, () => {
      expect(resolved(id, rules)).to.include({ value, source: 'house' });
      expect(resolved(id, {})).to.include({ source: 'handbook' });
      expect(resolved(id, {}).value).not.to.equal(value);
    });

  it('scale a 12 V rule to a 6 V battery', () => {
    expect(resolved('passOcvV', { passOcv: 'floor128' }, 'LW-A6/4').value).to.equal(6.4);
    expect(resolved('passOcvV', {}, 'LW-A6/4').value).to.equal(6.3);
  });

  it('two shops with different soaks stand at different steps an hour after the pack is off', () => {
    const steps = (['m120', 'm60'] as const).map((soak) => {
      const sheet = new TestJob('LW-A12/9', { soak }).fill().wait(61);
      return atHand(sheet.job.state, sheet.now)?.definition.id;
    });
    expect(steps).to.deep.equal(['soak', 'strip']);
  });

  it('two shops with different rests open the test at different times', () => {
    const until = (['byKind', 'm30'] as const).map((restBeforeTest) => {
      const sheet = new TestJob('LW-A12/9', { restBeforeTest })
        .soak()
        .charge()
        .wait(5)
        .affirm('disconnect', 'lid');
      return ((atHand(sheet.job.state, sheet.now)?.until ?? 0) - sheet.now) / MINUTE;
    });
    expect(until).to.deep.equal([60, 30]);
  });

  it('12.7 V passes one shop’s floor and not the other’s', () => {
    const verdicts = (['floor126', 'floor128'] as const).map((passOcv) => {
      const sheet = new TestJob('LW-A12/9', { passOcv }).soak().charge().test(12.7);
      return judgeCommissioning(contextOf(sheet.job.state, 1)).verdict;
    });
    expect(verdicts).to.deep.equal(['pass', 'repeat']);
  });

  it('9.7 V under three times capacity passes the lenient school alone', () => {
    const verdicts = (['tripleStrict', 'tripleLenient'] as const).map((loadTest) => {
      const sheet = new TestJob('LW-A12/9', { loadTest }).soak().charge().test(12.84, 9.7);
      return judgeCommissioning(contextOf(sheet.job.state, 1)).verdict;
    });
    expect(verdicts).to.deep.equal(['repeat', 'pass']);
  });
});

describe('thresholds', () => {
  it('come from the label before the sheet, the sheet before the house, the house before the handbook', () => {
    const sheet = new TestJob('TQ-A12/14', { packDwell: 'short' });
    const { type, rules } = sheet.job.state.opened;
    const from = (label: object, printed: object, house: HouseRules) =>
      resolveThreshold('packDwellMin', {
        type: { ...type, label, sheet: printed },
        rules: house,
        entered: {},
      });
    expect(from({ packDwellMin: 50 }, { packDwellMin: 45 }, rules)).to.include({
      value: 50,
      source: 'label',
    });
    expect(from({}, { packDwellMin: 45 }, rules)).to.include({ value: 45, source: 'sheet' });
    expect(from({}, {}, rules)).to.include({ value: 20, source: 'house' });
    expect(from({}, {}, STANDARD_RULES)).to.include({ value: 60, source: 'handbook' });
  });

  it('take what was entered for this battery over the catalogue’s label', () => {
    const { type, rules } = new TestJob('LW-A12/12').job.state.opened;
    const entered = resolveThreshold('chargeCurrentA', { type, rules, entered: { chargeCurrentA: 1.5 } });
    expect(entered).to.include({ value: 1.5, source: 'label' });
    expect(resolveThreshold('chargeCurrentA', { type, rules, entered: {} }).value).to.equal(1.2);
  });

  it('each give a reason in a sentence', () => {
    for (const id of Object.keys(THRESHOLDS) as ThresholdId[])
      expect(resolved(id, {}).because, id).to.match(/^[A-Z].*[.]$/);
  });

  it('leave a pack on for 30 min up to 12 Ah and 60 min above', () => {
    expect(
      ['LW-A12/4', 'LW-A12/12', 'TQ-A12/20', 'BK-A12/55'].map((id) => resolved('packDwellMin', {}, id).value),
    ).to.deep.equal([30, 30, 60, 60]);
  });
});
