declare module 'nudged' {
  export function estimate(options: {
    estimator: string;
    domain: readonly { x: number; y: number }[];
    range: readonly { x: number; y: number }[];
  }): { a: number; b: number; x: number; y: number };
}
