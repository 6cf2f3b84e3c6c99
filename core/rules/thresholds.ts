/**
 * Every number a run sheet goes by, and where it comes from. The order of authority never changes:
 * what the label prints, then the maker's sheet, then the shop's rule, then the handbook.
 */
import { CONSTRUCTION, type ConstructionFacts } from '../battery/construction.ts';
import { leastAh, onSix, type BatteryType, type PrintedValues } from '../battery/types.ts';
import { HOUSE_RULES, type HouseRuleId, type HouseRules } from './houseRules.ts';

export type Source = 'label' | 'sheet' | 'house' | 'handbook' | 'model';

export const SOURCE_NAMES: Record<Source, string> = {
  label: 'label',
  sheet: 'maker’s sheet',
  house: 'house rule',
  handbook: 'handbook',
  model: 'model',
};

/** A number that says where it came from and why it is what it is. */
export interface Sourced {
  readonly value: number;
  readonly unit: string;
  readonly source: Source;
  readonly because: string;
}

/** What thresholds may depend on. */
export interface Basis {
  readonly type: BatteryType;
  readonly rules: HouseRules;
  /** Label values typed in for this battery because they differ from the catalogue. */
  readonly entered: PrintedValues;
}

interface Threshold {
  readonly unit: string;
  readonly because: string;
  readonly handbook: (type: BatteryType) => number;
  /** The label or sheet entry that overrides it. */
  readonly printed?: keyof PrintedValues;
  readonly rule?: {
    readonly point: HouseRuleId;
    readonly values: Readonly<Record<string, number | ((type: BatteryType) => number)>>;
    /** The house speaks of one construction only. */
    readonly isFor?: 'flooded';
  };
}

const isFlooded = (type: BatteryType): boolean => type.construction === 'flooded';
/** What its construction says, brought to its cells. */
const built = (type: BatteryType): ConstructionFacts => CONSTRUCTION[type.construction];

export const THRESHOLDS = {
  packDwellMin: {
    unit: 'min',
    because: 'Gravity needs this long to empty the pack; small batteries drain faster.',
    handbook: (type) => (type.capacityAh <= 12 ? 30 : 60),
    printed: 'packDwellMin',
    rule: { point: 'packDwell', values: { short: 20 } },
  },
  soakMin: {
    unit: 'min',
    because: 'Plates and mats keep taking up acid after the pack is off.',
    handbook: () => 120,
    printed: 'soakMin',
    rule: { point: 'soak', values: { m60: 60, m20: 20, none: 0 } },
  },
  floodedSoakMin: {
    unit: 'min',
    because: 'Bubbles rise and levels fall while plates and separators soak.',
    handbook: () => 30,
    printed: 'soakMin',
    rule: { point: 'floodedSoak', values: { m60: 60, m5: 5 } },
  },
  fillDensity: {
    unit: 'g/cm³',
    because: 'Electrolyte for a flooded battery is 1.265 at 25 °C unless its sheet says 1.280.',
    handbook: () => 1.265,
    printed: 'fillDensity',
  },
  fillFromC: {
    unit: '°C',
    because: 'Colder acid soaks in slowly and reads dense.',
    handbook: () => 15.6,
  },
  fillToC: {
    unit: '°C',
    because: 'Warmer acid heats the battery past where it may be charged.',
    handbook: () => 30,
  },
  chargeCurrentA: {
    unit: 'A',
    because: 'A tenth of capacity; up to 30 Ah never above 3 A unless the label says so.',
    handbook: (type) => tenthOfCapacity(type),
    printed: 'chargeCurrentA',
  },
  ceilingV: {
    unit: 'V',
    because:
      'Flooded and AGM take 14.4–14.8 V at 25 °C; 14.7 fills a sealed one without boiling it dry. Gel takes 14.1–14.4 V.',
    handbook: (type) => onSix(built(type).absorptionV, type),
    printed: 'ceilingV',
  },
  chargeEfficiency: {
    unit: '',
    because: 'Of each Ah put in, a sealed battery stores about 92 %, a flooded one about 85 %.',
    handbook: (type) => built(type).efficiency,
  },
  fullTailMin: {
    unit: 'min',
    because:
      'Current and voltage flat for two hours is the proof of full; the charge must leave room for it.',
    handbook: () => 120,
  },
  hotPauseC: {
    unit: '°C',
    because: 'A sealed battery dries out and may run away from 45 °C; above 50 °C any plates are harmed.',
    handbook: (type) => built(type).pauseC,
    rule: { point: 'warmBattery', values: { stopWarm: 40 } },
  },
  hotResumeC: {
    unit: '°C',
    because: 'Cool enough that the next hours do not drive it hot again.',
    handbook: () => 40,
    rule: {
      point: 'warmBattery',
      values: { stopWarm: 30, warmIsFine: (type) => built(type).pauseC - 2 },
    },
  },
  startBelowC: {
    unit: '°C',
    because: 'Filling warms the battery; it cools before the charge starts.',
    handbook: () => 40,
  },
  gasWaitMin: {
    unit: 'min',
    because: 'Gas clears before a clip is moved and a spark can meet it.',
    handbook: () => 5,
  },
  restMin: {
    unit: 'min',
    because: 'Fresh off charge the meter reads surface charge.',
    handbook: (type) => (isFlooded(type) ? 30 : 60),
    rule: { point: 'restBeforeTest', values: { m30: 30, h24: 1440, none: 0 } },
  },
  soakLowV: {
    unit: 'V',
    because: 'Fresh stock shows 12.5–12.85 V (flooded 12.1–12.6) after the soak, old stock down to 12.3.',
    handbook: (type) => onSix(isFlooded(type) ? 12.1 : 12.3, type),
  },
  soakSuspectV: {
    unit: 'V',
    because: 'Below this a chamber was filled short or a cell is dead.',
    handbook: (type) => onSix(isFlooded(type) ? 11.6 : 12.0, type),
  },
  passOcvV: {
    unit: 'V',
    because: 'A floor for passing, beside proof of full; not a sign of full by itself.',
    handbook: (type) => onSix(built(type).passV, type),
    rule: { point: 'passOcv', values: { floor128: 12.8 } },
  },
  fullRestV: {
    unit: 'V',
    because: 'A full AGM rests at 12.8–13.0 V, gel at 12.85–12.95 V, a full flooded battery at 12.65 V.',
    handbook: (type) => onSix(built(type).fullV, type),
    rule: { point: 'fullAtRest', values: { v125: 12.5, v126: 12.6, v128: 12.8 }, isFor: 'flooded' },
  },
  massTolerancePct: {
    unit: '%',
    because: 'Wider hides one chamber a fifth short.',
    handbook: () => 1.5,
  },
  testerPassPct: {
    unit: '%',
    because: 'A conductance tester counts 80 % of the cranking rating as good, on a charged battery.',
    handbook: () => 80,
  },
  retestMin: {
    unit: 'min',
    because: 'Surface charge is gone four hours after a charge; a tester read sooner reads it too.',
    handbook: () => 240,
  },
  gradeRestMin: {
    unit: 'min',
    because: 'Surface charge goes and leaks show.',
    handbook: () => 24 * 60,
    rule: { point: 'gradeRest', values: { h12: 12 * 60, d7: 7 * 24 * 60 } },
  },
  leadsOffMin: {
    unit: 'min',
    because: 'A minute after the leads are off surface charge passes anything.',
    handbook: () => 10,
  },
  leadsHoldMin: {
    unit: 'min',
    because: 'Falling further by now is a leak that 10.5 V alone would pass.',
    handbook: () => 20,
  },
  afterSoakMin: {
    unit: 'min',
    because: 'Acid evens out in the mats over three to four days.',
    handbook: () => 3 * 24 * 60,
  },
  holdDayMin: {
    unit: 'min',
    because: 'A day disconnected tells self-discharge from a leak.',
    handbook: () => 24 * 60,
  },
  holdWeekMin: {
    unit: 'min',
    because: 'Grade A is given after a week’s hold, never before.',
    handbook: () => 6 * 24 * 60,
  },
  postTorqueNm: {
    unit: 'N·m',
    because: 'Snug plus an eighth to a quarter turn is about this much on a small post; posts tear off.',
    handbook: (type) => (type.capacityAh <= 30 ? 3 : 6),
    printed: 'postTorqueNm',
  },
} as const satisfies Record<string, Threshold>;

export type ThresholdId = keyof typeof THRESHOLDS;
export const THRESHOLD_IDS = Object.keys(THRESHOLDS) as readonly ThresholdId[];

/** C/10, held to 3 A on small vehicle batteries and to C/5 always (handbook 2.5). */
function tenthOfCapacity(type: BatteryType): number {
  const tenth = leastAh(type) / 10;
  return type.capacityAh <= 30 ? Math.min(tenth, 3) : tenth;
}

/** The number a run sheet uses, from the highest authority that speaks. */
export function resolveThreshold(id: ThresholdId, basis: Basis): Sourced {
  const spec: Threshold = THRESHOLDS[id];
  const { type, rules, entered } = basis;
  const { unit, because } = spec;
  if (spec.printed !== undefined) {
    const onLabel = entered[spec.printed] ?? type.label[spec.printed];
    if (onLabel !== undefined)
      return { value: onLabel, unit, source: 'label', because: 'Printed on the label, which always wins.' };
    const onSheet = type.sheet[spec.printed];
    if (onSheet !== undefined)
      return { value: onSheet, unit, source: 'sheet', because: 'The maker’s sheet in the box says so.' };
  }
  if (spec.rule && !(spec.rule.isFor === 'flooded' && !isFlooded(type))) {
    const { point, values } = spec.rule;
    const named = values[rules[point]];
    const chosen = typeof named === 'function' ? named(type) : named;
    if (chosen !== undefined) {
      const scale = unit === 'V' ? onSix(1, type) : 1;
      const options: Readonly<Record<string, string>> = HOUSE_RULES[point].options;
      return {
        value: chosen * scale,
        unit,
        source: 'house',
        because: `House rule: ${options[rules[point]] ?? ''}.`,
      };
    }
  }
  return { value: spec.handbook(type), unit, source: 'handbook', because };
}
