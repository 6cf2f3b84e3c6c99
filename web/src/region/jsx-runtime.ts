/**
 * What JSX is made with here: React's own runtime, and every text on its way to the screen is written as the shop's region
 * writes it. One place instead of every sentence: the core speaks SI, whoever shows it need not know.
 * What a person typed is not rewritten: it stands in an element with `translate="no"`, as HTML says of names and code.
 */
import { Fragment, jsx as reactJsx, jsxs as reactJsxs } from 'react/jsx-runtime';
import type { ElementType, Key, ReactElement, ReactNode } from 'react';
import { inShop } from './shopRegion.ts';

export type { JSX } from 'react';
export { Fragment };

interface Props {
  readonly translate?: 'yes' | 'no';
  readonly children?: ReactNode;
}

/** Attributes that are read to somebody, or shown. */
const SPOKEN = ['aria-label', 'aria-description', 'aria-valuetext', 'title', 'placeholder', 'alt'] as const;

const isText = (child: ReactNode): child is string | number =>
  typeof child === 'string' || typeof child === 'number';

/**
 * The texts among an element's children, each run of them as one: in `{n} °C` the number and its unit are two. A run is
 * put where it began and leaves nothing in the places behind, so that what follows keeps its place.
 */
function written(children: readonly ReactNode[]): ReactNode[] {
  const result: ReactNode[] = [...children];
  for (let at = 0; at < result.length; at += 1) {
    let end = at;
    let run = '';
    for (let child = result[end]; end < result.length && isText(child); child = result[end]) {
      run += String(child);
      end += 1;
    }
    if (end === at) continue;
    result[at] = inShop(run);
    for (let behind = at + 1; behind < end; behind += 1) result[behind] = '';
    at = end - 1;
  }
  return result;
}

/** Properties as the region writes them. */
export function writtenProps<P extends Props>(props: P): P {
  if (props.translate === 'no') return props;
  const { children } = props;
  const changes: Record<string, unknown> = {};
  for (const name of SPOKEN) {
    const said = (props as Readonly<Record<string, unknown>>)[name];
    if (typeof said === 'string') changes[name] = inShop(said);
  }
  if (isText(children)) changes['children'] = inShop(String(children));
  else if (Array.isArray(children) && children.some(isText))
    changes['children'] = written(children as ReactNode[]);
  return Object.keys(changes).length === 0 ? props : { ...props, ...changes };
}

export const jsx = (type: ElementType, props: Props, key?: Key): ReactElement =>
  reactJsx(type, writtenProps(props), key);

export const jsxs = (type: ElementType, props: Props, key?: Key): ReactElement =>
  reactJsxs(type, writtenProps(props), key);
