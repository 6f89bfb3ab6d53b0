import { fixed, type CorrectionReckoning, type Mm } from '@bistre/core';

const SIZE = 300;

/** Where measured art lies about where it was meant: each piece, their middle with its doubt, the tolerance, the move. */
export const OffsetsDrawing = ({
  measured,
  proposal,
  tolerance,
}: Pick<CorrectionReckoning, 'measured' | 'proposal'> & { tolerance: Mm }) => {
  const n = measured.length;
  const middle = {
    x: measured.reduce((s, p) => s + p.off.x, 0) / n,
    y: measured.reduce((s, p) => s + p.off.y, 0) / n,
  };
  const most = Math.max(tolerance, ...measured.map((p) => Math.max(Math.abs(p.off.x), Math.abs(p.off.y))));
  const k = (SIZE / 2 - 22) / most;
  const at = (x: Mm, y: Mm): { x: number; y: number } => ({ x: SIZE / 2 + k * x, y: SIZE / 2 - k * y });
  const m = at(middle.x, middle.y);
  const corrected = proposal.kind === 'correct';
  const to = corrected ? at(middle.x + proposal.move.shift.x, middle.y + proposal.move.shift.y) : m;
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="size-[260px] max-w-full shrink-0 border border-hairline bg-film"
      role="img"
      aria-label={`Where the art of ${n} measured lies: middle ${fixed(middle.x)} right, ${fixed(middle.y)} away`}
    >
      <path d={`M${SIZE / 2} 8V${SIZE - 8}M8 ${SIZE / 2}H${SIZE - 8}`} className="stroke-hairline" />
      <circle cx={SIZE / 2} cy={SIZE / 2} r={k * tolerance} className="fill-none stroke-oxide" strokeDasharray="6 4" />
      <text x={8} y={16} className="fill-soft text-[13px]">
        ± {fixed(tolerance)} mm allowed
      </text>
      {measured.map((p, i) => {
        const q = at(p.off.x, p.off.y);
        return p.piece.state === 'scrap' ? (
          <path key={i} d={`M${q.x - 4} ${q.y - 4}l8 8m0-8l-8 8`} className="stroke-oxide" strokeWidth={2} />
        ) : (
          <circle key={i} cx={q.x} cy={q.y} r={3} className="fill-soft" />
        );
      })}
      {corrected && (
        <>
          <circle cx={m.x} cy={m.y} r={Math.max(3, k * 2 * proposal.doubt)} className="fill-none stroke-blue" />
          <path d={`M${m.x} ${m.y}L${to.x} ${to.y}`} className="stroke-blue" strokeWidth={2} />
          <circle cx={to.x} cy={to.y} r={3.5} className="fill-sheet stroke-blue" strokeWidth={2} />
        </>
      )}
      <path d={`M${m.x - 7} ${m.y}h14M${m.x} ${m.y - 7}v14`} className="stroke-ink" strokeWidth={2.4} />
      <text x={SIZE - 6} y={SIZE / 2 - 6} textAnchor="end" className="fill-soft text-[12px]">
        right
      </text>
      <text x={SIZE / 2 + 6} y={SIZE - 8} className="fill-soft text-[12px]">
        towards you
      </text>
    </svg>
  );
};
