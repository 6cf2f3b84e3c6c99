/** The vocabulary procedures are written in. A procedure is data; `reduce.ts` is what reads it. */
import type { Giving, ShownBy } from '../../observation/handInstruments.ts';
import type { InstrumentQuantity } from '../../observation/instrument.ts';
import type { BatteryType } from '../../battery/types.ts';
import type { ReadingSpec } from '../../units/reading.ts';
import type { FirstCharge } from '../../charge/firstCharge.ts';
import type { FirstChargeQuestion } from '../../charge/firstChargeForecast.ts';
import type { Charger } from '../../charge/charger.ts';
import type { ChargeSoFar } from '../../charge/proofOfFull.ts';
import type { StopRuleId } from '../../charge/watch.ts';
import type { CautionId } from '../../rules/cautions.ts';
import type { OpenedPayload, Verdict } from '../entries/events.ts';
import type { StepValues } from '../../units/values.ts';
import type { HouseRuleId } from '../../rules/houseRules.ts';
import type { Basis, Sourced, ThresholdId } from '../../rules/thresholds.ts';

/** What the words and checks of a step may look at. */
export interface StepContext {
  readonly opened: OpenedPayload;
  /** Where it stands now; 0 on the shelf. */
  readonly bay: number;
  readonly basis: Basis;
  /** 1 for the first charge and test, 2 and 3 for repeats. */
  readonly round: number;
  /** Rounds its procedure allows. */
  readonly mostRounds: number;
  readonly ageMonths: number | undefined;
  threshold(id: ThresholdId): Sourced;
  /** The latest values of a measured step; empty when there are none. */
  valuesOf(stepId: string): StepValues;
  /** The values of a measured step in one round; empty when there are none. */
  valuesIn(stepId: string, round: number): StepValues;
  /**
   * How the first charge is to be set for this round.
   * @param setA current really set, where it is not the one advised, A
   */
  chargeSetting(setA?: number): FirstCharge;
  /** What the model is asked to draw the curve of the charge. */
  chargeQuestion(setA: number): FirstChargeQuestion;
  /** Whether this run sheet charges the battery at all. */
  readonly isCharged: boolean;
  /** The first charge of this round, or the further one; undefined before it was started. */
  charge(): ChargeEvidence | undefined;
  /** When a step of this round was done, ms; undefined while it is not, or was left out. */
  doneAt(stepId: string): number | undefined;
  /** Warmth that was read last at a step, °C. */
  lastTempC(): number | undefined;
  /** Open-circuit voltage by the newest reading up to this round, at a step or beside them, V. */
  standingV(): number | undefined;
  /** Lowest voltage of the last load test, at a step or beside them, V. */
  lastLoadV(): number | undefined;
  /** The latest charge before a step of this round. */
  chargeBefore(stepId: string): ChargeEvidence | undefined;
  /** The latest charge of any kind up to the step at hand. */
  lastCharge(): ChargeEvidence | undefined;
  /** Routes gone so far, the first first. */
  readonly routes: readonly RouteTaken[];
  /** Density of every cell by the newest reading of them all, as far as they were read. */
  newestDensities(): CellDensities | undefined;
}

export interface CellDensities {
  /** Of cell 1 first, corrected to 25 °C, g/cm³; undefined where there was nothing to draw. */
  readonly at25: readonly (number | undefined)[];
  /** Whether a charge lay before the reading. */
  readonly isCharged: boolean;
}

/** What a charge has shown, and what it is judged by. */
export interface ChargeEvidence extends ChargeSoFar {
  readonly stepKey: string;
  readonly limits: ChargeLimits;
  readonly setA: number;
  readonly charger?: Charger;
  /** The charger showed full when it was switched off. */
  readonly fullSignal: boolean;
  /** A stop rule ended it: which, and why. */
  readonly stopped?: { readonly rule: StopRuleId | 'hot'; readonly why: string };
  readonly isOver: boolean;
}

export type Outcome =
  'certified' | 'returned' | 'rejected' | 'withdrawn' | 'recovered' | 'retired' | 'charged';

/** Where a "no" leads: the step waits until it is put right, or the job ends. Never nowhere. */
export type Denial = {
  readonly id: string;
  readonly label: string;
  readonly say: string;
} & ({ readonly leads: 'hold' } | { readonly leads: 'end'; readonly outcome: Outcome });

/** Why a step does not let the job go on. */
export interface Hold {
  readonly why: string;
  /** May be passed with a recorded reason. */
  readonly canOverride: boolean;
}

export interface NumberField {
  readonly kind: 'number';
  readonly id: string;
  readonly spec: (context: StepContext) => ReadingSpec;
  /** What an instrument would be asked for. */
  readonly quantity?: InstrumentQuantity;
  readonly optional?: boolean;
  readonly shownWhen?: {
    readonly field: string;
    readonly is: string | readonly string[];
    /** Also where that was not asked yet: older logs. */
    readonly orUnsaid?: true;
  };
  /** The cell it is read in, from the positive post, from 1; a battery without that cell is not asked. */
  readonly inCell?: number;
  /** Whether a battery of this type is asked for it; every type is, unless said. */
  readonly isFor?: (type: BatteryType) => boolean;
  /** Not needed where this other field is given. */
  readonly insteadOf?: string;
  /** Asked for only where the shop's instrument shows it. */
  readonly shownBy?: ShownBy;
}

export interface ChoiceField {
  readonly kind: 'choice';
  readonly id: string;
  readonly label: string;
  readonly options: readonly ChoiceOption[];
  readonly optional?: boolean;
  readonly shownWhen?: NumberField['shownWhen'];
  /** The cell it is said of, from the positive post, from 1; a battery without that cell is not asked. */
  readonly inCell?: number;
  /** The answer the shop's own instruments give; else the first. */
  readonly usual?: readonly Giving[];
}

export interface ChoiceOption {
  readonly id: string;
  readonly label: string;
  /** Whether it is offered for a battery of this type; for every one, unless said. */
  readonly isFor?: (type: BatteryType) => boolean;
}

/** What a choice offers for a battery. */
export function optionsFor({ options }: ChoiceField, type: BatteryType): readonly ChoiceOption[] {
  return options.filter(({ isFor }) => isFor?.(type) ?? true);
}

/** Whether a field is asked for, by what was chosen. */
export function isAsked({ shownWhen }: Field, chosen: Readonly<Record<string, unknown>>): boolean {
  if (!shownWhen) return true;
  const { field, is, orUnsaid } = shownWhen;
  if (orUnsaid && chosen[field] === undefined) return true;
  return typeof is === 'string' ? chosen[field] === is : is.includes(String(chosen[field]));
}

export type Field = NumberField | ChoiceField;

interface StepBase {
  readonly id: string;
  readonly title: string;
  readonly detail: (context: StepContext) => string;
  /** Minutes a pair of hands is busy. */
  readonly handsMin: number;
  /** Minutes until there is something to see; 0 when it can be done at once. */
  readonly lookAfterMin?: (context: StepContext) => number;
  /** Minutes after it is due from which it counts as overdue. */
  readonly overdueAfterMin: number;
  readonly cautions: readonly CautionId[];
  /** Cautions that depend on the battery or what was read of it. */
  readonly cautionsFor?: (context: StepContext) => readonly CautionId[];
  /** What the step explains once, to be opened by who wants it. */
  readonly explains?: 'label-symbols';
  /** Present only where the house follows one of these schools. */
  readonly when?: { readonly rule: HouseRuleId; readonly isOneOf: readonly string[] };
  /** Present only where it was asked for at Intake. */
  readonly asked?: 'fitting';
  /** Present only in run sheets of these editions: a log keeps the steps it was opened with. */
  readonly editions?: { readonly from?: number; readonly to?: number };
  /** Present only for these types of battery. */
  readonly isFor?: (type: BatteryType) => boolean;
  /** Left out by itself where this says so as its turn comes. */
  readonly isMoot?: (context: StepContext) => boolean;
  /** Gone through in a repeat, though the house leaves it out the first time. */
  readonly inRepeats?: boolean;
  /** Not done again in a repeat of charge and test. */
  readonly oncePerJob?: boolean;
  /** Never left alone: hands are due when it says so, open or not. */
  readonly isAttended?: boolean;
  /** May be left out; the label of the button that does so. */
  readonly skipLabel?: string;
  /** Left out by itself when that step was. */
  readonly needs?: string;
  /** Numbers whose origin is shown beside the step. */
  readonly shows?: readonly ThresholdId[];
}

/** What is looked for in each chamber or cell. */
export interface ChamberWords {
  /** What one is called: a pack has chambers, an open battery cells. */
  readonly name: 'Chamber' | 'Cell';
  readonly yes: string;
  readonly no: string;
  readonly remedy: string;
}

export interface GateStep extends StepBase {
  readonly kind: 'gate';
  readonly claims: readonly string[];
  readonly affirmLabel: string;
  readonly denials: readonly Denial[];
  /** The step asks for each chamber by itself. */
  readonly chambers?: ChamberWords;
  /** The step asks for a code that must be this one. */
  readonly code?: { readonly label: string; readonly expected: (context: StepContext) => string };
  readonly guard?: GuardId;
}

export type GuardId = 'fill-and-charge-same-day';

export interface ActStep extends StepBase {
  readonly kind: 'act';
  readonly doneLabel: string;
  /** Afterwards nothing is connected: a cut-off that stands open does as well. */
  readonly partsIt?: true;
  /** The job ends well with this act. */
  readonly ends?: Outcome;
}

export interface DwellStep extends StepBase {
  readonly kind: 'dwell';
  readonly minimum: ThresholdId;
  /** The step whose completion starts the clock; part of the rule. */
  readonly clockStart: (context: StepContext) => string;
  readonly canOverride: boolean;
}

export interface MeasureStep extends StepBase {
  readonly kind: 'measure';
  readonly fields: readonly Field[];
  /** What recording nothing says, where all of it may stay empty. */
  readonly emptyLabel?: string;
  /** Undefined when the readings let the job go on. */
  readonly holds: (values: StepValues, context: StepContext) => Hold | undefined;
  /** Where a reading that holds may lead instead. */
  readonly denials: readonly Denial[];
  /** What stands in the fields already, for whoever is at it to agree to or change. */
  readonly initial?: (context: StepContext) => StepValues;
  readonly remark?: (values: StepValues, context: StepContext) => string | undefined;
}

/** What ends a charge well, before its time is up. */
export type ChargeEnd =
  /** Proven full over this time: `proofOfFull.ts`. */
  | { readonly on: 'full'; readonly windowMin: number }
  /** It takes the current willingly: at or under this voltage, and holding. */
  | {
      readonly on: 'accepts';
      readonly atA: number;
      readonly belowV: number;
      readonly fromV: number;
    }
  | { readonly on: 'voltage'; readonly volts: number }
  /** Its current flat over this time, full or not. */
  | { readonly on: 'flat'; readonly windowMin: number }
  /** Three hourly densities of every cell alike. */
  | { readonly on: 'densities' }
  /** Nothing but the clock. */
  | { readonly on: 'clock' };

/** What a charge must keep to while it runs, first charge and treatment alike. */
export interface ChargeLimits {
  /** At the posts and at 25 °C, V. */
  readonly ceilingV: number;
  /** Whether it follows warmth; an absolute ceiling does not. */
  readonly isCompensated: boolean;
  /** Longest time on charge, min; then it is off whatever it reads. */
  readonly mostMin: number;
  /** Charger off above, °C. */
  readonly hotC: number;
  readonly end: ChargeEnd;
  readonly stops: readonly StopRuleId[];
}

/** A charge of a recovery. A first charge has none; it is set by handbook 2.5. */
export interface Treatment extends ChargeLimits {
  /** What to set, A. */
  readonly setA: number;
  /** The most that may be set, A. */
  readonly mostA: number;
  /** Planned time on charge, min. */
  readonly dueMin: number;
  /** What to do and why, a line each. */
  readonly working: readonly string[];
  /** What it means that its end is reached, where that is not a proof of full. */
  readonly done?: string;
  readonly isAttended: boolean;
  /** Each hourly look asks for the density of every cell. */
  readonly asksCells?: true;
  /** Pulses: the charger's own programme holds no voltage, and ends by itself. */
  readonly isPulsed?: true;
}

export interface ChargeStep extends StepBase {
  readonly kind: 'charge';
  /** Present on the charges of a recovery. */
  readonly treatment?: (context: StepContext) => Treatment;
  readonly claims: readonly string[];
  /** Cautions once the charger is on. */
  readonly cautionsWhileOn: readonly CautionId[];
  /** Minutes between looks at voltage, current and warmth. */
  readonly lookEveryMin: number;
}

export interface DecideStep extends StepBase {
  readonly kind: 'decide';
  readonly judge: (context: StepContext) => Judgement;
}

export interface Judgement {
  readonly verdict: Verdict;
  readonly reasons: readonly { readonly isMet: boolean; readonly sentence: string }[];
}

/** Where a recovery goes next is chosen here; the chosen route's steps follow, and then this step again. */
export interface RouteStep extends StepBase {
  readonly kind: 'route';
}

export type Step = GateStep | ActStep | DwellStep | MeasureStep | ChargeStep | DecideStep | RouteStep;

/** A route that was chosen, in the round it was chosen for. */
export interface RouteTaken {
  readonly route: string;
  readonly round: number;
  readonly at: number;
  readonly by: string;
  /** Why it was taken against the house's rule. */
  readonly reason?: string;
  /** Why it was left before its end. */
  readonly leftFor?: string;
}

/** Why a route is not open to a battery. A house rule may be passed over with a reason; safety never. */
export interface Veto {
  readonly why: string;
  readonly canOverride: boolean;
  /** A charge before it is all that is asked for. */
  readonly isUntilCharged?: true;
}

export interface Route {
  readonly id: string;
  readonly title: string;
  /** Which batteries it is for. */
  readonly isFor: string;
  /** What ends it, and what comes after. */
  readonly stop: string;
  /** What speaks against it, where practitioners differ; shown before it is chosen. */
  readonly against?: string;
  readonly veto: (context: StepContext) => Veto | undefined;
  readonly steps: readonly Step[];
  /** Whether its steps are gone through once more, by itself, as their end is reached. */
  readonly again?: (context: StepContext) => boolean;
}

export interface Procedure {
  readonly id: string;
  readonly title: string;
  readonly steps: readonly Step[];
  /** Ways a recovery may go on from its route step. */
  readonly routes?: readonly Route[];
  /** The part gone through again on "repeat", and how often at most; it begins at the first of `from` that is there. */
  readonly loop: { readonly from: readonly string[]; readonly to: string; readonly repeats: number };
}
