import { Matrix, solve } from 'ml-matrix';
import { answerOf, hiddenMaterial, lookAt } from '@bistre/core/bench-sim';
import { judgeTrials, seeded, spreadLevels, type Tried } from '@bistre/core';
import { median, table } from './table';

/** The next grid from what was said of 50 cells. Reference: one least-squares fit of the same quadratic by another library. */
const hidden = hiddenMaterial(3, 'mark', 1.6);
const r = seeded(9);
const tried: Tried[] = [
  [spreadLevels('speed', 60, 420, 5), spreadLevels('power', 0.2, 0.9, 5)] as const,
  [spreadLevels('speed', 90, 240, 5), spreadLevels('power', 0.3, 0.7, 5)] as const,
].flatMap(([as, bs]) =>
  bs.flatMap((b) =>
    as.map((a) => {
      const { grade, tell } = lookAt(answerOf(hidden, 60, { power: b, speed: a, interval: 0.1, passes: 1 }), 0, r);
      return { a, b, grade, tell };
    }),
  ),
);
const speed = { number: 'speed' as const, range: [20, 500] as const, levels: 5 };
const power = { number: 'power' as const, range: [0.13, 1] as const, levels: 5 };
const judged = await median(9, () => judgeTrials(speed, power, tried));
const one = await median(9, () => judgeTrials(speed, power, tried.slice(0, 25)));
const plain = await median(9, () => {
  const terms = tried.map(({ a, b }) => [1, Math.log(a), Math.log(b), Math.log(a) ** 2, Math.log(a) * Math.log(b), Math.log(b) ** 2]); // prettier-ignore
  return solve(new Matrix(terms), Matrix.columnVector(tried.map((t) => t.grade)), true);
});
table([
  {
    what: 'surface, best cell and next grid from 50 cells',
    measured: `${judged.toFixed(1)} ms`,
    against: `under 100 ms; one plain quadratic by ml-matrix: ${plain.toFixed(2)} ms`,
    good: judged < 100,
  },
  { what: '… from the first 25', measured: `${one.toFixed(1)} ms`, against: 'under 100 ms', good: one < 100 },
]);
