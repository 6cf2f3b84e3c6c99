/** The first day of a shop: what is set up one after the other, each done or left for later. */

export const FIRST_DAY = {
  people: { title: 'Who works here', why: 'Every entry carries a name; a tap chooses it.' },
  shop: { title: 'The shop', why: 'Its name stands on every paper, its letters on every tag.' },
  region: {
    title: 'How figures are written',
    why: 'Degrees, volumes, masses, dates and money: so on every screen and paper, and so they are typed.',
  },
  hours: {
    title: 'When it is open',
    why: 'No promise is planned for a closed door, and no acid goes in too late.',
  },
  chargers: { title: 'Chargers and bays', why: 'Only what suits a battery is offered for it.' },
  instruments: {
    title: 'What you measure with',
    why: 'Told once: forms ask for what your instruments show.',
  },
  stock: { title: 'What is kept', why: 'What you count in is watched; what you never had is not spoken of.' },
} as const;

export type FirstDayStep = keyof typeof FIRST_DAY;
export const FIRST_DAY_STEPS = Object.keys(FIRST_DAY) as FirstDayStep[];

/** What became of each step so far; a step that is not named is still ahead. */
export type FirstDay = Readonly<Partial<Record<FirstDayStep, 'done' | 'skipped'>>>;

/** The step at hand; undefined once all are done or left. */
export const stepAtHand = (firstDay: FirstDay): FirstDayStep | undefined =>
  FIRST_DAY_STEPS.find((step) => firstDay[step] === undefined);
