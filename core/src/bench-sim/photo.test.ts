import { loadGcode, reckonBatch } from '../batch';
import { worstCorner } from '../budget';
import { flatten, polygonArea } from '../geometry';
import { blankOutline } from '../holding';
import {
  calibrate,
  cameraPlace,
  footDoubt,
  matchBlank,
  PHOTO_MARK,
  rectify,
  seenShapes,
  type FoundBlank,
} from '../photo';
import { heldAs, placedPieces, type BatchInput } from '../setup';
import { testAlphabets } from '../test-alphabets';
import { loadedPieces } from '../test-batch';
import { inWay } from '../test-held';
import { many, within } from '../test-many';
import { EXAMPLES } from '../test-ways';
import { runFile } from './run';
import { STAND_INS } from './stand-ins';

const SHOTS = many(100, 4);
const options = { now: new Date('2026-11-20T00:00:00Z'), alphabets: testAlphabets, labels: 'readability', simulatedPieces: 4_000 }; // prettier-ignore
const standIn = STAND_INS.photo!;
const plain = EXAMPLES.photo;
const base: BatchInput = {
  ...inWay(plain, 'photo', {}, { blanks: [] }),
  firstApproved: true,
  setup: {
    ...inWay(plain, 'photo', {}, { blanks: [] }).setup,
    lettering: { ...plain.setup.lettering, lines: [{ column: 'name', alphabet: 'readability', capHeight: 6 }] },
  },
};

/** Blanks thrown on the bed, looked at by the camera over it, burned where they were found, measured where they lie. */
const shot = (seed: number) => {
  const bench = { input: base, reckoning: reckonBatch(base, options), seeds: { batch: seed * 31 + 7, feeder: 1 } };
  const state = standIn.stands(null, bench);
  const { field, marks } = bench.reckoning.own.photo!;
  const picture = standIn.photograph!(bench, state, seed, 2400);
  const { choice } = heldAs(base, 'photo');
  const c = calibrate(picture, marks);
  if (!c.ok) throw new Error(c.problem.message);
  const { fit } = c.value;
  const { sizes } = bench.reckoning;
  const above = sizes.thickness.mean;
  const camera = cameraPlace(fit, choice.cameraHeight);
  const flat = rectify(picture, fit, { minX: 0, minY: 0, maxX: field.width, maxY: field.height }, fit.dot, camera, above); // prettier-ignore
  const outline = flatten(blankOutline(base.blank, sizes)[0]!, 0.05);
  const seen = seenShapes(flat, marks.map((m) => ({ x: m.x, y: m.y, radius: PHOTO_MARK + 4 })), 0.15 * Math.abs(polygonArea(outline))); // prettier-ignore
  if (!seen.ok) throw new Error(seen.problem.message);
  const found = seen.value
    .map((s) =>
      matchBlank(s, { outline, holes: base.blank.holes }, fit.spread ?? 0.3, {
        camera,
        above,
        dot: flat.dot,
        foot: footDoubt(fit),
      }),
    ) // prettier-ignore
    .filter((f): f is FoundBlank => 'centre' in f && f.verdict === 'sure');
  const blanks = found.map((f) => ({ x: f.centre.x, y: f.centre.y, angle: f.angle, ask: false, why: '', doubt: f.doubt.centre, turn: f.doubt.angle, foot: f.doubt.foot })); // prettier-ignore
  const input = { ...inWay(base, 'photo', {}, { blanks }), pieces: loadedPieces(blanks.map((_, i) => i + 1)) };
  const reckoning = reckonBatch(input, options);
  const file = loadGcode(input, reckoning, 'thrown');
  if (!file.ok) throw new Error(file.problem.message);
  const run = runFile(
    [...file.value].join(''),
    state.hidden,
    input.machine,
    { sizes, pocket: reckoning.pocket, load: 1, interval: 0.1, seating: standIn.seating({ ...bench, input, reckoning }, state) }, // prettier-ignore
    placedPieces(reckoning, reckoning.onTheBoard),
  );
  if (!run.ok) throw new Error(run.problem.message);
  return {
    thrown: state.thrown!.blanks.length,
    predicted: reckoning.budget.predicted,
    worst: run.value.pieces.flatMap((p) => (p.dx === null ? [] : [worstCorner(reckoning.artBox, p.dx, p.dy!, p.yaw!)])),
  };
};

describe('closed loop, blanks lying anywhere under a camera', () => {
  it(`over ${SHOTS} photographs ${within(SHOTS).words} of what is found lands within the prediction`, () => {
    let [inside, all, thrown, widest] = [0, 0, 0, 0];
    for (let seed = 1; seed <= SHOTS; seed += 1) {
      const s = shot(seed);
      thrown += s.thrown;
      all += s.worst.length;
      widest = Math.max(widest, ...s.worst.map((w) => w / s.predicted));
      inside += s.worst.filter((w) => w <= s.predicted).length;
    }
    expect(all / thrown).toBeGreaterThan(0.9);
    expect(inside / all).toBeGreaterThan(within(SHOTS).low);
    expect(inside / all).toBeLessThanOrEqual(Math.min(1, within(SHOTS).high));
    // And the promise is not so wide that it says nothing: most of it is reached.
    expect(widest).toBeGreaterThan(0.8);
  }, 1_200_000);
});
