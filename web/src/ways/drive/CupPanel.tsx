import { useState } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type CupRunView, type CupView } from '@bistre/contract';
import { diameterAt, type RoundShape } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import type { RoundShown } from '../../data/shown';
import { call, messageOf } from '../../data/api';
import { showReply } from '../../data/show';
import { Measure } from '../../parts/fields';
import { Finding } from '../../parts/Part';

/** Strokes on the blank near a place, to scale, with a rule beside them. */
const TapePicture = ({ run, shape, what }: { run: CupRunView; shape: RoundShape; what: 'ring' | 'letter' }) => {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let i = 0; i < run.strokes.length; i += 2) {
    xs.push(run.strokes[i]!);
    ys.push(run.strokes[i + 1]!);
  }
  const middle = (v: number[]): number => (Math.min(...v) + Math.max(...v)) / 2;
  // A ring is looked at where it meets itself; an F at its middle.
  const cx = what === 'ring' ? 0 : middle(xs);
  const cy = middle(ys);
  const r = what === 'ring' ? 8 : 14;
  // Past the seam the blank begins again, one turn on at each place's own diameter.
  const turn = (y: number): number => Math.PI * diameterAt(shape.profile, Math.max(0, -y));
  const lines: string[] = [];
  for (let i = 0; i < run.strokes.length; i += 4) {
    const [x0, y0, x1, y1] = run.strokes.slice(i, i + 4) as [number, number, number, number];
    for (const s of what === 'ring' ? [0, -1, 1] : [0])
      lines.push(`M${x0 + s * turn(y0) - cx} ${y0 - cy}L${x1 + s * turn(y1) - cx} ${y1 - cy}`);
  }
  return (
    <svg
      viewBox={`${-r} ${-r * 0.7} ${2 * r} ${1.4 * r}`}
      className="h-48 w-full border border-rim bg-film"
      role="img"
      aria-label={what === 'ring' ? 'The tape where the ring meets itself' : 'The F on the tape, rim up'}
    >
      <g transform="scale(1 -1)">
        <path d={lines.join('')} className="fill-none stroke-ink" strokeWidth={0.16} />
      </g>
      <g className="stroke-blue" strokeWidth={0.06}>
        {Array.from({ length: 2 * r + 1 }, (_, i) => i - r).map((x) => (
          <line key={x} x1={x} x2={x} y1={r * 0.7} y2={r * 0.7 - (x % 5 === 0 ? 1 : 0.55)} />
        ))}
      </g>
      <text x={-r + 0.4} y={r * 0.7 - 1.2} fontSize={0.9} className="fill-blue">
        rule, 1 mm
      </text>
    </svg>
  );
};

/** The simulated machine's panel for the drive: what stands in it, and burning on tape. */
export const CupPanel = ({ handle, round }: { handle: BatchHandle; round: RoundShown }) => {
  const client = useQueryClient();
  const { batch } = handle;
  const key = ['cup', batch.id];
  const { data } = useQuery({ queryKey: key, queryFn: () => call(api.cupView, { params: { id: batch.id } }) });
  const [run, setRun] = useState<{ what: 'ring' | 'letter'; view: CupRunView } | null>(null);
  const [busy, setBusy] = useState(false);
  const set = async (body: { value?: number; acceleration?: number }): Promise<void> => {
    try {
      await showReply<CupView>(client, key, await call(api.cupSet, { params: { id: batch.id }, body }));
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  const burn = async (what: 'ring' | 'letter'): Promise<void> => {
    setBusy(true);
    try {
      setRun({ what, view: await call(api.cupBurn, { params: { id: batch.id }, body: { what } }) });
    } catch (error) {
      toast.error(messageOf(error), { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  if (!data) return null;
  const { on } = round;
  return (
    <section aria-label="Simulated drive" className="mt-2 border border-rim p-3">
      <p className="mb-2 text-[13px] text-soft">
        Simulated drive. Its panel shows what really stands in the machine; its faults are hidden.
      </p>
      <div className="grid grid-cols-2 gap-3">
        {data.typed && (
          <Measure
            of={api.cupSet.body}
            at="value"
            label={`panel: ${data.where.replace(/^\w+ axis, /, '')}`}
            value={data.value}
            onCommit={(value) => void set({ value })}
          />
        )}
        <Measure
          of={api.cupSet.body}
          at="acceleration"
          label="panel: axis acceleration"
          value={data.acceleration}
          onCommit={(acceleration) => void set({ acceleration })}
        />
      </div>
      <p className="mt-2 flex flex-wrap gap-2">
        <button className="act" disabled={busy} onClick={() => void burn('ring')}>
          Burn a ring on tape
        </button>
        <button className="act" disabled={busy} onClick={() => void burn('letter')}>
          Burn the F on tape
        </button>
      </p>
      {run?.view.thrown && (
        <div className="mt-2">
          <Finding tone="out">
            The blank left the rollers: the axis accelerates at {data.acceleration.toFixed(0)} mm/s².
            {on ? ` Set at most ${on.throwing.recommended.toFixed(0)}.` : ''} Lay it on again.
          </Finding>
        </div>
      )}
      {run && !run.view.thrown && on && (
        <div className="mt-2" aria-live="polite">
          <TapePicture run={run.view} what={run.what} shape={round.shape} />
          <p className="text-[13px]">
            {run.what === 'letter'
              ? 'The tape, rim up.'
              : on.ring.part < 1
                ? `By the rule the line is ${(on.ring.circumference * on.ring.part + (run.view.overlap ?? 0)).toFixed(2)} mm long.`
                : run.view.overlap === null || Math.abs(run.view.overlap) < 0.01
                  ? 'By the rule the ring closes.'
                  : run.view.overlap > 0
                    ? `By the rule the line overlaps its start by ${run.view.overlap.toFixed(2)} mm.`
                    : `By the rule a gap of ${Math.abs(run.view.overlap).toFixed(2)} mm is left.`}
          </p>
        </div>
      )}
    </section>
  );
};
