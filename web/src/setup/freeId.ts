/** An id nobody has to type: "charger-4". */
export function freeId(word: string, taken: readonly { readonly id: string }[]): string {
  let number = taken.length + 1;
  while (taken.some(({ id }) => id === `${word}-${number}`)) number += 1;
  return `${word}-${number}`;
}
