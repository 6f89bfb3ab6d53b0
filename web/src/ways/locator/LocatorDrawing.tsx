import type { BatchDocument } from '@bistre/contract';
import { heldAs, isNumbered, slotTransform, type Box } from '@bistre/core';
import type { Shown } from '../../data/shown';
import { Piece } from '../../drawing/board';
import { Drawing, fitView, Legend, matrix, ScaleBar, useSize } from '../../drawing/scale';

const rect = (b: Box) => ({ x: b.minX, y: b.minY, width: b.maxX - b.minX, height: b.maxY - b.minY });

/** A locator board from above, to scale: where the frame stands on it, its stops, its grid, pieces at intersections. */
export const LocatorDrawing = ({ batch, shown }: { batch: BatchDocument; shown: Shown }) => {
  const [ref, size] = useSize();
  const { own, onTheBoard, art, board: places } = shown.reckoning;
  const { locator } = own;
  if (!locator || !places) return null;
  const { board, feet, stops, xs, ys, zero, repeat } = locator;
  const { bed } = batch.machine.profile;
  const { pitch } = heldAs(batch, 'locator').choice;
  const numbered = (v: number): boolean => isNumbered(v, pitch);
  const view = fitView(size, rect(board), { left: 46, right: 30, top: 24, bottom: 62 });
  const at = (b: Box, dx: number, dy: number) =>
    view.at(b.minX + dx * (b.maxX - b.minX), b.minY + dy * (b.maxY - b.minY));
  const z = view.at(zero.x, zero.y);
  const r = view.at(repeat.x, repeat.y);
  const low = view.at(board.minX, board.minY);
  const high = view.at(board.maxX, board.maxY);
  const ordinals = new Map(onTheBoard.map((o) => [o.slot.slot, o.ordinal]));
  return (
    <Drawing
      refTo={ref}
      label="The locator board, to scale"
      caption={
        <>
          Locator board {(board.maxX - board.minX).toFixed(0)} × {(board.maxY - board.minY).toFixed(0)} mm, seen from
          above, operator’s side below. Grey: the machine’s feet. Dashed: its travel, {bed.width} × {bed.height} mm.
        </>
      }
    >
      <g transform={view.group}>
        <rect {...rect(board)} className="fill-sheet stroke-ink" strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
        <path
          d={`${xs.map((x) => `M${x} ${ys[0]}V${ys.at(-1)}`).join('')}${ys.map((y) => `M${xs[0]} ${y}H${xs.at(-1)}`).join('')}`}
          className="stroke-rim"
          strokeWidth={0.5}
          vectorEffect="non-scaling-stroke"
        />
        <path
          d={`${xs
            .filter(numbered)
            .map((x) => `M${x} ${ys[0]}V${ys.at(-1)}`)
            .join('')}`}
          className="stroke-soft"
          strokeWidth={0.8}
          vectorEffect="non-scaling-stroke"
        />
        <rect
          x={0}
          y={0}
          width={bed.width}
          height={bed.height}
          className="fill-none stroke-blue"
          strokeWidth={1.2}
          strokeDasharray="10 5"
          vectorEffect="non-scaling-stroke"
        />
        {places.slots.map((s) => (
          <Piece
            key={s.slot}
            at={matrix(slotTransform(s))}
            blank={shown.blankPath}
            art={art?.paths[ordinals.get(s.slot) ?? -1]}
          />
        ))}
        {feet.map((f, i) => (
          <rect
            key={i}
            {...rect(f)}
            className="fill-hairline stroke-soft"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {stops.map((s, i) => (
          <rect
            key={i}
            {...rect(s.block)}
            className="fill-copper stroke-copper"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
      {stops.map((s, i) => {
        const right = s.foot.endsWith('right');
        const p = s.face === 'front' ? at(s.block, right ? 0 : 1, 0.5) : at(s.block, 0.5, 1);
        return (
          <text
            key={i}
            x={s.face === 'front' ? p.x + (right ? -6 : 6) : p.x}
            y={s.face === 'front' ? p.y + 5 : p.y - 6}
            textAnchor={s.face !== 'front' ? 'middle' : right ? 'end' : 'start'}
            className="fill-copper stroke-sheet text-[13px] font-bold"
            strokeWidth={4}
            paintOrder="stroke"
          >
            stop {i + 1}
          </text>
        );
      })}
      {feet.map((f, i) => {
        const p = at(f, 0.5, 0.5);
        return f.maxX * view.k - f.minX * view.k > 26 ? (
          <text key={i} x={p.x} y={p.y + 4} textAnchor="middle" className="fill-soft text-[11px]">
            foot
          </text>
        ) : null;
      })}
      {xs
        .filter((x) => numbered(x) && Math.abs(x - zero.x) > 60)
        .map((x) => {
          const p = view.at(x, 0);
          return (
            <text key={`x${x}`} x={p.x} y={p.y + 14} textAnchor="middle" className="fill-soft text-[11px]">
              {x}
            </text>
          );
        })}
      {ys.filter(numbered).map((y) => {
        const p = view.at(0, y);
        return (
          <text key={`y${y}`} x={p.x - 5} y={p.y + 4} textAnchor="end" className="fill-soft text-[11px]">
            {y}
          </text>
        );
      })}
      <g className="fill-none stroke-verdigris" strokeWidth={2}>
        <path d={`M${z.x - 11} ${z.y}H${z.x + 11}M${z.x} ${z.y - 11}V${z.y + 11}`} />
        <circle cx={r.x} cy={r.y} r={4} />
      </g>
      <text
        x={z.x - 10}
        y={z.y + 26}
        className="fill-verdigris stroke-sheet text-[13px] font-bold"
        strokeWidth={4}
        paintOrder="stroke"
      >
        zero {zero.x}, {zero.y}
      </text>
      <text
        x={r.x}
        y={r.y - 17}
        textAnchor="end"
        className="fill-verdigris stroke-sheet text-[13px] font-bold"
        strokeWidth={4}
        paintOrder="stroke"
      >
        dot, repeated {repeat.x}, {repeat.y}
      </text>
      <g className="fill-blue text-[13px]">
        <text x={(low.x + high.x) / 2} y={low.y + 17} textAnchor="middle">
          {(board.maxX - board.minX).toFixed(0)} mm
        </text>
        <text transform={`translate(${low.x - 8} ${(low.y + high.y) / 2}) rotate(-90)`} textAnchor="middle">
          {(board.maxY - board.minY).toFixed(0)} mm
        </text>
      </g>
      <Legend height={size.height} entries={['engrave', 'cut', 'guide']} />
      <ScaleBar view={view} />
    </Drawing>
  );
};
