/** What changed under the hand, for whoever hears the page: said when it changes, seen elsewhere. */
export function Announced({ text }: { text: string }) {
  return (
    <p aria-live="polite" className="sr-only">
      {text}
    </p>
  );
}
