import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import type { BatchDocument } from '@bistre/contract';
import { capability, fixed, pieceCount } from '@bistre/core';

/** Measured offsets piece by piece in the order they were burned, against the tolerance: an individuals chart of x and y. */
export const OffsetChart = ({ batch }: { batch: BatchDocument }) => {
  const pieces = batch.pieces.filter((p) => p.dx !== null);
  if (pieces.length < 2) return null;
  const width = 1160;
  const height = 190;
  const t = batch.tolerance;
  const x = scaleLinear([0.5, pieces.length + 0.5], [46, width - 12]);
  const y = scaleLinear([-t * 1.15, t * 1.15], [height - 22, 8]);
  const draw = (key: 'dx' | 'dy'): string =>
    line<(typeof pieces)[number]>(
      (_, i) => x(i + 1),
      (p) => y(p[key] ?? 0),
    )(pieces) ?? '';
  const cx = capability(
    pieces.map((p) => p.dx ?? 0),
    -t,
    t,
  );
  const cy = capability(
    pieces.map((p) => p.dy ?? 0),
    -t,
    t,
  );
  return (
    <figure className="mb-5 border border-hairline bg-sheet p-3">
      <figcaption className="mb-1 text-[13px] text-soft">
        Measured offsets of {pieces.length} pieces in the order burned; tolerance ± {t.toFixed(2)} mm.{' '}
        {cx && cy ? `Cpk ${fixed(Math.min(cx.cpk, cy.cpk))}.` : ''} Solid: to the right. Dashed: away from the operator.
        Crosses: scrapped.
      </figcaption>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="w-full"
        role="img"
        aria-label={`Offsets of ${pieceCount(pieces.length)}`}
      >
        {[-t, 0, t].map((v) => (
          <g key={v}>
            <line
              x1={46}
              x2={width - 12}
              y1={y(v)}
              y2={y(v)}
              className={v === 0 ? 'stroke-rim' : 'stroke-oxide'}
              strokeDasharray={v === 0 ? undefined : '6 4'}
            />
            <text x={40} y={y(v) + 4} textAnchor="end" className="fill-soft text-[12px]">
              {fixed(v)}
            </text>
          </g>
        ))}
        <path d={draw('dx')} fill="none" className="stroke-ink" strokeWidth={1.6} />
        <path d={draw('dy')} fill="none" className="stroke-blue" strokeWidth={1.6} strokeDasharray="5 4" />
        {pieces.map((p, i) =>
          p.state === 'scrap' ? (
            <path
              key={p.id}
              d={`M${x(i + 1) - 5} ${y(p.dx ?? 0) - 5}l10 10m0-10l-10 10`}
              className="stroke-oxide"
              strokeWidth={2.2}
            />
          ) : (
            <circle key={p.id} cx={x(i + 1)} cy={y(p.dx ?? 0)} r={2.6} className="fill-ink" />
          ),
        )}
        {pieces.map((p, i) =>
          pieces.length <= 40 || i % 10 === 0 ? (
            <text key={p.id} x={x(i + 1)} y={height - 5} textAnchor="middle" className="fill-soft text-[11px]">
              {p.ordinal}
            </text>
          ) : null,
        )}
      </svg>
    </figure>
  );
};
