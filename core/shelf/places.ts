/** Where a battery is that stands on no bench, and what that means for it. */
import type { Warmth } from './warmth.ts';

export const PLACE_KINDS = [
  'shelf',
  'cold',
  'display',
  'maintainer',
  'laidUp',
  'lent',
  'customer',
  'sold',
  'supplier',
  'recycled',
] as const;

export type PlaceKind = (typeof PLACE_KINDS)[number];

interface PlaceFacts {
  /** At the head of a line: "Cold store". */
  readonly name: string;
  /** In a sentence: "in the cold store". */
  readonly where: string;
  /** The shop looks after it: it is read, charged and shown as due. */
  readonly isKept: boolean;
  /** Whoever has it is called: when it is due back, or before the season. */
  readonly isCalled?: true;
  /** It can be taken from here for somebody who needs one. */
  readonly isForTaking: boolean;
  /** A name goes with it: of the machine, or of who has it. */
  readonly names?: 'rack' | 'machine' | 'person';
}

export const PLACES: Readonly<Record<PlaceKind, PlaceFacts>> = {
  shelf: { name: 'Shelf', where: 'on the shelf', isKept: true, isForTaking: true, names: 'rack' },
  cold: { name: 'Cold store', where: 'in the cold store', isKept: true, isForTaking: true, names: 'rack' },
  display: {
    name: 'Display',
    where: 'out of a display machine',
    isKept: true,
    isForTaking: false,
    names: 'machine',
  },
  maintainer: {
    name: 'Maintained',
    where: 'on a maintainer',
    isKept: true,
    isForTaking: true,
    names: 'rack',
  },
  laidUp: {
    name: 'Laid up',
    where: 'in a machine laid up',
    isKept: true,
    isForTaking: false,
    names: 'machine',
  },
  lent: {
    name: 'Lent',
    where: 'lent out',
    isKept: true,
    isCalled: true,
    isForTaking: false,
    names: 'person',
  },
  customer: {
    name: 'With the customer',
    where: 'with its customer',
    isKept: false,
    isCalled: true,
    isForTaking: false,
    names: 'person',
  },
  sold: { name: 'Sold', where: 'sold', isKept: false, isForTaking: false },
  supplier: {
    name: 'Back to the supplier',
    where: 'back with its supplier',
    isKept: false,
    isForTaking: false,
  },
  recycled: { name: 'Recycled', where: 'with the recycler', isKept: false, isForTaking: false },
};

/** A place as it is recorded: it says all that its prediction needs. */
export interface Place {
  readonly kind: PlaceKind;
  /** The rack, or the machine. */
  readonly name: string;
  /** Id of the charger that maintains it. */
  readonly charger?: string;
  /** Tag of the machine it works in, or is out of. */
  readonly machine?: string;
  /** Who has it; kept apart from the record, so that it can be deleted. */
  readonly to?: string;
  readonly warmth?: Warmth;
  /** Dry-charged and not filled yet: it has no voltage, and ages by its date code. */
  readonly isDry?: true;
  /** Of what it is connected to, mA. */
  readonly drawMa?: number;
}

/** "Dry rack 3", "Quad bike 12", or what kind of place it is. */
export const placeName = ({ kind, name }: Place): string => (name === '' ? PLACES[kind].name : name);
