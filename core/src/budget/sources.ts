import { boxCorners, type Box } from '../geometry';
import type { Mm } from '../units';
import { degrees, fixed, mm, worked } from '../working';
import { fromUniform } from './combine';
import { edgeGrowth, moveSquare, seatSpread, seatWorst } from '../holding';
import type { BudgetInput, LaidInput, Source } from './input';

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

/** Size of pieces that are laid to lines: their edges lie out by what they have grown. */
export const laidSize = (input: BudgetInput, { seat }: LaidInput): Mm => {
  const { length, width } = input.sizes;
  const along = seat.points.map((p) => edgeGrowth(p, length.spread / length.mean, 0));
  const across = seat.points.map((p) => edgeGrowth(p, 0, width.spread / width.mean));
  // All edges of a piece grow together, so their moves add before they are squared.
  const moved = (growth: readonly Mm[]): Mm =>
    Math.max(
      ...boxCorners(input.art).map((c) => {
        const x = seat.response.reduce((s, r, i) => s + growth[i]! * (r.x - r.turn * c.y), 0);
        const y = seat.response.reduce((s, r, i) => s + growth[i]! * (r.y + r.turn * c.x), 0);
        return Math.hypot(x, y);
      }),
    );
  return Math.hypot(moved(along), moved(across));
};

const laidSources = (input: BudgetInput, laid: LaidInput): Omit<Source, 'share'>[] => {
  const { seat, eye, outline, returns } = laid;
  const at = (line: Mm, contact: Mm): Mm[] => seat.points.map((p) => (p.by === 'line' ? line : contact));
  const byEye = seatSpread(seat, at(fromUniform(eye), 0), input.art);
  const sources: Omit<Source, 'share'>[] = [
    {
      id: 'eye',
      name: 'laid to its lines by eye',
      u: byEye,
      dof: Infinity,
      worst: seatWorst(seat, at(eye, 0), input.art),
      origin: 'assumed',
      halve: 'Use a loupe at the lines, or put a third peg where the line is.',
      working: worked(
        'laid to its lines by eye',
        'response of the seat × eye / √3, at the art’s worst corner',
        `± ${fixed(eye)} at ${seat.points.filter((p) => p.by === 'line').length} lines`,
        mm(byEye, 3),
        'common practice',
      ),
    },
  ];
  if (outline.error > 0) {
    const u = seatSpread(seat, at(fromUniform(outline.error), fromUniform(outline.error)), input.art);
    sources.push({
      id: 'card',
      name: 'outline against the blank',
      u,
      dof: Infinity,
      worst: seatWorst(seat, at(outline.error, outline.error), input.art),
      origin: outline.measured ? 'measured' : 'assumed',
      halve: outline.measured
        ? 'Scan the blank again with twice the dots to the inch.'
        : 'Cut the outline in card, lay a blank on it and type the greatest gap.',
      working: worked(
        'outline against the blank',
        'response of the seat × gap / √3, at the art’s worst corner',
        `± ${fixed(outline.error)} at contacts and lines`,
        mm(u, 3),
        outline.measured ? 'measured on the trial in card' : 'assumed',
      ),
    });
  }
  if (returns) {
    // Farthest from zero a turn of the frame shows most: over all pieces, root mean square.
    const corners = input.slots.flatMap((slot) =>
      boxCorners(input.art).map((c) => ({ x: slot.centre.x + c.x, y: slot.centre.y + c.y })),
    );
    const radial = corners.map((p) => returns.u * Math.sqrt(moveSquare(returns.seat, p)));
    const u = Math.sqrt(radial.reduce((q, v) => q + v * v, 0) / Math.max(1, radial.length));
    sources.push({
      id: 'stops',
      name: 'frame back in its stops',
      u,
      dof: returns.dof > 0 ? returns.dof : Infinity,
      worst: 3 * Math.max(0, ...radial),
      origin: returns.dof > 0 ? 'measured' : 'assumed',
      halve:
        returns.dof > 0
          ? 'Glue the stops anew, with faces that the feet meet square.'
          : 'Burn a dot, lift the frame off and on, burn it again, and type the distance; three times.',
      working: worked(
        'frame back in its stops',
        'error of each stop × response of the three contacts, over the pieces',
        `${fixed(returns.u, 3)} at each of ${returns.seat.points.length}`,
        mm(u, 3),
        returns.dof > 0 ? 'measured by repeated dots' : 'assumed',
      ),
    });
  }
  return sources;
};

/** Every source of position error with its working, before their shares are known. */
export const reckonSources = (input: BudgetInput): Omit<Source, 'share'>[] => {
  const { pocket, sizes, marks, aimingGrowth } = input;
  const sigma = input.sigma * aimingGrowth;
  const lever = artLever(input.art);
  const board = boardLever(input);
  const sources: Omit<Source, 'share'>[] = [];
  if (input.lies === 'loose') {
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
  }
  const yaw = pocket.yaw ?? pocket.byEye;
  if (yaw !== null && yaw > 0) {
    const eye = pocket.yaw === null;
    const name = eye ? 'turned to its line by eye' : 'yaw at the far corner';
    const u = fromUniform(yaw) * lever;
    sources.push({
      id: 'yaw',
      name,
      u,
      dof: Infinity,
      worst: yaw * lever,
      origin: eye ? 'assumed' : 'reckoned',
      halve: eye
        ? 'Give the pocket a stop for the hole, or lay the hole to its triangle with a loupe.'
        : 'Halve the clearance, or keep the art nearer to the middle of the piece.',
      working: worked(
        name,
        'greatest yaw / √3 × distance to the art’s corner',
        `${degrees(yaw)} / √3 × ${fixed(lever, 1)}`,
        mm(u, 3),
        eye ? 'common practice' : 'geometry',
      ),
    });
  }
  if (input.laid) sources.push(...laidSources(input, input.laid));
  const size = input.laid ? laidSize(input, input.laid) : Math.hypot(sizes.length.spread / 2, sizes.width.spread / 2);
  // A piece that is cut from its sheet is as large as it is drawn.
  if (input.lies !== 'drawn')
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
        input.laid
          ? 'its edges lie out by what it has grown: response of the seat at the art’s worst corner'
          : '√((s length/2)² + (s width/2)²): half the size error reaches the middle',
        input.laid
          ? `s length ${fixed(sizes.length.spread, 3)}, s width ${fixed(sizes.width.spread, 3)}`
          : `√((${fixed(sizes.length.spread, 3)}/2)² + (${fixed(sizes.width.spread, 3)}/2)²)`,
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
      `σ ${fixed(input.sigma, 3)}${aimingGrowth === 1 ? '' : ` × ${fixed(aimingGrowth)} for the scales read too`}, n ${marks.marks}, d ${fixed(board.rms, 0)}, √Σr² ${fixed(Math.sqrt(marks.spread), 0)}`,
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
  if (input.outline > 0) {
    const u = Math.SQRT2 * input.outline;
    sources.push({
      id: 'outline',
      name: 'outline in the picture',
      u,
      dof: Infinity,
      worst: 3 * u,
      origin: 'assumed',
      halve: 'Scan the sheet again with twice the dots to the inch, or take the file it was printed from.',
      working: worked(
        'outline in the picture',
        '√2 × √((dot / √12)² + (edge width / 10)²)',
        `√2 × ${fixed(input.outline, 3)}`,
        mm(u, 3),
        'assumed',
      ),
    });
  }
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
