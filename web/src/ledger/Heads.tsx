/** Heads of a table's columns: words stand left, figures right. */
export function Heads({ words, figures }: { words: readonly string[]; figures: readonly string[] }) {
  return [...words, ...figures].map((name, index) => (
    <th
      key={name}
      scope="col"
      className={`px-2 py-2 font-semibold lg:px-3 ${index >= words.length ? 'text-right' : ''}`}
    >
      {name}
    </th>
  ));
}
