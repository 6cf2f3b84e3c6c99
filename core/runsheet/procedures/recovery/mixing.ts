/** Cells whose acid stands apart: layered acid stirred by gas, and the over-voltage equalise (handbook 3.4 and 4). */
import { neverEqualised } from '../../../charge/ceilings.ts';
import { fullVerdict } from '../../verdict/commissioningVerdict.ts';
import type { StepValues } from '../../../units/values.ts';
import { BANDS, isBand } from '../../definition/fields.ts';
import {
  areAlike,
  densitiesAt25,
  ofCells,
  SPREAD_BAD,
  SPREAD_EQUALISE,
  spreadOf,
} from '../../definition/densities.ts';
import { isOfEdition } from '../../entries/edition.ts';
import type { GateStep, Route, Step, StepContext, Veto } from '../../definition/step.ts';
import { clipsOffAfter } from '../shared/charge.ts';
import { closedAgain, hydrometerFields } from './openedCells.ts';
import { byHouse, hard, isFlooded, readRested, tooDeep } from './shared.ts';
import { chargeToGassing, off, overVoltage, treat } from './treatments.ts';

const firstDensities = ({ valuesOf, opened: { type } }: StepContext): readonly (number | undefined)[] =>
  densitiesAt25(valuesOf('density-before'), type.cells);

function spreadVeto(at25: readonly (number | undefined)[]): Veto | undefined {
  const spread = spreadOf(at25);
  if (spread !== undefined && spread > SPREAD_BAD)
    return byHouse(`Cells differ by ${spread.toFixed(3)}: more likely a bad cell than layered acid.`);
  return spread !== undefined && spread < SPREAD_EQUALISE
    ? byHouse(`Cells differ by ${spread.toFixed(3)} only: nothing to even out.`)
    : undefined;
}

/** Three rounds in a row alike within this, cell by cell, and the acid is level (g/cm³). */
const LEVEL_WITHIN = 0.01;
const LEVEL_ROUNDS = 3;
/** After so many rounds it is no layer that keeps the cells apart (reasoned: sixteen hours of gassing). */
const MOST_MIXING = 8;

/** Densities of the rounds of mixing so far, the first first. */
function mixed(context: StepContext): readonly (readonly (number | undefined)[])[] {
  return context.routes
    .filter(({ route, leftFor }) => route === 'layered' && leftFor === undefined)
    .map(({ round }) => {
      const values = context.valuesIn('mix-density', round);
      const { cells } = context.opened.type;
      return values['by'] === 'bands' ? bandMiddles(values, cells) : densitiesAt25(values, cells);
    });
}

/** By bands, cells are alike where they show the same one: a middle stands for all of it. */
const bandMiddles = (values: StepValues, cells: number): readonly (number | undefined)[] =>
  ofCells(values, 'band')
    .slice(0, cells)
    .map((band) => (isBand(band) ? (BANDS[band].low + BANDS[band].high) / 2 : undefined));

const isLevel = (rounds: readonly (readonly (number | undefined)[])[]): boolean =>
  rounds.length >= LEVEL_ROUNDS && areAlike(rounds.slice(-LEVEL_ROUNDS), LEVEL_WITHIN);

const goesOn = (context: StepContext): boolean =>
  !isLevel(mixed(context)) && mixed(context).length < MOST_MIXING;

/** What two hands rock: heavier ones are stirred by gas alone (reasoned: about ten kilograms). */
const ROCKED_UP_TO_AH = 30;

/** A small one is rocked, its gas gone and its clips off (handbook 4). */
export const rocked = (id: string): GateStep => ({
  kind: 'gate',
  id,
  title: 'Rock it, if it is small',
  detail: () =>
    'Charger off, gas gone, clips off. Twenty degrees at most to either side, slowly, a dozen times. Never one with heavy sediment: it shorts the plates.',
  isFor: ({ capacityAh }) => capacityAh <= ROCKED_UP_TO_AH,
  claims: [
    'Clips are off, caps are on',
    'No heavy sediment under the plates',
    'No more than 20°, never upside down',
  ],
  affirmLabel: 'Rocked, set down level',
  denials: [
    {
      id: 'sediment',
      label: 'There is heavy sediment',
      say: 'Do not rock it: the sediment would short its plates. Leave this out; the gas has stirred it.',
      leads: 'hold',
    },
  ],
  skipLabel: 'Not rocked: the gas has stirred it',
  handsMin: 3,
  overdueAfterMin: 60,
  cautions: ['acid', 'heavy'],
});

const NOT_FULL: Veto = {
  ...byHouse('It is not proven full yet: it takes charge before it gasses, and only gas stirs.'),
  isUntilCharged: true,
};

export const LAYERED: Route = {
  id: 'layered',
  title: 'Mix layered acid',
  isFor: 'Flooded, full by its voltage but thin on top: after water, or charges too gentle to gas.',
  stop: 'Density of every cell alike within 0.010 over three rounds; eight rounds at most.',
  veto: (context) => {
    if (!isFlooded(context))
      return hard(
        context.opened.type.construction === 'gel'
          ? 'The acid of a gel battery is set: it is not stirred.'
          : 'The acid of an AGM is held in its mats: it is not stirred.',
      );
    if (context.valuesOf('open-cells')['caps'] === 'closed')
      return hard('Its cells stay closed: no density tells whether its acid is level.');
    if (mixed(context).length >= MOST_MIXING)
      return hard('Eight rounds have not brought it level: it is no layer that keeps the cells apart.');
    const last = context.lastCharge();
    const isFull = mixed(context).length > 0 || (last && fullVerdict(context, last).isMet);
    return tooDeep(context) ?? (isFull ? undefined : NOT_FULL);
  },
  steps: [
    treat('mix', 'Charge to gassing', 60, chargeToGassing),
    ...clipsOffAfter('mix', 'mix-gas', 'mix-clips'),
    rocked('mix-rock'),
    {
      kind: 'measure',
      id: 'mix-density',
      title: 'Density of every cell',
      detail: (context) => {
        const rounds = mixed(context).length;
        return `Round ${rounds}. From the top of each cell, positive post first; it is corrected to 25 °C here.`;
      },
      fields: hydrometerFields,
      holds: () => undefined,
      denials: [],
      remark: (values, context) => {
        const rounds = mixed(context);
        if (isLevel(rounds))
          return values['by'] === 'bands'
            ? 'Three rounds in the same bands: level, as far as bands tell.'
            : 'Three rounds alike: the acid is level.';
        return rounds.length >= MOST_MIXING
          ? 'Eight rounds, and not alike: no layer keeps these cells apart.'
          : `${rounds.length} of at least ${LEVEL_ROUNDS} rounds; it goes on until three are alike within 0.010.`;
      },
      handsMin: 4,
      overdueAfterMin: 60,
      cautions: ['acid'],
    },
    ...closedAgain('mix').map((step): Step => ({
      ...step,
      isMoot: (context) => goesOn(context) || (step.isMoot?.(context) ?? false),
    })),
  ],
  again: goesOn,
};

export const EQUALISE: Route = {
  id: 'equalise',
  title: 'Equalise',
  isFor: 'Flooded, cells apart or acid layered. Experts only.',
  stop: 'Three hourly densities agree; 45 °C, 4 h or a low level end it.',
  against: 'Known to bite beginners: it costs water and heat.',
  veto: (context) => {
    if (!isFlooded(context)) return hard(neverEqualised(context.opened.type));
    if (context.opened.rules.equalise === 'off')
      return hard('By this house’s rule over-voltage equalising is off.');
    if (!isOfEdition(context.opened, 4)) return spreadVeto(firstDensities(context));
    const newest = context.newestDensities();
    if (!newest?.isCharged)
      return {
        ...byHouse(
          'Cells that differ before a charge say nothing of their acid: charge it to full and read the density of every cell first.',
        ),
        isUntilCharged: true,
      };
    return spreadVeto(newest.at25);
  },
  steps: [
    {
      kind: 'gate',
      id: 'equalise-expert',
      title: 'Before it is equalised',
      detail: () => '15.5 to 16.2 V throws gas and acid mist; every other battery is away from it.',
      claims: [
        'An expert stays with it',
        'Level above the plates in every cell, vents open',
        'Nothing else connected',
      ],
      affirmLabel: 'All so',
      denials: [
        {
          id: 'level-low',
          label: 'A level is low',
          say: 'Distilled water first, then again.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 30,
      cautions: ['acid', 'gas', 'attended'],
    },
    treat('over-voltage', 'Equalise', 60, overVoltage, { cautions: ['attended'] }),
    ...off('over-voltage'),
    readRested,
  ],
};
