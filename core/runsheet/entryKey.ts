/** "#7": how an entry is referred to. Its place in its log, which nothing changes, whatever is mended later. */
export const entryKey = (seq: number): string => `#${seq}`;
