import { driveOf, letterIsOld } from './settings';
import {
  addLines,
  axesOf,
  burnedPlaces,
  dutyOf,
  Moves,
  runUp,
  planTime,
  type BurnSetting,
  type FilledRow,
} from '../../burn';
import {
  developed,
  faceOutline,
  LETTER_F,
  metWithin,
  onBlank,
  readingTurn,
  toTravel,
  wrapTemplate,
  type FacePlace,
} from '../../drive';
import { convexHull, polyline, transformContour, translation, type Contour, type Vec } from '../../geometry';
import type { Pass } from '../../holding';
import { turningChunks, type TurningJob } from '../../output';
import { fail, ok, type Problem, type Result } from '../../result';
import {
  type BatchInput,
  NO_RECIPE,
  picturesOf,
  shapesOn,
  type OnDrive,
  type PlacedFace,
  type RoundReckoning,
  type TimeEstimate,
} from '../../setup';
import { NO_PICTURES, type Pictures } from '../../picture';
import type { Mm, Rad } from '../../units';
import { percent } from '../../working';
import { accelerationIn, numberIn } from './in-machine';
import { numberStands } from './seam';
import { stillMoves } from './still';
import { needDrive, turned, turnedMoves, type TurningNeeds } from './turned';

const chunks = (
  input: BatchInput,
  on: OnDrive,
  blocks: Iterable<Moves | FilledRow>,
  title: string,
  notes: readonly string[],
  { waits = false, air }: Pick<TurningJob, 'waits' | 'air'> = {},
): Generator<string> =>
  turningChunks(blocks, {
    waits,
    air,
    title,
    notes: [
      `machine ${input.machine.name}, drive ${on.drive.name}`,
      'zero: edge of the rim, on the crest',
      `rim faces ${driveOf(input).rimFaces}; contact circle ${on.seat.contactDiameter.toFixed(2)} mm`,
      `axis acceleration at most ${on.throwing.recommended.toFixed(0)} mm/s2`,
      ...notes,
    ],
    dialect: input.machine.dialect,
    axis: on.drive.axis,
    perMm: on.control.artScale,
    alongPerMm: 1 / axesOf(input.machine.square).axes.x,
    idleSpeed: on.throwing.idleSpeed,
    rapidSpeed: input.machine.rapidSpeed,
  });

/**
 * The G-code of the piece on the drive; `turnedNeeds` says what it waits for.
 * @param pictures all that the setup carries
 * @param progress called with the share of lines written
 */
export const turnedGcode = (
  input: BatchInput,
  r: TurningNeeds,
  title: string,
  pictures: Pictures = NO_PICTURES,
  progress?: (share: number) => void,
): Result<Generator<string>> => {
  const made = turned(input, r);
  if (!made.ok) return made;
  const { on, blocks, lines } = made.value;
  if (picturesOf(input).some((id) => !pictures.has(id)))
    return fail('no-picture', 'A picture of this setup is not at hand. Choose it again.', 'drive.faces');
  const watched = function* (): Generator<Moves | FilledRow> {
    let at = 0;
    for (const block of blocks(pictures)) {
      yield block;
      at += 1;
      if (progress && at % 50 === 0) progress(at / Math.max(1, lines));
    }
  };
  return ok(
    chunks(
      input,
      on,
      watched(),
      title,
      [
        `piece ${r.onTheBoard[0]?.ordinal ?? 1}`,
        `recipe ${input.recipe?.name}`,
        `rows every ${on.interval!.used.toFixed(5)} mm, ${Math.round(on.interval!.used / on.travel.step)} steps`,
      ],
      { air: input.recipe?.engrave.air },
    ),
  );
};

/** What a piece on the drive waits for: a drive, its number typed in, the F picked, a piece on it. */
export const turnedNeeds = (input: BatchInput, r: TurningNeeds): (Problem | null)[] => {
  const needed = needDrive(r);
  if (!needed.ok) return [needed.problem];
  const { on } = needed.value;
  const { value, where } = on.control;
  const numberSet = numberIn(input, on.control);
  return [
    driveOf(input).letter === null
      ? {
          code: 'no-letter',
          message: letterIsOld(input)
            ? 'Burn the F on tape again: which way the rim faces or the drive turns was entered anew since, and what it showed would turn the art a second time.'
            : 'Burn the F on tape first: until then nobody knows which way round the art comes out.',
          field: 'drive',
        }
      : null,
    numberStands(on.control, numberSet)
      ? null
      : {
          code: 'number-not-set',
          message: `${numberSet === null ? 'Nobody said yet that' : `The machine was last said to have ${numberSet};`} ${where} ${numberSet === null ? `stands at ${value}` : `must be ${value}`}. Type it in at the Drive station first.`,
          field: 'drive',
        },
    input.pieces.some((p) => p.state === 'loaded')
      ? null
      : { code: 'no-load', message: 'No piece is on the drive. Lay one on at the Run station.', field: 'run' },
  ];
};

/** What a burn on tape waits for: a drive, and a recipe whose line can be burned as slowly as the blank follows. */
export const tapeNeeds = (input: BatchInput, r: TurningNeeds): (Problem | null)[] => {
  const needed = needDrive(r);
  if (!needed.ok) return [needed.problem];
  const tape = input.recipe ? tapeSetting(input, needed.value.on) : null;
  return [tape && !tape.ok ? tape.problem : null];
};

/**
 * Burn for tape: the recipe's energy to the millimetre of line, as near to walking speed as the source fires.
 * Refused where that would be faster than the blank follows.
 */
const tapeSetting = ({ recipe, machine }: BatchInput, on: OnDrive): Result<BurnSetting> => {
  // A recipe that engraves with nothing says nothing of tape either.
  if (!recipe || !on.interval || recipe.engrave.power === 0) return NO_RECIPE;
  const { power, speed } = recipe.engrave;
  const { walkSpeed, idleSpeed } = on.throwing;
  const energy = power / speed;
  const fires = Math.max(machine.leastPower, energy * walkSpeed);
  const slowest = fires / energy;
  if (slowest > idleSpeed + 1e-9)
    return fail(
      'below-firing',
      `A line with the energy of ${recipe.name} takes ${percent(energy * walkSpeed, 2)} at ${walkSpeed.toFixed(0)} mm/s; ${machine.name} fires from ${percent(machine.leastPower, 0)}, and at that it would go ${slowest.toFixed(0)} mm/s, faster than this blank follows (${idleSpeed.toFixed(0)}). Choose a recipe with more energy to the line, or one for tape.`,
      'burn',
    );
  return ok({ power: Math.min(1, fires), speed: slowest, interval: on.interval.used, passes: 1 });
};

const middleOf = (r: RoundReckoning, on: OnDrive): FacePlace => ({
  angle: on.unrolling.zeroAt,
  along: (r.artFrom + r.artTo) / 2,
});

/** Length of the ticks at a ring's ends, mm. */
const TICK = 4;

/** The witness ring: one circumference of line at the art's middle, a tick at its start and end on opposite sides. */
export const ringGcode = (input: BatchInput, r: TurningNeeds): Result<string> => {
  const needed = needDrive(r);
  if (!needed.ok) return needed;
  const { round, on } = needed.value;
  const place = middleOf(round, on);
  const x = toTravel({ x: 0, y: 0 }, place, on.unrolling).x;
  const tape = tapeSetting(input, on);
  if (!tape.ok) return tape;
  const setting = tape.value;
  const moves = new Moves();
  // The way there is slow too: nobody knows yet how the blank lies.
  moves.push(x - TICK, 0, on.throwing.walkSpeed, 0);
  moves.push(x, 0, setting.speed, setting.power);
  const length = on.circumference * on.ring.part;
  moves.push(x, length, setting.speed, setting.power);
  moves.push(x + TICK, length, setting.speed, setting.power);
  const what = on.ring.part === 1 ? 'one turn' : `${(360 * on.ring.part).toFixed(0)} degrees`;
  return ok([...chunks(input, on, [moves], 'witness ring, on tape', [`${what} of ${length.toFixed(2)} mm`])].join(''));
};

/** Nothing in a file may switch the beam on, not even at power nought. */
const beamOff = (text: string): string => text.replace(/^M[34] S0\n/m, '');

/**
 * One slow turn with the beam off, which waits at its end: a pen dot drawn under the pointer before it must be back under
 * it, or shows by how much the drive turns too far or too little.
 */
export const turnGcode = (input: BatchInput, r: TurningNeeds): Result<string> => {
  const needed = needDrive(r);
  if (!needed.ok) return needed;
  const { round, on } = needed.value;
  const { x } = toTravel({ x: 0, y: 0 }, middleOf(round, on), on.unrolling);
  const moves = new Moves();
  moves.push(x, 0, on.throwing.walkSpeed, 0);
  moves.push(x, on.circumference, on.throwing.walkSpeed, 0);
  const notes = [`one turn of ${on.circumference.toFixed(2)} mm, beam off; look at the dot while it waits`];
  return ok(beamOff([...chunks(input, on, [moves], 'one slow turn for a pen dot', notes, { waits: true })].join('')));
};

/** What a whole turn waits for: a drive, and nothing in its way. */
export const wholeTurnNeeds = (_: BatchInput, r: TurningNeeds): (Problem | null)[] => {
  const needed = needDrive(r);
  if (!needed.ok) return [needed.problem];
  return [
    needed.value.on.ring.part < 1
      ? { code: 'turn', message: 'The feature lets it turn a part of the way only: burn that part of a ring instead.', field: 'drive' } // prettier-ignore
      : null,
  ];
};

/** The F on tape, upright on the standing blank if all is as it was said. */
export const letterGcode = (input: BatchInput, r: TurningNeeds): Result<string> => {
  const needed = needDrive(r);
  if (!needed.ok) return needed;
  const { round, on } = needed.value;
  const place = middleOf(round, on);
  const tape = tapeSetting(input, on);
  if (!tape.ok) return tape;
  const moves = new Moves();
  // What was found so far is in it: a second F shows whether the first was read rightly.
  const lines = LETTER_F.map((line) => line.map((p) => toTravel({ x: p.x - 5, y: p.y - 7 }, place, on.unrolling)));
  moves.push(lines[0]![0]!.x, lines[0]![0]!.y, on.throwing.walkSpeed, 0);
  addLines(
    moves,
    lines.map((vertices) => ({ closed: false, vertices })),
    tape.value,
  );
  return ok([...chunks(input, on, [moves], 'F on tape', ['10 x 14 mm, foot towards the base'])].join(''));
};

/** Hull of everything that is burned on the piece, in the file's axes. */
export const turnedOutline = (input: BatchInput, r: TurningNeeds): Vec[] => {
  const made = turnedMoves(input, r);
  if (!made.ok) return [];
  return convexHull(burnedPlaces(made.value.moves));
};

/** Walk of the true outline at walking speed, beam off. */
export const turnedWalk = (input: BatchInput, r: TurningNeeds): Result<string> => {
  const needed = needDrive(r);
  if (!needed.ok) return needed;
  const { on } = needed.value;
  const hull = turnedOutline(input, r);
  if (hull.length < 2) return fail('no-art', 'There is no art to walk round yet.', 'drive.faces');
  const moves = new Moves();
  for (const p of [...hull, hull[0]!]) moves.push(p.x, p.y, on.throwing.walkSpeed, 0);
  const text = [...chunks(input, on, [moves], 'walk of the true outline, beam off', [])].join('');
  return ok(beamOff(text));
};

type OnItsSide = readonly { readonly angle: Rad; readonly along: Mm }[];

/** The art of the piece on its blank: each line as angles from the feature and places from the rim. */
export const artOnBlank = (
  r: TurningNeeds,
  faces: readonly PlacedFace[] = r.own.round?.faces ?? [],
): { filled: OnItsSide[]; drawn: OnItsSide[] } => {
  const out = { filled: [] as OnItsSide[], drawn: [] as OnItsSide[] };
  const side = r.own.round?.side;
  if (!side) return out;
  for (const face of faces) {
    const shapes = shapesOn(face, r.art, r.onTheBoard[0]?.ordinal ?? 1);
    for (const place of face.places)
      for (const kind of ['filled', 'drawn'] as const)
        for (const line of shapes[kind])
          out[kind].push(line.map((p) => onBlank(readingTurn(p, face.choice.reads), place, side)));
  }
  return out;
};

/** Places as they are met on a side that is laid flat from −180° to 180°: what reaches over one end goes on at the other. */
export const metOnSide = <F extends { readonly places: readonly FacePlace[]; readonly half: Rad }>(face: F): F => ({
  ...face,
  places: face.places.flatMap((p) => metWithin({ angle: p.angle, half: face.half }, -Math.PI).map((angle) => ({ ...p, angle }))), // prettier-ignore
});

/**
 * The blank laid flat, rim up, with its art: passes in mm, origin at the feature on the rim.
 *
 * @param ends how art over ±180° is shown: on beyond it, as a file burns it, or at both ends, to be cut there by who draws it
 */
export const unrolledPasses = (r: TurningNeeds, ends: 'go on' | 'meet' = 'go on'): Pass[] => {
  if (!r.own.round) return [];
  const { shape, side, artFrom, artTo, faces: placed } = r.own.round;
  const faces = ends === 'meet' ? placed.map(metOnSide) : placed;
  const flat = developed(shape.profile, artFrom, artTo);
  const { filled, drawn } = artOnBlank(r, faces);
  const lay = (lines: readonly OnItsSide[], closed: boolean): Contour[] =>
    lines.map((line) =>
      polyline(
        line.map((p) => flat(p.angle, p.along)),
        closed,
      ),
    );
  const rims = faces.flatMap(({ picture, places, choice }) =>
    picture
      ? places.map((place) => {
          const [w, h] = choice.reads === 'around' ? [picture.width, picture.height] : [picture.height, picture.width];
          return faceOutline(side, place, w, h);
        })
      : [],
  );
  return [
    { name: 'engrave-fill', kind: 'fill', contours: lay(filled, true) },
    { name: 'engrave-line', kind: 'line', contours: lay(drawn, false) },
    // Pictures are told by their edges here; their dots are in the G-code.
    ...(rims.length > 0 ? [{ name: 'picture-edge', kind: 'line' as const, contours: lay(rims, true) }] : []),
  ];
};

/** The flat pattern of the engraved stretch as a template in true size, for paper, tape or decals; lower left at the origin. */
export const templatePasses = (r: TurningNeeds): { width: number; height: number; passes: Pass[] } | null => {
  if (!r.own.round) return null;
  const { shape, artFrom, artTo } = r.own.round;
  const outline = wrapTemplate(shape.profile, artFrom, artTo);
  const points = outline.vertices.map((v) => ({ x: v.x, y: v.y }));
  // The arcs bow beyond their ends: take their middles too.
  const sagged = [...points, ...[0, 2].map((i) => middleOfArc(outline, i))];
  const minX = Math.min(...sagged.map((p) => p.x));
  const minY = Math.min(...sagged.map((p) => p.y));
  const width = Math.max(...sagged.map((p) => p.x)) - minX;
  const height = Math.max(...sagged.map((p) => p.y)) - minY;
  return {
    width: width + 10,
    height: height + 10,
    passes: [{ name: 'template', kind: 'cut', contours: [transformContour(translation(5 - minX, 5 - minY), outline)] }],
  };
};

const middleOfArc = (outline: Contour, i: number): Vec => {
  const a = outline.vertices[i]!;
  const b = outline.vertices[(i + 1) % outline.vertices.length]!;
  const k = (a.bulge ?? 0) / 2;
  return { x: (a.x + b.x) / 2 + k * (b.y - a.y), y: (a.y + b.y) / 2 - k * (b.x - a.x) };
};

/** Time for the piece on the drive. */
export const turnedTime = (input: BatchInput, r: TurningNeeds): TimeEstimate | null => {
  const made = input.drive ? turnedMoves(input, r) : stillMoves(input, r);
  if (!made.ok) return null;
  const moves = 'moves' in made.value ? made.value.moves : made.value;
  // On a drive y is the blank turning: slower to follow than the bed is.
  const turning = input.drive ? { accelerationY: Math.min(input.machine.acceleration, accelerationIn(input, input.drive)) } : {}; // prettier-ignore
  const planned = planTime(moves, { ...input.machine, ...turning });
  const { total, burning, between } = planned;
  return {
    load: total,
    burning,
    between,
    duty: dutyOf(planned, input.machine),
    pieces: 1,
    batch: total * input.quantity,
    runUp: runUp(input.recipe!.engrave, input.machine.acceleration),
  };
};
