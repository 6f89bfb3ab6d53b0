import { NAMED_PIECES, type BatchArt } from '../../artwork';
import { reckonBudget, type Budget } from '../../budget';
import { apply, boxCorners, centroid, compose, rigid, type Box, type Transform, type Vec } from '../../geometry';
import {
  airWords,
  blankSizes,
  fixtureBasis,
  madeOf,
  nominalSize,
  outOfDate,
  pinsAsThings,
  printedSizes,
  reckonHeights,
  slotTransform,
  type BlankSizes,
  type Board,
  type BoardFor,
  type CutFor,
  type Pocket,
  type Rests,
  type TallThing,
  blankOutline,
  usableArea,
  type UsableArea,
} from '../../holding';
import type { Alphabet } from '../../lettering';
import { markSpread, squarePlacement } from '../../marks';
import { fail, type Result } from '../../result';
import { runSummary } from '../../runs';
import { dimensionQuestions, type Question } from '../../samples';
import {
  headOver,
  secondInBudget,
  artOf,
  artOnPieces,
  bowLeft,
  besideNow,
  correctionsInForce,
  correctionTransform,
  frontFace,
  piecesOnBoard,
  pinsAndStand,
  reckonPlace,
  type BatchInput,
  type Beside,
  type BatchReckoning,
  type Face,
  type Fixings,
  type PlaceReckoning,
  type ReckonOptions,
  type Remark,
} from '../../setup';
import type { Mm, Share } from '../../units';
import { axesCarried, blamedOnAxes } from './axes';
import { cornersOffBed } from './parts';

type Warning = Remark;
type BudgetInput = Parameters<typeof reckonBudget>[0];

/** What a flat way begins from. */
export interface Begun {
  readonly beside: Beside;
  /** To allow for, or as drawn. */
  readonly sizes: BlankSizes;
  /** The face that lies up. */
  readonly face: Face;
  /** Its art as it is set, before anything is kept clear of. */
  readonly set: BatchArt | null;
  /** Single-stroke alphabet of labels; absent while it loads. */
  readonly labels: Alphabet | undefined;
}

/**
 * @param asDrawn whether pieces are cut out of their sheet, and so as large as they are drawn
 * @param faceOf the face that lies up, where that can be another than the front
 */
export const begin = (
  input: BatchInput,
  options: ReckonOptions,
  asDrawn: boolean,
  faceOf: (sizes: BlankSizes) => Face = () => frontFace(input),
): Begun => {
  const beside = besideNow(input);
  const measured = blankSizes(input.blank, beside.coverage, beside.confidence);
  const sizes = asDrawn ? printedSizes(input.blank, measured) : measured;
  const face = faceOf(sizes);
  return {
    beside,
    sizes,
    face,
    set: artOf(input, face, sizes, options),
    labels: options.alphabets[options.labels],
  };
};

export const NO_LABELS: Result<never> = fail('no-labels', 'The alphabet for labels is still loading.');

/** What a board is cut for. */
export const boardFor = (input: BatchInput, { sizes }: Begun, pocket: Pocket, labels: Alphabet): BoardFor => ({
  blank: input.blank,
  sizes,
  pocket,
  machine: input.machine,
  revision: input.fixture?.revision ?? 1,
  labels,
});

/** Half of the blank each way: what is cut out reaches its edge. Piece frame, mm. */
export const wholePiece = ({ blank }: BatchInput): Box => {
  const { length, width } = nominalSize(blank.shape);
  return { minX: -length / 2, maxX: length / 2, minY: -width / 2, maxY: width / 2 };
};

/** What is engraved, or while nothing is the zone that it goes to. Piece frame, mm. */
export const engravedBox = (input: BatchInput, { set, face: { zone } }: Begun): Box => {
  if (set && set.box.minX <= set.box.maxX) return set.box;
  if (!zone) return wholePiece(input);
  return {
    minX: zone.x - zone.width / 2 + zone.margin,
    maxX: zone.x + zone.width / 2 - zone.margin,
    minY: zone.y - zone.height / 2 + zone.margin,
    maxY: zone.y + zone.height / 2 - zone.margin,
  };
};

/** How pieces lie, as their way decides it. */
export interface Lying {
  /** That today’s samples ask for, and that pieces lie in. */
  readonly wanted: Pocket;
  readonly pocket: Pocket;
  readonly artBox: Box;
  /** The fixture or sheet as it is made, or why it cannot be; and as it lies now. */
  readonly made: Result<Board>;
  readonly board: Board | null;
  /** What is aimed at; null where nothing is, or not yet. */
  readonly aimed: Board | null;
  /** How a piece lies in its place, and how that place rests on the bed. */
  readonly lies: BudgetInput['lies'];
  readonly rests: Rests;
  /** What a kept board was cut for, so that it can be out of date; absent where nothing of the blank is. */
  readonly suits?: CutFor;
  /** Whether what carries the marks may be stretched. */
  readonly stretches?: boolean;
  /** Whether its marks were made by others than the machine that reads them. */
  readonly madeElsewhere?: boolean;
  /** What it sets up in the head’s path. */
  readonly things?: readonly TallThing[];
  /** Height of the marks over the surface that is in focus, mm. */
  readonly marksAt: Mm;
  /** Whether the work may be turned to the machine, instead of the file to it. */
  readonly turns: boolean;
  /** Where it lies without being aimed at; in the middle of the bed where that is not known. */
  readonly at?: Transform;
  /** The part of a piece’s face that its seat leaves. */
  readonly usable?: UsableArea;
}

/** What a way adds to what follows for all that lie flat. */
export interface Own {
  /** Whether one piece is burned alone until it is approved. */
  readonly firstAlone: boolean;
  /** Loads from the start, for a quantity on so many places. */
  readonly planned: (quantity: number, places: number) => number[];
  /** Known where it lies though no mark was read. */
  readonly placesItself?: boolean;
  readonly budget?: (place: PlaceReckoning) => Partial<BudgetInput>;
  /** Its own remarks: before those of all ways, and after them. */
  readonly first?: readonly Warning[];
  readonly last?: (budget: Budget) => readonly Warning[];
  readonly also?: BatchReckoning['own'];
}

/** “All of them” is promised by as many readings as there are pieces. */
const unmeasured = ({ blank, quantity, spares }: BatchInput, sizes: BlankSizes): Question[] => {
  const pieces = quantity + spares;
  const read = Math.min(sizes.length.stats?.n ?? 0, sizes.width.stats?.n ?? 0);
  return read >= pieces
    ? []
    : [
        {
          field: 'length',
          message: `${blank.name}: ${read} of ${pieces} pieces are measured. The pocket takes the largest of those; measure the others too, or let it be reckoned for a share of them.`,
        },
      ];
};

const questionsOf = (input: BatchInput, sizes: BlankSizes, coverage: Share): Question[] => {
  const nominal = nominalSize(input.blank.shape);
  const limit = Math.max(input.machine.bed.width, input.machine.bed.height);
  const { samples } = input.blank;
  return [
    ...dimensionQuestions('length', nominal.length, samples.length, limit),
    ...(input.blank.shape.kind === 'disc' ? [] : dimensionQuestions('width', nominal.width, samples.width, limit)),
    ...dimensionQuestions('thickness', input.blank.thickness, samples.thickness, limit),
    ...(coverage >= 1 ? unmeasured(input, sizes) : []),
  ];
};

/** Where marks would be read while too few are: those that place the board. */
const marksUsed = (board: Board | null, { pairs }: PlaceReckoning): Vec[] => {
  if (!board || board.marks.length < 2)
    return [
      { x: 0, y: 0 },
      { x: 100, y: 100 },
    ];
  return pairs.length >= 2 ? pairs.map((p) => p.drawn) : board.marks.filter((m) => m.role === 'place').map((m) => m.at);
};

/** Where the board lies: as its marks say, turned back square where the work is turned; else where it is laid. */
const boardToBedOf = (input: BatchInput, { board, turns, at }: Lying, place: PlaceReckoning): Transform => {
  const { bed } = input.machine;
  if (!place.placement)
    return at ?? rigid(0, (bed.width - (board?.width ?? 0)) / 2, (bed.height - (board?.height ?? 0)) / 2);
  return turns && input.setup.place.school === 'work'
    ? squarePlacement(place.placement, centroid(place.pairs.map((p) => p.drawn)))
    : place.placement.transform;
};

/** A board that takes fewer than were asked for says so: the others are loaded after them. */
const fewerWarnings = (board: Board | null, { bed }: BatchInput['machine']): Warning[] =>
  board?.asked === undefined
    ? []
    : [
        {
          station: 'hold',
          message: `${board.asked} places were asked for; a board for this bed of ${bed.width} × ${bed.height} mm takes ${board.slots.length}${board.otherWay === undefined ? '' : `, ${board.otherWay} with the pieces turned`}.`,
        },
      ];

const pinWarnings = ({ pins }: Fixings): Warning[] =>
  pins && pins.blocked > 0
    ? [
        {
          station: 'hold',
          message: `${pins.blocked} ${pins.blocked === 1 ? 'pin has' : 'pins have'} no place clear of the head: lower heads, or tape there.`,
        },
      ]
    : [];

const heightWarnings = ({ collisions, warpOk }: BatchReckoning['heights']): Warning[] => [
  ...collisions
    .filter((c) => c.verdict !== 'clear')
    .slice(0, 12)
    .map((c) => ({
      station: 'hold',
      message: `${c.thing.label} stands in the head’s path: ${airWords(c.room)}.`,
      danger: 'collision' as const,
    })),
  ...(warpOk
    ? []
    : [
        { station: 'hold', message: 'The board’s warp takes part of the work out of focus.', danger: 'focus' as const },
      ]),
];

/** What is wrong with single pieces’ art, and with the lettering as a whole. */
export const artWarnings = (art: BatchArt | null): Warning[] => [
  ...(art?.problems ?? [])
    .slice(0, NAMED_PIECES)
    .map((p) => ({ station: 'run', message: p.message, danger: 'zone' as const, pieces: [p.piece] })),
  ...(art?.lettering.problem
    ? [{ station: 'run', message: art.lettering.problem.message, danger: 'zone' as const }]
    : []),
  ...(art?.laid ?? []).flatMap((l) => l.problems).map((message) => ({ station: 'run', message, danger: 'zone' as const })), // prettier-ignore
];

/** Everything that follows for pieces that lie on a board, or by themselves, on the bed. */
export const follow = (
  input: BatchInput,
  options: ReckonOptions,
  begun: Begun,
  lying: Lying,
  own: Own,
): BatchReckoning => {
  const { beside, sizes, face } = begun;
  const { board, artBox, pocket, wanted } = lying;
  // What is cut out where it is drawn may bleed over its edge.
  const usable = lying.usable ?? (lying.lies === 'drawn' ? null : usableArea(blankOutline(face.blank, sizes), 0, 0));
  const cut = input.fixture;
  const art = artOnPieces(input, begun.set, face.zone, usable);
  const slots = board?.slots ?? [];
  const artCorners = slots.flatMap((s) => boxCorners(artBox).map((c) => apply(slotTransform(s), c)));
  const axes = axesCarried(input, lying);
  const place = blamedOnAxes(
    reckonPlace(input, lying.stretches ?? false, lying.aimed, artCorners, options.now, 0, lying.marksAt),
    axes,
  );
  const boardToBed = compose(boardToBedOf(input, lying, place), correctionTransform(correctionsInForce(input)));
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: slots.length,
    firstApproved: input.firstApproved || !own.firstAlone,
    pieces: input.pieces,
  });
  const on = board ? piecesOnBoard(input, board, summary) : [];
  const budget = reckonBudget({
    tolerance: input.tolerance,
    art: artBox,
    lies: lying.lies,
    sizes,
    pocket,
    slots: slots.length > 0 ? slots : [{ slot: 1, row: 0, column: 0, angle: 0, centre: { x: 50, y: 50 } }],
    marks: markSpread(marksUsed(board, place)),
    sigma: place.sigma,
    aimingGrowth: 1,
    pointer: place.pointer,
    repeatability: input.machine.repeatability,
    second: secondInBudget(input),
    outline: 0,
    laid: null,
    made: lying.lies === 'drawn' ? null : madeOf(input.machine),
    axes,
    leftoverAngle: lying.turns && input.setup.place.school === 'work' && place.placement ? place.placement.angle : 0,
    pieces: options.simulatedPieces,
    seed: 20_260,
    ...own.budget?.(place),
  });
  const fixings = pinsAndStand(input, sizes, board, artCorners, lying.rests);
  const heights = reckonHeights(
    sizes.thickness.mean,
    {
      rests: lying.rests,
      boardThickness: lying.rests === 'alone' ? null : (board?.thickness ?? 0),
      tallThings: beside.tallThings,
      stand: beside.stand,
      boardWarp: bowLeft(beside.boardWarp, board, fixings.pins),
    },
    headOver(input),
    artCorners,
    [...(lying.things ?? []), ...(fixings.pins ? pinsAsThings(fixings.pins) : [])],
  );
  return {
    sizes,
    questions: questionsOf(input, sizes, beside.coverage),
    pocket,
    basis: { ...fixtureBasis(input.blank, sizes, wanted), cutOn: { machineId: input.machine.id, square: input.machine.square?.measuredAt ?? null } }, // prettier-ignore
    board,
    boardProblem: lying.made.ok ? null : lying.made.problem,
    outOfDate: cut && lying.suits ? outOfDate(cut.basis, input.blank, sizes, wanted, lying.suits) : [],
    heights,
    zone: face.zone,
    art,
    artBox,
    place,
    boardToBed,
    placed: place.placement !== null || (own.placesItself ?? false),
    budget,
    run: summary,
    planned: own.planned(input.quantity, slots.length),
    onTheBoard: on,
    face,
    warnings: [
      ...fixings.problems.map((p) => ({ station: 'hold', message: p.message })),
      ...(own.first ?? []),
      ...fewerWarnings(board, input.machine),
      ...pinWarnings(fixings),
      ...heightWarnings(heights),
      ...artWarnings(art),
      ...(place.placement ? cornersOffBed(on, artBox, boardToBed, input) : []),
      ...(own.last?.(budget) ?? []),
    ],
    fixings,
    own: own.also ?? {},
  };
};
