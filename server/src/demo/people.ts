/** Who works in the invented shop, with PINs that stand on its page. */
import type { People } from '../services/people.ts';
import type { Role } from '@cork-ember/core/access/rights.ts';

const PEOPLE: readonly { readonly name: string; readonly role: Role; readonly pin: string }[] = [
  { name: 'Ines', role: 'lead', pin: '4190' },
  { name: 'Tarek', role: 'bench', pin: '7352' },
  { name: 'Solveig', role: 'bench', pin: '2806' },
  { name: 'Odd', role: 'counter', pin: '6041' },
];

export const DEMO_PINS: ReadonlyMap<string, string> = new Map(PEOPLE.map(({ name, pin }) => [name, pin]));

export async function seedPeople(people: People): Promise<void> {
  for (const person of PEOPLE) await people.add(person, 'the demo');
}
