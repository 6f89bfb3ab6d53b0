import { api, type BatchDocument, type CupView } from '@bistre/contract';
import {
  letterGcode,
  ringGcode,
  picturesOf,
  turnedGcode,
  type BatchInput,
  type BatchReckoning,
  type OnDrive,
  type Pictures,
  type RoundShape,
} from '@bistre/core';
import { hideDrive, panelAtFirst, runOnDrive, type DrivePanel, type HiddenDrive } from '@bistre/core/bench-sim';
import type { Express } from 'express';
import { loadBatch, record, reckonDocument } from '../batches';
import type { Db, Trx } from '../db/connect';
import { refused } from '../http/problem';
import { serve } from '../http/serve';
import { loadSimulation, saveSimulation, seedOf } from '../simulation';
import { loadPictures } from '../pictures';
import { needDrive } from './drive';

interface CupState {
  readonly hidden: HiddenDrive;
  readonly panel: DrivePanel;
}

const loadCup = async (trx: Trx, batch: BatchDocument, on: OnDrive): Promise<CupState> => {
  return (
    (await loadSimulation<CupState>(trx, batch.id)) ?? {
      hidden: hideDrive(seedOf(batch.id)),
      panel: panelAtFirst(on.drive),
    }
  );
};

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
  const made =
    what === 'ring'
      ? ringGcode(input, r)
      : what === 'letter'
        ? letterGcode(input, r)
        : turnedGcode(input, r, input.name, pictures);
  if (!made.ok) throw refused(made.problem);
  return typeof made.value === 'string' ? made.value : [...made.value].join('');
};

/** Dots that the pictures of a setup come to. */
const dotsOf = (input: BatchInput, r: BatchReckoning): number => {
  const interval = r.round?.on?.interval?.used ?? input.recipe?.engrave.interval ?? 0.1;
  return (r.round?.faces ?? []).reduce(
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

/** A drive that is as its rings say; what a piece should look like. */
const asCalibrated = (on: OnDrive): HiddenDrive => ({
  seed: 0,
  rollerScale: on.rings.rings > 0 ? 1 / on.rings.correction : 1,
  frictionScale: 10,
  slip: 0,
  turnFlipped: false,
  headFlipped: false,
  spread: 0,
  runOut: 0,
});

/** The simulated drive: its panel, and what it burns on the blank that lies on it. */
export const cupRoutes = (app: Express, db: Db): void => {
  serve(app, db, api.cupView, async ({ params, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const on = needDrive(reckonDocument(batch, 500).reckoning);
    return viewOf(await loadCup(trx, batch, on), on);
  });

  serve(app, db, api.cupSet, async ({ params, body, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const on = needDrive(reckonDocument(batch, 500).reckoning);
    const before = await loadCup(trx, batch, on);
    const state = {
      ...before,
      panel: {
        value: body.value ?? before.panel.value,
        acceleration: body.acceleration ?? before.panel.acceleration,
      },
    };
    await saveSimulation(trx, params.id, state);
    return viewOf(state, on);
  });

  serve(app, db, api.cupBurn, async ({ params, body, by, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const { input, reckoning } = reckonDocument(batch, 500);
    const on = needDrive(reckoning);
    const state = await loadCup(trx, batch, on);
    await saveSimulation(trx, params.id, state);
    const pictures = await loadPictures(trx, body.what === 'piece' ? picturesOf(input) : []);
    const dots = dotsOf(input, reckoning);
    if (body.what === 'piece' && dots > MOST_SIMULATED_DOTS)
      throw refused({
        code: 'too-fine-to-simulate',
        message: `The pictures have ${(dots / 1e6).toFixed(1)} million dots; the simulated drive burns up to ${MOST_SIMULATED_DOTS / 1e6} million. Rehearse with a coarser recipe; the file for the machine is not limited so.`,
        field: 'recipe',
      });
    const file = fileOf(body.what, input, reckoning, pictures);
    const setup = {
      machine: input.machine,
      rimFaces: input.setup.drive.rimFaces,
      contactAt: input.setup.drive.contactAt,
      piece: body.what === 'piece' ? (reckoning.onTheBoard[0]?.ordinal ?? 0) : 0,
    };
    const { shape } = reckoning.round!;
    const run = runOnDrive(file, state.hidden, on.drive, shape satisfies RoundShape, { ...setup, panel: state.panel });
    if (!run.ok) throw refused(run.problem);
    const burned = run.value;
    const word = { ring: 'Witness ring', letter: 'F', piece: `Piece ${setup.piece}` }[body.what];
    await record(trx, {
      by,
      kind: 'simulated',
      batchId: params.id,
      summary: `${word} burned on the simulated drive${burned.thrown ? ': the blank left the rollers' : ''}`,
    });
    const plain = {
      ...input,
      setup: { ...input.setup, drive: { ...input.setup.drive, found: { quarters: 0, mirrored: false } as const } },
    };
    const meant =
      body.what === 'piece' && !burned.thrown
        ? runOnDrive(
            fileOf(
              'piece',
              plain,
              reckonDocument(
                {
                  ...batch,
                  setup: { ...batch.setup, drive: { ...batch.setup.drive, found: { quarters: 0, mirrored: false } } },
                },
                500,
              ).reckoning,
              pictures,
            ),
            asCalibrated(on),
            on.drive,
            shape,
            { ...setup, panel: { value: on.control.value ?? 0, acceleration: 1 } },
          )
        : null;
    const [a, b] = [middleOf(burned.strokes), meant?.ok ? middleOf(meant.value.strokes) : null];
    const round = (v: number): number => Math.round(v * 100) / 100;
    return {
      thrown: burned.thrown,
      strokes: thinned(burned.strokes).map(round),
      // A rule shows quarters of a millimetre.
      overlap: body.what === 'ring' && !burned.thrown ? Math.round(burned.closing * 4) / 4 : null,
      dx: a && b ? round(a.x - b.x) : null,
      dy: a && b ? round(a.y - b.y) : null,
      lines: burned.lines,
    };
  });
};
