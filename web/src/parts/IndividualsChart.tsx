import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { fixed, individuals, type Mm } from '@bistre/core';
import { useSize } from '../drawing/scale';
import { Working } from './Reading';

/** A measured value of a piece, in the order they were burned. */
export interface Individual {
  readonly ordinal: number;
  readonly value: Mm;
  readonly scrapped: boolean;
}

const LEFT = 64;
/** Room for what lines are called, at the right. */
const NAMES = 96;

/**
 * Single values with their limits and the tolerance, over what each differs from the one before. What lies outside its
 * limits is ringed; the eighth on one side of the middle, and those after it, have a bar.
 */
export const IndividualsChart = ({
  of,
  tolerance,
  label,
  height = 120,
}: {
  of: readonly Individual[];
  tolerance: Mm;
  /** What is measured, as “to the right”. */
  label: string;
  height?: number;
}) => {
  const [ref, { width }] = useSize();
  const chart = individuals(of.map((p) => p.value));
  if (!chart) return null;
  const right = Math.max(LEFT + 60, width - NAMES);
  const most = Math.max(tolerance * 1.1, ...of.map((p) => Math.abs(p.value)), Math.abs(chart.upper), Math.abs(chart.lower)); // prettier-ignore
  const x = scaleLinear([0.5, of.length + 0.5], [LEFT, right]);
  const y = scaleLinear([-most, most], [height - 6, 8]);
  const top = height + 14;
  const low = 54;
  const range = scaleLinear([0, Math.max(1e-6, chart.rangeUpper * 1.15, ...chart.ranges)], [top + low, top]);
  const level = (v: Mm, at: number, words: string, className: string, dashes?: string) => (
    <g>
      <line x1={LEFT} x2={right} y1={at} y2={at} className={className} strokeDasharray={dashes} />
      <text x={right + 4} y={at + 4} className="fill-soft text-[12px]">
        {words} {fixed(v)}
      </text>
    </g>
  );
  const path = (values: readonly number[], from: number, scale: (v: number) => number): string =>
    line<number>(
      (_, i) => x(from + i),
      (v) => scale(v),
    )([...values]) ?? '';
  // Numbers under them as far apart as their width.
  const every = Math.max(1, Math.ceil((of.length * 26) / (right - LEFT) / 5) * 5 || 1);
  const outside = new Set(chart.outside);
  const runs = new Set(chart.runs);
  return (
    <div ref={ref} className="mt-2 w-full">
      <svg width={width} height={top + low + 20} className="max-w-full" role="img" aria-label={`Each piece, ${label}`}>
        <text x={4} y={16} className="fill-soft text-[13px]">
          {label}
        </text>
        <text x={4} y={top + 12} className="fill-soft text-[13px]">
          from the
        </text>
        <text x={4} y={top + 27} className="fill-soft text-[13px]">
          last one
        </text>
        {level(tolerance, y(tolerance), 'allowed', 'stroke-oxide', '6 4')}
        {level(-tolerance, y(-tolerance), 'allowed', 'stroke-oxide', '6 4')}
        <line x1={LEFT} x2={right} y1={y(chart.centre)} y2={y(chart.centre)} className="stroke-rim" />
        {[chart.upper, chart.lower].map((v, i) => (
          <line
            key={i}
            x1={LEFT}
            x2={right}
            y1={y(v)}
            y2={y(v)}
            className="stroke-blue"
            strokeDasharray="2 3"
            data-limit={fixed(v, 3)}
          />
        ))}
        <path
          d={path(
            of.map((p) => p.value),
            1,
            y,
          )}
          fill="none"
          className="stroke-ink"
          strokeWidth={1.4}
        />
        {of.map((p, i) => (
          <g key={i}>
            {p.scrapped ? (
              <path
                d={`M${x(i + 1) - 5} ${y(p.value) - 5}l10 10m0-10l-10 10`}
                className="stroke-oxide"
                strokeWidth={2.2}
              />
            ) : (
              <circle cx={x(i + 1)} cy={y(p.value)} r={2.6} className="fill-ink" />
            )}
            {outside.has(i) && (
              <circle cx={x(i + 1)} cy={y(p.value)} r={7} className="fill-none stroke-oxide" strokeWidth={1.6} />
            )}
            {runs.has(i) && <rect x={x(i + 1) - 4} y={y(p.value) - 12} width={8} height={3} className="fill-ochre" />}
          </g>
        ))}
        {level(0, range(0), '', 'stroke-rim')}
        {level(chart.rangeUpper, range(chart.rangeUpper), 'limit', 'stroke-blue', '2 3')}
        <path d={path(chart.ranges, 2, range)} fill="none" className="stroke-soft" strokeWidth={1.2} />
        {of.map((p, i) =>
          (i + 1) % every === 0 || of.length <= every || i === 0 ? (
            <text key={i} x={x(i + 1)} y={top + low + 15} textAnchor="middle" className="fill-soft text-[11px]">
              {p.ordinal}
            </text>
          ) : null,
        )}
      </svg>
      <Working lines={chart.working} title={`limits of each piece, ${label}`} />
    </div>
  );
};

/** What the charts say of a direction: scatter from piece to piece against what the level did meanwhile. */
export const levelWords = (values: readonly Mm[]): string => {
  const chart = individuals(values);
  if (!chart) return '';
  if (chart.outside.length > 0) return `${chart.outside.length} outside ± ${fixed(3 * chart.within)} of the middle`;
  if (chart.runs.length > 0) return 'eight or more in a row on one side of the middle';
  return `steady, ± ${fixed(3 * chart.within)} about ${fixed(chart.centre)}`;
};
