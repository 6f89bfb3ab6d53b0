import type { MachineDocument } from '@bistre/contract';
import { apply, countedToFile, type Vec } from '@bistre/core';
import type { View } from './scale';

/** Marks of a steel rule along the bed's left and front edges, in the machine's own coordinates. */
export const BedRulers = ({ view, machine }: { view: View; machine: MachineDocument }) => {
  const { bed } = machine.profile;
  const toFile = countedToFile(machine.profile);
  const step = view.k * 100 > 46 ? 100 : 200;
  const marks = (length: number): number[] => Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i * step);
  const fileX = (x: number): number => Math.round(apply(toFile, { x, y: 0 }).x);
  const fileY = (y: number): number => Math.round(apply(toFile, { x: 0, y }).y);
  return (
    <g className="stroke-rim text-[11px]" aria-hidden>
      {marks(bed.width).map((x) => {
        const p = view.at(x, 0);
        return (
          <g key={`x${x}`}>
            <line x1={p.x} x2={p.x} y1={p.y} y2={p.y + 7} />
            <text x={p.x} y={p.y + 19} textAnchor="middle" className="fill-soft stroke-none">
              {fileX(x)}
            </text>
          </g>
        );
      })}
      {marks(bed.height).map((y) => {
        const p = view.at(0, y);
        return (
          <g key={`y${y}`}>
            <line x1={p.x - 7} x2={p.x} y1={p.y} y2={p.y} />
            <text x={p.x - 10} y={p.y + 4} textAnchor="end" className="fill-soft stroke-none">
              {fileY(y)}
            </text>
          </g>
        );
      })}
    </g>
  );
};

/** The head from above, with what the machine's display shows. */
export const Head = ({ view, at, machine }: { view: View; at: Vec; machine: MachineDocument }) => {
  const p = view.at(at.x, at.y);
  const shown = apply(countedToFile(machine.profile), at);
  const right = p.x > view.width - 170;
  return (
    <g className="stroke-oxide" fill="none" strokeWidth={1.6}>
      <circle cx={p.x} cy={p.y} r={Math.max(9, machine.profile.headRadius * view.k)} strokeWidth={1} />
      <path d={`M${p.x - 8} ${p.y}h16M${p.x} ${p.y - 8}v16`} />
      <text
        x={p.x + (right ? -26 : 26)}
        y={p.y - 12}
        textAnchor={right ? 'end' : 'start'}
        className="fill-ink stroke-sheet text-[12px]"
        strokeWidth={4}
        paintOrder="stroke"
      >
        head {shown.x.toFixed(1)}, {shown.y.toFixed(1)}
      </text>
    </g>
  );
};
