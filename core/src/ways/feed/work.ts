import { overEdge, type BatchArt } from '../../artwork';
import {
  apply,
  boxCorners,
  boxOf,
  flatten,
  rigid,
  rotation,
  roundedRectangle,
  transformContour,
  type Box,
  type Vec,
} from '../../geometry';
import { markContours } from '../../marks';
import { blankOutline, panelCut, type BlankSizes, type Pass, type Zone } from '../../holding';
import {
  closestSteps,
  CutProfile,
  layStrip,
  lyingSize,
  placeBox,
  stripToBed,
  windowLength,
  type ColumnStep,
  type Feeder,
  type Index,
  type StripLayout,
  type StripPlace,
} from '../../feeder';
import { marksOf, planLong, type LongPlan, type LongSettings } from '../../long';
import type { Problem } from '../../result';
import type { Mm } from '../../units';
import { heldAs, type BatchInput, linesOf, longPiece, workShapes } from '../../setup';

/** What lies on the strip and how it is split: of a row, of parts or of one long piece. */
export interface FeedWorkPlan {
  readonly problem?: Problem | undefined;
  readonly layout?: StripLayout;
  readonly plan?: LongPlan;
  /** Stretches that must be burned at one stop each. */
  readonly spans?: readonly { readonly from: Mm; readonly to: Mm }[];
  /** Boxes of what is burned at a stop, from the point it is aimed by. */
  readonly boxes?: (stop: Index & { readonly first: number; readonly count: number }) => Box[];
  readonly cuts?: CutProfile | null;
  readonly passes?: readonly Pass[];
  /** Places of the strip that are taken. */
  readonly taken?: readonly Box[];
  /** The corner of a place that the head aims at. */
  readonly corner?: (place: number) => Vec;
  readonly artBox?: Box;
}

const edgePass = ({ length, width }: { length: Mm; width: Mm }): Pass => ({
  name: 'edge',
  kind: 'line',
  contours: [roundedRectangle({ x: length / 2, y: width / 2 }, length, width)],
});

/** How parts of an odd outline lie into each other, kerf and gap between them. */
const stepsOf = (
  input: BatchInput,
  sizes: BlankSizes,
  { turned, gap }: { readonly turned: boolean; readonly gap: Mm },
): readonly ColumnStep[] => {
  const m = rotation(turned ? Math.PI / 2 : 0);
  return closestSteps(
    flatten(blankOutline(input.blank, sizes)[0]!, 0.05).map((p) => apply(m, p)),
    gap + input.machine.kerf,
  );
};

/** How a place is turned on the strip. */
export const placeAngle = ({ turned, half }: Pick<StripPlace, 'turned' | 'half'>): number =>
  (turned ? Math.PI / 2 : 0) + (half ? Math.PI : 0);

/** Equal blanks in a row, or parts that are cut out, laid on the strip. */
export const layRow = (input: BatchInput, feeder: Feeder, sizes: BlankSizes, art: BatchArt | null): FeedWorkPlan => {
  const { choice: feed, found } = heldAs(input, 'feed');
  const piece = { length: sizes.length.mean, width: sizes.width.mean };
  const parts = feed.work.kind === 'parts';
  const lying = lyingSize({ piece, turned: feed.turned });
  const steps =
    feed.work.kind === 'parts' && feed.work.interlock && input.blank.shape.kind === 'outline'
      ? stepsOf(input, sizes, feed)
      : undefined;
  const laid = layStrip({
    strip: feed.strip,
    steps,
    piece,
    turned: feed.turned,
    pitch: feed.pitch,
    gap: feed.gap,
    rows: parts ? null : 1,
    deadFront: feeder.deadFront,
    deadBack: feeder.deadBack,
    used: found.used.map((u) => ({ minX: u.x, minY: u.y, maxX: u.x + u.width, maxY: u.y + u.height })),
  });
  if (!laid.ok) return { problem: laid.problem };
  const window = windowLength(feeder);
  if (lying.along > window)
    return {
      problem: {
        code: 'piece-too-long',
        message: `A piece takes ${lying.along.toFixed(1)} mm along the feed; the head reaches ${window.toFixed(0)} mm at one stop. Turn it, or burn it as one long piece.`,
        field: 'feed.turned',
      },
    };
  const layout = parts
    ? laid.value
    : // A row of blanks lies against the guide, not in the strip's middle.
      {
        ...laid.value,
        places: laid.value.places.map((p) => ({ ...p, centre: { x: p.centre.x, y: lying.across / 2 } })),
      };
  const box = (i: number): Box => placeBox(layout.places[i]!, lying.along, lying.across);
  const corner = (i: number): Vec => ({ x: box(i).minX, y: box(i).minY });
  const cut = parts ? panelCut(input.blank, sizes, input.machine.kerf) : [];
  const cuts = parts
    ? new CutProfile(
        layout.places.flatMap((p) =>
          cut.map((c) => {
            const points = flatten(transformContour(rigid(placeAngle(p), p.centre.x, p.centre.y), c), 0.2);
            return [...points, points[0]!];
          }),
        ),
        feed.strip.length,
      )
    : null;
  const engraved: Box =
    art && art.box.minX <= art.box.maxX
      ? art.box
      : { minX: -piece.length / 2, maxX: piece.length / 2, minY: -piece.width / 2, maxY: piece.width / 2 };
  const lies = (place: StripPlace): Box =>
    boxOf(boxCorners(engraved).map((c) => apply(rotation(placeAngle(place)), c)));
  return {
    layout,
    spans: layout.places.map((_, i) => ({ from: box(i).minX, to: box(i).maxX })),
    boxes: ({ first, count }) =>
      Array.from({ length: count }, (_, k) => {
        const place = layout.places[first + k]!;
        const { x, y } = place.centre;
        const from = corner(first);
        const art = lies(place);
        return {
          minX: x + art.minX - from.x,
          maxX: x + art.maxX - from.x,
          minY: y + art.minY - from.y,
          maxY: y + art.maxY - from.y,
        };
      }),
    cuts,
    passes: [edgePass(feed.strip)],
    taken: layout.places.map((_, i) => box(i)),
    corner,
    artBox: engraved,
  };
};

/** One long piece in windows: seams as in long work, each window at the stop that spares the bars. */
export const layLong = (
  input: BatchInput,
  feeder: Feeder,
  art: BatchArt | null,
  zone: Zone | null,
  size: { length: Mm; width: Mm },
  long: LongSettings,
): FeedWorkPlan => {
  if (input.blank.shape.kind !== 'rectangle')
    return {
      problem: {
        code: 'not-a-rectangle',
        message: 'Work in windows starts from a rectangle; say its length and width as the blank’s shape.',
        field: 'blank',
      },
    };
  const ordinal = input.pieces.find((p) => p.state === 'loaded')?.ordinal ?? 1;
  const all = workShapes(size, art, zone, ordinal);
  const window = windowLength(feeder);
  const planned = planLong(
    all,
    longPiece(input.blank, size),
    feeder.along === 'x' ? { width: window, height: Infinity } : { width: Infinity, height: window },
    { ...long, loading: 'through', feed: feeder.along },
    overEdge(art).length > 0,
  );
  if (!planned.ok) return { problem: planned.problem };
  const kinds = ['fill', 'line', 'cut'] as const;
  const plan = {
    ...planned.value,
    segments: planned.value.segments.map((s) => ({ ...s, square: stripToBed(feeder, s.from) })),
  };
  const whole = boxOf(plan.segments.flatMap((s) => boxCorners(s.box)));
  // Where strokes reach beyond a seam they are burned at this stop too.
  const reach = long.overlap / 2;
  return {
    plan,
    spans: plan.segments.map((s) => ({ from: Math.max(0, s.from - reach), to: Math.min(size.length, s.to + reach) })),
    boxes: ({ first }) => {
      const { box, from } = plan.segments[first]!;
      return [{ ...box, minX: box.minX - from, maxX: box.maxX - from }];
    },
    cuts: new CutProfile(
      plan.segments.flatMap((s) =>
        s.shapes
          .filter((x) => x.kind === 'cut')
          .map((x) => {
            const points = flatten(x.contour, 0.2);
            return x.contour.closed ? [...points, points[0]!] : points;
          }),
      ),
      size.length,
    ),
    passes: [
      edgePass(size),
      ...kinds.map((kind) => ({
        name: `art-${kind}`,
        kind,
        contours: plan.segments.flatMap((s) => linesOf(s.shapes, kind)),
      })),
      {
        name: 'marks',
        kind: 'line' as const,
        contours: plan.marks.flatMap((m, i) => marksOf(i + 1, m).flatMap(markContours)),
      },
    ],
    taken: all.map((s) => boxOf(flatten(s.contour, 0.2))),
    artBox: {
      minX: whole.minX - size.length / 2,
      maxX: whole.maxX - size.length / 2,
      minY: whole.minY - size.width / 2,
      maxY: whole.maxY - size.width / 2,
    },
  };
};
