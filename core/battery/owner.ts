/** Whose a battery is. */

/** The shop's own. */
const STOCK = 'stock';
/** Whatever is said after it: “stock, from the night ferry’s set”. */
const BEGINS_AS_STOCK = /^stock\b/i;

/** As it is recorded: what nobody said anything of is the shop's. */
export function ownerFrom(said: string): string {
  const owner = said.trim();
  return owner === '' ? STOCK : owner;
}

export const isStock = (owner: string): boolean => owner === '' || BEGINS_AS_STOCK.test(owner);
