import { artOutline, overEdge, pieceShapes, type BatchArt, type PlacedPiece } from '../artwork';
import { assembleBudget, fromUniform, sourceOf, type Budget, type SourceRule } from '../budget';
import {
  boxUnion,
  emptyBox,
  identity,
  polyline,
  roundedRectangle,
  transformContour,
  translation,
  type Box,
  type Contour,
  type Vec,
} from '../geometry';
import { markContours } from '../marks';
import { boardOfOne, type Blank, type Board, type Slot, type Zone } from '../holding';
import {
  chainErrors,
  LONGEST,
  marksOf,
  planLong,
  simulateChain,
  type Chain,
  type LongKind,
  type LongPlan,
  type LongShape,
  type Segment,
  type SegmentError,
  type LongPiece,
  type LongSettings,
} from '../long';
import type { PointerDoubt } from '../marks';
import { movedPicture, pictureRim } from '../picture';
import type { Problem } from '../result';
import { type Mm, type Ordinal, nth } from '../units';
import { fixed } from '../working';
import { TURNED } from './face';
import type { Remark } from './finding';
import type { BatchInput } from './input';

/** A place whose frame is the work's own. */
const AT_ONCE: Slot = { slot: 1, row: 0, column: 0, angle: 0, centre: { x: 0, y: 0 } };

const SEGMENT_TICK = 'run.segment-';
/** Ticked when a segment is burned; the next one is aimed at and burned then. */
export const segmentTick = (index: number): string => `${SEGMENT_TICK}${index}`;

/** Whether ticking a step means that the work on the bed was turned over or moved on. */
export const movesWork = (step: string): boolean => step === TURNED || step.startsWith(SEGMENT_TICK);

/** A long piece: its segments and seams, and how they fit together. */
export interface LongReckoning {
  readonly plan: LongPlan | null;
  readonly problem: Problem | null;
  /** The segment that is laid, aimed at and burned now; the last one when all are. */
  readonly current: number;
  /** All segments are burned. */
  readonly burned: boolean;
  readonly errors: readonly Pick<SegmentError, 'fromStart' | 'step'>[];
}

/** What is wrong with a plan of segments, said at the station where it is made. */
export const planRemarks = (
  plan: Pick<LongPlan, 'warnings' | 'over'> | null | undefined,
  station: string,
): Remark[] => [
  ...(plan?.warnings ?? []).map((message) => ({ station, message })),
  ...(plan?.over ? [{ station, message: plan.over, danger: 'zone' as const }] : []),
];

/** A long piece as it is engraved: its blank's rectangle with its holes, from its beginning and its front edge on. */
export const longPiece = ({ shape, holes }: Blank, { length, width }: { length: Mm; width: Mm }): LongPiece => ({
  length,
  width,
  holes: shape.kind === 'rectangle' ? holes.map((h) => ({ ...h, x: h.x + length / 2, y: h.y + width / 2 })) : [],
});

/** Everything that is burned on a long piece, in the work's frame: the roster's lettering, and what its zones carry beside it. */
export const workShapes = (
  size: { length: Mm; width: Mm },
  art: BatchArt | null,
  zone: Zone | null,
  ordinal: Ordinal,
): LongShape[] => {
  const middle = translation(size.length / 2, size.width / 2);
  const piece = nth(art?.pieces, ordinal);
  if (!art || !zone || !piece) return [];
  const { filled, drawn, cut = [], apart = [], pictures = [] } = pieceShapes(art, zone, piece);
  const burned = [{ filled, drawn, cut, its: {} }, ...apart.map((a) => ({ ...a, its: { recipeId: a.recipeId } }))];
  const laid = pictures.map((p) => movedPicture(p, { x: middle.e, y: middle.f }));
  const shown = laid.map((picture): LongShape => ({ kind: 'fill', contour: polyline(pictureRim(picture, identity), true), picture })); // prettier-ignore
  const drawings = burned.flatMap(({ its, ...of }): LongShape[] => [
    ...of.filled.map((p) => ({ ...its, kind: 'fill' as const, contour: transformContour(middle, polyline(p, true)) })),
    ...of.drawn.map((p) => ({ ...its, kind: 'line' as const, contour: transformContour(middle, polyline(p)) })),
    ...of.cut.map((p) => ({ ...its, kind: 'cut' as const, contour: transformContour(middle, polyline(p)) })),
  ]);
  return [...shown, ...drawings];
};

/** Lines of some shapes by what is done along them: what is filled, drawn or cut, pictures apart. */
export const linesOf = (shapes: readonly LongShape[], kind: LongKind): Contour[] =>
  shapes.filter((s) => s.kind === kind && !s.picture).map((s) => s.contour);

/** Plans a long piece from the batch: segments, seams, which one is on, and the errors along the chain. */
export const reckonLong = (
  input: BatchInput,
  choice: LongSettings & { readonly name: string },
  art: { readonly art: BatchArt | null; readonly zone: Zone | null; readonly ordinal: Ordinal },
  limits: { readonly sigma: Mm; readonly pointer: PointerDoubt },
): LongReckoning & { readonly board: Board | null; readonly chain: Chain | null } => {
  const none = { plan: null, current: 1, burned: false, errors: [], board: null, chain: null };
  const { shape } = input.blank;
  if (shape.kind !== 'rectangle')
    return {
      ...none,
      problem: {
        code: 'not-a-rectangle',
        message: 'Work in segments starts from a rectangle; say its length and width as the blank’s shape.',
        field: 'hold.method',
      },
    };
  const size = longPiece(input.blank, shape);
  if (size.length > LONGEST)
    return {
      ...none,
      problem: { code: 'too-long', message: `Work up to ${LONGEST / 1000} m is planned.`, field: 'hold' },
    };
  const planned = planLong(
    workShapes(size, art.art, art.zone, art.ordinal),
    size,
    input.machine.bed,
    choice,
    overEdge(art.art).length > 0,
  );
  if (!planned.ok) return { ...none, problem: planned.problem };
  const plan = planned.value;
  const done = plan.segments.findIndex((s) => !input.ticks.includes(segmentTick(s.index)));
  const current = done < 0 ? plan.segments.length : done + 1;
  const chain: Chain = {
    boxes: plan.segments.map((s) => s.box),
    marks: plan.marks,
    turned: plan.segments.map((s) => s.angle),
    errors: {
      aim: limits.sigma,
      pointer: limits.pointer.uncertainty,
      back: fromUniform(input.machine.repeatability),
    },
  };
  return {
    plan,
    problem: null,
    current,
    burned: done < 0,
    errors: chainErrors(chain),
    chain,
    board: boardOf(plan, size, current, choice.name),
  };
};

/** The work as a board of one place whose marks are those that the current segment is aimed by. */
const boardOf = (plan: LongPlan, size: { length: Mm; width: Mm }, current: number, name: string): Board => {
  const { length, width } = size;
  const kinds = ['fill', 'line', 'cut'] as const;
  return boardOfOne(size, name, 1, current === 1 ? [] : marksOf(current - 1, plan.marks[current - 2]!), [
    { name: 'edge', kind: 'line', contours: [roundedRectangle({ x: length / 2, y: width / 2 }, length, width)] },
    ...kinds.map((kind) => ({
      name: `art-${kind}`,
      kind,
      contours: plan.segments.flatMap((s) => linesOf(s.shapes, kind)),
    })),
    {
      name: 'marks',
      kind: 'line',
      contours: plan.marks.flatMap((m, i) => marksOf(i + 1, m).flatMap(markContours)),
    },
  ]);
};

/** The segment that lies on the bed now. */
export const segmentNow = ({ plan, current }: LongReckoning): Segment | null => plan?.segments[current - 1] ?? null;

/** What the current segment's file burns: its part of the art, and the marks that carry the next one. */
export const segmentBurn = (long: LongReckoning): readonly LongShape[] => {
  const segment = segmentNow(long);
  if (!segment || !long.plan) return [];
  const carry = long.plan.marks[segment.index - 1];
  const marks = carry ? marksOf(segment.index, carry).flatMap(markContours) : [];
  return [...marks.map((contour) => ({ kind: 'line' as const, contour })), ...segment.shapes];
};

/** Box of all the art in the blank's frame, for the budget's lever and the drawing. */
export const longBox = ({ plan }: LongReckoning, { length, width }: { length: Mm; width: Mm }): Box => {
  const box = (plan?.segments ?? []).reduce((b, s) => boxUnion(b, s.box), emptyBox);
  return box.minX > box.maxX
    ? { minX: -length / 2, maxX: length / 2, minY: -width / 2, maxY: width / 2 }
    : {
        minX: box.minX - length / 2,
        maxX: box.maxX - length / 2,
        minY: box.minY - width / 2,
        maxY: box.maxY - width / 2,
      };
};

/** The budget of work in segments: what is carried over each time, at the far corner of the last one. */
export const longBudget = (
  chain: Chain,
  pointer: PointerDoubt,
  input: { readonly tolerance: Mm; readonly pieces: number; readonly seed: number },
): Budget => {
  const { errors, boxes } = chain;
  const carried = boxes.length - 1;
  const alone = (part: Partial<typeof errors>): Mm =>
    Math.max(...chainErrors({ ...chain, errors: { aim: 0, pointer: 0, back: 0, ...part } }).map((e) => e.u));
  const how = (rule: string, one: Mm): SourceRule => [
    rule,
    `${fixed(one, 3)} mm a mark, carried over ${carried} ×`,
    'statistics',
  ];
  return assembleBudget(
    [
      sourceOf(
        {
          id: 'aiming',
          name: 'aiming at seam marks',
          u: alone({ aim: errors.aim }),
          origin: 'profile',
          halve:
            'Use a finer last jog step and a loupe; lay the marks farther apart across the work; use fewer segments.',
        },
        how('√Σ(σ² + d²·2σ²/L²) over the seams, at the farthest corner', errors.aim),
      ),
      sourceOf(
        {
          id: 'pointer',
          name: 'pointer offset',
          u: alone({ pointer: errors.pointer }),
          origin: pointer.status === 'measured' ? 'measured' : 'assumed',
          halve:
            pointer.status === 'measured'
              ? 'Measure the offset again, twice, and take the mean.'
              : 'Burn a dot and read where the pointer shows it.',
        },
        how('adds up in one direction: its error × seams', errors.pointer),
      ),
      sourceOf(
        {
          id: 'return',
          name: 'machine return',
          u: alone({ back: errors.back }),
          origin: 'profile',
          halve: 'Check belts and wheels, and measure the return with a repeated dot.',
        },
        how('as aiming, where marks and art were burned', errors.back),
      ),
    ],
    (count, scale) =>
      simulateChain(chain, Math.min(count, 20_000), input.seed, {
        aim: scale?.id === 'aiming' ? scale.factor : 1,
        pointer: scale?.id === 'pointer' ? scale.factor : 1,
        back: scale?.id === 'return' ? scale.factor : 1,
      }),
    input,
  );
};

/** What the current segment's file burns, as one piece that lies in the work's frame; of drawn shapes only pictures. */
export const segmentPictures = (long: LongReckoning): PlacedPiece[] => {
  const pictures = segmentBurn(long).flatMap((s) => s.picture ?? []);
  return [{ label: '', slot: AT_ONCE, shapes: { filled: [], drawn: [], pictures } }];
};

/** Points that bound what the current segment burns, work frame. */
export const segmentPoints = (long: LongReckoning): Vec[] =>
  artOutline(
    [
      {
        label: '',
        slot: AT_ONCE,
        shapes: { filled: [], drawn: segmentBurn(long).map((s) => s.contour.vertices) },
      },
    ],
    translation(0, 0),
  );
