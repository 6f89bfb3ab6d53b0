import type { Ink } from './ink';

/**
 * Closed lines between print and paper, in dots from the picture's upper left corner, y down: x and y
 * in turn. Print lies to the left of the line as it runs in these axes, so outer lines have a
 * positive area where y runs up and holes a negative one.
 */
export interface Ring {
  readonly points: Float64Array;
}

/** Most points of all rings together; a picture with more is noise or a photograph. */
export const MOST_RING_POINTS = 8_000_000;

/** A growing list of numbers. */
class Numbers {
  data = new Float64Array(4_096);
  length = 0;
  add(x: number, y: number): void {
    if (this.length + 2 > this.data.length) {
      const wider = new Float64Array(2 * this.data.length);
      wider.set(this.data);
      this.data = wider;
    }
    this.data[this.length] = x;
    this.data[this.length + 1] = y;
    this.length += 2;
  }
  take(): Float64Array {
    const out = this.data.slice(0, this.length);
    this.length = 0;
    return out;
  }
}

const [TOP, RIGHT, BOTTOM, LEFT] = [0, 1, 2, 3] as const;

/**
 * All lines at a level, by marching squares [Lorensen and Cline 1987, in two dimensions]: every line
 * is followed once round through the squares between four dots, its points set where the level is
 * met between two of them. Where two dots across a square are print and two are paper, their mean
 * decides.
 *
 * @param level a value that no dot has
 * @param fewest rings of fewer points are specks and are not kept
 * @param progress is told the share of rows done, now and then
 * @returns rings, or null when there are more points than a print has
 */
export const ringsAt = (
  { width, height, data }: Ink,
  level: number,
  fewest = 0,
  progress: (share: number) => void = () => undefined,
): Ring[] | null => {
  const stride = width + 2;
  // One byte a dot: whether the rise to the dot on its right belongs to a ring already.
  const seen = new Uint8Array(data.length);
  const rings: Ring[] = [];
  const points = new Numbers();
  let total = 0;
  /** Follows one ring from the rise between dots `start` and `start + 1`, downwards. */
  const follow = (start: number): void => {
    let cell = start;
    let entry: number = TOP;
    for (;;) {
      const tl = data[cell]! > level;
      const tr = data[cell + 1]! > level;
      const bl = data[cell + stride]! > level;
      const br = data[cell + stride + 1]! > level;
      let exit: number;
      if (tl === br && tr === bl && tl !== tr) {
        const mean = (data[cell]! + data[cell + 1]! + data[cell + stride]! + data[cell + stride + 1]!) / 4;
        // Whether the two print dots are joined: then the paper dots are cut off, else the print dots.
        const round = mean > level !== tl;
        exit = round
          ? entry === TOP
            ? LEFT
            : entry === LEFT
              ? TOP
              : entry === RIGHT
                ? BOTTOM
                : RIGHT
          : entry === TOP
            ? RIGHT
            : entry === RIGHT
              ? TOP
              : entry === LEFT
                ? BOTTOM
                : LEFT;
      } else if (entry !== TOP && tl !== tr) exit = TOP;
      else if (entry !== RIGHT && tr !== br) exit = RIGHT;
      else if (entry !== BOTTOM && bl !== br) exit = BOTTOM;
      else exit = LEFT;
      // Where the way out is met, and the square beyond it.
      let a: number;
      let b: number;
      if (exit === TOP || exit === BOTTOM) {
        a = exit === TOP ? cell : cell + stride;
        b = a + 1;
        const row = Math.floor(a / stride);
        const t = (level - data[a]!) / (data[b]! - data[a]!);
        points.add(a - row * stride - 0.5 + t, row - 0.5);
        if (exit === BOTTOM && data[a]! < level) seen[a] = 1;
        entry = exit === TOP ? BOTTOM : TOP;
        cell = exit === TOP ? cell - stride : cell + stride;
      } else {
        a = exit === LEFT ? cell : cell + 1;
        b = a + stride;
        const row = Math.floor(a / stride);
        const t = (level - data[a]!) / (data[b]! - data[a]!);
        points.add(a - row * stride - 0.5, row - 0.5 + t);
        entry = exit === LEFT ? RIGHT : LEFT;
        cell = exit === LEFT ? cell - 1 : cell + 1;
      }
      if (cell === start && entry === TOP) break;
    }
  };
  for (let y = 1; y <= height; y += 1) {
    const row = y * stride;
    for (let at = row; at < row + stride - 1; at += 1) {
      if (data[at]! > level || data[at + 1]! < level || seen[at] === 1) continue;
      seen[at] = 1;
      follow(at);
      const count = points.length / 2;
      total += count;
      if (count >= fewest) rings.push({ points: points.take() });
      else points.length = 0;
      if (total > MOST_RING_POINTS) return null;
    }
    if ((y & 127) === 0) progress(y / height);
  }
  return rings;
};

/** Area by the shoelace rule and length of a ring, in its own units; the area as y runs up. */
export const measureRing = ({ points }: Ring): { area: number; length: number } => {
  let twice = 0;
  let length = 0;
  const n = points.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const dx = points[i]! - points[j]!;
    const dy = points[i + 1]! - points[j + 1]!;
    twice += points[j + 1]! * points[i]! - points[j]! * points[i + 1]!;
    length += Math.sqrt(dx * dx + dy * dy);
  }
  return { area: twice / 2, length };
};
