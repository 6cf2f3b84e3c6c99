/** The same while developing, with React's own help for whoever changes a view. */
import { jsxDEV as reactJsxDev, type JSXSource } from 'react/jsx-dev-runtime';
import type { ElementType, Key, ReactElement } from 'react';
import { writtenProps } from './jsx-runtime.ts';

export { Fragment } from 'react/jsx-runtime';
export type { JSX } from 'react';

export const jsxDEV = (
  type: ElementType,
  props: Parameters<typeof writtenProps>[0],
  key: Key | undefined,
  isStatic: boolean,
  source?: JSXSource,
  self?: unknown,
): ReactElement => reactJsxDev(type, writtenProps(props), key, isStatic, source, self);
