import type { TrialSpec } from '@bistre/contract';
import { photographPath } from '@bistre/contract';
import { cellShape, cellWords, svgPath, type LaidTrial } from '@bistre/core';
import { useSize } from '../../drawing/scale';

/** What is written on a cell, and how it stands. */
export interface CellMark {
  readonly text: string;
  readonly tell: 'weak' | 'right' | 'strong' | null;
  readonly apart: boolean;
}

/** Larger than this a grid is not drawn, pixels a millimetre: a cell is as large as a thumb. */
const LARGEST = 11;

/**
 * The grid as it lies on the piece: its photograph where there is one, else its drawing. A cell is chosen by touch; what
 * was said of it stands on it. A bar below a mark: too weak; above: too strong.
 */
export const GridPicture = ({
  spec,
  laid,
  photo,
  marks,
  chosen,
  best,
  onChoose,
}: {
  spec: TrialSpec;
  laid: LaidTrial;
  /** Its photograph, cut to the grid's own outline. */
  photo: string | null;
  marks: ReadonlyMap<number, CellMark>;
  chosen: number | null;
  best: number | null;
  onChoose?: (cell: number) => void;
}) => {
  const [ref, size] = useSize();
  const k = Math.min(LARGEST, size.width / laid.width);
  const [w, h] = [spec.cell.width, spec.cell.height];
  return (
    <div ref={ref} className="w-full">
      <svg
        width={laid.width * k}
        height={laid.height * k}
        viewBox={`0 0 ${laid.width} ${laid.height}`}
        role="group"
        aria-label={`Grid of ${laid.cells.length} cells, ${laid.width.toFixed(1)} × ${laid.height.toFixed(1)} mm`}
        className="block max-w-full border border-hairline bg-sheet"
      >
        {photo ? (
          <image href={photographPath(photo)} width={laid.width} height={laid.height} preserveAspectRatio="none" />
        ) : (
          <g transform={`matrix(1 0 0 -1 0 ${laid.height})`}>
            {laid.cells.map((cell) => (
              <path
                key={cell.index}
                d={svgPath(cellShape(spec, cell))}
                className={spec.effect === 'cut' ? 'fill-none stroke-logwood' : spec.effect === 'score' ? 'fill-none stroke-ink' : 'fill-wash stroke-rim'} // prettier-ignore
                strokeWidth={1.2}
                vectorEffect="non-scaling-stroke"
              />
            ))}
            <path
              d={laid.lettering.map((c) => svgPath(c)).join('')}
              className="fill-none stroke-ink"
              strokeWidth={1.2}
              vectorEffect="non-scaling-stroke"
            />
          </g>
        )}
        {laid.cells.map((cell) => {
          const mark = marks.get(cell.index);
          const y = laid.height - cell.y - h;
          const middle = { x: cell.x + w / 2, y: y + h / 2 };
          const words = `Cell ${cell.index + 1}: ${cellWords(spec, cell.index)}${mark ? `, ${mark.text} of 10` : ', not looked at'}`;
          return (
            <g
              key={cell.index}
              role={onChoose ? 'button' : 'img'}
              tabIndex={onChoose ? -1 : undefined}
              aria-label={words}
              aria-pressed={onChoose ? chosen === cell.index : undefined}
              data-cell={cell.index}
              className={onChoose ? 'cursor-pointer outline-none' : ''}
              onClick={() => onChoose?.(cell.index)}
            >
              <rect
                x={cell.x - spec.gap / 2}
                y={y - spec.gap / 2}
                width={w + spec.gap}
                height={h + spec.gap}
                fill="transparent"
              />
              {mark && (
                <>
                  <rect x={middle.x - 2.3} y={middle.y - 1.7} width={4.6} height={3.4} className={mark.apart ? 'fill-sheet stroke-oxide' : 'fill-sheet stroke-rim'} strokeWidth={mark.apart ? 2 : 0.6} vectorEffect="non-scaling-stroke" />
                  <text x={middle.x} y={middle.y + 0.95} textAnchor="middle" fontSize={2.6} className="fill-ink font-bold">
                    {mark.text}
                  </text>
                  {mark.tell === 'weak' && <rect x={middle.x - 2.3} y={middle.y + 2.1} width={4.6} height={0.6} className="fill-ink stroke-sheet" strokeWidth={1} vectorEffect="non-scaling-stroke" />}
                  {mark.tell === 'strong' && <rect x={middle.x - 2.3} y={middle.y - 2.7} width={4.6} height={0.6} className="fill-ink stroke-sheet" strokeWidth={1} vectorEffect="non-scaling-stroke" />}
                </>
              )}
              {best === cell.index && (
                <rect x={cell.x - 0.35} y={y - 0.35} width={w + 0.7} height={h + 0.7} className="fill-none stroke-verdigris" strokeWidth={4} vectorEffect="non-scaling-stroke" />
              )}
              {chosen === cell.index && (
                <rect x={cell.x - 0.75} y={y - 0.75} width={w + 1.5} height={h + 1.5} className="fill-none stroke-blue" strokeWidth={4} vectorEffect="non-scaling-stroke" strokeDasharray="8 4" />
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}; // prettier-ignore
