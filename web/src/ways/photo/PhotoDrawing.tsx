import { useState } from 'react';
import type { BatchDocument } from '@bistre/contract';
import { heldAs, rigid, type Vec } from '@bistre/core';
import { shots } from './photo';
import type { Shown } from '../../data/shown';
import { BedRulers } from '../../drawing/bed';
import { PieceArt } from '../../drawing/PieceArt';
import { Drawing, fitView, Hatch, Legend, matrix, ScaleBar, useSize } from '../../drawing/scale';

const path = (points: readonly Vec[]): string => `M${points.map((p) => `${p.x} ${p.y}`).join('L')}Z`;

/** The bed from straight above as the photograph shows it, with the blanks found, their art, and what was left out. */
export const PhotoDrawing = ({
  batch,
  shown,
  onDefect,
}: {
  batch: BatchDocument;
  shown: Shown;
  /** Marks a place of the stock that must not be used, or takes such a mark out; absent where nothing may be changed. */
  onDefect?: ((at: Vec) => void) | undefined;
}) => {
  const [ref, size] = useSize();
  const [marking, setMarking] = useState(false);
  const { art, onTheBoard } = shown.reckoning;
  const { photo } = shown.reckoning.own;
  const { blanks: found, offcuts, others, afterLoad } = heldAs(batch, 'photo').found;
  const bed = photo?.field ?? batch.machine.profile.bed;
  const shot = shots.use()[batch.id];
  const view = fitView(
    size,
    { x: 0, y: 0, width: bed.width, height: bed.height },
    { left: 52, right: 24, top: 16, bottom: 62 },
  );
  const corner = view.at(0, bed.height);
  const burned = new Map(
    batch.pieces.filter((p) => p.load > afterLoad && p.state !== 'loaded').map((p) => [p.slot, p.state]),
  );
  const ordinals = new Map(onTheBoard.map((o) => [o.slot.slot, o.ordinal]));
  return (
    <Drawing
      refTo={ref}
      label={`Bed of ${batch.machine.name} with ${found.length} blanks`}
      caption={
        <>
          {photo?.onSheet ? 'Sheet of marks' : 'Bed'} {bed.width} × {bed.height} mm{' '}
          {marking
            ? ': touch the stock where a knot, a split or a used place lies; touch it again to take it out.'
            : shot
              ? 'as photographed, redrawn from straight above in the plane of the blanks’ upper sides.'
              : found.length > 0
                ? 'with the blanks of the last photograph.'
                : 'with the camera’s marks. Lay the blanks between them.'}
        </>
      }
      tools={
        onDefect && photo?.parts && offcuts.length > 0 ? (
          <button className="link shrink-0" onClick={() => setMarking(!marking)}>
            {marking ? 'done with defects' : 'mark a defect'}
          </button>
        ) : undefined
      }
    >
      <Hatch />
      <rect
        x={corner.x}
        y={corner.y}
        width={bed.width * view.k}
        height={bed.height * view.k}
        className="fill-sheet stroke-ink"
        strokeWidth={1.2}
      />
      {shot && (
        <image
          href={shot.url}
          x={corner.x}
          y={corner.y}
          width={bed.width * view.k}
          height={bed.height * view.k}
          preserveAspectRatio="none"
        />
      )}
      {!photo?.onSheet && <BedRulers view={view} machine={batch.machine} />}
      <g transform={view.group}>
        {!shot &&
          photo?.marks.map((m) => (
            <g key={m.id}>
              <circle cx={m.x} cy={m.y} r={6} className="fill-ink" />
              {m.ring && <circle cx={m.x} cy={m.y} r={3} className="fill-sheet" />}
            </g>
          ))}
        {offcuts.map((o, i) => (
          <g key={`o${i}`}>
            <path
              d={path(o.outline)}
              className={`${shot ? 'fill-none' : 'fill-film'} stroke-soft`}
              strokeWidth={1.4}
              vectorEffect="non-scaling-stroke"
            />
            {o.defects.map((d, k) => (
              <path
                key={k}
                d={path(d)}
                fill="url(#hatch)"
                className="stroke-oxide"
                strokeWidth={1.2}
                vectorEffect="non-scaling-stroke"
              />
            ))}
          </g>
        ))}
        {others.map((o, i) => (
          <path
            key={`t${i}`}
            d={path(o)}
            className="fill-none stroke-soft"
            strokeWidth={1.4}
            strokeDasharray="3 3"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {shot?.looked.strangers.map((s, i) => (
          <path
            key={i}
            d={path(s.outline)}
            fill="url(#hatch)"
            className="stroke-oxide"
            strokeWidth={1.6}
            vectorEffect="non-scaling-stroke"
          >
            <title>{s.why}</title>
          </path>
        ))}
        {found.map((f, i) => {
          const ordinal = ordinals.get(i + 1);
          const paths = ordinal === undefined ? undefined : art?.paths[ordinal];
          const state = burned.get(i + 1);
          return (
            <g key={i} transform={matrix(rigid(f.angle, f.x, f.y))}>
              <path
                d={shown.blankPath}
                fillRule="evenodd"
                className={`${shot ? 'fill-none' : 'fill-film'} ${f.ask ? 'stroke-ochre' : state === 'scrap' ? 'stroke-oxide' : photo?.parts ? 'stroke-logwood' : 'stroke-blue'}`}
                strokeWidth={f.ask ? 3 : 1.6}
                strokeDasharray={f.ask ? '7 4' : undefined}
                vectorEffect="non-scaling-stroke"
              />
              {paths && <PieceArt art={paths} onPhoto={Boolean(shot)} />}
            </g>
          );
        })}
      </g>
      {found.map((f, i) => {
        const p = view.at(f.x, f.y);
        // Parts lie side by side: their numbers stand on them, small; blanks carry a tag.
        return photo?.parts ? (
          found.length > 120 ? null : (
            <text
              key={i}
              x={p.x}
              y={p.y + 4}
              textAnchor="middle"
              className="fill-blue stroke-sheet text-[11px] font-bold"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {i + 1}
            </text>
          )
        ) : (
          <g key={i}>
            <circle cx={p.x} cy={p.y - 25} r={10} className={f.ask ? 'fill-ochre' : 'fill-blue'} />
            <text x={p.x} y={p.y - 21} textAnchor="middle" className="fill-on-blue text-[12px] font-bold">
              {i + 1}
            </text>
          </g>
        );
      })}
      {marking && onDefect && (
        <rect
          width={size.width}
          height={size.height}
          fill="transparent"
          className="cursor-crosshair"
          aria-label="the stock: touch where a defect lies"
          onClick={(e) => {
            const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
            const zero = view.at(0, 0);
            onDefect({
              x: (e.clientX - box.left - zero.x) / view.k,
              y: (zero.y - (e.clientY - box.top)) / view.k,
            });
          }}
        />
      )}
      <Legend
        height={size.height}
        entries={photo?.parts ? ['engrave', 'cut', 'keep-out'] : ['engrave', 'guide', 'keep-out']}
      />
      <ScaleBar view={view} />
    </Drawing>
  );
};
