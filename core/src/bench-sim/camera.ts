import { seeded } from '../budget';
import { boxOf, insidePolygon, type Box, type Vec } from '../geometry';
import {
  bend,
  invertHomography,
  project,
  PHOTO_MARK,
  PHOTO_RING,
  type GreyPicture,
  type Homography,
  type PhotoMark,
} from '../photo';
import type { Mm, Rad } from '../units';

/** A thing that lies on the simulated bed: outline and holes of its upper side, bed frame. */
export interface LyingThing {
  readonly outline: readonly Vec[];
  readonly holes: readonly (readonly Vec[])[];
  readonly above: Mm;
  /** Brightness, 0 to 255. */
  readonly shade: number;
  /** Brightness of its side walls; as the bed's, so that nothing of them is seen, when absent. */
  readonly wall?: number;
  /** Dark places on it: knots and burns. */
  readonly spots?: readonly { readonly x: Mm; readonly y: Mm; readonly radius: Mm; readonly shade: number }[];
}

/** A camera over the bed: where it stands, where it looks, its lens and its light. */
export interface SimCamera {
  readonly width: number;
  readonly height: number;
  /** Over the bed, mm. */
  readonly at: { readonly x: Mm; readonly y: Mm; readonly height: Mm };
  /** Leans over to x and to y, and turns about its axis, rad. */
  readonly tiltX: Rad;
  readonly tiltY: Rad;
  readonly turn: Rad;
  /** Focal length, dots. */
  readonly focal: number;
  readonly k1: number;
  readonly k2: number;
  /** Where the lens’s axis meets the picture, from its middle, dots; in its middle when absent. */
  readonly axis?: { readonly x: number; readonly y: number };
  /** Light falls off to one side by this share. */
  readonly uneven: number;
  readonly towards: Rad;
  /** The shadow that things throw: which way, how far as a share of their height, and how dark, 0 to 1; none when absent. */
  readonly shadow?: { readonly towards: Rad; readonly long: number; readonly dark: number };
  /** Standard deviation of the noise, of 255. */
  readonly noise: number;
  /** Blur, dots (box of so many). */
  readonly blur: number;
  readonly mirrored: boolean;
}

/** A camera somewhere over a field, tilted and turned a little, all of it in view. */
export const someCamera = (
  seed: number,
  field: { readonly width: Mm; readonly height: Mm },
  width: number,
  height: number,
): SimCamera => {
  const r = seeded(seed * 71 + 9);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  const up = 1.15 * Math.max(field.width, field.height);
  return {
    width,
    height,
    at: { x: field.width / 2 + spread(40), y: field.height / 2 + spread(40), height: up },
    tiltX: spread(0.07),
    tiltY: spread(0.07),
    turn: spread(0.1),
    // A margin round the field that tilt and turn do not use up.
    focal: 0.72 * up * Math.min(width / field.width, height / field.height),
    k1: spread(0.05),
    k2: spread(0.02),
    uneven: 0.1 + 0.2 * r.uniform(),
    towards: Math.PI * spread(1),
    noise: 2 + 3 * r.uniform(),
    blur: 1,
    mirrored: false,
  };
};

/** Plane at a height to the picture an unbent lens gives. */
export const planeToPicture = (c: SimCamera, above: Mm): Homography => {
  const [ca, sa, cb, sb, ct, st] = [
    Math.cos(c.tiltX),
    Math.sin(c.tiltX),
    Math.cos(c.tiltY),
    Math.sin(c.tiltY),
    Math.cos(c.turn),
    Math.sin(c.turn),
  ];
  // Camera axes: x right, y down in the picture, z into it. Straight down to begin with.
  const rows = [
    [1, 0, 0],
    [0, -1, 0],
    [0, 0, -1],
  ];
  const by = (m: number[][], n: number[][]): number[][] =>
    m.map((row) => [0, 1, 2].map((j) => row[0]! * n[0]![j]! + row[1]! * n[1]![j]! + row[2]! * n[2]![j]!));
  const tiltX = [
    [ca, 0, sa],
    [0, 1, 0],
    [-sa, 0, ca],
  ];
  const tiltY = [
    [1, 0, 0],
    [0, cb, -sb],
    [0, sb, cb],
  ];
  const turn = [
    [ct, -st, 0],
    [st, ct, 0],
    [0, 0, 1],
  ];
  const m = by(turn, by(tiltY, by(tiltX, rows)));
  const column = (i: number): [number, number, number] => [m[0]![i]!, m[1]![i]!, m[2]![i]!];
  const [c1, c2, c3] = [column(0), column(1), column(2)];
  const t = [0, 1, 2].map((i) => -(c1[i]! * c.at.x + c2[i]! * c.at.y + c3[i]! * (c.at.height - above)));
  const f = c.focal * (c.mirrored ? -1 : 1);
  const [px, py] = [c.width / 2 + (c.axis?.x ?? 0), c.height / 2 + (c.axis?.y ?? 0)];
  const row = (i: 0 | 1 | 2): number[] => [c1[i]!, c2[i]!, t[i]!];
  const [x, y, z] = [row(0), row(1), row(2)];
  return [
    ...x.map((v, i) => f * v + px * z[i]!),
    ...y.map((v, i) => c.focal * v + py * z[i]!),
    ...z,
  ] as unknown as Homography;
};

const { floor } = Math;

/** Which shape of a list holds a point, found by a grid. */
class Finder {
  private readonly cells = new Map<number, number[]>();
  constructor(
    private readonly polygons: readonly (readonly Vec[])[],
    private readonly cell: Mm,
  ) {
    polygons.forEach((p, i) => {
      const b: Box = boxOf(p);
      for (let x = Math.floor(b.minX / cell); x <= Math.floor(b.maxX / cell); x += 1)
        for (let y = Math.floor(b.minY / cell); y <= Math.floor(b.maxY / cell); y += 1) {
          const key = x * 100_000 + y;
          this.cells.set(key, [...(this.cells.get(key) ?? []), i]);
        }
    });
  }
  /** The last one that holds it, or −1. */
  at(p: Vec): number {
    if (this.polygons.length === 0) return -1;
    const list = this.cells.get(floor(p.x / this.cell) * 100_000 + floor(p.y / this.cell));
    if (!list) return -1;
    for (let k = list.length - 1; k >= 0; k -= 1) if (insidePolygon(p, this.polygons[list[k]!]!)) return list[k]!;
    return -1;
  }
}

/** Dots along the side of a square that is looked at as a whole. */
const SQUARE = 4;
const BED_SHADE = 96;
const MARK_SHADE = 22;
const PAPER_SHADE = 214;

/**
 * A photograph of the bed as a simulated camera takes it: things at their heights, marks on patches of
 * paper, the lens's bending, light from one side, noise; edges are dots partly covered.
 */
export const photograph = (
  camera: SimCamera,
  marks: readonly PhotoMark[],
  things: readonly LyingThing[],
  seed: number,
): GreyPicture => {
  const r = seeded(seed * 977 + 13);
  const { width, height } = camera;
  const out = new Uint8Array(width * height);
  const planes = [...new Set([0, ...things.map((t) => t.above)])].map((above) => {
    const h = planeToPicture(camera, above);
    const on = things.filter((t) => t.above === above);
    return {
      above,
      h,
      back: invertHomography(h),
      on,
      finder: new Finder(
        on.map((t) => t.outline),
        20,
      ),
    };
  });
  planes.sort((a, b) => b.above - a.above);
  const [ux, uy] = [Math.cos(camera.towards), Math.sin(camera.towards)];
  const diagonal = Math.hypot(width, height) / 2;
  // Looked up once: this is asked for millions of places.
  const inside = insidePolygon;
  const [patch, mark, hollow] = [PHOTO_MARK ** 2, (PHOTO_MARK / 2) ** 2, (PHOTO_RING / 2) ** 2];
  const unbent = unbender(camera);
  const onTheBed = planes.find((p) => p.above === 0)!.back;
  const onBed = (ux: number, uy: number): Vec => {
    const m = onTheBed;
    const w = m[6] * ux + m[7] * uy + m[8];
    return { x: (m[0] * ux + m[1] * uy + m[2]) / w, y: (m[3] * ux + m[4] * uy + m[5]) / w };
  };
  const { shadow } = camera;
  const [sx, sy] = shadow ? [Math.cos(shadow.towards) * shadow.long, Math.sin(shadow.towards) * shadow.long] : [0, 0];
  /** How dark the shadow is on a place of the bed: wholly near the thing, half of it in its last half. */
  const darkAt = (p: Vec): number => {
    if (!shadow) return 0;
    let seen = 0;
    for (const { above, finder } of planes) {
      if (above === 0) continue;
      for (const k of [0.25, 0.5, 0.75, 1])
        if (finder.at({ x: p.x - sx * above * k, y: p.y - sy * above * k }) >= 0)
          seen = Math.max(seen, k <= 0.5 ? shadow.dark : shadow.dark / 2);
    }
    return seen;
  };
  const shadeAt = (dx: number, dy: number): number => {
    const { x: ux, y: uy } = unbent(dx, dy);
    for (const plane of planes) {
      const m = plane.back;
      const w = m[6] * ux + m[7] * uy + m[8];
      const at = { x: (m[0] * ux + m[1] * uy + m[2]) / w, y: (m[3] * ux + m[4] * uy + m[5]) / w };
      const k = plane.finder.at(at);
      if (k >= 0) {
        const thing = plane.on[k]!;
        if (!thing.holes.some((hole) => inside(at, hole))) {
          const spot = thing.spots?.find((s) => (at.x - s.x) ** 2 + (at.y - s.y) ** 2 < s.radius ** 2);
          return spot?.shade ?? thing.shade;
        }
      }
      if (plane.above > 0) {
        // Past its upper side a ray that comes down within it met its wall.
        const foot = onBed(ux, uy);
        const wall = plane.finder.at(foot);
        const thing = plane.on[wall];
        if (thing?.wall !== undefined && !thing.holes.some((hole) => inside(foot, hole))) return thing.wall;
      }
      if (plane.above === 0)
        for (const p of marks) {
          const q = (at.x - p.x) * (at.x - p.x) + (at.y - p.y) * (at.y - p.y);
          if (q > patch) continue;
          return q < mark && !(p.ring && q < hollow) ? MARK_SHADE : PAPER_SHADE;
        }
    }
    return BED_SHADE * (1 - darkAt(onBed(ux, uy)));
  };
  // Noise from a long table, begun at another place in every row: drawing it dot by dot takes longer than the picture.
  const noise = Float32Array.from({ length: 1 << 16 }, () => camera.noise * r.normal());
  let turn = 0;
  const put = (x: number, y: number, v: number): void => {
    const light = 1 + (camera.uneven * ((x - width / 2) * ux + (y - height / 2) * uy)) / diagonal;
    turn = (turn + 1 + (y & 7)) & 0xffff;
    const seen = v * light + noise[turn]!;
    out[y * width + x] = seen < 1 ? 1 : seen > 255 ? 255 : seen;
  };
  /** A dot that something's edge may run through, as the mean of sixteen places in it. */
  const fine = (x: number, y: number): number => {
    let s = 0;
    for (let i = 0; i < 4; i += 1) for (let j = 0; j < 4; j += 1) s += shadeAt(x + (i + 0.5) / 4, y + (j + 0.5) / 4);
    return s / 16;
  };
  // Corners of small squares first; only a square whose corners differ is looked at dot by dot.
  const columns = Math.ceil(width / SQUARE);
  const row = (y: number): Float32Array => Float32Array.from({ length: columns + 1 }, (_, x) => shadeAt(x * SQUARE, y));
  let above = row(0);
  for (let top = 0; top < height; top += SQUARE) {
    const below = row(top + SQUARE);
    const edge = (c: number): boolean =>
      above[c] !== above[c + 1] || above[c] !== below[c] || above[c] !== below[c + 1];
    for (let y = top; y < Math.min(height, top + SQUARE); y += 1)
      for (let x = 0; x < width; x += 1) {
        const c = (x / SQUARE) | 0;
        put(x, y, edge(c) ? fine(x, y) : above[c]!);
      }
    above = below;
  }
  return camera.blur > 1 ? blurred({ width, height, data: out }, camera.blur) : { width, height, data: out };
};

/** Bent place to unbent, by a few rounds: bendings here are gentle. */
const unbender = (c: SimCamera): ((x: number, y: number) => Vec) => {
  const cx = c.width / 2;
  const cy = c.height / 2;
  const n = cx * cx + cy * cy;
  const { k1, k2 } = c;
  return (x, y) => {
    let px = x - cx;
    let py = y - cy;
    for (let i = 0; i < 4; i += 1) {
      const r2 = (px * px + py * py) / n;
      const k = 1 + k1 * r2 + k2 * r2 * r2;
      px = (x - cx) / k;
      py = (y - cy) / k;
    }
    return { x: cx + px, y: cy + py };
  };
};

/** Where the simulated camera sees a point at a height, dots. */
export const seenAt = (camera: SimCamera, p: Vec, above: Mm): Vec => {
  const plain = project(planeToPicture(camera, above), p);
  return bend(plain, camera.width, camera.height, camera.k1, camera.k2);
};

/** Mean over a square, twice: a picture out of focus. */
const blurred = (picture: GreyPicture, by: number): GreyPicture => {
  const { width, height } = picture;
  let { data } = picture;
  const half = Math.floor(by / 2);
  for (let pass = 0; pass < 2; pass += 1) {
    const next = new Uint8Array(data.length);
    for (let y = 0; y < height; y += 1)
      for (let x = 0; x < width; x += 1) {
        let s = 0;
        let n = 0;
        for (let k = -half; k <= half; k += 1) {
          const q = pass === 0 ? x + k : y + k;
          if (q < 0 || q >= (pass === 0 ? width : height)) continue;
          s += data[pass === 0 ? y * width + q : q * width + x]!;
          n += 1;
        }
        next[y * width + x] = s / n;
      }
    data = next;
  }
  return { width, height, data };
};
