/**
 * The instruments a shop holds in its hands, told once: forms begin with what they show, and ask for nothing they do not
 * show. A shop that has told nothing is asked at every step, as one with several of a kind would be.
 */
export const HAND_INSTRUMENTS = {
  loadTester: {
    title: 'Load tester',
    kinds: {
      volts: 'shows volts',
      colours: 'green, yellow, red only',
      none: 'none',
    },
  },
  hydrometer: {
    title: 'Hydrometer',
    kinds: {
      figures: 'a scale of figures',
      bands: 'coloured bands, or balls',
      none: 'none',
    },
  },
  tester: {
    title: 'Conductance tester',
    kinds: {
      figure: 'shows a figure',
      slip: 'prints a slip: range, charge, health',
      none: 'none',
    },
  },
} as const;

export type HandInstrument = keyof typeof HAND_INSTRUMENTS;
export type KindOf<I extends HandInstrument> = keyof (typeof HAND_INSTRUMENTS)[I]['kinds'];

/** Of each the kind this shop has; what is left out was not told. */
export type HandInstruments = { readonly [I in HandInstrument]?: KindOf<I> };

export const HAND_INSTRUMENT_IDS = Object.keys(HAND_INSTRUMENTS) as HandInstrument[];

/** The answers an instrument gives by itself, by its kind. */
export type Giving = {
  readonly [I in HandInstrument]: {
    readonly instrument: I;
    readonly gives: Readonly<Partial<Record<KindOf<I>, string>>>;
  };
}[HandInstrument];

/** The kinds of an instrument that show what is asked. */
export type ShownBy = {
  readonly [I in HandInstrument]: { readonly instrument: I; readonly kinds: readonly KindOf<I>[] };
}[HandInstrument];

/** The answer the shop's instruments give by themselves: the first that was told and gives one. */
export function givenBy(usual: readonly Giving[] | undefined, held: HandInstruments): string | undefined {
  for (const { instrument, gives } of usual ?? []) {
    const kind = held[instrument];
    const given =
      kind === undefined ? undefined : (gives as Readonly<Record<string, string | undefined>>)[kind];
    if (given !== undefined) return given;
  }
  return undefined;
}

/** Whether this shop's instrument shows what is asked, as far as it was told. */
export function isShownBy(by: ShownBy | undefined, held: HandInstruments): boolean {
  const kind = by && held[by.instrument];
  return kind === undefined || (by?.kinds as readonly string[]).includes(kind);
}
