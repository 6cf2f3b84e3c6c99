/** Ways a recovery may go from here to its proof: a route, with the waking before and the charging after it that it needs. */
import { inSentence } from '../units/inSentence.ts';

/** A route by its name, and what the run sheet says of it for this battery. */
export interface Judged {
  readonly route: { readonly id: string; readonly title: string };
  readonly veto:
    { readonly why: string; readonly canOverride: boolean; readonly isUntilCharged?: boolean } | undefined;
}

export interface Course {
  /** The route it is about. */
  readonly id: string;
  readonly title: string;
  /** Routes in the order they are gone; the first is what the run sheet takes next. */
  readonly routes: readonly string[];
  /** The house's rule that a reason would have to pass over. */
  readonly wants?: string;
  /** Ways on from its end, of which one is chosen by what it then shows; none of their routes proves it as it stands. */
  readonly onward?: readonly Onward[];
}

/** A way on once the first step is done. */
export interface Onward {
  readonly id: string;
  readonly title: string;
  readonly routes: readonly string[];
}

export interface Forbidden {
  readonly title: string;
  readonly why: string;
}

export interface Ways {
  readonly courses: readonly Course[];
  readonly forbidden: readonly Forbidden[];
}

const WAKES = ['supply-wake', 'donor-wake', 'forced-start'] as const;

/** Whether a route only wakes a battery. */
export const isWake = (id: string): boolean => (WAKES as readonly string[]).includes(id);

/** Whether a route may bring a battery back by itself: ends of a way do not, nor what leaves it uncharged. */
export const bringsBack = (id: string): boolean =>
  !isWake(id) && id !== 'prove' && id !== 'retire' && id !== 'water-back';

/** What must be gone before and after a route for the battery to be charged at its end. */
const AROUND: Record<string, (isAgm: boolean) => readonly string[]> = {
  'slow-charge': () => ['slow-charge'],
  'high-then-low': () => ['high-then-low'],
  'constant-current': () => ['constant-current'],
  'long-soak': () => ['long-soak'],
  pulse: () => ['pulse'],
  equalise: () => ['slow-charge', 'equalise'],
  layered: () => ['slow-charge', 'layered'],
  'water-back': (isAgm) => ['water-back', isAgm ? 'long-soak' : 'slow-charge'],
  // Each cycle ends with its own recharge.
  cycle: () => ['cycle'],
};

const AFTER_WORDS: Record<string, string> = {
  equalise: 'Slow charge, then equalise',
  layered: 'Slow charge, then mix the acid',
  'water-back': 'Water back, then charge',
};

const NOT_OPEN = 'Not open to this battery.';

/**
 * First steps that leave it charged: after one it is looked at, and decided anew. After those every bench begins with, all that is open then
 * is weighed; after the others, whether it is proved.
 */
const DECIDED_AFTER: readonly string[] = [
  'slow-charge',
  'high-then-low',
  'constant-current',
  'long-soak',
  'pulse',
  'water-back',
];
const THEN_ALL: readonly string[] = ['slow-charge', 'water-back'];
/** Charges that do no more for a charged battery than the one it had. */
const CHARGES: readonly string[] = ['slow-charge', 'high-then-low'];

/** Ways on from a charged battery: what an uncharged one may not have yet is open to it then. */
function onwardFrom(judged: readonly Judged[], done: readonly string[], isAgm: boolean): Onward[] {
  const isOpen = (id: string): boolean => {
    const one = judged.find(({ route }) => route.id === id);
    return one !== undefined && (one.veto === undefined || one.veto.isUntilCharged === true);
  };
  const treatments = judged.flatMap(({ route }): Onward[] => {
    const own = AROUND[route.id]?.(isAgm);
    if (!own || done.includes(route.id) || CHARGES.includes(route.id)) return [];
    // The charge that would come first is behind it.
    const routes = own.filter((id) => id === route.id || !done.includes(id));
    return routes.every(isOpen) ? [{ id: route.id, title: route.title, routes }] : [];
  });
  return [
    { id: 'prove', title: 'Prove it as it stands', routes: [] },
    ...(done.some((id) => THEN_ALL.includes(id)) ? treatments : []),
    { id: 'retire', title: 'Retire it', routes: [] },
  ];
}

/** A way the house takes without being asked: what its own rule is against is shown, and never recommended. */
export const isOfTheHouse = ({ wants }: Course): boolean => wants === undefined;

/**
 * Vetoes come before any arithmetic: what safety forbids is not a course at all. A rule of the house makes one
 * that wants a reason.
 * @param isAsleep below what a charger sees: it is woken first, by the house's method
 */
export function waysFrom(judged: readonly Judged[], isAgm: boolean, isAsleep: boolean): Ways {
  const byId = new Map(judged.map((one) => [one.route.id, one]));
  const isShut = (id: string): boolean => {
    const one = byId.get(id);
    return one === undefined || (one.veto !== undefined && !one.veto.canOverride);
  };
  const wake = isAsleep ? WAKES.find((id) => byId.get(id)?.veto === undefined && byId.has(id)) : undefined;
  const courses: Course[] = [];
  const forbidden: Forbidden[] = [];
  for (const { route, veto } of judged) {
    const own = AROUND[route.id]?.(isAgm);
    const shut = [route.id, ...(own ?? [])].find(isShut);
    if (shut !== undefined) {
      const isIdleWake = !isAsleep && isWake(route.id);
      if (!isIdleWake) forbidden.push({ title: route.title, why: byId.get(shut)?.veto?.why ?? NOT_OPEN });
      continue;
    }
    const isOtherWake = isAsleep && isWake(route.id) && route.id !== wake;
    if (isOtherWake && !isShut('slow-charge'))
      courses.push({
        id: route.id,
        title: `${route.title}, then slow charge`,
        routes: [route.id, 'slow-charge'],
        ...(veto === undefined ? {} : { wants: veto.why }),
      });
    if (!own) continue;
    if (isAsleep && wake === undefined) {
      forbidden.push({ title: route.title, why: 'It must be woken first, and no way to wake it is open.' });
      continue;
    }
    // Water goes into a discharged battery, so it comes before the waking; all else after it.
    const dry = own.filter((id) => id === 'water-back');
    const routes = [
      ...dry,
      ...(wake === undefined ? [] : [wake]),
      ...own.filter((id) => id !== 'water-back'),
    ];
    const title = AFTER_WORDS[route.id] ?? route.title;
    const isWoken = wake !== undefined && dry.length === 0;
    courses.push({
      id: route.id,
      title: isWoken ? `${byId.get(wake)?.route.title ?? wake}, then ${inSentence(title)}` : title,
      routes,
      ...(DECIDED_AFTER.includes(route.id) ? { onward: onwardFrom(judged, routes, isAgm) } : {}),
      // Waking or charging first is what the rule asks for: then it wants no reason any more.
      ...(veto === undefined || wake !== undefined || (veto.isUntilCharged && own[0] !== route.id)
        ? {}
        : { wants: veto.why }),
    });
  }
  if (!isAsleep && !isShut('prove'))
    courses.push({ id: 'prove', title: 'Prove it as it stands', routes: ['prove'] });
  courses.push({ id: 'retire', title: 'Retire it', routes: ['retire'] });
  return { courses, forbidden };
}
