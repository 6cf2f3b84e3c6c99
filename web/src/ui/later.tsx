/**
 * Parts of the interface that are fetched when they are first wanted: a view, a pane, a chart. One that could not be fetched
 * throws where it stands and is asked for again once its view is tried again. On plain http, where no service worker keeps
 * the program, all of them are fetched while nobody wants anything, so that they open with the server away.
 */
import { Suspense, use, useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { idle } from '../api/gently.ts';

export interface Part<T> {
  /** What was fetched; undefined before. */
  readonly now: () => T | undefined;
  /** Fetches it once, however often it is asked for. */
  readonly fetch: () => Promise<T>;
  /** Lets go of a fetch that failed. */
  readonly forgetFailed: () => void;
}

const parts: Part<unknown>[] = [];

/** Anything that is fetched when it is first wanted. */
export function partOf<T>(load: () => Promise<T>): Part<T> {
  let there: T | undefined;
  let hasFailed = false;
  let coming: Promise<T> | undefined;
  const part: Part<T> = {
    now: () => there,
    fetch: () =>
      (coming ??= load().then(
        (value) => (there = value),
        (error: unknown) => {
          hasFailed = true;
          throw error;
        },
      )),
    forgetFailed: () => {
      if (hasFailed) coming = undefined;
      hasFailed = false;
    },
  };
  parts.push(part);
  return part;
}

/** A view: the one before stays until it is there. */
export function laterView(load: () => Promise<ComponentType>): ComponentType {
  const part = partOf(load);
  return function View() {
    const There = part.now() ?? use(part.fetch());
    return <There />;
  };
}

/**
 * A part of a view.
 * @param meanwhile what stands there until it has come
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  meanwhile: ReactNode = null,
): ComponentType<P> & { readonly part: Part<ComponentType<P>> } {
  const part = partOf(load);
  function Inside(props: P) {
    const There = part.now() ?? use(part.fetch());
    return <There {...props} />;
  }
  function Later(props: P) {
    return (
      <Suspense fallback={meanwhile}>
        <Inside {...props} />
      </Suspense>
    );
  }
  return Object.assign(Later, { part });
}

/** What could not be fetched is asked for again when it is next wanted. */
export function forgetFailed(): void {
  for (const part of parts) part.forgetFailed();
}

/** Fetches a part while nobody wants anything. One that is not to be had now is asked for when it is wanted. */
export async function fetchSoon(part: Part<unknown>): Promise<void> {
  await idle();
  await part.fetch().catch(part.forgetFailed);
}

/** Fetches every part, one after the other; what a part brings with it is fetched too. */
export async function fetchAll(): Promise<void> {
  for (let at = 0; at < parts.length; at++) {
    const part = parts[at];
    if (part) await fetchSoon(part);
  }
}

/**
 * A part its view stands without: fetched while nobody wants anything, shown once it has come. One that is not to be had is
 * left out, and asked for again when its view is next gone to.
 */
export function extra<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const part = partOf(load);
  return function Extra(props: P) {
    const [There, setThere] = useState(() => part.now());
    useEffect(() => {
      if (There) return undefined;
      let isWanted = true;
      void fetchSoon(part).then(() => isWanted && setThere(() => part.now()));
      return () => {
        isWanted = false;
      };
    }, [There]);
    return There ? <There {...props} /> : null;
  };
}
