/**
 * A made-up but well-formed id of a demo battery's job, the same at every seeding.
 * @param visit how often it has been here, this one included
 */
export function idOf(tag: string, visit = 1): string {
  const digits = tag.replace(/\D/g, '').padStart(4, '0');
  return `5ce77e00-0000-4000-8000-0000000${visit - 1}${digits}`;
}
