import { scaleLog } from 'd3-scale';
import { useMemo } from 'react';
import { cellWords, levelText, NUMBER_WORDS, type JudgedTrials, type TrialAxis } from '@bistre/core';
import { useSize } from '../../drawing/scale';

/** Places a side at which the map is coloured. */
const PLACES = 26;
/** From this doubt on a place is guessed and not known, grades. */
const GUESSED = 1.2;

const reach = (values: readonly number[]): [number, number] => {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const more = Math.max((high / low) ** 0.12, 1.05);
  return [low / more, high * more];
};

/** A number's own levels for an axis, as many as have room. */
const few = (values: readonly number[], scale: (v: number) => number, apart: number): number[] => {
  const out: number[] = [];
  for (const v of [...new Set(values)].sort((a, b) => a - b))
    if (out.length === 0 || Math.abs(scale(v) - scale(out.at(-1)!)) >= apart) out.push(v);
  return out;
};

/**
 * What the scores say of every place: the darker the better; hatched where it is guessed. Cells that were tried are marked,
 * the best is ringed, the next grid is dashed.
 */
export const ResponseMap = ({
  judged,
  columns,
  rows,
}: {
  judged: JudgedTrials;
  columns: TrialAxis;
  rows: TrialAxis;
}) => {
  const [ref, { width }] = useSize();
  const { fit, tried, best, next } = judged;
  const proposed = 'a' in next ? next : null;
  const [left, bottom, top] = [58, 44, 10];
  const side = Math.min(460, Math.max(200, width - left - 12));
  const as = [...tried.map((t) => t.a), ...(proposed?.a ?? [])];
  const bs = [...tried.map((t) => t.b), ...(proposed?.b ?? [])];
  const high = side * 0.8;
  const x = scaleLog(reach(as), [left, left + side]);
  const y = scaleLog(reach(bs), [top + high, top]);
  const places = useMemo(() => {
    const [la, ha] = reach(as);
    const [lb, hb] = reach(bs);
    return Array.from({ length: PLACES * PLACES }, (_, i) => {
      const [c, r] = [i % PLACES, Math.floor(i / PLACES)];
      const a = la * (ha / la) ** ((c + 0.5) / PLACES);
      const b = lb * (hb / lb) ** ((r + 0.5) / PLACES);
      return { c, r, ...fit.at(a, b) };
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- both follow from what was judged
  }, [judged]);
  const [dw, dh] = [side / PLACES, high / PLACES];
  const at = tried[best.index]!;
  const name = ({ number }: TrialAxis): string => `${NUMBER_WORDS[number].name}${NUMBER_WORDS[number].unit && `, ${NUMBER_WORDS[number].unit}`}`; // prettier-ignore
  return (
    <figure>
      <div ref={ref} className="w-full">
        <svg width={left + side + 12} height={top + high + bottom} role="img" aria-label={`Expected grade over ${name(columns)} and ${name(rows)}`}>
          <defs>
            <pattern id="guessed" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="2" height="7" className="fill-sheet" />
            </pattern>
          </defs>
          {places.map(({ c, r, mean, doubt }) => {
            const place = { x: left + c * dw, y: top + high - (r + 1) * dh, width: dw, height: dh };
            return (
              <g key={`${c} ${r}`}>
                <rect {...place} className="fill-verdigris" shapeRendering="crispEdges" fillOpacity={0.04 + 0.9 * Math.min(1, Math.max(0, mean / 10)) ** 1.6} />
                {doubt > GUESSED && <rect {...place} fill="url(#guessed)" />}
              </g>
            );
          })}
          <rect x={left} y={top} width={side} height={high} className="fill-none stroke-rim" />
          {few(as, x, 34).map((v) => (
            <text key={v} x={x(v)} y={top + high + 16} textAnchor="middle" className="fill-soft text-[12px]">{levelText(columns.number, v)}</text>
          ))}
          {few(bs, y, 17).map((v) => (
            <text key={v} x={left - 6} y={y(v) + 4} textAnchor="end" className="fill-soft text-[12px]">{levelText(rows.number, v)}</text>
          ))}
          <text x={left + side / 2} y={top + high + 36} textAnchor="middle" className="fill-ink text-[13px]">{name(columns)}</text>
          <text transform={`translate(14 ${top + high / 2}) rotate(-90)`} textAnchor="middle" className="fill-ink text-[13px]">{name(rows)}</text>
          {tried.map((t) => (
            <circle key={`${t.trial} ${t.cell}`} cx={x(t.a)} cy={y(t.b)} r={2.4} className="fill-ink stroke-sheet" strokeWidth={1}>
              <title>{`${levelText(columns.number, t.a)}, ${levelText(rows.number, t.b)}: ${t.grade.toFixed(1)}`}</title>
            </circle>
          ))}
          {proposed && (
            <rect
              x={x(Math.min(...proposed.a)) - 5}
              y={y(Math.max(...proposed.b)) - 5}
              width={x(Math.max(...proposed.a)) - x(Math.min(...proposed.a)) + 10}
              height={y(Math.min(...proposed.b)) - y(Math.max(...proposed.b)) + 10}
              className="fill-none stroke-blue"
              strokeWidth={2}
              strokeDasharray="7 5"
            />
          )}
          <circle cx={x(at.a)} cy={y(at.b)} r={9} className="fill-none stroke-ink" strokeWidth={2.4} />
        </svg>
      </div>
      <figcaption className="mt-1 text-[13px] text-soft">
        The darker, the better; hatched where it is guessed (± {GUESSED} or more). Dots were burned, the ring is the best of
        them{proposed ? ', dashed is the next grid' : ''}. Model: {MODELS[fit.model]}; one look is off by ± {fit.noise.toFixed(1)}; each cell left
        out, the rest say {(fit.foretold * 100).toFixed(0)} % of how it differs.
      </figcaption>
    </figure>
  );
}; // prettier-ignore

const MODELS: Readonly<Record<JudgedTrials['fit']['model'], string>> = {
  quadratic: 'a quadratic surface over the logarithms, along the energy and across it',
  'quadratic and neighbours':
    'a quadratic surface over the logarithms, along the energy and across it, and what neighbours have in common (a Gaussian process)',
  level: 'one level and what neighbours have in common: too few cells for a surface',
};

/** The best cell in words. */
export const bestWords = (judged: JudgedTrials, columns: TrialAxis, rows: TrialAxis): string => {
  const t = judged.tried[judged.best.index]!;
  return cellWords({ columns: { ...columns, levels: [t.a] }, rows: { ...rows, levels: [t.b] } }, 0);
};
