import { useMemo } from 'react';
import type { CupRunView, SimRunView } from '@bistre/contract';
import { developed, diameterAt } from '@bistre/core';
import type { RoundShown } from '../../data/shown';
import { WrapDrawing } from '../../drawing/round/WrapDrawing';
import { Finding } from '../../parts/Part';

/** A turned piece as the judging of pieces reads it: around and along, no turn of its own. */
export const asRun = (run: CupRunView, tolerance: number, predicted: number): SimRunView => ({
  stray: 0,
  lines: run.lines,
  landed: [],
  predicted,
  tolerance,
  pieces: [
    {
      slot: 1,
      length: 0,
      width: 0,
      seatX: 0,
      seatY: 0,
      seatYaw: 0,
      strokes: [],
      margin: null,
      dx: run.dx,
      dy: run.dy,
      yaw: run.dx === null ? null : 0,
      worst: run.dx === null ? null : Math.hypot(run.dx, run.dy ?? 0),
    },
  ],
});

/** The blank as it came off the simulated drive. */
export const CupResult = ({ run, round, onClose }: { run: CupRunView; round: RoundShown; onClose: () => void }) => {
  const burned = useMemo((): RoundShown => {
    const { profile } = round.shape;
    const flat = developed(profile, round.artFrom, round.artTo);
    const strokes = new Float32Array(run.strokes.length);
    let line = '';
    const at = (i: number): { along: number; angle: number } => {
      const along = -run.strokes[i + 1]!;
      return { along, angle: (2 * run.strokes[i]!) / diameterAt(profile, along) };
    };
    for (let i = 0; i + 1 < run.strokes.length; i += 2) {
      // What came over ±180° is seen at the other side.
      const turns = Math.round(at(i - (i % 4)).angle / (2 * Math.PI));
      const { along } = at(i);
      const angle = at(i).angle - 2 * Math.PI * turns;
      strokes[i] = angle;
      strokes[i + 1] = along;
      const p = flat(angle, along);
      line += `${i % 4 === 0 ? 'M' : 'L'}${p.x.toFixed(2)} ${p.y.toFixed(2)}`;
    }
    // What was burned is drawn stroke by stroke: pictures as they were meant would hide it.
    const faces = round.faces.map((f) => ({ ...f, picture: null }));
    return { ...round, faces, unrolled: { fill: '', line }, strokes };
  }, [run, round]);
  if (run.thrown)
    return (
      <div className="p-8">
        <Finding tone="out">
          The blank left the rollers. Look at the axis acceleration on the simulated panel, at the Drive station.
        </Finding>
        <button className="act mt-4" onClick={onClose}>
          Back to the drawing
        </button>
      </div>
    );
  return (
    <div className="flex h-full flex-col">
      <p className="flex items-center justify-between bg-sheet px-5 py-2 text-[13px]">
        <span>
          As it came off the simulated drive: art off by <b>{run.dx?.toFixed(2) ?? '–'} mm</b> around,{' '}
          <b>{run.dy?.toFixed(2) ?? '–'} mm</b> along; {run.lines.toLocaleString('en')} lines of G-code.
        </span>
        <button className="link" onClick={onClose}>
          back to the drawing
        </button>
      </p>
      <div className="min-h-0 flex-1">
        <WrapDrawing round={burned} />
      </div>
    </div>
  );
};
