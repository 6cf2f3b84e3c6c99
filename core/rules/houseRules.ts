/**
 * Points on which practitioners differ and the shop decides (handbook 6). Each names its schools, the default
 * and the reason for it; every job carries the rules it was opened under.
 */

/** Where a point makes itself felt; the order they are shown in. */
export const RULE_GROUPS = {
  fill: 'Filling and soaking',
  charge: 'First charge',
  test: 'Testing',
  recovery: 'Recovery',
  shelf: 'Shelf and customers',
} as const;

export interface HouseRulePoint {
  readonly group: keyof typeof RULE_GROUPS;
  readonly title: string;
  readonly options: Readonly<Record<string, string>>;
  readonly standard: string;
  readonly reason: string;
}

export const HOUSE_RULES = {
  packDwell: {
    group: 'fill',
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
    group: 'fill',
    title: 'Soak after the pack is off',
    options: { m120: '120 min', m60: '60 min', m20: '20 min', none: 'none' },
    standard: 'm120',
    reason: 'Plates keep taking up acid for two hours.',
  },
  floodedSoak: {
    group: 'fill',
    title: 'Soak of a flooded battery filled by hand',
    options: { m30: '30 min', m60: '60 min', m5: '5 min' },
    standard: 'm30',
    reason: 'Bubbles rise and the level drops as plates and separators soak.',
  },
  packHoles: {
    group: 'fill',
    title: 'Breathing holes in the acid pack',
    options: { never: 'never', makersPin: 'one per chamber, only with the pin the maker supplies' },
    standard: 'never',
    reason: 'A pricked chamber fills unevenly or overflows.',
  },
  acidSource: {
    group: 'fill',
    title: 'Acid for an AGM',
    options: { ownPack: 'its own pack only', matchedApart: 'a pack of the same code bought apart' },
    standard: 'ownPack',
    reason: 'The amount is exact for the model; its own pack cannot be the wrong one.',
  },
  overfill: {
    group: 'fill',
    title: 'Level of a flooded cell',
    options: { toLine: 'to the line', slightlyOver: 'slightly over is fine' },
    standard: 'toLine',
    reason: 'The level rises on charge and would find the vents.',
  },
  lidWhileCharging: {
    group: 'charge',
    title: 'Lid during the first charge',
    options: {
      loose: 'laid on loosely, pressed home after',
      off: 'left off, pressed home after',
      pressedBefore: 'pressed home before',
    },
    standard: 'loose',
    reason: 'The first charge makes gas and pressure.',
  },
  floodedCaps: {
    group: 'charge',
    title: 'Caps of a flooded battery on charge',
    options: { loose: 'laid loosely on the holes', fitted: 'fitted, where they are vented' },
    standard: 'loose',
    reason: 'Fizz and gas must get out, drops must not.',
  },
  activatedAgm: {
    group: 'charge',
    title: 'A factory-activated AGM',
    options: {
      chargeFirst: 'charged first',
      fitAsIs: 'fitted as it comes, after a test',
      vehicle: 'fitted, the vehicle finishes the charge',
    },
    standard: 'chargeFirst',
    reason: 'It has sat part charged for months.',
  },
  trickleFirst: {
    group: 'charge',
    title: 'A trickle charger for the first charge',
    options: { maintenanceOnly: 'never: maintenance only', overnight: 'allowed overnight' },
    standard: 'maintenanceOnly',
    reason: 'It never reaches proof of full.',
  },
  warmBattery: {
    group: 'charge',
    title: 'A battery that gets warm on charge',
    options: {
      pause50: 'pause at 45 °C (sealed) or 50 °C (flooded), resume below 40 °C',
      stopWarm: 'pause at 40 °C, resume below 30 °C',
      warmIsFine: 'warm is fine: pause at 45 or 50 °C all the same, resume two below',
    },
    standard: 'pause50',
    reason:
      'Touch is not a number; 45 °C (sealed) and 50 °C (flooded) are where harm begins, and no rule lifts them.',
  },
  unattended: {
    group: 'charge',
    title: 'A charge that runs on when nobody is there',
    options: {
      cutOffs: 'only on a charger that cuts off by itself',
      never: 'never: off before closing, on again in the morning',
    },
    standard: 'cutOffs',
    reason: 'A knob or a transformer charges on into the night whatever the battery does.',
  },
  bayAtNight: {
    group: 'charge',
    title: 'A bay with devices of its own when nobody is there',
    options: {
      never: 'never: off at closing, and a person says go in the morning',
      cutOff: 'goes on where a cut-off of its own parts it, and fire and local rules allow it',
    },
    standard: 'never',
    reason: 'Who answers for a building at night is the fire rules’ and the insurer’s question first.',
  },
  firstCharge: {
    group: 'charge',
    title: 'The first charge',
    options: {
      tenth: 'a tenth of capacity, timed by the rested voltage, unless the label prints its own',
      label: 'as the label prints: current and time',
      automatic: 'an automatic charger with an AGM programme, until it shows full',
      low: 'low, 1 to 2 A overnight',
      fast: 'shop fast charge, a fifth of capacity',
    },
    standard: 'tenth',
    reason: 'The label wins where there is one; C/10 is gentle and still done in a day.',
  },
  passOcv: {
    group: 'test',
    title: 'Open-circuit voltage that passes',
    options: {
      floor126: '12.4 V flooded, 12.6 V AGM, with proof of full',
      floor128: '12.8 V for both, with proof of full',
    },
    standard: 'floor126',
    reason: '12.8 V sends sound batteries round again.',
  },
  fullAtRest: {
    group: 'test',
    title: 'What a flooded battery shows at rest when full',
    options: { v1265: '12.65 V', v125: '12.5 V', v126: '12.6 V', v128: '12.8 V' },
    standard: 'v1265',
    reason: '12.65 V matches acid of 1.265 to 1.280.',
  },
  restBeforeTest: {
    group: 'test',
    title: 'Rest before the test',
    options: { byKind: '30 min flooded, 60 min AGM', m30: '30 min both', h24: '24 h', none: 'none' },
    standard: 'byKind',
    reason: 'Straight off charge a meter reads surface charge.',
  },
  loadTest: {
    group: 'test',
    title: 'Load test',
    options: {
      halfCranking: 'half the cranking rating for 15 s at 9.6 V, else three times capacity at 10.5 V',
      tripleStrict: 'three times capacity for 15 s at 10.5 V',
      tripleLenient: 'three times capacity for 15 s at 9.5 V',
      tenSeconds: 'half the cranking rating or three times capacity, for 10 s only',
    },
    standard: 'halfCranking',
    reason: 'The lenient limit passes batteries with a third of their cranking left.',
  },
  recoverBelow: {
    group: 'recovery',
    title: 'A battery found below 10.5 V',
    options: {
      byEvidence: 'by evidence: age, time flat, acceptance in the first hour',
      strict: 'not worth trying',
      hopeful: 'try where the case is sound and it is AGM',
    },
    standard: 'byEvidence',
    reason: 'No single voltage predicts whether it comes back.',
  },
  wakeMethod: {
    group: 'recovery',
    title: 'Waking a battery no charger sees',
    options: {
      supply: 'a current-limited supply',
      donor: 'a donor, the charger on the donor',
      donorEither: 'a donor, the charger on either',
      manual: 'a manual charger',
    },
    standard: 'supply',
    reason: 'The current is controlled and nothing else is at risk.',
  },
  firstHours: {
    group: 'recovery',
    title: 'First hours of a recovery',
    options: { slow: 'slow only', highLow: 'high, then low' },
    standard: 'slow',
    reason: 'Heat breaks plates that stood flat.',
  },
  zeroHealth: {
    group: 'recovery',
    title: 'A tester shows no health at part charge',
    options: { retest: 'charge, rest, test again', condemn: 'condemn' },
    standard: 'retest',
    reason: 'A tester judges the charge as well as the battery.',
  },
  waterBefore: {
    group: 'recovery',
    title: 'Water before a recovery charge',
    options: { coverPlates: 'just cover the plates', midMark: 'to the mid mark' },
    standard: 'coverPlates',
    reason: 'The level rises on charge.',
  },
  agmWater: {
    group: 'recovery',
    title: 'Water into a dried-out AGM',
    options: { never: 'never', measured: 'a measured dose' },
    standard: 'never',
    reason: 'No maker’s practice; it lifts cranking and brings no capacity back.',
  },
  equalise: {
    group: 'recovery',
    title: 'Over-voltage equalising',
    options: { off: 'off', expert: 'by an expert, flooded only' },
    standard: 'off',
    reason: 'Known to bite beginners.',
  },
  additives: {
    group: 'recovery',
    title: 'Additives and salt changes',
    options: {
      none: 'none',
      sodium: 'sodium sulfate',
      magnesium: 'magnesium sulfate',
      other: 'another additive',
    },
    standard: 'none',
    reason: 'Irreversible, hazardous waste, and no gain that could be seen beside plain water.',
  },
  holdTest: {
    group: 'recovery',
    title: 'Hold test',
    options: { disconnected: 'disconnected', fittedWeek: 'fitted for a week' },
    standard: 'disconnected',
    reason: 'Disconnected, a leak cannot hide behind the vehicle’s draw.',
  },
  gradeRest: {
    group: 'recovery',
    title: 'Rest before grading',
    options: { h24: '24 h', h12: '12 h', d7: '7 days' },
    standard: 'h24',
    reason: 'Surface charge goes and leaks show.',
  },
  recoveredTo: {
    group: 'shelf',
    title: 'Who gets a recovered battery',
    options: { asUsedTold: 'customers, as used and told so', shopOnly: 'the shop alone' },
    standard: 'asUsedTold',
    reason: 'Honesty; some shops keep them in the house.',
  },
  shelfRecharge: {
    group: 'shelf',
    title: 'Recharging on the shelf',
    options: {
      predicted: 'at 12.60 V (AGM) or 12.45 V (flooded), or after three months, whichever is first',
      monthly: 'every month',
      sixMonthly: 'every six months',
      seasons: 'before winter and before summer',
    },
    standard: 'predicted',
    reason: 'Catches warm weeks and forgotten months alike.',
  },
  shelfLoss: {
    group: 'shelf',
    title: 'What a battery on the shelf is taken to lose',
    options: {
      published: 'what is published for its kind, then what its own readings say',
      spoken: '0.1 V a month at 10 °C, double per 10 °C: ten times an AGM’s, charged eight times as often',
    },
    standard: 'published',
    reason: 'Its own two or three readings tell its rate better than any table.',
  },
  setMatch: {
    group: 'shelf',
    title: 'How alike the batteries of a set are',
    options: {
      handbook: 'capacity within 5 %, resistance within 10 %, rested voltage within 0.05 V',
      close: 'capacity within 3 %, resistance within 6 %, rested voltage within 0.03 V: fewer sets that last',
      wide: 'capacity within 10 %, resistance within 20 %, rested voltage within 0.10 V: the weakest ages first',
    },
    standard: 'handbook',
    reason: 'The weakest of a set is charged wrongly every day by the others.',
  },
} as const satisfies Record<string, HouseRulePoint>;

/**
 * Version of the house rules: raised when a point comes or goes, or an option with its id. A job says which it was opened
 * under, so that its record tells what could be chosen then.
 *
 * 1: written before rules said their version; a point that was not there yet is not in them.
 * 2: every point is written out.
 * 3: what a battery on the shelf is taken to lose; its recharge before winter and summer.
 * 4: how alike the batteries of a set are.
 * 5: a bay with devices of its own when nobody is there.
 */
export const RULES_VERSION = 5;

export type HouseRuleId = keyof typeof HOUSE_RULES;
export type HouseRules = { readonly [Id in HouseRuleId]: keyof (typeof HOUSE_RULES)[Id]['options'] };

export const RULE_IDS = Object.keys(HOUSE_RULES) as HouseRuleId[];

/** The default of every point. */
export const STANDARD_RULES = Object.fromEntries(
  RULE_IDS.map((id) => [id, HOUSE_RULES[id].standard]),
) as HouseRules;

/** Rules kept before a point existed, completed with its default. */
export function completeRules(kept: Partial<HouseRules>): HouseRules {
  const known = RULE_IDS.filter((id) => kept[id] !== undefined && kept[id] in HOUSE_RULES[id].options);
  return { ...STANDARD_RULES, ...Object.fromEntries(known.map((id) => [id, kept[id]])) };
}

/** The chosen school of a point in words. */
export function optionText(id: HouseRuleId, rules: HouseRules): string {
  const options: Readonly<Record<string, string>> = HOUSE_RULES[id].options;
  return options[rules[id]] ?? options[HOUSE_RULES[id].standard] ?? '';
}
