import { useState } from 'react';
import { scaleLinear, scaleTime } from 'd3-scale';
import { line } from 'd3-shape';
import { useDrives, useFeeders } from '../data/queries';
import { Select } from './fields';

interface Series {
  readonly id: string;
  readonly name: string;
  /** What is plotted, in words. */
  readonly what: string;
  readonly points: readonly { readonly at: Date; readonly value: number; readonly note: string }[];
}

/** What was measured of every feeder and drive, over time. */
const useSeries = (): Series[] => {
  const feeders = useFeeders().data ?? [];
  const drives = useDrives().data ?? [];
  return [
    ...feeders.map((f) => ({
      id: f.id,
      name: f.name,
      what: 'measured over commanded, long feeds',
      points: f.readings.map((r) => ({
        at: new Date(r.at),
        value: r.measured / r.commanded,
        note: `${r.measured.toFixed(2)} for ${r.commanded.toFixed(2)} mm, ${r.by}`,
      })),
    })),
    ...drives.map((d) => ({
      id: d.id,
      name: d.name,
      what: 'correction by witness rings',
      points: d.history
        .map((r) => ({ at: new Date(r.at), value: r.correction, note: `${r.blankName}, ring off by ${r.overlap} mm` }))
        .reverse(),
    })),
  ].filter((s) => s.points.length > 1);
};

/** How a feeder's or a drive's calibration ran over time: does it drift, or only scatter? */
export const CalibrationChart = () => {
  const series = useSeries();
  const [chosen, setChosen] = useState('');
  const shown = series.find((s) => s.id === chosen) ?? series[0];
  if (!shown) return null;
  const width = 1160;
  const height = 200;
  const values = shown.points.map((p) => p.value);
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  const s = Math.sqrt(values.reduce((q, v) => q + (v - mean) ** 2, 0) / (values.length - 1));
  const low = Math.min(...values, mean - 2.2 * s);
  const high = Math.max(...values, mean + 2.2 * s);
  const pad = Math.max((high - low) * 0.12, 1e-5);
  // Evenly by their order where all were taken within a minute: a clock tells nothing then.
  const times = shown.points.map((p) => p.at.getTime());
  const first = new Date(Math.min(...times));
  const last = new Date(Math.max(...times));
  const quick = last.getTime() - first.getTime() < 60_000;
  const byTime = scaleTime([first, last], [70, width - 24]);
  const byOrder = scaleLinear([0, shown.points.length - 1], [70, width - 24]);
  const x = (i: number): number => (quick ? byOrder(i) : byTime(shown.points[i]!.at));
  const y = scaleLinear([low - pad, high + pad], [height - 26, 10]);
  return (
    <figure className="mb-5 border border-hairline bg-sheet p-3">
      <figcaption className="mb-1 flex items-end justify-between gap-4 text-[13px] text-soft">
        <span>
          Calibration of {shown.name}: {shown.what}. Mean {mean.toFixed(4)}, spread {(1e4 * s).toFixed(1)} × 10⁻⁴ from{' '}
          {shown.points.length}. Dashed: mean ± 2 spreads; a point beyond asks for another look.
        </span>
        {series.length > 1 && (
          <span className="w-56 shrink-0">
            <Select
              label="of"
              value={shown.id}
              options={series.map((q) => [q.id, q.name] as const)}
              onChange={setChosen}
            />
          </span>
        )}
      </figcaption>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="w-full"
        role="img"
        aria-label={`Calibration of ${shown.name}, ${shown.points.length} readings`}
      >
        {[mean - 2 * s, mean, mean + 2 * s].map((v, i) => (
          <g key={i}>
            <line
              x1={64}
              x2={width - 12}
              y1={y(v)}
              y2={y(v)}
              className={i === 1 ? 'stroke-rim' : 'stroke-ochre'}
              strokeDasharray={i === 1 ? undefined : '6 4'}
            />
            <text x={58} y={y(v) + 4} textAnchor="end" className="fill-soft text-[12px]">
              {v.toFixed(4)}
            </text>
          </g>
        ))}
        <path
          d={
            line<(typeof shown.points)[number]>(
              (_, i) => x(i),
              (p) => y(p.value),
            )(shown.points) ?? ''
          }
          className="fill-none stroke-ink"
          strokeWidth={1.4}
        />
        {shown.points.map((p, i) => {
          const out = Math.abs(p.value - mean) > 2 * s;
          return (
            <g key={i}>
              {out ? (
                <rect x={x(i) - 5} y={y(p.value) - 5} width={10} height={10} className="fill-ochre" />
              ) : (
                <circle cx={x(i)} cy={y(p.value)} r={4} className="fill-ink" />
              )}
              <title>{`${p.value.toFixed(5)}, ${p.at.toLocaleString('en-GB')}: ${p.note}`}</title>
            </g>
          );
        })}
        <text x={70} y={height - 6} className="fill-soft text-[12px]">
          {quick ? 'in the order read' : first.toLocaleDateString('en-GB')}
        </text>
        <text x={width - 24} y={height - 6} textAnchor="end" className="fill-soft text-[12px]">
          {quick ? '' : last.toLocaleDateString('en-GB')}
        </text>
      </svg>
    </figure>
  );
};
