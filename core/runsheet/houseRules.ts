/**
 * Points on which practitioners differ and the shop decides. Each names its schools, the default and the
 * reason for it; every job carries the rules it was opened under.
 */

export interface HouseRulePoint {
  readonly title: string;
  readonly options: Readonly<Record<string, string>>;
  readonly standard: string;
  readonly reason: string;
}

export const HOUSE_RULES = {
  packDwell: {
    title: 'Time the acid pack stays on',
    options: {
      byCapacity: '30 min up to 12 Ah, 60 min above, from the last chamber seen empty',
      short: '20 min from pressing on',
      asSheet: 'as the maker’s sheet says',
    },
    standard: 'byCapacity',
    reason: 'The longest common advice is cheap insurance against a short fill.',
  },
  soak: {
    title: 'Soak after the pack is off',
    options: { m120: '120 min', m60: '60 min', m20: '20 min', none: 'none' },
    standard: 'm120',
    reason: 'Plates keep taking up acid for two hours.',
  },
  lidWhileCharging: {
    title: 'Lid during the first charge',
    options: { loose: 'laid on loosely, pressed home after', pressedBefore: 'pressed home before' },
    standard: 'loose',
    reason: 'The first charge makes gas and pressure.',
  },
  warmBattery: {
    title: 'A battery that gets warm on charge',
    options: {
      pause50: 'pause at 50 °C, resume below 40 °C',
      stopWarm: 'pause at 40 °C, resume below 30 °C',
    },
    standard: 'pause50',
    reason: 'Touch is not a number; 50 °C is where harm begins.',
  },
  firstCharge: {
    title: 'Current of the first charge',
    options: { tenth: 'a tenth of capacity, unless the label prints its own', low: 'half of that' },
    standard: 'tenth',
    reason: 'The label wins where there is one; C/10 is gentle and still done in a day.',
  },
  passOcv: {
    title: 'Open-circuit voltage that passes an AGM',
    options: { floor126: '12.6 V with proof of full', floor128: '12.8 V with proof of full' },
    standard: 'floor126',
    reason: '12.8 V sends sound batteries round again.',
  },
  restBeforeTest: {
    title: 'Rest before the test',
    options: { m60: '60 min', m30: '30 min', h24: '24 h' },
    standard: 'm60',
    reason: 'Straight off charge a meter reads surface charge.',
  },
  loadTest: {
    title: 'Load test',
    options: {
      halfCranking: 'half the cranking rating for 15 s at 9.6 V, else three times capacity at 10.5 V',
      tripleStrict: 'three times capacity for 15 s at 10.5 V',
      tripleLenient: 'three times capacity for 15 s at 9.5 V',
    },
    standard: 'halfCranking',
    reason: 'The lenient limit passes batteries with a third of their cranking left.',
  },
} as const satisfies Record<string, HouseRulePoint>;

export type HouseRuleId = keyof typeof HOUSE_RULES;
export type HouseRules = { readonly [Id in HouseRuleId]: keyof (typeof HOUSE_RULES)[Id]['options'] };

export const STANDARD_RULES: HouseRules = {
  packDwell: 'byCapacity',
  soak: 'm120',
  lidWhileCharging: 'loose',
  warmBattery: 'pause50',
  firstCharge: 'tenth',
  passOcv: 'floor126',
  restBeforeTest: 'm60',
  loadTest: 'halfCranking',
};
