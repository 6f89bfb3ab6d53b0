import type { SimRunView } from '@bistre/contract';
import { Drawing, fitView, Legend, ScaleBar, useSize } from '../../drawing/scale';

const strokesPath = (strokes: readonly number[]): string => {
  let d = '';
  for (let i = 0; i + 3 < strokes.length; i += 4)
    d += `M${strokes[i]} ${strokes[i + 1]}L${strokes[i + 2]} ${strokes[i + 3]}`;
  return d;
};

/** What is drawn of each piece beside its burn. */
export interface Pieces {
  /** mm */
  readonly length: number;
  readonly width: number;
  /** What is printed on each piece by its slot, when pieces are cut out of a print; null when they are engraved. */
  readonly printed: ReadonlyMap<number, { readonly fill: string; readonly line: string }> | null;
  /** Pieces without a common form: only what is printed and cut is drawn. */
  readonly bare: boolean;
}

/** The pieces as they came out: what was burned, where it should be, and how far it is off. */
export const SimResult = ({
  run,
  pieces: { length, width, printed, bare },
  onClose,
  cornerRadius,
  disc,
  holes,
}: {
  run: SimRunView;
  pieces: Pieces;
  onClose: () => void;
  cornerRadius: number;
  disc: boolean;
  holes: readonly { x: number; y: number; diameter: number }[];
}) => {
  const [ref, size] = useSize();
  const n = run.pieces.length;
  const columns = Math.max(
    1,
    Math.min(n, Math.ceil(Math.sqrt((n * size.width * (width + 12)) / ((length + 8) * Math.max(1, size.height - 60))))),
  );
  const rows = Math.ceil(n / columns);
  const cell = { w: length + 8, h: width + (printed ? 16 : 12) };
  const view = fitView(
    size,
    { x: 0, y: 0, width: columns * cell.w, height: rows * cell.h },
    { left: 18, right: 18, top: 10, bottom: 48 },
  );
  const big = view.k > 2.2;
  return (
    <Drawing
      refTo={ref}
      label="Pieces after the simulated run"
      caption={
        <>
          {printed
            ? 'Print and cut together, piece by piece; margin: least distance from the cut to where print ends.'
            : 'The pieces after the run, face up.'}{' '}
          {run.lines.toLocaleString('en')} lines of G-code were read
          {run.stray > 0.5 ? (
            <b className="text-oxide">; {run.stray.toFixed(0)} mm were burned beside the pieces</b>
          ) : (
            ''
          )}
          .
        </>
      }
      tools={
        <button className="link" onClick={onClose}>
          back to the bed
        </button>
      }
    >
      {run.pieces.map((p, i) => {
        const cx = ((i % columns) + 0.5) * cell.w;
        const cy = (rows - Math.floor(i / columns) - 0.5) * cell.h + 3;
        const out = p.worst !== null && p.worst > run.tolerance;
        const label = view.at(cx, cy - width / 2 - 1);
        return (
          <g key={p.slot}>
            <g transform={view.group}>
              <g transform={`translate(${cx} ${cy})`}>
                {bare ? null : disc ? (
                  <circle
                    r={p.length / 2}
                    className={`fill-sheet ${out ? 'stroke-oxide' : 'stroke-rim'}`}
                    strokeWidth={out ? 2.5 : 1}
                    vectorEffect="non-scaling-stroke"
                  />
                ) : (
                  <rect
                    x={-p.length / 2}
                    y={-p.width / 2}
                    width={p.length}
                    height={p.width}
                    rx={cornerRadius}
                    className={`fill-sheet ${out ? 'stroke-oxide' : 'stroke-rim'}`}
                    strokeWidth={out ? 2.5 : 1}
                    vectorEffect="non-scaling-stroke"
                  />
                )}
                {holes.map((h, k) => (
                  <circle
                    key={k}
                    cx={h.x}
                    cy={h.y}
                    r={h.diameter / 2}
                    className="fill-film stroke-rim"
                    vectorEffect="non-scaling-stroke"
                  />
                ))}
                {printed?.has(p.slot) && (
                  <>
                    <path d={printed.get(p.slot)!.fill} className="fill-ink" />
                    <path
                      d={printed.get(p.slot)!.line}
                      className="fill-none stroke-ink"
                      vectorEffect="non-scaling-stroke"
                    />
                  </>
                )}
                <path
                  d={strokesPath(p.strokes)}
                  className={`fill-none ${printed ? 'stroke-logwood' : 'stroke-ink'}`}
                  strokeWidth={Math.max(0.6, 0.1 * view.k)}
                  vectorEffect="non-scaling-stroke"
                />
              </g>
            </g>
            <text
              x={label.x}
              y={label.y + (big ? 14 : 10)}
              textAnchor="middle"
              className={`${big ? 'text-[13px]' : 'text-[10px]'} ${out ? 'fill-oxide font-bold' : 'fill-verdigris'}`}
            >
              {p.slot}: {p.worst === null ? 'nothing' : `${p.worst.toFixed(2)} mm${out ? ', over' : ''}`}
            </text>
            {big && p.margin !== null && (
              <text
                x={label.x}
                y={label.y + 29}
                textAnchor="middle"
                className={`text-[12px] ${p.margin < 0 ? 'fill-oxide font-bold' : 'fill-soft'}`}
              >
                {p.margin < 0 ? `paper shows, ${(-p.margin).toFixed(2)}` : `margin ${p.margin.toFixed(2)}`}
              </text>
            )}
          </g>
        );
      })}
      <Legend height={size.height} entries={printed ? ['cut'] : ['engrave']} />
      <ScaleBar view={view} />
    </Drawing>
  );
};
