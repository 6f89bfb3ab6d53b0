import { bedToFile } from '../../burn';
import { stripToBed, type Feeder, type GuideAngle, type Index, type Skew } from '../../feeder';
import { apply, compose, invert, rigid, translation, type Transform, type Vec } from '../../geometry';
import { markFromReading, pointerAt } from '../../marks';
import type { Mm } from '../../units';
import { heldAs, type FeedStop, type BatchInput } from '../../setup';

/** Least length that a roller must have of the strip to hold it [assumed], mm. */
const GRIP: Mm = 5;

/** The bars under the work as they lie under a stop, strip frame. */
export const barsOf = (feeder: Feeder, fed: Mm): { from: Mm; to: Mm }[] =>
  feeder.supports.map((s) => {
    const at = feeder.along === 'x' ? s.at - feeder.window.from : feeder.window.to - s.at;
    return { from: fed + at - s.width / 2, to: fed + at + s.width / 2 };
  });

/** How far the strip stands out of the machine's bed, before it and behind it, over all its stops. */
export const roomOf = (
  feeder: Feeder,
  bed: { width: Mm; height: Mm },
  length: Mm,
  stops: readonly Index[],
): { before: Mm; behind: Mm } => {
  const travel = feeder.along === 'x' ? bed.width : bed.height;
  const wayOut = feeder.along === 'x' ? feeder.window.from : travel - feeder.window.to;
  const first = stops[0]?.fed ?? 0;
  const last = stops[stops.length - 1]?.fed ?? 0;
  return {
    before: Math.max(0, length - first - (travel - wayOut)),
    behind: Math.max(0, last - wayOut),
  };
};

/** Where readings say a point of the strip is on the bed, for the beam. */
export const readAt = (input: BatchInput, mark: number): Vec | null => {
  const last = input.readings.filter((r) => r.mark === mark && r.purpose === 'place').at(-1);
  if (!last) return null;
  const { pointerOffset } = input.machine;
  return markFromReading(
    apply(invert(bedToFile(input.machine)), last),
    pointerOffset ? pointerAt(pointerOffset, 0) : null,
  );
};

/**
 * The strip on the bed at a stop: from the last stop where it was aimed at, on by what was fed
 * since; by one point the skew gives the turn, by two marks they do. As it is meant where nothing
 * was read.
 */
export const stripAt = (
  input: BatchInput,
  feeder: Feeder,
  { skew, guide }: { readonly skew: Skew; readonly guide: Pick<GuideAngle, 'angle'> },
  stops: readonly FeedStop[],
  index: number,
  points: ReadonlyMap<number, Vec>,
): { map: Transform; known: boolean; from: number } => {
  const stop = stops[index - 1]!;
  const offset = heldAs(input, 'feed').found.squaring?.first ?? 0;
  const meant = (fed: Mm): Transform => compose(stripToBed(feeder, fed, guide.angle), rigid(skew.angle, 0, offset));
  for (let i = index; i >= 1; i -= 1) {
    const from = stops[i - 1]!;
    if (!from.aimed) continue;
    const read = from.marks.map((m) => ({ drawn: points.get(m)!, read: readAt(input, m) }));
    if (read.some((p) => p.read === null)) return { map: meant(stop.fed), known: false, from: i };
    const plain = meant(from.fed);
    const on = compose(meant(stop.fed), invert(plain));
    if (read.length === 1) {
      const { drawn, read: at } = read[0]!;
      const was = apply(plain, drawn);
      return { map: compose(on, translation(at!.x - was.x, at!.y - was.y), plain), known: true, from: i };
    }
    const [a, b] = read as [{ drawn: Vec; read: Vec }, { drawn: Vec; read: Vec }];
    const angle =
      Math.atan2(b.read.y - a.read.y, b.read.x - a.read.x) - Math.atan2(b.drawn.y - a.drawn.y, b.drawn.x - a.drawn.x);
    const turn = rigid(angle, 0, 0);
    const middle = (p: Vec, q: Vec): Vec => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
    const drawn = apply(turn, middle(a.drawn, b.drawn));
    const at = middle(a.read, b.read);
    return { map: compose(on, rigid(angle, at.x - drawn.x, at.y - drawn.y)), known: true, from: i };
  }
  return { map: meant(stop.fed), known: false, from: 1 };
};

/** Stops at which the strip lies under none of the rollers. */
export const looseStops = (feeder: Feeder, length: Mm, stops: readonly FeedStop[]): number[] =>
  stops
    .filter(({ fed }) =>
      feeder.rollers.every((at) => {
        const x = fed + (feeder.along === 'x' ? at - feeder.window.from : feeder.window.to - at);
        return x < GRIP || x > length - GRIP;
      }),
    )
    .map((s) => s.index);
