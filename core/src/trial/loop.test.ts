import { answerOf, EYE, hiddenMaterial, lookAt } from '../bench-sim';
import { seeded } from '../budget';
import { freshMachine } from '../burn';
import { judgeTrials, type AskedNumber, type Tried } from './next';
import { spreadLevels, trialRange } from './plan';

const OFF = Number(process.env.OFF ?? 0);
const POWER = 60;
const machine = { ...freshMachine, power: POWER, leastPower: 0.13, rapidSpeed: 500 };
const asked = (number: 'speed' | 'power'): AskedNumber => ({ number, range: number === 'speed' ? [20, 500] : trialRange(number, machine), levels: 5 }); // prettier-ignore
const BASE = { power: 0.5, speed: 200, interval: 0.1, passes: 1 };

/** Two grids of 25 on a hidden material, and what the cell that is taken is worth beside the best of a full grid. */
const run = (seed: number, noise = EYE) => {
  const hidden = hiddenMaterial(seed, 'mark', 1.6);
  const [a, b] = [asked('speed'), asked('power')];
  const look = (speed: number, power: number) => answerOf(hidden, POWER, { ...BASE, speed, power });
  const r = seeded(seed + 1);
  const tried: Tried[] = [];
  const burn = (as: readonly number[], bs: readonly number[]): void => {
    for (const y of bs)
      for (const x of as) {
        const s = lookAt(look(x, y), 0, noise === 0 ? { ...r, normal: () => 0 } : r);
        tried.push({ a: x, b: y, grade: s.grade, tell: s.tell });
      }
  };
  burn(spreadLevels('speed', 60, 420, 5), spreadLevels('power', 0.2, 0.9, 5));
  let judged = judgeTrials(a, b, tried);
  const kinds: string[] = [judged.next.kind];
  if ('a' in judged.next) {
    burn(judged.next.a, judged.next.b);
    judged = judgeTrials(a, b, tried);
    kinds.push(judged.next.kind);
  }
  let full = 0;
  for (const x of Array.from({ length: 50 }, (_, i) => 20 * 25 ** (i / 49)))
    for (const y of Array.from({ length: 50 }, (_, i) => 0.13 * (1 / 0.13) ** (i / 49)))
      full = Math.max(full, look(x, y).grade);
  const cell = tried[judged.best.index]!;
  const there = Math.max(...tried.map((t) => look(t.a, t.b).grade)) / full;
  return {
    there,
    said: judged.best,
    share: look(cell.a, cell.b).grade / full,
    full,
    kinds,
    cells: tried.length,
    cell,
    hidden,
  };
};

it('two grids of 25 find the best in 95 % of 200 hidden materials', () => {
  const runs = Array.from({ length: 200 }, (_, i) => run(i + 1 + OFF));
  const good = runs.filter((x) => x.share >= 0.95).length;
  console.log(
    good,
    runs
      .map((x) => x.share.toFixed(2))
      .sort()
      .slice(0, 20)
      .join(' '),
    runs
      .filter((x) => x.share < 0.95)
      .map(
        (x) =>
          `there ${x.there.toFixed(3)} said ${x.said.mean.toFixed(1)}±${x.said.doubt.toFixed(1)} ${x.kinds.join('>')} ${x.share.toFixed(2)} of ${x.full.toFixed(1)} at ${x.cell.a},${x.cell.b} soft ${x.hidden.soft.toFixed(0)}`,
      )
      .join('\n'),
  );
  expect(good).toBeGreaterThanOrEqual(190);
});
