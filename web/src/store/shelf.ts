/**
 * What this browser keeps between pages, by name: each with the version of its form and a look whether it is what it says it
 * is. What cannot be read is set aside under another name and said once; it never ends a page.
 */
import { sayTrouble } from '../ui/say.ts';

interface Kept {
  readonly version: number;
  readonly content: unknown;
}

const isKept = (value: unknown): value is Kept =>
  typeof value === 'object' && value !== null && 'version' in value && 'content' in value;

export class Shelf<T> {
  private readonly name: string;
  private readonly what: string;
  private readonly version: number;
  private readonly isOf: (content: unknown) => content is T;

  /**
   * @param what said of it where it could not be read: "What was typed last"
   * @param isOf whether it is of today's form
   */
  constructor(name: string, what: string, version: number, isOf: (content: unknown) => content is T) {
    this.name = name;
    this.what = what;
    this.version = version;
    this.isOf = isOf;
  }

  /** @returns what stands there; undefined where nothing does, or nothing that can be read */
  read(): T | undefined {
    const text = this.text();
    if (text === null) return undefined;
    try {
      const kept: unknown = JSON.parse(text);
      if (isKept(kept) && kept.version === this.version && this.isOf(kept.content)) return kept.content;
    } catch {
      // Said below, as of anything else that cannot be read.
    }
    this.setAside(text);
    return undefined;
  }

  /** @returns whether there was room for it */
  write(content: T): boolean {
    try {
      localStorage.setItem(this.name, JSON.stringify({ version: this.version, content } satisfies Kept));
      return true;
    } catch {
      return false;
    }
  }

  private text(): string | null {
    try {
      return localStorage.getItem(this.name);
    } catch {
      // A browser that keeps nothing for this page.
      return null;
    }
  }

  private setAside(text: string): void {
    try {
      localStorage.setItem(`${this.name}-aside`, text);
      localStorage.removeItem(this.name);
    } catch {
      return;
    }
    setTimeout(() => sayTrouble(`${this.what} could not be read in this browser, and was set aside.`));
  }
}
