declare module 'jstat' {
  interface Distribution {
    cdf(x: number, ...parameters: number[]): number;
    inv(p: number, ...parameters: number[]): number;
  }
  const jStat: {
    normal: Distribution;
    studentt: Distribution;
    chisquare: Distribution;
    noncentralt: Distribution;
    gammaln(x: number): number;
  };
  export default jStat;
}
