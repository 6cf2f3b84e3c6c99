/** Two shops that decide a point differently get different run sheets, each stamped with its rules. */
import { expect } from 'chai';
import { chargerOf } from '../adapters/bayRoom.ts';
import { loadTestFor } from '../battery/loadTest.ts';
import { CHARGERS } from '../charge/chargers.ts';
import { fitFirstCharge } from '../charge/firstChargeFit.ts';
import { GENERIC_SUPPLY } from '../devices/genericProfiles.ts';
import {
  HOUSE_RULES,
  RULE_IDS,
  STANDARD_RULES,
  type HouseRuleId,
  type HouseRules,
} from '../rules/houseRules.ts';
import { mayRunOn } from './plan/overnight.ts';
import { contextOf } from './state/context.ts';
import { definitionOf, procedureOf } from './state/sheet.ts';
import { TestJob } from '../test/testJob.ts';

/** A run sheet as words: its steps, what each says, and the numbers it goes by. */
function sheetOf(typeId: string, rules: Partial<HouseRules>): { text: string; stamped: HouseRules } {
  const { state } = new TestJob(typeId, rules).job;
  const context = contextOf(state, 1);
  const setting = context.chargeSetting();
  const steps = state.steps
    .map(
      (step) =>
        `${step.stepId}: ${definitionOf(state, step).title}. ${definitionOf(state, step).detail(context)}`,
    )
    .join('\n');
  const numbers = (
    [
      'packDwellMin',
      'soakMin',
      'floodedSoakMin',
      'hotPauseC',
      'hotResumeC',
      'restMin',
      'passOcvV',
      'fullRestV',
    ] as const
  ).map((id) => `${id} ${context.threshold(id).value} ${context.threshold(id).source}`);
  const load = loadTestFor(state.opened.type, state.opened.rules.loadTest, 21);
  const supply = CHARGERS.find(({ id }) => id === 'supply');
  const ofBay = chargerOf({ bay: 1, source: GENERIC_SUPPLY, hasCutOff: true });
  const keeper = CHARGERS.find(({ id }) => id === 'taper');
  const fits = keeper
    ? fitFirstCharge(
        { ...keeper, mostA: 0.2, taperOhm: 20 },
        { type: state.opened.type, setA: setting.current.value, ceilingV: 14.7, rules: state.opened.rules },
      )
    : {};
  return {
    text: [
      steps,
      ...numbers,
      `${setting.current.value} A ${setting.totalMin} min`,
      `${load.currentA} A ${load.seconds} s ${load.floorV} V`,
      'fit' in fits ? 'keeper offered' : 'keeper refused',
      ...[supply, ofBay].map((charger) =>
        mayRunOn(state.opened, charger ? { charger } : {}) ? 'runs on at night' : 'off before closing',
      ),
    ].join('\n'),
    stamped: state.opened.rules,
  };
}

/** Points of commissioning, and a type on which they show. */
const POINTS: Partial<Record<HouseRuleId, string>> = {
  packDwell: 'LW-A12/9',
  soak: 'LW-A12/9',
  floodedSoak: 'TQ-F12/14',
  packHoles: 'LW-A12/9',
  acidSource: 'LW-A12/9',
  overfill: 'TQ-F12/14',
  lidWhileCharging: 'LW-A12/9',
  floodedCaps: 'TQ-F12/14',
  activatedAgm: 'BK-S12/75',
  trickleFirst: 'LW-A12/9',
  unattended: 'LW-A12/9',
  bayAtNight: 'LW-A12/9',
  warmBattery: 'LW-A12/9',
  firstCharge: 'BK-F12/70',
  passOcv: 'LW-A12/9',
  fullAtRest: 'TQ-F12/14',
  restBeforeTest: 'LW-A12/9',
  loadTest: 'LW-A12/9',
};
/** Points of recovery, and the battery on which they show. */
const RECOVERY: Partial<Record<HouseRuleId, 'agm' | 'flooded'>> = {
  recoverBelow: 'flooded',
  wakeMethod: 'agm',
  firstHours: 'flooded',
  zeroHealth: 'agm',
  waterBefore: 'flooded',
  agmWater: 'agm',
  equalise: 'flooded',
  additives: 'flooded',
  holdTest: 'agm',
  gradeRest: 'agm',
  recoveredTo: 'agm',
  shelfRecharge: 'agm',
};

/** A recovery as words: its steps, what is held at a low voltage, which routes are open, what the proof asks. */
function recoveryOf(
  kind: 'agm' | 'flooded',
  rules: Partial<HouseRules>,
): { text: string; stamped: HouseRules } {
  const sheet = new TestJob(kind === 'agm' ? 'BK-A12/55' : 'BK-F12/70', rules, undefined, `recover-${kind}`);
  const steps = sheet.job.state.steps.map((step) => {
    const { title, detail } = definitionOf(sheet.job.state, step);
    return `${step.stepId}: ${title}. ${detail(contextOf(sheet.job.state, 1))}`;
  });
  const low = new TestJob(kind === 'agm' ? 'BK-A12/55' : 'BK-F12/70', rules, undefined, `recover-${kind}`);
  low.affirm('identify').measure('label', {}).affirm('safety', 'inspect');
  low.measure('history', { complaint: 'unknown' }).affirm('clean');
  low.measure('first-ocv', { ocvV: 9.5, tempC: 21, rested: 'yes' });
  const { routes = [] } = procedureOf(sheet.triage(11).job.state);
  const context = contextOf(sheet.job.state, 1);
  const openTo = (state: TestJob['job']['state']): string[] =>
    routes.map(({ id, veto }) => `${id}: ${veto(contextOf(state, 1))?.why ?? 'open'}`);
  const open = [
    ...openTo(sheet.job.state),
    ...(kind === 'agm'
      ? openTo(new TestJob('BK-A12/55', rules, undefined, 'recover-agm').triage(4).job.state)
      : []),
  ];
  sheet.route('prove', 'as far as it goes');
  const proof = sheet.job.state.steps
    .filter(({ round }) => round === 1)
    .map((step) => `${step.stepId} ${definitionOf(sheet.job.state, step).detail(context)}`);
  return {
    text: [
      ...steps,
      low.current.why ?? 'goes on',
      ...open,
      ...proof,
      `rest ${context.threshold('gradeRestMin').value}`,
    ].join('\n'),
    stamped: sheet.job.state.opened.rules,
  };
}

/** What a battery off the bench wants changes with it (`core/shelf/due.test.ts`), and no run sheet. */
const OFF_THE_BENCH: readonly HouseRuleId[] = ['shelfLoss', 'setMatch'];

describe('every contested point of recovery', () => {
  for (const [id, kind] of Object.entries(RECOVERY) as [HouseRuleId, 'agm' | 'flooded'][])
    for (const option of Object.keys(HOUSE_RULES[id].options).filter(
      (one) => one !== HOUSE_RULES[id].standard,
    ))
      it(`${id}: the default and “${option}” give two run sheets, each stamped`, () => {
        const usual = recoveryOf(kind, {});
        const other = recoveryOf(kind, { [id]: option });
        expect(other.stamped[id]).to.equal(option);
        expect(usual.stamped[id]).to.equal(STANDARD_RULES[id]);
        expect(other.text).not.to.equal(usual.text);
      });

  it('and commissioning: no point of the shop is left without an effect', () => {
    expect(
      RULE_IDS.filter((id) => !(id in POINTS) && !(id in RECOVERY) && !OFF_THE_BENCH.includes(id)),
    ).to.deep.equal([]);
  });
});

describe('every contested point of commissioning', () => {
  for (const [id, typeId] of Object.entries(POINTS) as [HouseRuleId, string][])
    for (const option of Object.keys(HOUSE_RULES[id].options).filter(
      (one) => one !== HOUSE_RULES[id].standard,
    ))
      it(`${id}: the default and “${option}” give two run sheets, each stamped`, () => {
        const usual = sheetOf(typeId, {});
        const other = sheetOf(typeId, { [id]: option });
        expect(other.stamped[id]).to.equal(option);
        expect(usual.stamped[id]).to.equal(STANDARD_RULES[id]);
        expect(other.text).not.to.equal(usual.text);
      });

  it('the maker’s sheet wins over every school of the pack’s dwell', () => {
    for (const packDwell of ['byCapacity', 'short', 'asSheet'] as const)
      expect(
        contextOf(new TestJob('TQ-A12/14', { packDwell }).job.state, 1).threshold('packDwellMin').value,
      ).to.equal(45);
  });
});
