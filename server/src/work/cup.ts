import type { api, BatchDocument, BodyOf, CupRunView, CupView } from '@bistre/contract';
import {
  axesOf,
  batchProgram,
  heldAs,
  leanOf,
  setOnDrive,
  picturesOf,
  type BatchInput,
  type BatchReckoning,
  type OnDrive,
  type Pictures,
  type RoundShape,
} from '@bistre/core';
import {
  hiddenAxes,
  hideDrive,
  panelAtFirst,
  runOnDrive,
  type DrivePanel,
  type HiddenDrive,
} from '@bistre/core/bench-sim';
import { reckonDocument } from '../batches';
import type { Db } from '../db/connect';
import { refused } from '../http/problem';
import { loadPictures } from '../pictures';
import { seedOf } from '../simulation';
import { needDrive } from './drive';
import { leftAt, type Left } from './left';
import { mustTakeChanges } from './stamped';

interface CupState {
  readonly hidden: HiddenDrive;
  readonly panel: DrivePanel;
}

const viewOf = (state: CupState, on: OnDrive): CupView => ({
  where: on.control.where,
  unit: on.control.unit,
  typed: on.control.value !== null,
  value: state.panel.value,
  acceleration: state.panel.acceleration,
});

const fileOf = (
  what: 'ring' | 'letter' | 'piece',
  input: BatchInput,
  r: BatchReckoning,
  pictures: Pictures,
): string => {
  const made = batchProgram(input, r, what === 'piece' ? 'load' : what, { title: input.name, pictures });
  if (!made.ok) throw refused(made.problem);
  return typeof made.value === 'string' ? made.value : [...made.value].join('');
};

/** Dots that the pictures of a setup come to. */
const dotsOf = (input: BatchInput, { own: { round } }: BatchReckoning): number => {
  const interval = round?.on?.interval?.used ?? input.recipe?.engrave.interval ?? 0.1;
  return (round?.faces ?? []).reduce(
    (n, f) => n + (f.picture ? (f.places.length * f.picture.width * f.picture.height) / interval ** 2 : 0),
    0,
  );
};
const MOST_SIMULATED_DOTS = 2_000_000;
/** Strokes that are sent to be drawn. */
const MOST_STROKES = 60_000;

/** Every n-th stroke, when there are more than can be drawn. */
const thinned = (strokes: readonly number[]): readonly number[] => {
  const every = Math.ceil(strokes.length / 4 / MOST_STROKES);
  return every < 2 ? strokes : strokes.filter((_, i) => Math.floor(i / 4) % every === 0);
};

/** Middle of strokes by their length. */
const middleOf = (strokes: readonly number[]): { x: number; y: number } | null => {
  let [l, x, y] = [0, 0, 0];
  for (let i = 0; i + 3 < strokes.length; i += 4) {
    const [x0, y0, x1, y1] = [strokes[i]!, strokes[i + 1]!, strokes[i + 2]!, strokes[i + 3]!];
    const d = Math.hypot(x1 - x0, y1 - y0);
    l += d;
    x += (d * (x0 + x1)) / 2;
    y += (d * (y0 + y1)) / 2;
  }
  return l === 0 ? null : { x: x / l, y: y / l };
};

/** A drive that is as its rings say, on a machine as its square says; what a piece should look like. */
const asCalibrated = (on: OnDrive, { square }: BatchInput['machine']): HiddenDrive => ({
  axes: axesOf(square).axes,
  seed: 0,
  rollerScale: on.rings.rings > 0 ? 1 / on.rings.correction : 1,
  frictionScale: 10,
  slip: 0,
  turnFlipped: false,
  headFlipped: false,
  spread: 0,
  runOut: 0,
});

interface Cup {
  readonly batch: BatchDocument;
  readonly version: number;
  readonly input: BatchInput;
  readonly reckoning: BatchReckoning;
  readonly on: OnDrive;
  readonly shape: RoundShape;
  readonly state: CupState;
}

const standing = async (db: Db, id: string, use: 'look' | 'change'): Promise<Cup> => {
  const { batch, version, stored } = await leftAt<CupState>(db, id);
  if (use === 'change') mustTakeChanges(batch);
  const { input, reckoning } = reckonDocument(batch, 500);
  const on = needDrive(reckoning);
  const fresh = { hidden: hideDrive(seedOf(batch.id)), panel: panelAtFirst(on.drive) };
  const { round } = reckoning.own;
  return { batch, version, input, reckoning, on, shape: round!.shape, state: stored ?? fresh };
};

export const viewCup = async (db: Db, id: string): Promise<CupView> => {
  const { state, on } = await standing(db, id, 'look');
  return viewOf(state, on);
};

export const setCup = async (
  db: Db,
  { id, value, acceleration }: BodyOf<typeof api.cupSet> & { id: string },
): Promise<Left<CupView>> => {
  const { state: before, version, on } = await standing(db, id, 'change');
  const state = {
    ...before,
    panel: { value: value ?? before.panel.value, acceleration: acceleration ?? before.panel.acceleration },
  };
  return { value: viewOf(state, on), state, version, said: null };
};

/** As if the F had been picked upright: what the piece should look like. */
const UPRIGHT = { quarters: 0, mirrored: false } as const;

/** Where a piece's art would lie on a drive that is as its rings say; null when that cannot be told. */
const meantMiddle = (
  cup: Cup,
  pictures: Pictures,
  setup: Parameters<typeof runOnDrive>[4],
): { x: number; y: number } | null => {
  const { batch, input, on, shape } = cup;
  const right = <S extends BatchInput['setup'] | BatchDocument['setup']>(of: S): S => ({
    ...of,
    held: setOnDrive(of.held, { letter: UPRIGHT }),
  });
  const meant = runOnDrive(
    fileOf(
      'piece',
      { ...input, setup: right(input.setup) },
      reckonDocument({ ...batch, setup: right(batch.setup) }, 500).reckoning,
      pictures,
    ),
    asCalibrated(on, input.machine),
    on.drive,
    shape,
    { ...setup, panel: { value: on.control.value ?? 0, acceleration: 1 } },
  );
  return meant.ok ? middleOf(meant.value.strokes) : null;
};

/** Burns a ring, the F or a piece on the simulated drive with what its panel says. */
export const burnCup = async (
  db: Db,
  { id, what }: BodyOf<typeof api.cupBurn> & { id: string },
): Promise<Left<CupRunView>> => {
  const cup = await standing(db, id, 'change');
  const { input, reckoning, on, shape, state } = cup;
  const dots = dotsOf(input, reckoning);
  if (what === 'piece' && dots > MOST_SIMULATED_DOTS)
    throw refused({
      code: 'too-fine-to-simulate',
      message: `The pictures have ${(dots / 1e6).toFixed(1)} million dots; the simulated drive burns up to ${MOST_SIMULATED_DOTS / 1e6} million. Rehearse with a coarser recipe; the file for the machine is not limited so.`,
      field: 'recipe',
    });
  const pictures = await loadPictures(db, what === 'piece' ? picturesOf(input) : []);
  const setup = {
    machine: input.machine,
    ...heldAs(input, 'drive').choice,
    lean: leanOf(on.taper),
    piece: what === 'piece' ? (reckoning.onTheBoard[0]?.ordinal ?? 0) : 0,
    panel: state.panel,
  };
  const hidden = { ...state.hidden, axes: hiddenAxes(seedOf(cup.batch.machine.id)) };
  const run = runOnDrive(fileOf(what, input, reckoning, pictures), hidden, on.drive, shape, setup);
  if (!run.ok) throw refused(run.problem);
  const burned = run.value;
  const word = { ring: 'Witness ring', letter: 'F', piece: `Piece ${setup.piece}` }[what];
  const meant = what === 'piece' && !burned.thrown ? meantMiddle(cup, pictures, setup) : null;
  const at = middleOf(burned.strokes);
  const round = (v: number): number => Math.round(v * 100) / 100;
  return {
    state,
    version: cup.version,
    said: `${word} burned on the simulated drive${burned.thrown ? ': the blank left the rollers' : ''}`,
    value: {
      thrown: burned.thrown,
      strokes: thinned(burned.strokes).map(round),
      // A rule shows quarters of a millimetre.
      overlap: what === 'ring' && !burned.thrown ? Math.round((burned.length - on.ring.circumference * on.ring.part) * 4) / 4 : null, // prettier-ignore
      dx: at && meant ? round(at.x - meant.x) : null,
      dy: at && meant ? round(at.y - meant.y) : null,
      lines: burned.lines,
    },
  };
};
