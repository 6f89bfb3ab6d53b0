import { setupSections } from '@bistre/contract';
import { useState, type MouseEvent } from 'react';
import { screenPath, type PieceLook, type Ordinal, nth } from '@bistre/core';
import type { Shown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { Choice, Measure } from '../../parts/fields';
import { nominalSize } from '@bistre/core';

const fresh = (ordinal: Ordinal): PieceLook => ({ ordinal, side: null, defects: [] });

/** Faces and defects of the pieces that are laid next: one at a time, its picture to touch. */
export const Looks = ({ handle, shown, large = false }: { handle: BatchHandle; shown: Shown; large?: boolean }) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const next = reckoning.onTheBoard.map((o) => o.ordinal);
  const [at, setAt] = useState(0);
  const [across, setAcross] = useState(5);
  const ordinal = next[Math.min(at, next.length - 1)];
  if (ordinal === undefined) return <p className="text-soft">No piece is laid next.</p>;
  const { pieces } = batch.setup.looks;
  const look = pieces.find((p) => p.ordinal === ordinal) ?? fresh(ordinal);
  const put = (part: Partial<PieceLook>): void => {
    const changed = { ...look, ...part };
    handle.update('looks', {
      pieces: [...pieces.filter((p) => p.ordinal !== ordinal), changed].sort((a, b) => a.ordinal - b.ordinal),
    });
  };
  const { length, width } = nominalSize(batch.blank.spec.shape);
  const art = reckoning.art?.paths[ordinal];
  const problem = reckoning.art?.problems.find((p) => p.piece === ordinal);
  const touch = (e: MouseEvent<SVGSVGElement>): void => {
    const svg = e.currentTarget;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    const x = Math.round(p.x * 10) / 10;
    const y = Math.round(-p.y * 10) / 10;
    const hit = look.defects.findIndex((d) => Math.hypot(d.x - x, d.y - y) < d.diameter / 2 + 1);
    put({
      defects:
        hit >= 0
          ? look.defects.filter((_, i) => i !== hit)
          : [...look.defects, { x, y, diameter: across }].slice(0, 20),
    });
  };
  const looked = next.filter((o) => pieces.some((p) => p.ordinal === o && p.side !== null)).length;
  return (
    <div className={large ? 'mt-4 max-w-3xl text-lg' : ''}>
      <p className="flex items-center justify-between gap-3">
        <span>
          <b>Piece {ordinal}</b> {Object.values(nth(batch.roster, ordinal) ?? {}).join(' · ')}
        </span>
        <span className="flex gap-2">
          <button className="act" aria-label="piece before" disabled={at === 0} onClick={() => setAt(at - 1)}>
            ←
          </button>
          <button
            className="act"
            aria-label="next piece"
            disabled={at >= next.length - 1}
            onClick={() => setAt(at + 1)}
          >
            →
          </button>
        </span>
      </p>
      <svg
        viewBox={`${-length / 2 - 3} ${-width / 2 - 3} ${length + 6} ${width + 6}`}
        className="my-2 block max-h-64 w-full cursor-crosshair border border-hairline bg-film"
        role="img"
        aria-label={`Piece ${ordinal}: touch where a defect lies`}
        onClick={touch}
      >
        <g transform="scale(1 -1)">
          <path d={shown.blankPath} fillRule="evenodd" className="fill-sheet stroke-rim" strokeWidth={0.4} />
          {reckoning.own.usable?.area.map((c, i) => (
            <path
              key={i}
              d={screenPath(c)}
              className="fill-none stroke-blue"
              strokeWidth={0.3}
              strokeDasharray="3 1.5"
            />
          ))}
          {art?.fill && <path d={art.fill} className="fill-ink" />}
          {art?.line && <path d={art.line} className="fill-none stroke-ink" strokeWidth={0.3} />}
          {look.defects.map((d, i) => (
            <g key={i}>
              <circle cx={d.x} cy={d.y} r={d.diameter / 2} className="fill-oxide/25 stroke-oxide" strokeWidth={0.5} />
              <path d={`M${d.x - 1.2} ${d.y}h2.4M${d.x} ${d.y - 1.2}v2.4`} className="stroke-oxide" strokeWidth={0.4} />
            </g>
          ))}
        </g>
      </svg>
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="Better face up"
          value={look.side ?? 'none'}
          options={[
            ['one', 'side one'],
            ['two', 'side two'],
            ['none', 'not looked'],
          ]}
          onChange={(side) => put({ side: side === 'none' ? null : side })}
        />
        <div className="w-32">
          <Measure of={setupSections.looks} at="pieces.0.defects.0.diameter" value={across} onCommit={setAcross} />
        </div>
        <p className="pb-2 text-[13px] text-soft">
          Touch the picture where a knot or dark streak lies; touch it again to take it out.
        </p>
      </div>
      {problem && <p className="mt-1 text-oxide">{problem.message}</p>}
      <p className="mt-1 text-[13px] text-soft">
        {looked} of the {next.length} that are laid next are looked at.
      </p>
    </div>
  );
};
