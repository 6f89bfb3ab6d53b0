import { boxCorners, type Box, type Vec } from '../geometry';
import { turnedSize, type Pocket, type Slot, type BlankSizes } from '../holding';
import type { MarkSpread } from '../marks';
import type { Mm, Rad, Share } from '../units';
import { degrees, fixed, mm, percent, worked, type WorkedLine } from '../working';
import { combined, effectiveDof, fromUniform, radialCoverage, type Component } from './combine';
import { seeded } from './random';

export type SourceId = 'float' | 'yaw' | 'size' | 'aiming' | 'pointer' | 'return' | 'angle';

/** One source of position error, as a radial standard uncertainty at the worst corner of the art. */
export interface Source extends Component {
  readonly id: SourceId;
  readonly name: string;
  /** Greatest it can be, mm. */
  readonly worst: Mm;
  /** Where its size came from. */
  readonly origin: 'measured' | 'assumed' | 'catalogue' | 'profile' | 'reckoned';
  /** What would halve it. */
  readonly halve: string;
  /** Share of the squared total. */
  readonly share: Share;
  readonly working: WorkedLine;
}

export interface BudgetInput {
  /** Greatest displacement allowed of any point of the art on its piece, mm. */
  readonly tolerance: Mm;
  /** The art on a piece, blank frame. */
  readonly art: Box;
  readonly method: 'nest' | 'fence';
  readonly sizes: BlankSizes;
  readonly pocket: Pocket;
  readonly slots: readonly Slot[];
  /** Marks used or planned, board frame. */
  readonly marks: MarkSpread;
  readonly sigma: Mm;
  readonly pointer: { readonly status: 'measured' | 'stale' | 'unmeasured'; readonly uncertainty: Mm };
  readonly repeatability: Mm;
  /** Angle left over when the work, not the file, was turned. */
  readonly leftoverAngle: Rad;
  readonly pieces: number;
  readonly seed: number;
}

export interface Budget {
  readonly sources: readonly Source[];
  readonly largest: Source;
  /** Root sum of squares, radial, mm. */
  readonly combined: Mm;
  readonly dof: number;
  /** Combined × coverage factor for 95 % in the plane, mm. */
  readonly expanded: Mm;
  readonly worst: Mm;
  /** Error that 95 % of simulated pieces stay below at their worst corner, mm. */
  readonly predicted: Mm;
  /** Share of simulated pieces inside the tolerance. */
  readonly yield: Share;
  /** `predicted` if the largest source were halved. */
  readonly ifHalved: Mm;
  readonly tolerance: Mm;
  readonly verdict: 'inside' | 'near' | 'over';
  readonly assumptions: readonly string[];
  readonly working: readonly WorkedLine[];
}

interface Scales {
  readonly id: SourceId | null;
  readonly factor: number;
}

/** Simulates pieces; returns sorted displacements of the worst corner, mm. */
export const simulatePieces = (
  input: BudgetInput,
  count: number,
  scale: Scales = { id: null, factor: 1 },
): Float64Array => {
  const r = seeded(input.seed);
  const k = (id: SourceId): number => (scale.id === id ? scale.factor : 1);
  const corners = boxCorners(input.art);
  const { pocket, sizes, slots, sigma, marks } = input;
  const out = new Float64Array(count);
  const round = pocket.yaw === null;
  const perMark = sigma / Math.sqrt(marks.marks);
  const perTurn = sigma / Math.sqrt(marks.spread);
  const kFloat = k('float'),
    kYaw = k('yaw'),
    kSize = k('size'),
    kAim = k('aiming'),
    kPointer = k('pointer'),
    kReturn = k('return');
  for (let i = 0; i < count; i += 1) {
    const l = sizes.length.mean + sizes.length.spread * r.normal();
    const w = round ? l : sizes.width.mean + sizes.width.spread * r.normal();
    const slot = slots[Math.floor(r.uniform() * slots.length)]!;
    let tx = 0,
      ty = 0,
      psi = 0;
    if (input.method === 'nest') {
      psi = (pocket.yaw ?? 0) * kYaw * (2 * r.uniform() - 1);
      const turned = round ? { length: l, width: w } : turnedSize(l, w, psi);
      tx = Math.max(0, (pocket.length - turned.length) / 2) * (2 * r.uniform() - 1) * kFloat;
      ty = Math.max(0, (pocket.width - turned.width) / 2) * (2 * r.uniform() - 1) * kFloat;
      tx += ((l - sizes.length.mean) / 2) * kSize;
      ty += ((w - sizes.width.mean) / 2) * kSize;
    } else {
      tx = ((l - sizes.length.mean) / 2) * kSize;
      ty = ((w - sizes.width.mean) / 2) * kSize;
    }
    const pointer =
      input.pointer.status === 'unmeasured'
        ? {
            x: input.pointer.uncertainty * Math.sqrt(3) * (2 * r.uniform() - 1),
            y: input.pointer.uncertainty * Math.sqrt(3) * (2 * r.uniform() - 1),
          }
        : { x: input.pointer.uncertainty * r.normal(), y: input.pointer.uncertainty * r.normal() };
    const sx =
      perMark * r.normal() * kAim + pointer.x * kPointer + input.repeatability * (2 * r.uniform() - 1) * kReturn;
    const sy =
      perMark * r.normal() * kAim + pointer.y * kPointer + input.repeatability * (2 * r.uniform() - 1) * kReturn;
    const turn = perTurn * r.normal() * kAim + input.leftoverAngle * k('angle');
    const cos = Math.cos(slot.angle),
      sin = Math.sin(slot.angle);
    let worst = 0;
    for (const c of corners) {
      // Displacement of this corner: the piece's in its pocket, then the burn's on the bed.
      const px = tx - psi * c.y,
        py = ty + psi * c.x;
      const bx = slot.centre.x + c.x * cos - c.y * sin - marks.centre.x;
      const by = slot.centre.y + c.x * sin + c.y * cos - marks.centre.y;
      const dx = sx - turn * by,
        dy = sy + turn * bx;
      const ex = dx * cos + dy * sin - px;
      const ey = -dx * sin + dy * cos - py;
      const d = ex * ex + ey * ey;
      if (d > worst) worst = d;
    }
    out[i] = Math.sqrt(worst);
  }
  return out.sort();
};

const quantile = (sorted: Float64Array, p: number): number =>
  sorted[Math.min(sorted.length - 1, Math.ceil(p * sorted.length) - 1)] ?? 0;

const shareBelow = (sorted: Float64Array, limit: number): number => {
  let low = 0,
    high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! <= limit) low = middle + 1;
    else high = middle;
  }
  return sorted.length === 0 ? 1 : low / sorted.length;
};

const artLever = (art: Box): Mm => Math.max(...boxCorners(art).map((c) => Math.hypot(c.x, c.y)));

/** Distances from the marks' centre to the art's corners on the board: root mean square and greatest. */
const boardLever = (input: BudgetInput): { rms: Mm; most: Mm } => {
  let sum = 0,
    most = 0,
    n = 0;
  for (const slot of input.slots) {
    const cos = Math.cos(slot.angle),
      sin = Math.sin(slot.angle);
    let d = 0;
    for (const c of boxCorners(input.art)) {
      d = Math.max(
        d,
        Math.hypot(
          slot.centre.x + c.x * cos - c.y * sin - input.marks.centre.x,
          slot.centre.y + c.x * sin + c.y * cos - input.marks.centre.y,
        ),
      );
    }
    sum += d * d;
    most = Math.max(most, d);
    n += 1;
  }
  return { rms: Math.sqrt(sum / Math.max(1, n)), most };
};

const reckonSources = (input: BudgetInput): Omit<Source, 'share'>[] => {
  const { pocket, sizes, sigma, marks } = input;
  const lever = artLever(input.art);
  const board = boardLever(input);
  const sources: Omit<Source, 'share'>[] = [];
  if (input.method === 'nest') {
    const u = Math.hypot(fromUniform(pocket.floatX), fromUniform(pocket.floatY));
    sources.push({
      id: 'float',
      name: 'float in pocket',
      u,
      dof: Infinity,
      worst: Math.hypot(pocket.floatX, pocket.floatY),
      origin: 'reckoned',
      halve: 'Halve the clearance (snug pockets), or push every piece into one corner.',
      working: worked(
        'float in pocket',
        '√((float x/√3)² + (float y/√3)²)',
        `√((${fixed(pocket.floatX)}/√3)² + (${fixed(pocket.floatY)}/√3)²)`,
        mm(u, 3),
        'geometry',
      ),
    });
    if (pocket.yaw !== null && pocket.yaw > 0) {
      const yaw = fromUniform(pocket.yaw) * lever;
      sources.push({
        id: 'yaw',
        name: 'yaw at the far corner',
        u: yaw,
        dof: Infinity,
        worst: pocket.yaw * lever,
        origin: 'reckoned',
        halve: 'Halve the clearance, or keep the art nearer to the middle of the piece.',
        working: worked(
          'yaw at the far corner',
          'greatest yaw / √3 × distance to the art’s corner',
          `${degrees(pocket.yaw)} / √3 × ${fixed(lever, 1)}`,
          mm(yaw, 3),
          'geometry',
        ),
      });
    }
  }
  const size = Math.hypot(sizes.length.spread / 2, sizes.width.spread / 2);
  sources.push({
    id: 'size',
    name: 'blank size',
    u: size,
    dof: Math.min(sizes.length.dof, sizes.width.dof),
    worst: 3 * size,
    origin: sizes.length.assumed || sizes.width.assumed ? 'catalogue' : 'measured',
    halve:
      sizes.length.assumed || sizes.width.assumed
        ? 'Measure three or more pieces: the catalogue’s tolerance is assumed.'
        : 'Sort the pieces by size, or buy closer ones.',
    working: worked(
      'blank size',
      '√((s length/2)² + (s width/2)²): half the size error reaches the middle',
      `√((${fixed(sizes.length.spread, 3)}/2)² + (${fixed(sizes.width.spread, 3)}/2)²)`,
      mm(size, 3),
      sizes.length.assumed ? 'assumed' : 'statistics',
    ),
  });
  const aim = Math.sqrt((2 * sigma ** 2) / marks.marks + (board.rms ** 2 * sigma ** 2) / marks.spread);
  const aimWorst = 3 * Math.sqrt((2 * sigma ** 2) / marks.marks + (board.most ** 2 * sigma ** 2) / marks.spread);
  sources.push({
    id: 'aiming',
    name: 'aiming at marks',
    u: aim,
    dof: Infinity,
    worst: aimWorst,
    origin: 'profile',
    halve: 'Use a finer last jog step and a loupe, or read a third mark.',
    working: worked(
      'aiming at marks',
      '√(2σ²/n + d²σ²/Σr²), d over the pieces',
      `σ ${fixed(sigma, 3)}, n ${marks.marks}, d ${fixed(board.rms, 0)}, √Σr² ${fixed(Math.sqrt(marks.spread), 0)}`,
      mm(aim, 3),
      'statistics',
    ),
  });
  const pointer = Math.SQRT2 * input.pointer.uncertainty;
  sources.push({
    id: 'pointer',
    name: 'pointer offset',
    u: pointer,
    dof: Infinity,
    worst: input.pointer.status === 'unmeasured' ? Math.SQRT2 * Math.sqrt(3) * input.pointer.uncertainty : 3 * pointer,
    origin: input.pointer.status === 'measured' ? 'measured' : 'assumed',
    halve:
      input.pointer.status === 'unmeasured'
        ? 'Burn a dot and read where the pointer shows it.'
        : 'Measure the offset again, twice, and take the mean.',
    working: worked(
      'pointer offset',
      input.pointer.status === 'unmeasured' ? '√2 × 0.30 / √3, unmeasured' : '√2 × error of its own reading',
      `√2 × ${fixed(input.pointer.uncertainty, 3)}`,
      mm(pointer, 3),
      input.pointer.status === 'unmeasured' ? 'common practice' : 'statistics',
    ),
  });
  const back = Math.SQRT2 * fromUniform(input.repeatability);
  sources.push({
    id: 'return',
    name: 'machine return',
    u: back,
    dof: Infinity,
    worst: Math.SQRT2 * input.repeatability,
    origin: 'profile',
    halve: 'Check belts and wheels, and measure the return with a repeated dot.',
    working: worked(
      'machine return',
      '√2 × ± / √3',
      `√2 × ${fixed(input.repeatability, 3)} / √3`,
      mm(back, 3),
      'assumed',
    ),
  });
  if (input.leftoverAngle !== 0) {
    const left = Math.abs(input.leftoverAngle) * board.rms;
    sources.push({
      id: 'angle',
      name: 'angle left in the work',
      u: left,
      dof: Infinity,
      worst: Math.abs(input.leftoverAngle) * board.most,
      origin: 'measured',
      halve: 'Turn the board once more, or let Bistre turn the file.',
      working: worked(
        'angle left in the work',
        'angle × distance over the pieces',
        `${degrees(input.leftoverAngle)} × ${fixed(board.rms, 0)}`,
        mm(left, 3),
        'geometry',
      ),
    });
  }
  return sources;
};

/**
 * The placement budget [JCGM 100:2008 for the sum, JCGM 101:2008 for the simulation]: every source
 * of position error at the worst corner of the art, combined, and checked against the tolerance.
 */
export const reckonBudget = (input: BudgetInput): Budget => {
  const bare = reckonSources(input);
  const total = combined(bare);
  const sources = bare.map((s) => ({ ...s, share: total === 0 ? 0 : (s.u / total) ** 2 })).sort((a, b) => b.u - a.u);
  const largest = sources[0]!;
  const dof = effectiveDof(bare);
  const factor = radialCoverage(0.95, dof);
  const pieces = simulatePieces(input, input.pieces);
  const predicted = quantile(pieces, 0.95);
  const inside = shareBelow(pieces, input.tolerance);
  const ifHalved = quantile(
    simulatePieces(input, Math.min(input.pieces, 20_000), { id: largest.id, factor: 0.5 }),
    0.95,
  );
  const worst = sources.reduce((sum, s) => sum + s.worst, 0);
  const assumptions = sources.filter((s) => s.origin === 'assumed' || s.origin === 'catalogue').map((s) => s.name);
  return {
    sources,
    largest,
    combined: total,
    dof,
    expanded: factor * total,
    worst,
    predicted,
    yield: inside,
    ifHalved,
    tolerance: input.tolerance,
    assumptions,
    verdict: predicted > input.tolerance ? 'over' : predicted > 0.85 * input.tolerance ? 'near' : 'inside',
    working: [
      ...sources.map((s) => s.working),
      worked(
        'combined',
        'root sum of squares',
        sources.map((s) => `${fixed(s.u, 3)}²`).join(' + '),
        mm(total, 3),
        'published: JCGM 100:2008',
      ),
      worked(
        '95 % by the sum',
        'combined × √F(95 %; 2, ν)',
        `${fixed(total, 3)} × ${fixed(factor, 3)}, ν ${Number.isFinite(dof) ? fixed(dof, 0) : '∞'}`,
        mm(factor * total),
        'published: JCGM 100:2008, G',
      ),
      worked(
        '95 % by simulation',
        `95th of 100 of ${input.pieces.toLocaleString('en')} simulated pieces, worst corner`,
        `seed ${input.seed}`,
        mm(predicted),
        'published: JCGM 101:2008',
      ),
      worked(
        'inside the tolerance',
        'share of simulated pieces',
        `worst corner ≤ ${mm(input.tolerance)}`,
        percent(inside, 2),
        'statistics',
      ),
      worked(
        'worst case',
        'all at their greatest at once',
        sources.map((s) => fixed(s.worst)).join(' + '),
        mm(worst),
        'geometry',
      ),
    ],
  };
};

/** Displacement of a piece's worst corner from measured offsets, mm. */
export const worstCorner = (art: Box, dx: Mm, dy: Mm, yaw: Rad): Mm =>
  Math.max(...boxCorners(art).map((c: Vec) => Math.hypot(dx - yaw * c.y, dy + yaw * c.x)));
