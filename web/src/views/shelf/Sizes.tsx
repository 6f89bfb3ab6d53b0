import { scaleLinear, scaleTime } from 'd3-scale';
import type { BlankDocument } from '@bistre/contract';
import { counted, fixed } from '@bistre/core';
import { useSize } from '../../drawing/scale';
import { onDate } from './form';

type Sample = BlankDocument['samples'][number];

const [LEFT, RIGHT, HIGH] = [58, 14, 96];

/** One dimension of a blank: what was measured, when, and its mean: a delivery that comes otherwise stands out. */
const OverTime = ({ name, samples }: { name: string; samples: readonly Sample[] }) => {
  const [ref, { width }] = useSize();
  const values = samples.map((s) => s.value);
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const spread = Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / Math.max(1, values.length - 1));
  const reach = Math.max(0.02, ...values.map((v) => Math.abs(v - mean))) * 1.15;
  const times = samples.map((s) => Date.parse(s.at));
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const right = Math.max(LEFT + 60, width - RIGHT);
  const x = scaleTime([from === to ? from - 3_600_000 : from, to === from ? to + 3_600_000 : to], [LEFT + 6, right - 6]);
  const y = scaleLinear([mean - reach, mean + reach], [HIGH - 6, 8]);
  return (
    <figure className="mt-3">
      <figcaption>
        <b>{name}</b>: {fixed(mean)} ± {fixed(spread)} mm, {counted(values.length, 'piece')}, {onDate(samples[0]!.at)}
        {onDate(samples.at(-1)!.at) === onDate(samples[0]!.at) ? '' : ` to ${onDate(samples.at(-1)!.at)}`}
      </figcaption>
      <div ref={ref}>
        <svg width={width} height={HIGH + 18} role="img" aria-label={`${name} over time, mean ${fixed(mean)} mm`}>
          {[mean - spread, mean, mean + spread].map((v, i) => (
            <g key={i}>
              <line x1={LEFT} x2={right} y1={y(v)} y2={y(v)} className={i === 1 ? 'stroke-ink' : 'stroke-soft'} strokeDasharray={i === 1 ? undefined : '4 4'} />
              {(i === 1 || y(mean - spread) - y(mean) > 13) && <text x={LEFT - 4} y={y(v) + 4} textAnchor="end" className="fill-soft text-[12px]">{fixed(v)}</text>}
            </g>
          ))}
          {samples.map((s) => (
            <circle key={s.id} cx={x(Date.parse(s.at))} cy={y(s.value)} r={3} className="fill-none stroke-blue" />
          ))}
          <text x={LEFT} y={HIGH + 14} className="fill-soft text-[12px]">{onDate(new Date(from).toISOString())}</text>
          <text x={right} y={HIGH + 14} textAnchor="end" className="fill-soft text-[12px]">{onDate(new Date(to).toISOString())}</text>
        </svg>
      </div>
    </figure>
  );
}; // prettier-ignore

/** The measured sizes of a blank over time, a dimension at a time. */
export const Sizes = ({ blank }: { blank: BlankDocument }) => {
  const names = [...new Set(blank.samples.map((s) => s.dimension))];
  return (
    <section aria-label="Measured sizes" className="mt-8">
      <h2 className="part-title mb-1">Measured sizes over time</h2>
      {names.length === 0 && <p className="text-soft">None yet: a batch’s Blank station takes them.</p>}
      {names.map((name) => {
        const of = blank.samples.filter((s) => s.dimension === name);
        return <OverTime key={name} name={name} samples={[...of].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))} />;
      })}
    </section>
  );
}; // prettier-ignore
