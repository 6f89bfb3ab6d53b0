import { boxCorners, type Box } from '../geometry';
import type { Mm } from '../units';
import { degrees, fixed } from '../working';
import { sourceOf, type SourcePart } from './source';
import { fromUniform } from './combine';
import { nextPiece } from '../samples';
import { edgeGrowth, moveSquare } from '../holding';
import { atPoints } from './at-points';
import type { BudgetInput, LaidInput } from './input';
import { axesSource, madeSources } from './made';

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
  const along = seat.points.map((p) => edgeGrowth(p, nextPiece(length) / length.mean, 0));
  const across = seat.points.map((p) => edgeGrowth(p, 0, nextPiece(width) / width.mean));
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

const eyeSource = ({ art }: BudgetInput, { seat, eye }: LaidInput): SourcePart =>
  sourceOf(
    {
      id: 'eye',
      name: 'laid to its lines by eye',
      ...atPoints(seat, art, eye, 'line'),
      origin: 'assumed',
      halve: 'Use a loupe at the lines, or put a third peg where the line is.',
    },
    [
      'response of the seat × eye / √3, at the art’s worst corner',
      `± ${fixed(eye)} at ${seat.points.filter((p) => p.by === 'line').length} lines`,
      'common practice',
    ],
  );

const cardSource = ({ art }: BudgetInput, { seat, outline: { error, measured } }: LaidInput): SourcePart =>
  sourceOf(
    {
      id: 'card',
      name: 'outline against the blank',
      ...atPoints(seat, art, error),
      origin: measured ? 'measured' : 'assumed',
      halve: measured
        ? 'Scan the blank again with twice the dots to the inch.'
        : 'Cut the outline in card, lay a blank on it and type the greatest gap.',
    },
    [
      'response of the seat × gap / √3, at the art’s worst corner',
      `± ${fixed(error)} at contacts and lines`,
      measured ? 'measured on the trial in card' : 'assumed',
    ],
  );

/** Farthest from zero a turn of the frame shows most: over all pieces, root mean square. */
const stopsSource = ({ art, slots }: BudgetInput, returns: NonNullable<LaidInput['returns']>): SourcePart => {
  const corners = slots.flatMap(({ centre }) => boxCorners(art).map((c) => ({ x: centre.x + c.x, y: centre.y + c.y })));
  const radial = corners.map((p) => returns.u * Math.sqrt(moveSquare(returns.seat, p)));
  const measured = returns.dof > 0;
  return sourceOf(
    {
      id: 'stops',
      name: 'frame back in its stops',
      u: Math.sqrt(radial.reduce((q, v) => q + v * v, 0) / Math.max(1, radial.length)),
      dof: measured ? returns.dof : Infinity,
      worst: 3 * Math.max(0, ...radial),
      origin: measured ? 'measured' : 'assumed',
      halve: measured
        ? 'Glue the stops anew, with faces that the feet meet square.'
        : 'Burn a dot, lift the frame off and on, burn it again, and type the distance; three times.',
    },
    [
      'error of each stop × response of the three contacts, over the pieces',
      `${fixed(returns.u, 3)} at each of ${returns.seat.points.length}`,
      measured ? 'measured by repeated dots' : 'assumed',
    ],
  );
};

const floatSource = ({ pocket: { floatX, floatY } }: BudgetInput): SourcePart =>
  sourceOf(
    {
      id: 'float',
      name: 'float in pocket',
      u: Math.hypot(fromUniform(floatX), fromUniform(floatY)),
      worst: Math.hypot(floatX, floatY),
      origin: 'reckoned',
      halve: 'Halve the clearance (snug pockets), or push every piece into one corner.',
    },
    ['√((float x/√3)² + (float y/√3)²)', `√((${fixed(floatX)}/√3)² + (${fixed(floatY)}/√3)²)`, 'geometry'],
  );

/** A piece that can turn, in its pocket or as it is laid to its line by eye. */
const yawSource = ({ art }: BudgetInput, yaw: number, eye: boolean): SourcePart => {
  const lever = artLever(art);
  return sourceOf(
    {
      id: 'yaw',
      name: eye ? 'turned to its line by eye' : 'yaw at the far corner',
      u: fromUniform(yaw) * lever,
      worst: yaw * lever,
      origin: eye ? 'assumed' : 'reckoned',
      halve: eye
        ? 'Give the pocket a stop for the hole, or lay the hole to its triangle with a loupe.'
        : 'Halve the clearance, or keep the art nearer to the middle of the piece.',
    },
    [
      'greatest yaw / √3 × distance to the art’s corner',
      `${degrees(yaw)} / √3 × ${fixed(lever, 1)}`,
      eye ? 'common practice' : 'geometry',
    ],
  );
};

const sizeSource = (input: BudgetInput): SourcePart => {
  const { length, width } = input.sizes;
  const assumed = length.assumed || width.assumed;
  const [sl, sw] = [nextPiece(length), nextPiece(width)];
  const [l, w] = [fixed(sl, 3), fixed(sw, 3)];
  return sourceOf(
    {
      id: 'size',
      name: 'blank size',
      u: input.laid ? laidSize(input, input.laid) : Math.hypot(sl / 2, sw / 2),
      dof: Math.min(length.dof, width.dof),
      origin: assumed ? 'catalogue' : 'measured',
      halve: assumed
        ? 'Measure three or more pieces: the catalogue’s tolerance is assumed.'
        : 'Sort the pieces by size, or buy closer ones.',
    },
    input.laid
      ? [
          'its edges lie out by what it has grown: response of the seat at the art’s worst corner',
          `s length ${l}, s width ${w}`,
          length.assumed ? 'assumed' : 'statistics',
        ]
      : [
          '√((s length/2)² + (s width/2)²), s of the next piece: half the size error reaches the middle',
          `√((${l}/2)² + (${w}/2)²)`,
          length.assumed ? 'assumed' : 'statistics',
        ],
  );
};

const aimingSource = ({ marks, sigma: read, aimingGrowth }: BudgetInput, board: { rms: Mm; most: Mm }): SourcePart => {
  const sigma = read * aimingGrowth;
  const at = (d: Mm): Mm => Math.sqrt((2 * sigma ** 2) / marks.marks + (d ** 2 * sigma ** 2) / marks.spread);
  const growth = aimingGrowth === 1 ? '' : ` × ${fixed(aimingGrowth)} for the scales read too, and what they may hide`;
  return sourceOf(
    {
      id: 'aiming',
      name: 'aiming at marks',
      u: at(board.rms),
      worst: 3 * at(board.most),
      origin: 'profile',
      halve: 'Use a finer last jog step and a loupe, or read a third mark.',
    },
    [
      '√(2σ²/n + d²σ²/Σr²), d over the pieces',
      `σ ${fixed(read, 3)}${growth}, n ${marks.marks}, d ${fixed(board.rms, 0)}, √Σr² ${fixed(Math.sqrt(marks.spread), 0)}`,
      'statistics',
    ],
  );
};

const pointerSource = ({ pointer: { status, uncertainty } }: BudgetInput): SourcePart => {
  const unmeasured = status === 'unmeasured';
  const u = Math.SQRT2 * uncertainty;
  return sourceOf(
    {
      id: 'pointer',
      name: 'pointer offset',
      u,
      worst: unmeasured ? Math.SQRT2 * Math.sqrt(3) * uncertainty : 3 * u,
      origin: status === 'measured' ? 'measured' : 'assumed',
      halve: unmeasured
        ? 'Burn a dot and read where the pointer shows it.'
        : 'Measure the offset again, twice, and take the mean.',
    },
    [
      unmeasured ? '√2 × 0.30 / √3, unmeasured' : '√2 × error of its own reading',
      `√2 × ${fixed(uncertainty, 3)}`,
      unmeasured ? 'common practice' : 'statistics',
    ],
  );
};

const returnSource = ({ repeatability }: BudgetInput): SourcePart =>
  sourceOf(
    {
      id: 'return',
      name: 'machine return',
      u: Math.SQRT2 * fromUniform(repeatability),
      worst: Math.SQRT2 * repeatability,
      origin: 'profile',
      halve: 'Check belts and wheels, and measure the return with a repeated dot.',
    },
    ['√2 × ± / √3', `√2 × ${fixed(repeatability, 3)} / √3`, 'assumed'],
  );

const secondSource = (second: Mm): SourcePart =>
  sourceOf(
    {
      id: 'second',
      name: 'second source beside the first',
      u: Math.SQRT2 * second,
      origin: 'reckoned',
      halve: 'Burn several dots with each source, and take the mean of how far they lie apart.',
    },
    ['√2 × √2 × √(eye² + (return / √3)²): a dot of each is read', `√2 × ${fixed(second, 3)}`, 'statistics'],
  );

const outlineSource = ({ outline }: BudgetInput): SourcePart =>
  sourceOf(
    {
      id: 'outline',
      name: 'outline in the picture',
      u: Math.SQRT2 * outline,
      origin: 'assumed',
      halve: 'Scan the sheet again with twice the dots to the inch, or take the file it was printed from.',
    },
    ['√2 × √((dot / √12)² + (edge width / 10)²)', `√2 × ${fixed(outline, 3)}`, 'assumed'],
  );

/** The blank that a camera saw least well. */
const seenSource = ({ art }: BudgetInput, seen: NonNullable<BudgetInput['seen']>): SourcePart => {
  const reach = Math.max(...boxCorners(art).map((c) => Math.hypot(c.x, c.y)));
  const middle = ({ shift, foot = 0 }: (typeof seen)[number]): Mm => Math.hypot(shift, fromUniform(foot));
  const of = (s: (typeof seen)[number]): Mm => Math.hypot(Math.SQRT2 * middle(s), s.turn * reach);
  const least = seen.reduce((a, b) => (of(b) > of(a) ? b : a));
  return sourceOf(
    {
      id: 'outline',
      name: 'outline in the picture',
      u: of(least),
      origin: 'measured',
      halve:
        fromUniform(least.foot ?? 0) > least.shift
          ? 'Take the picture from higher up: where the camera’s foot is weighs less then.'
          : 'Light the bed evenly, and take the picture with more dots.',
    },
    [
      '√(2 × middle² + (turn × distance to the art’s corner)²), of the blank that is seen least well',
      `√(2 × ${fixed(middle(least), 3)}² + (${degrees(least.turn)} × ${fixed(reach, 1)})²)`,
      'statistics',
    ],
  );
};

const angleSource = ({ leftoverAngle }: BudgetInput, board: { rms: Mm; most: Mm }): SourcePart =>
  sourceOf(
    {
      id: 'angle',
      name: 'angle left in the work',
      u: Math.abs(leftoverAngle) * board.rms,
      worst: Math.abs(leftoverAngle) * board.most,
      origin: 'measured',
      halve: 'Turn the board once more, or let Bistre turn the file.',
    },
    ['angle × distance over the pieces', `${degrees(leftoverAngle)} × ${fixed(board.rms, 0)}`, 'geometry'],
  );

/** Every source of position error with its working, before their shares are known. */
export const reckonSources = (input: BudgetInput): SourcePart[] => {
  const { pocket, laid, lies } = input;
  const board = boardLever(input);
  const yaw = pocket.yaw ?? pocket.byEye;
  return [
    ...(lies === 'loose' ? [floatSource(input)] : []),
    ...(yaw !== null && yaw > 0 ? [yawSource(input, yaw, pocket.yaw === null)] : []),
    ...(laid ? [eyeSource(input, laid)] : []),
    ...(laid && laid.outline.error > 0 ? [cardSource(input, laid)] : []),
    ...(laid?.returns ? [stopsSource(input, laid.returns)] : []),
    ...(input.made ? madeSources({ ...input, made: input.made }) : []),
    // A piece that is cut from its sheet is as large as it is drawn; the middle of one that floats does not move with its size.
    ...(lies === 'against' ? [sizeSource(input)] : []),
    ...(input.axes ? [axesSource(input.axes, input.axes.from === 'marks' ? board : { rms: artLever(input.art), most: artLever(input.art) })] : []), // prettier-ignore
    aimingSource(input, board),
    pointerSource(input),
    returnSource(input),
    ...(input.second ? [secondSource(input.second)] : []),
    ...(input.outline > 0 ? [outlineSource(input)] : []),
    ...(input.seen?.length ? [seenSource(input, input.seen)] : []),
    ...(input.leftoverAngle === 0 ? [] : [angleSource(input, board)]),
  ];
};
