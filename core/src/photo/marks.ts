import type { Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { fitCamera, fitHomography, project, toPicture, type CameraFit, type PhotoPair } from './camera';
import { localMean, shrunk, type GreyPicture } from './grey';

/** A mark on the bed that a photograph is measured by: a filled disc, or a ring to tell which way round. */
export interface PhotoMark extends Vec {
  readonly id: number;
  readonly ring: boolean;
}

/** Diameter of the marks, and of the hole of a ring, mm. */
export const PHOTO_MARK: Mm = 12;
export const PHOTO_RING: Mm = 6;

/**
 * Ten marks all round a field: three of them rings, so that no turn of the picture looks like
 * another, and a mirrored one is told.
 */
export const fieldMarks = (field: { width: Mm; height: Mm }, inset: Mm = 20): PhotoMark[] => {
  const { width: w, height: h } = field;
  const [x0, x1, y0, y1] = [inset, w - inset, inset, h - inset];
  const third = (x1 - x0) / 3;
  const places: [Mm, Mm, boolean][] = [
    [x0, y0, true],
    [x0 + third, y0, false],
    [x0 + 2 * third, y0, false],
    [x1, y0, true],
    [x1, (y0 + y1) / 2, false],
    [x1, y1, false],
    [x0 + 2 * third, y1, false],
    [x0 + third, y1, false],
    [x0, y1, false],
    [x0, (y0 + y1) / 2, true],
  ];
  return places.map(([x, y, ring], i) => ({ id: i + 1, x, y, ring }));
};

/** A dark round thing in a picture. */
export interface RoundMark extends Vec {
  readonly ring: boolean;
  /** Mean diameter, dots. */
  readonly size: number;
}

/** The picture is looked over at about this many dots along its longer side. */
const LOOK = 1_600;
const DARKER = 0.72;

/** Dark, round, whole things of a picture: discs and rings, their middles to a fraction of a dot. */
export const findRound = (picture: GreyPicture): RoundMark[] => {
  const by = Math.max(1, Math.round(Math.max(picture.width, picture.height) / LOOK));
  const small = shrunk(picture, by);
  const { width, height, data } = small;
  const mean = localMean(small, Math.round(Math.max(width, height) / 24));
  const label = new Int32Array(width * height);
  const stack = new Int32Array(width * height);
  const found: RoundMark[] = [];
  const dark = (at: number): boolean => data[at]! < DARKER * mean[at]! && mean[at]! - data[at]! > 10;
  let next = 0;
  for (let start = 0; start < data.length; start += 1) {
    if (label[start] !== 0 || !dark(start)) continue;
    next += 1;
    label[start] = next;
    let top = 0;
    stack[top++] = start;
    let [n, sx, sy, sxx, syy, sxy] = [0, 0, 0, 0, 0, 0];
    let rim = false;
    while (top > 0) {
      const at = stack[--top]!;
      const x = at % width;
      const y = (at - x) / width;
      n += 1;
      sx += x;
      sy += y;
      sxx += x * x;
      syy += y * y;
      sxy += x * y;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) {
        rim = true;
        continue;
      }
      for (const to of [at - 1, at + 1, at - width, at + width])
        if (label[to] === 0 && dark(to)) {
          label[to] = next;
          stack[top++] = to;
        }
    }
    if (rim || n < 24 || n > 0.01 * data.length) continue;
    const cx = sx / n;
    const cy = sy / n;
    const a = sxx / n - cx * cx;
    const c = syy / n - cy * cy;
    const b = sxy / n - cx * cy;
    const root = Math.sqrt(((a - c) / 2) ** 2 + b * b);
    const l1 = (a + c) / 2 + root;
    const l2 = (a + c) / 2 - root;
    if (l2 <= 0 || l1 / l2 > 5) continue;
    // Area over that of the ellipse with the same moments: 1 for a disc, (1 − q²)/(1 + q²) for a ring with hole q.
    const fill = n / (4 * Math.PI * Math.sqrt(l1 * l2));
    const ring = fill < 0.82;
    if (fill > 1.08 || fill < 0.45) continue;
    // A ring is hollow in its middle, a disc is not.
    if (dark(Math.round(cy) * width + Math.round(cx)) === ring) continue;
    const size = 4 * Math.sqrt(Math.sqrt(l1 * l2)) * by * (ring ? 1 / Math.sqrt(1.25) : 1);
    const middle = refineMiddle(picture, { x: (cx + 0.5) * by, y: (cy + 0.5) * by }, size);
    found.push({ ...middle, ring, size });
  }
  return found;
};

/** Middle of the darkness about a place, each dot weighing by how dark it is against what lies round it. */
const refineMiddle = ({ width, height, data }: GreyPicture, at: Vec, size: number): Vec => {
  const reach = Math.ceil(0.75 * size);
  let { x: cx, y: cy } = at;
  for (let round = 0; round < 3; round += 1) {
    const x0 = Math.max(0, Math.floor(cx - reach));
    const x1 = Math.min(width - 1, Math.ceil(cx + reach));
    const y0 = Math.max(0, Math.floor(cy - reach));
    const y1 = Math.min(height - 1, Math.ceil(cy + reach));
    let rimSum = 0;
    let rimCount = 0;
    let darkest = 255;
    for (let y = y0; y <= y1; y += 1)
      for (let x = x0; x <= x1; x += 1) {
        const d = Math.hypot(x + 0.5 - cx, y + 0.5 - cy);
        const v = data[y * width + x]!;
        if (d > 0.64 * size && d <= reach) {
          rimSum += v;
          rimCount += 1;
        } else if (v < darkest) darkest = v;
      }
    const paper = rimSum / Math.max(1, rimCount);
    const limit = paper - 0.25 * (paper - darkest);
    let [sw, sx, sy] = [0, 0, 0];
    for (let y = y0; y <= y1; y += 1)
      for (let x = x0; x <= x1; x += 1) {
        if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) > 0.7 * size) continue;
        const v = data[y * width + x]!;
        if (v >= limit) continue;
        const w = Math.min(1, (limit - v) / Math.max(1, 0.5 * (paper - darkest)));
        sw += w;
        sx += w * (x + 0.5);
        sy += w * (y + 0.5);
      }
    if (sw === 0) break;
    cx = sx / sw;
    cy = sy / sw;
  }
  return { x: cx, y: cy };
};

/** Affine map of three points to three others, as a homography. */
const affineOf = (
  from: readonly Vec[],
  to: readonly Vec[],
): [number, number, number, number, number, number] | null => {
  const [a, b, c] = from as [Vec, Vec, Vec];
  const [p, q, r] = to as [Vec, Vec, Vec];
  const det = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
  if (Math.abs(det) < 1e-9) return null;
  const solve = (u: number, v: number, w: number): [number, number, number] => {
    const m = ((v - u) * (c.y - a.y) - (w - u) * (b.y - a.y)) / det;
    const n = ((w - u) * (b.x - a.x) - (v - u) * (c.x - a.x)) / det;
    return [m, n, u - m * a.x - n * a.y];
  };
  return [...solve(p.x, q.x, r.x), ...solve(p.y, q.y, r.y)];
};

/** What known marks and found ones make of each other. */
const pairUp = (
  marks: readonly PhotoMark[],
  found: readonly RoundMark[],
  predict: (p: Vec) => Vec,
  reach: number,
): PhotoPair[] => {
  const taken = new Set<RoundMark>();
  const pairs: PhotoPair[] = [];
  for (const m of marks) {
    const at = predict(m);
    let best: RoundMark | null = null;
    let least = reach;
    for (const f of found) {
      if (f.ring !== m.ring || taken.has(f)) continue;
      const d = Math.hypot(f.x - at.x, f.y - at.y);
      if (d < least) {
        least = d;
        best = f;
      }
    }
    if (best) {
      taken.add(best);
      pairs.push({ id: m.id, bed: { x: m.x, y: m.y }, dot: { x: best.x, y: best.y } });
    }
  }
  return pairs;
};

/** Most rings in a picture that are tried in each other's place. */
const MOST_RINGS = 9;
const MOST_DISCS = 14;

interface Guess {
  readonly pairs: PhotoPair[];
  readonly mirrored: boolean;
  readonly miss: number;
}

/** What three marks taken for three found things explain of all the rest; null when it is little. */
const explain = (
  marks: readonly PhotoMark[],
  found: readonly RoundMark[],
  known: readonly PhotoMark[],
  taken: readonly RoundMark[],
): Guess | null => {
  const m = affineOf(known, taken);
  if (!m) return null;
  const det = m[0] * m[4] - m[1] * m[3];
  const scale = Math.sqrt(Math.abs(det));
  // Marks of the known size must be about as large as they were found.
  const size = taken[0]!.size / (PHOTO_MARK * scale);
  if (size < 0.5 || size > 2) return null;
  const nearest = Math.min(
    ...marks.flatMap((p) => marks.filter((q) => q !== p).map((q) => Math.hypot(p.x - q.x, p.y - q.y))),
  );
  let pairs = pairUp(
    marks,
    found,
    (p) => ({ x: m[0] * p.x + m[1] * p.y + m[2], y: m[3] * p.x + m[4] * p.y + m[5] }),
    0.4 * nearest * scale,
  );
  for (let round = 0; round < 3 && pairs.length >= 4; round += 1) {
    const h = fitHomography(pairs.map((p) => ({ from: p.bed, to: p.dot })));
    if (!h) break;
    const again = pairUp(marks, found, (p) => project(h, p), 0.15 * nearest * scale);
    if (again.length < pairs.length && round > 0) break;
    pairs = again;
  }
  const h = pairs.length >= 4 ? fitHomography(pairs.map((p) => ({ from: p.bed, to: p.dot }))) : null;
  if (!h) return null;
  const squares = pairs.reduce((s, p) => {
    const q = project(h, p.bed);
    return s + (q.x - p.dot.x) ** 2 + (q.y - p.dot.y) ** 2;
  }, 0);
  // The picture's y runs down: a true picture turns the bed's axes over once.
  return { pairs, mirrored: det > 0, miss: squares / (pairs.length * scale * scale) };
};

/**
 * Which found thing is which mark: every three rings are tried as the known three; where one of them
 * is hidden, two rings and every other mark. The other marks are looked for where they would be, and
 * the trial that explains most is kept.
 */
export const matchMarks = (
  marks: readonly PhotoMark[],
  found: readonly RoundMark[],
): { readonly pairs: PhotoPair[]; readonly mirrored: boolean } => {
  const known = marks.filter((m) => m.ring).slice(0, 3);
  const plain = marks.filter((m) => !m.ring);
  const rings = [...found.filter((f) => f.ring)].sort((a, b) => b.size - a.size).slice(0, MOST_RINGS);
  const discs = [...found.filter((f) => !f.ring)].sort((a, b) => b.size - a.size).slice(0, MOST_DISCS);
  let best: Guess = { pairs: [], mirrored: false, miss: Infinity };
  const take = (guess: Guess | null): void => {
    if (!guess) return;
    const more = guess.pairs.length - best.pairs.length;
    if (more > 0 || (more === 0 && guess.miss < best.miss)) best = guess;
  };
  for (const a of rings)
    for (const b of rings)
      for (const c of rings) if (a !== b && b !== c && a !== c) take(explain(marks, found, known, [a, b, c]));
  if (best.pairs.length < 0.7 * marks.length)
    for (const [i, k] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const)
      for (const a of rings)
        for (const b of rings)
          for (const p of plain)
            for (const c of discs)
              if (a !== b && known[i] && known[k]) take(explain(marks, found, [known[i], known[k], p], [a, b, c]));
  return best;
};

/** Marks found in a picture, and the camera that follows. */
export interface Calibrated {
  readonly fit: CameraFit;
  readonly pairs: readonly PhotoPair[];
}

/** How sharp a mark's edge must be for its place to be trusted: rise over this many mark diameters. */
const SOFT_EDGE = 0.45;

/** Dots over which a mark's edge rises from a tenth to nine tenths, along a line through its middle. */
const edgeRise = ({ width, height, data }: GreyPicture, at: Vec, size: number): number => {
  const profile: number[] = [];
  for (let d = 0; d <= 0.9 * size; d += 0.25) {
    let s = 0;
    let n = 0;
    for (let k = 0; k < 16; k += 1) {
      const x = Math.round(at.x + d * Math.cos((k * Math.PI) / 8) - 0.5);
      const y = Math.round(at.y + d * Math.sin((k * Math.PI) / 8) - 0.5);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      s += data[y * width + x]!;
      n += 1;
    }
    profile.push(n > 0 ? s / n : 255);
  }
  const low = Math.min(...profile);
  const from = profile.indexOf(low);
  const high = Math.max(...profile.slice(from));
  const reached = (share: number): number => {
    for (let i = from; i < profile.length; i += 1) if (profile[i]! >= low + share * (high - low)) return i * 0.25;
    return profile.length * 0.25;
  };
  return reached(0.9) - reached(0.1);
};

/** Marks seen larger or smaller than they are by more than this (a natural logarithm) belong to another bed. */
const OTHER_SIZE = 0.14;

/** How large the marks look by their places, against how large they are: the middle of all. */
const sizeRatio = (pairs: readonly PhotoPair[], found: readonly RoundMark[]): number => {
  const h = fitHomography(pairs.map((p) => ({ from: p.bed, to: p.dot })));
  if (!h) return 1;
  const ratios = pairs.flatMap(({ bed, dot }) => {
    const f = found.find((m) => m.x === dot.x && m.y === dot.y);
    const [o, x, y] = [project(h, bed), project(h, { x: bed.x + 1, y: bed.y }), project(h, { x: bed.x, y: bed.y + 1 })];
    const scale = Math.sqrt(Math.abs((x.x - o.x) * (y.y - o.y) - (x.y - o.y) * (y.x - o.x)));
    return f ? [f.size / (PHOTO_MARK * scale)] : [];
  });
  return ratios.sort((a, b) => a - b)[ratios.length >> 1] ?? 1;
};

/** Finds the marks of a photograph and calibrates the camera by them, or says what is wrong with it. */
export const calibrate = (picture: GreyPicture, marks: readonly PhotoMark[]): Result<Calibrated> => {
  const found = findRound(picture);
  const { pairs, mirrored } = matchMarks(marks, found);
  if (mirrored && pairs.length >= 4)
    return fail(
      'mirrored',
      'The picture is mirrored: its marks run the wrong way round. Switch mirroring off in the camera, or turn the picture over.',
      'photo',
    );
  if (pairs.length < 4)
    return fail(
      found.length < 4 ? 'no-marks' : 'other-marks',
      found.length < 4
        ? `${found.length === 0 ? 'No marks stand' : `Only ${found.length} round ${found.length === 1 ? 'mark stands' : 'marks stand'}`} out in the picture: are all in it, sharp, and lit? Four at least are needed. They can be aimed at by hand too.`
        : `${found.length} round things are in the picture, but they do not lie as this bed’s marks do. Is it a picture of another bed, or are the three rings hidden?`,
      'photo.marks',
    );
  const sizes = found.filter((f) => pairs.some((p) => p.dot.x === f.x && p.dot.y === f.y));
  const blurred = sizes.filter((f) => edgeRise(picture, f, f.size) > SOFT_EDGE * f.size);
  if (blurred.length > sizes.length / 2)
    return fail(
      'blurred',
      'The picture is blurred or was shaken: the edges of its marks are as wide as the marks. Rest the camera on something and take it again.',
      'photo',
    );
  const size = sizeRatio(pairs, sizes);
  if (Math.abs(Math.log(size)) > OTHER_SIZE)
    return fail(
      'other-bed',
      `By their places the marks would be ${(PHOTO_MARK * size).toFixed(1)} mm large, they are ${PHOTO_MARK}. Is it a picture of another bed, or were the marks printed to scale?`,
      'photo.marks',
    );
  const fit = fitCamera(pairs, { width: picture.width, height: picture.height });
  if (!fit.ok) return fit;
  // With the lens's bending known, marks that lay too far off at first are taken too.
  const scale = 1 / fit.value.dot;
  const all = pairUp(marks, found, (p) => toPicture(fit.value, p), 6 * scale);
  if (all.length > pairs.length) {
    const better = fitCamera(all, { width: picture.width, height: picture.height });
    if (better.ok) return ok({ fit: better.value, pairs: all });
  }
  return ok({ fit: fit.value, pairs });
};
