/**
 * A type read off the label of the battery on the counter: the few figures a label has, each of which may be unknown, and
 * what follows from what is not known, in sentences (handbook 1).
 */
import { CONSTRUCTION, type Construction } from './construction.ts';
import { estimateCapacity, type CapacityEstimate } from './estimateCapacity.ts';
import { plainCode, type BatteryType, type Delivery, type Duty, type CrankingStandard } from './types.ts';

/** As answered; what is left out is not known. */
export interface LabelAnswers {
  /** "sealed": it says neither AGM nor gel. */
  readonly built?: Construction | 'sealed';
  readonly cells?: number;
  readonly capacityAh?: number;
  readonly hourRate?: number;
  readonly crankingA?: number;
  readonly crankingStandard?: CrankingStandard;
  readonly reserveMin?: number;
  readonly duty?: Duty;
  readonly delivery?: Delivery;
  readonly packCode?: string;
  readonly packMl?: number;
  readonly packDensity?: number;
  readonly ceilingV?: number;
  readonly chargeCurrentA?: number;
  /** As it stands on the scale: a clue to its capacity. What a full one of its type weighs may be more. */
  readonly wetMassG?: number;
  readonly positivePost?: BatteryType['positivePost'];
  readonly caseCode?: string;
  readonly hasHiddenPorts?: boolean;
  readonly hasVentHose?: boolean;
  readonly maker?: string;
  readonly code?: string;
  /** A known type it is matched to for tester and model. */
  readonly like?: BatteryType;
}

export interface Labelled {
  readonly type: BatteryType;
  /** What follows from what is not known. */
  readonly follows: readonly string[];
}

/** What is still wanted before anything can be planned, in a sentence. */
export interface StillWanted {
  readonly wants: string;
}

/** Small vehicle batteries print their ten-hour capacity, larger ones that of twenty hours (handbook 1). */
const TEN_HOURS_UP_TO_AH = 30;
const NOT_SAID = 'not said';

/** What it is made for where the label is silent: one that prints a cranking current starts something. */
function usualDuty({ duty, built, crankingA, like }: LabelAnswers): Duty {
  if (duty) return duty;
  if (like) return like.duty;
  if (crankingA !== undefined) return 'starter';
  return built === 'flooded' ? 'starter' : 'standby';
}

function usualHourRate({ hourRate, capacityAh, like, ...rest }: LabelAnswers): number {
  if (hourRate !== undefined) return hourRate;
  if (like) return like.hourRate;
  const isSmallStarter = usualDuty(rest) === 'starter' && (capacityAh ?? Infinity) <= TEN_HOURS_UP_TO_AH;
  return isSmallStarter ? 10 : 20;
}

/** Alike in size within this: a rating does not go from a small one to a large one. */
const ALIKE = 0.25;

/** What is printed; or what the type it is matched to is rated at, where that is alike in volts and size. */
function crankingOf({
  crankingA,
  crankingStandard = 'EN',
  like,
  cells,
  capacityAh,
}: LabelAnswers): BatteryType['cranking'] {
  if (crankingA !== undefined) return { amps: crankingA, standard: crankingStandard };
  if (!like?.cranking || (cells ?? like.cells) !== like.cells) return undefined;
  if (Math.abs((capacityAh ?? like.capacityAh) / like.capacityAh - 1) > ALIKE) return undefined;
  return { amps: like.cranking.amps, standard: like.cranking.standard, isEquivalent: true };
}

function estimateOf(
  answers: LabelAnswers,
  construction: Construction,
  cells: number,
): CapacityEstimate | undefined {
  const { reserveMin, wetMassG, like } = answers;
  const cranking = crankingOf(answers);
  const found = estimateCapacity({
    construction,
    duty: usualDuty(answers),
    cells,
    hourRate: usualHourRate(answers),
    ...(cranking ? { cranking } : {}),
    ...(reserveMin === undefined ? {} : { reserveMin }),
    ...(wetMassG === undefined ? {} : { wetMassG }),
  });
  if (found || !like) return found;
  return {
    from: 'like',
    ah: like.capacityAh,
    leastAh: like.capacityAh * 0.8,
    mostAh: like.capacityAh * 1.2,
    because: `As ${like.id}: about ${like.capacityAh} Ah.`,
  };
}

/**
 * The type these answers make, or what is still wanted.
 * @param mark tells it from others of its kind and size where it has no code of its own: the battery's tag
 */
export function labelledType(answers: LabelAnswers, mark: string): Labelled | StillWanted {
  const { built, like, cells = like?.cells } = answers;
  if (built === undefined && !like) return { wants: 'How it is built: it decides every voltage.' };
  if (cells === undefined) return { wants: 'Its volts: they tell how many cells it has.' };
  const construction: Construction = built === 'sealed' ? 'gel' : (built ?? like?.construction ?? 'gel');
  const estimate = answers.capacityAh === undefined ? estimateOf(answers, construction, cells) : undefined;
  const capacityAh = answers.capacityAh ?? estimate?.ah;
  if (capacityAh === undefined)
    return {
      wants: 'Its Ah; or what it can be estimated from: cranking amps, reserve minutes, or its mass.',
    };
  const delivery = answers.delivery ?? 'in-service';
  const cranking = crankingOf(answers);
  const { packCode, packMl, packDensity, ceilingV, chargeCurrentA } = answers;
  const wantsPack = delivery === 'own-pack' && construction === 'agm';
  if (wantsPack && (packMl === undefined || packDensity === undefined))
    return { wants: 'What its pack holds: millilitres and density, as the pack prints them.' };
  const hasPack = packMl !== undefined && packDensity !== undefined && delivery === 'own-pack';
  const type: BatteryType = {
    id: answers.code ?? `${plainCode({ construction, cells, capacityAh })} ${mark}`,
    maker: answers.maker ?? NOT_SAID,
    construction,
    duty: usualDuty(answers),
    delivery,
    cells,
    capacityAh,
    hourRate: usualHourRate({ ...answers, capacityAh }),
    ...(estimate
      ? { estimate: { from: estimate.from, leastAh: estimate.leastAh, mostAh: estimate.mostAh } }
      : {}),
    ...(cranking ? { cranking } : {}),
    ...(answers.reserveMin === undefined ? {} : { reserveMin: answers.reserveMin }),
    ...(hasPack
      ? { pack: { code: packCode ?? 'as it came', volumeMl: packMl, densityKgPerL: packDensity } }
      : {}),
    ...(answers.hasHiddenPorts ? { hasHiddenPorts: true } : {}),
    ...(answers.hasVentHose ? { hasVentHose: true } : {}),
    ...(answers.caseCode === undefined ? {} : { caseCode: answers.caseCode }),
    positivePost: answers.positivePost ?? like?.positivePost ?? 'unknown',
    ...(like ? { likeId: like.id } : {}),
    label: {
      ...(ceilingV === undefined ? {} : { ceilingV }),
      ...(chargeCurrentA === undefined ? {} : { chargeCurrentA }),
    },
    sheet: {},
  };
  return { type, follows: followsFrom(answers, type, estimate) };
}

function followsFrom(
  answers: LabelAnswers,
  type: BatteryType,
  estimate: CapacityEstimate | undefined,
): string[] {
  const { built, hourRate, crankingA, crankingStandard, duty, ceilingV } = answers;
  const { absorptionFromV, absorptionToV, aBattery } = CONSTRUCTION[type.construction];
  return [
    ...(built === 'sealed'
      ? ['Sealed and not said which: charged as gel, 14.4 V at most on six cells, which harms no AGM.']
      : []),
    ...(estimate
      ? [
          `${estimate.because} Its limits go by ${Number(estimate.leastAh.toFixed(1))} Ah until a capacity test says more.`,
        ]
      : []),
    ...(hourRate === undefined ? [`Hour rate not said: taken as ${type.hourRate} h.`] : []),
    ...(crankingA !== undefined && crankingStandard === undefined
      ? ['Standard not said: cranking is read as EN, a rule of thumb.']
      : []),
    ...(type.cranking?.isEquivalent
      ? [
          `No cranking rating of its own: tested and modelled as ${type.likeId ?? ''}, ${type.cranking.amps} A ${type.cranking.standard}.`,
        ]
      : []),
    ...(type.cranking === undefined
      ? ['No cranking rating: it is judged by capacity, and by resistance against its own baseline.']
      : []),
    ...(duty === undefined ? [`Not said what it is for: taken as ${type.duty}.`] : []),
    ...(ceilingV === undefined
      ? [
          `No charge voltage printed: ${absorptionFromV} to ${absorptionToV} V on six cells, as ${aBattery} takes.`,
        ]
      : []),
  ];
}
