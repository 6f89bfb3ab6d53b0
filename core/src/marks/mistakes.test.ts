import { seeded } from '../budget';
import { rigid, apply, type Vec } from '../geometry';
import { checkConsistency } from './consistency';
import { findMistake } from './mistakes';
import type { MarkPair } from './solve';

// Boards laid anywhere, their marks near corners and edges, aimed at to ± 0.05 mm; then one thing is done wrong.
const SIGMA = 0.05;
const TRIES = 500;
const PLACES = [[10, 10], [390, 290], [390, 10], [10, 290], [200, 290], [100, 290]] as const; // prettier-ignore

type Done = 'nothing' | 'exchanged' | 'face-down' | 'misread';

/** How many of a hundred are named right, named wrong, and not named, of those that are seen not to agree. */
const named = (marks: number, done: Done): { right: number; wrong: number } => {
  const r = seeded(900 + marks);
  const off = (by: number): number => by * (r.uniform() - 0.5);
  let [right, wrong, seen] = [0, 0, 0];
  for (let i = 0; i < TRIES; i += 1) {
    const drawn = PLACES.slice(0, marks).map(([x, y]): Vec => ({ x: x + off(20), y: y + off(20) }));
    const laid = rigid(off(6), 100, 50);
    const read = drawn.map(({ x, y }) => {
      const p = apply(laid, { x: done === 'face-down' ? -x : x, y });
      return { x: p.x + SIGMA * r.normal(), y: p.y + SIGMA * r.normal() };
    });
    const one = Math.floor(r.uniform() * marks);
    const other = (one + 1 + Math.floor(r.uniform() * (marks - 1))) % marks;
    if (done === 'exchanged') [read[one], read[other]] = [read[other]!, read[one]!];
    if (done === 'misread') {
      const [by, way] = [0.3 * (5 / 0.3) ** r.uniform(), 2 * Math.PI * r.uniform()];
      read[one] = { x: read[one]!.x + by * Math.cos(way), y: read[one]!.y + by * Math.sin(way) };
    }
    const pairs: MarkPair[] = drawn.map((d, k) => ({ id: k + 1, drawn: d, read: read[k]! }));
    if (checkConsistency(pairs, SIGMA)!.verdict === 'agrees') continue;
    seen += 1;
    const mistake = findMistake(pairs, SIGMA);
    if (!mistake) continue;
    const who = mistake.kind === 'misread' ? [mistake.mark] : mistake.kind === 'exchanged' ? [...mistake.marks] : [];
    const true_ = { nothing: [-1], exchanged: [one + 1, other + 1], 'face-down': [], misread: [one + 1] }[done];
    if (mistake.kind === done && String(who.sort()) === String(true_.sort())) right += 1;
    else wrong += 1;
  }
  return { right: (100 * right) / seen, wrong: (100 * wrong) / (done === 'nothing' ? TRIES : seen) };
};

describe('what was done wrong with marks', () => {
  it.each([3, 4, 5, 6])('is named or left open, hardly ever named wrong: %d marks', (marks) => {
    for (const done of ['exchanged', 'face-down'] as const) {
      const { right, wrong } = named(marks, done);
      expect([done, right > 99, wrong < 0.4]).toEqual([done, true, true]);
    }
    const misread = named(marks, 'misread');
    expect(misread.wrong).toBeLessThan(0.5);
    // Of three marks two are left to agree by one distance: what is misread square to it cannot be told apart.
    expect(misread.right).toBeGreaterThan(marks === 3 ? 62 : 94);
    // Five boards in a hundred are asked about although nothing is wrong: of those next to none gets a name.
    expect(named(marks, 'nothing').wrong).toBeLessThan(0.4);
  });
});
