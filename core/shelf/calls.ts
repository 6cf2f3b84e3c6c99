/** Who is to be called about a battery off the bench (handbook 4: before winter, before summer, and while it is lent). */
import { isStock } from '../battery/owner.ts';
import type { Due } from './due.ts';
import type { Shelved } from './overview.ts';
import type { PlaceKind } from './places.ts';
import { DAY_MS } from './warmth.ts';
import { doesOf } from './words.ts';

export interface Call {
  readonly one: Shelved;
  /** Others of its machine: they are spoken of in the same call. */
  readonly others?: readonly Shelved[];
  /** Whoever has it, or owns it. */
  readonly who: string;
  readonly why: string;
  readonly by: number;
}

/** So far ahead a call is made. */
const AHEAD_MS = 14 * DAY_MS;
/** Called so lately, they need not hear of it again. */
const LATELY_MS = 14 * DAY_MS;
/** Where somebody else has it in hand. */
const ELSEWHERE: readonly PlaceKind[] = ['laidUp', 'lent', 'customer'];

/** An owner hears of a charge or a reading of his own before it is due, too. */
const concerns = ({ want }: Due, isOwners: boolean): boolean =>
  want === 'call' || (isOwners && (want === 'recharge' || want === 'read'));

/** One call for all that work in one machine. */
function byMachine(calls: readonly Call[]): readonly Call[] {
  const rest = new Map<string, Call[]>();
  return calls
    .filter((call) => {
      const { machine } = call.one.place ?? {};
      if (machine === undefined) return true;
      const others = rest.get(machine);
      if (others) others.push(call);
      else rest.set(machine, []);
      return others === undefined;
    })
    .map((call) => {
      const others = rest.get(call.one.place?.machine ?? '')?.map(({ one }) => one) ?? [];
      return others.length === 0 ? call : { ...call, others };
    });
}

/** The soonest first. */
export function callsAt(shelved: readonly Shelved[], now: number): readonly Call[] {
  const calls = shelved
    .flatMap((one): readonly Call[] => {
      const { place, owner, called, due } = one;
      if (!place || !ELSEWHERE.includes(place.kind) || (called && now - called.at < LATELY_MS)) return [];
      const isOwners = !isStock(owner);
      const first = due.find((each) => concerns(each, isOwners) && each.by <= now + AHEAD_MS);
      if (!first) return [];
      const who = place.to ?? (isOwners ? owner : 'Nobody’s name is on it');
      const why = first.want === 'call' ? first.because : `${doesOf(first.want)}: ${first.because}`;
      return [{ one, who, why, by: first.by }];
    })
    .sort((a, b) => a.by - b.by);
  return byMachine(calls);
}
