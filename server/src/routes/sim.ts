import { api, batchInput, PHOTO, type BatchDocument, type SimView } from '@bistre/contract';
import {
  apply,
  bedToFile,
  boxCorners,
  contourLength,
  crossContours,
  effectiveHold,
  flatten,
  invert,
  loadGcode,
  markContours,
  pieceGround,
  placedPieces,
  pointerFromDot,
  roundedRectangle,
  slotTransform,
  tracedOutline,
  tracedPieces,
  worstCorner,
  type BatchReckoning,
  type PlacedPiece,
  type Slot,
  type Vec,
} from '@bistre/core';
import {
  afterSegment,
  burnDot,
  gapOnCard,
  repeatedDot,
  shankThatGoesIn,
  slotThatHolds,
  unlikeDrawing,
  trueInPlace,
  home,
  jog,
  leastMargin,
  lookThroughLoupe,
  measureOffsets,
  moveTo,
  runFile,
  segmentBox,
  segmentPiece,
  truePose,
  tryFeed,
  type BurnedPiece,
} from '@bistre/core/bench-sim';
import type { Express } from 'express';
import { loadBatch, record, reckonDocument, touch } from '../batches';
import type { Db } from '../db/connect';
import { notFound, refused } from '../http/problem';
import { serve } from '../http/serve';
import { saveSimulation } from '../simulation';
import {
  machineOf,
  needBoard,
  layWork,
  withPointer,
  loadSim,
  layingOf,
  zeroOnGrid,
  takePhotograph,
  type BenchState,
} from '../simulated-bench';

const LOUPE_RADIUS = 2.5;

/** How pieces on a strip lie, in the words of what lies on the bed. */
const FED_AS = { row: 'fence', parts: 'panel', long: 'long' } as const;

/** The blanks of a row as they lie, strip frame. */
const blankEdges = ({ board, sizes }: BatchReckoning): Vec[][] =>
  board!.slots.map((slot) =>
    boxCorners({
      minX: -sizes.length.mean / 2,
      maxX: sizes.length.mean / 2,
      minY: -sizes.width.mean / 2,
      maxY: sizes.width.mean / 2,
    }).map((c) => apply(slotTransform(slot), c)),
  );

/** What can be seen from where the operator stands; the hidden numbers stay behind. */
const view = (state: BenchState, batch: BatchDocument, reckoning: BatchReckoning): SimView => {
  const machine = machineOf(batch);
  const board = needBoard(reckoning);
  const pose = truePose(state.hidden);
  const display = apply(bedToFile(machine), state.head);
  const whole = (v: { x: number; y: number }): { x: number; y: number } => ({ x: Math.round(v.x), y: Math.round(v.y) });
  // A corner that is aimed at is a sharp one.
  const outline = flatten(
    roundedRectangle({ x: board.width / 2, y: board.height / 2 }, board.width, board.height, reckoning.feed ? 0 : 3),
  );
  // A panel's marks are there once its first file has cut them.
  // A long piece's marks are where its segments really left them.
  const seenMarks =
    reckoning.cutOut && reckoning.face.side === 'front'
      ? []
      : board.marks.map((m) => {
          const real = state.marks?.find((b) => b.id === m.id);
          return real ? { ...m, at: { x: real.x, y: real.y } } : m;
        });
  // A feeder's work is aimed at by corners; only the seams of a long piece carry marks.
  const corners = reckoning.feed && (reckoning.feed.work !== 'long' || reckoning.feed.current === 1);
  const lines = [
    ...(corners ? [] : seenMarks).flatMap((m) =>
      (reckoning.cutOut ? crossContours(m) : markContours(m)).map((c) => {
        const points = flatten(c, 0.01);
        return { kind: 'mark' as const, points: c.closed ? [...points, points[0]!] : points };
      }),
    ),
    ...(reckoning.feed?.work === 'row' ? blankEdges(reckoning) : [outline]).map((points) => ({
      kind: 'edge' as const,
      points: [...points, points[0]!],
    })),
  ];
  const loupe = lookThroughLoupe(state, lines, LOUPE_RADIUS, reckoning.place.marksAt);
  return {
    homed: state.homed,
    display: { x: Math.round(display.x * 100) / 100 || 0, y: Math.round(display.y * 100) / 100 || 0 },
    head: state.head,
    dots: state.dots.length,
    landed: [...(state.landed ?? [])],
    feeder: state.feeder ? { moved: state.feeder.moved, offsets: state.feeder.offsets } : null,
    boardCorners: boxCorners({ minX: 0, minY: 0, maxX: board.width, maxY: board.height }).map((c) =>
      whole(apply(pose, c)),
    ),
    marksSeen: seenMarks.map((m) => ({ id: m.id, at: whole(apply(pose, m.at)) })),
    loupe: {
      radius: loupe.radius,
      lines: loupe.lines.map((l) => ({ kind: l.kind, points: l.points.map((p) => ({ x: p.x, y: p.y })) })),
    },
  };
};

/** What is meant for each loaded piece: its art and, where its side's file frees it, its outline. */
const loadedShapes = (reckoning: BatchReckoning): PlacedPiece[] => {
  if (reckoning.long) return segmentPiece(reckoning, reckoning.long);
  const placed = placedPieces(reckoning, reckoning.onTheBoard);
  const frees =
    (reckoning.feed ?? reckoning.photo) !== null ||
    (reckoning.board?.marks.length === 0 ? 'front' : 'back') === reckoning.face.side;
  if (!reckoning.cutOut || !frees) return placed;
  const lines = reckoning.cutOut.map((c) => {
    const points = flatten(c, 0.01);
    return [...points, points[0]!];
  });
  return placed.map((p) => ({ ...p, shapes: { ...p.shapes, drawn: [...p.shapes.drawn, ...lines] } }));
};

/** Length of the marks that the first file of a panel cuts beside its pieces, mm. */
const ownMarks = ({ cutOut, board, face, feed, photo }: BatchReckoning): number =>
  cutOut && board && !feed && !photo && face.side === 'front'
    ? board.marks.flatMap(crossContours).reduce((sum, c) => sum + contourLength(c), 0)
    : 0;

/** Where print ends on the piece of each slot, its own frame; null when nothing is printed. */
const printEdges = (
  batch: BatchDocument,
  { board, cutLine, sizes }: BatchReckoning,
): ((slot: number) => Vec[]) | null => {
  if (!cutLine || !board) return null;
  const { sheet } = effectiveHold(batch);
  const pieces = sheet.traced ? tracedPieces(sheet.traced) : null;
  const ground = pieces ? null : pieceGround(batchInput(batch).blank, sizes, sheet)[0]!;
  return (slot) => flatten(ground ?? tracedOutline(pieces![slot - 1]!)[0]!, 0.02);
};

export const simRoutes = (app: Express, db: Db): void => {
  app.get(PHOTO, async (request, response) => {
    if (!/^[0-9a-f-]{36}$/.test(request.params.id)) throw notFound('This batch');
    const shot = Number(request.query.shot ?? 0);
    const png = await db
      .transaction()
      .execute(async (trx) =>
        takePhotograph(trx, await loadBatch(trx, request.params.id), Number.isInteger(shot) ? shot % 1000 : 0),
      );
    response
      .set({
        'content-type': 'image/png',
        'content-disposition': 'attachment; filename="bed.png"',
        'cache-control': 'no-store',
      })
      .send(png);
  });

  serve(app, db, api.simView, async ({ params, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const { reckoning } = reckonDocument(batch, 1_000);
    return view(await loadSim(trx, batch, reckoning), batch, reckoning);
  });

  serve(app, db, api.simDo, async ({ params, body, by, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const { reckoning } = reckonDocument(batch, 1_000);
    const machine = machineOf(batch);
    let state: BenchState = await loadSim(trx, batch, reckoning);
    if (!state.homed && (body.act === 'jog' || body.act === 'goto' || body.act === 'dot'))
      throw refused({ code: 'not-homed', message: 'Home the machine first; it does not know where it stands.' });
    switch (body.act) {
      case 'lay':
        state = withPointer(
          {
            ...(reckoning.feed
              ? { ...state, feeder: undefined, hidden: { ...state.hidden, seed: (state.hidden.seed * 31 + 17) >>> 0 } }
              : layWork((state.hidden.seed * 31 + 17) >>> 0, batch, reckoning)),
            homed: state.homed,
            head: state.head,
          },
          batch,
        );
        await record(trx, {
          by,
          kind: 'simulated',
          batchId: params.id,
          summary: 'Board laid on the simulated bed anew',
        });
        break;
      case 'home':
        state = home(state, machine);
        break;
      case 'dot':
        state = burnDot(state);
        await record(trx, {
          by,
          kind: 'simulated',
          batchId: params.id,
          summary: 'Test dot burned on scrap on the simulated machine',
        });
        break;
      case 'jog':
        state = jog(state, machine, { x: body.dx, y: body.dy });
        break;
      case 'feed':
      case 'square':
        if (!state.feeder)
          throw refused({ code: 'no-feeder', message: 'Nothing lies in a feeder yet.', field: 'feed' });
        state = {
          ...state,
          feeder:
            body.act === 'feed'
              ? tryFeed(state.hidden.seed, state.feeder, body.commanded)
              : measureOffsets(state.hidden.seed, state.feeder, body.apart),
        };
        break;
      case 'goto':
        state = moveTo(state, machine, apply(invert(bedToFile(machine)), body));
    }
    await saveSimulation(trx, params.id, state);
    return view(state, batch, reckoning);
  });

  serve(app, db, api.pointerFromSim, async ({ params, by, trx }) => {
    await touch(trx, params.id, by);
    const batch = await loadBatch(trx, params.id);
    const { reckoning } = reckonDocument(batch, 1_000);
    const state = await loadSim(trx, batch, reckoning);
    const burned = state.dots.at(-1);
    if (!burned)
      throw refused({ code: 'no-dot', message: 'Burn a dot first, then move until the pointer lies on it.' });
    const offset = pointerFromDot(burned, state.head);
    if (Math.hypot(offset.x, offset.y) > 5)
      throw refused({
        code: 'pointer-far',
        message: `The pointer would be ${Math.hypot(offset.x, offset.y).toFixed(1)} mm off. Bring its dot onto the burned dot first.`,
      });
    await trx
      .updateTable('machines')
      .set({
        profile: JSON.stringify({
          ...batch.machine.profile,
          // Scrap for a test dot lies in focus; a second height that was measured before is measured anew when wanted.
          pointerOffset: { x: offset.x, y: offset.y, height: 0, second: null, measuredAt: new Date().toISOString() },
        }),
      })
      .where('id', '=', batch.machine.id)
      .execute();
    await record(trx, {
      by,
      kind: 'calibration',
      batchId: params.id,
      subjectId: batch.machine.id,
      summary: `Pointer offset of ${batch.machine.name} measured: ${offset.x.toFixed(2)}, ${offset.y.toFixed(2)} mm`,
    });
    return loadBatch(trx, params.id);
  });

  serve(app, db, api.simMeasure, async ({ params, body, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const { reckoning } = reckonDocument(batch, 200);
    const { seed } = (await loadSim(trx, batch, reckoning)).hidden;
    const { locator } = reckoning.fixings;
    switch (body.what) {
      case 'card':
        return { value: gapOnCard(seed, unlikeDrawing(seed)) };
      case 'back':
        if (!locator) throw refused({ code: 'no-locator', message: 'There is no locator board yet.', field: 'hold' });
        return { value: repeatedDot(seed, body.time, locator, effectiveHold(batch).locator) };
      case 'shank':
        return { value: shankThatGoesIn(seed, batch.setup.hold.pins?.cell ?? 7) };
      case 'fit':
        return { value: slotThatHolds(seed) };
    }
  });

  serve(app, db, api.simRun, async ({ params, by, trx }) => {
    const batch = await loadBatch(trx, params.id);
    const { input, reckoning } = reckonDocument(batch, 20_000);
    let state = await loadSim(trx, batch, reckoning);
    await saveSimulation(trx, params.id, state);
    const file = loadGcode(input, reckoning, batch.name);
    if (!file.ok) throw refused(file.problem);
    const loaded = loadedShapes(reckoning);
    const method = effectiveHold(batch).method;
    const laying = layingOf(batch, reckoning, state.hidden.seed);
    const zero = zeroOnGrid(state, batch, reckoning);
    const run = runFile(
      [...file.value].join(''),
      state.hidden,
      machineOf(batch),
      {
        sizes: reckoning.sizes,
        pocket: reckoning.pocket,
        // A piece that was turned in its own hole lies in it as in a pocket.
        method: reckoning.photo?.parts
          ? 'panel'
          : reckoning.feed
            ? FED_AS[reckoning.feed.work]
            : reckoning.cutOut && reckoning.face.side === 'back' && reckoning.board?.marks.length === 0
              ? 'nest'
              : method,
        load: reckoning.run.openLoad ?? 1,
        interval: reckoning.face.recipe!.engrave.interval,
        ...(reckoning.photo && !reckoning.photo.parts
          ? { lying: (slot: Slot) => trueInPlace(slot, state.thrown?.blanks ?? [], reckoning.sizes) }
          : {}),
        ...(laying ? { lying: laying } : {}),
        ...(zero ? { zero } : {}),
        laid: reckoning.feed?.work === 'row' ? batch.setup.feed.laid : 0,
      },
      loaded,
    );
    if (!run.ok) throw refused(run.problem);
    const { long } = reckoning;
    if (long) {
      state = { ...state, ...afterSegment(state, reckoning, long, run.value) };
      await saveSimulation(trx, params.id, state);
    }
    const box = long ? segmentBox(reckoning, long) : reckoning.artBox;
    await record(trx, {
      by,
      kind: 'simulated',
      batchId: params.id,
      summary: `Load ${reckoning.run.openLoad} run on the simulated machine: ${run.value.pieces.length} pieces, ${run.value.lines} lines of G-code`,
    });
    const segment = long ? state.landed?.at(-1) : undefined;
    /** How far a piece is off, as measured on it; a segment as its file lies on the work. */
    const offOf = (
      p: BurnedPiece,
    ): { dx: number | null; dy: number | null; yaw: number | null; worst: number | null } => {
      const { dx, dy, yaw } = segment ?? p;
      return { dx, dy, yaw, worst: dx === null ? null : worstCorner(box, dx, dy!, yaw!) };
    };
    const edges = printEdges(batch, reckoning);
    const short = (v: number): number => Math.round(v * 100) / 100;
    return {
      stray: Math.max(0, run.value.stray - ownMarks(reckoning)),
      lines: run.value.lines,
      predicted: reckoning.budget.predicted,
      tolerance: batch.tolerance,
      landed: [...(state.landed ?? [])],
      pieces: run.value.pieces.map((p) => ({
        slot: p.slot,
        length: p.piece.length,
        width: p.piece.width,
        seatX: p.piece.dx,
        seatY: p.piece.dy,
        seatYaw: p.piece.yaw,
        ...offOf(p),
        margin: edges ? leastMargin(p.strokes, edges(p.slot)) : null,
        // A long piece is drawn from its art, segment by segment, as each landed.
        strokes: long ? [] : p.strokes.map(short),
      })),
    };
  });
};
