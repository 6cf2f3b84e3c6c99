/** Heads of a table's columns: words stand left, figures right. */
export function Heads({
  words,
  figures,
  notOnPhone = [],
}: {
  words: readonly string[];
  figures: readonly string[];
  /** What a phone has no width for: its rows say it elsewhere. */
  notOnPhone?: readonly string[];
}) {
  return [...words, ...figures].map((name, index) => (
    <th
      key={name}
      scope="col"
      className={`px-2 py-2 font-semibold lg:px-3 ${index >= words.length ? 'text-right' : ''} ${notOnPhone.includes(name) ? 'max-sm:hidden' : ''}`}
    >
      {name}
    </th>
  ));
}
