import { useEffect, useState } from 'react';

/**
 * The width of an element as laid out, px.
 * @returns a ref for the element, which may appear later, and its width
 */
export function useWidth<T extends HTMLElement>(initial: number): [(element: T | null) => void, number] {
  const [element, setElement] = useState<T | null>(null);
  const [width, setWidth] = useState(initial);
  useEffect(() => {
    if (!element) return undefined;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return [setElement, width];
}
