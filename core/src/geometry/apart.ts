import type { Box } from './contour';

/**
 * Which boxes lie over or touch each other, directly or by way of others.
 *
 * @returns their places in the list, group by group; groups and what is in them keep the order of the list
 * @example overlapping([{ minX: 0, maxX: 2, … }, { minX: 5, maxX: 6, … }, { minX: 1, maxX: 3, … }]) // [[0, 2], [1]]
 */
export const overlapping = (boxes: readonly Box[]): readonly (readonly number[])[] => {
  const of = boxes.map((_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (of[at] !== at) {
      of[at] = of[of[at]!]!;
      at = of[at]!;
    }
    return at;
  };
  // From left to right: what has ended meets nothing any more.
  let open: number[] = [];
  for (const i of boxes.map((_, k) => k).sort((a, b) => boxes[a]!.minX - boxes[b]!.minX)) {
    const box = boxes[i]!;
    open = open.filter((j) => boxes[j]!.maxX >= box.minX);
    for (const j of open) {
      const other = boxes[j]!;
      if (other.minY > box.maxY || other.maxY < box.minY) continue;
      const [a, b] = [root(i), root(j)];
      // The first of the list stands for all.
      of[Math.max(a, b)] = Math.min(a, b);
    }
    open.push(i);
  }
  const groups = new Map<number, number[]>();
  boxes.forEach((_, i) => {
    const at = root(i);
    const group = groups.get(at);
    if (group) group.push(i);
    else groups.set(at, [i]);
  });
  return [...groups.values()];
};
