/** The part of the statistics library that is used; it comes without types of its own. */
declare module 'jstat' {
  interface Distribution {
    cdf(value: number, ...parameters: readonly number[]): number;
    inv(share: number, ...parameters: readonly number[]): number;
  }
  const jStat: {
    readonly normal: Distribution;
    readonly studentt: Distribution;
    readonly beta: Distribution;
    readonly chisquare: Distribution;
  };
  export default { jStat };
}
