import { addFill, dutyOf, freshMachine, Moves, planTime, seeded } from '@bistre/core';
import { median, table } from './table';

/** The time of a million moves: corners anywhere, and filled rows. Reference: one bare pass over the same arrays that adds up their lengths. */
const r = seeded(7);
const wander = new Moves();
for (let i = 0; i < 1_000_000; i += 1) wander.push(400 * r.uniform(), 300 * r.uniform(), 60 + 300 * r.uniform(), i % 9 === 0 ? 0 : 0.3 + 0.1 * (i % 3)); // prettier-ignore
const filled = new Moves();
const square = [[0, 0], [380, 0], [380, 280], [0, 280]].map(([x, y]) => ({ x: x!, y: y! })); // prettier-ignore
while (filled.count < 1_000_000)
  addFill(filled, [square], { power: 0.4, speed: 250, interval: 0.002, passes: 1 }, 3_000);

const bare = (moves: Moves): number => {
  let length = 0;
  for (let i = 1; i < moves.count; i += 1) length += Math.hypot(moves.x[i]! - moves.x[i - 1]!, moves.y[i]! - moves.y[i - 1]!); // prettier-ignore
  return length;
};
const rows: Parameters<typeof table>[0][number][] = [];
for (const [what, moves] of [
  ['corners anywhere', wander],
  ['filled rows', filled],
] as const) {
  // prettier-ignore
  const planned = await median(5, () => planTime(moves, freshMachine));
  const plain = await median(5, () => bare(moves));
  const each = (planned * 1e6) / moves.count;
  rows.push({
    what: `time of 1,000,000 segments, ${what}`,
    measured: `${each.toFixed(0)} ms`,
    against: `under 800 ms; their lengths alone, in a bare loop: ${((plain * 1e6) / moves.count).toFixed(0)} ms`,
    good: each < 800,
  });
}
const plan = planTime(wander, freshMachine);
const duty = await median(5, () => dutyOf(plan, freshMachine));
rows.push({ what: 'duty of the tube from it', measured: `${duty.toFixed(2)} ms`, against: `${plan.fired.size} powers`, good: duty < 5 }); // prettier-ignore
table(rows);
