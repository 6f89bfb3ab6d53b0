import type { CSSProperties } from 'react';
import { Link } from 'react-router';
import { STATION_NAMES, type StationId, type StationState } from '@bistre/core';

const FORMS: Readonly<Record<StationState['state'], { path: string; tone: string }>> = {
  'not started': { path: 'M3 8h10', tone: 'text-soft' },
  entered: { path: 'M8 3.5a4.5 4.5 0 1 0 .01 0Z', tone: 'text-ink' },
  proved: { path: 'M2.5 8.5 6.5 12.5 13.5 4', tone: 'text-verdigris' },
  'out of date': { path: 'M8 2 14 13H2ZM8 6v3.5M8 11v.6', tone: 'text-ochre' },
};

/** The stations of the route along the edge of a steel rule; the cursor stands at the current one. */
export const Rule = ({
  batchId,
  stations,
  current,
}: {
  batchId: string;
  stations: readonly StationState[];
  current: StationId;
}) => (
  <nav aria-label="Stations" className="relative shrink-0 border-b border-ink bg-sheet px-5 max-[700px]:px-1">
    <ol className="rule grid" style={{ '--stations': stations.length } as CSSProperties}>
      {stations.map((s) => {
        const here = s.id === current;
        const form = FORMS[s.state];
        return (
          <li key={s.id} className="relative h-14 min-w-0">
            <Link
              to={`/batches/${batchId}/${s.id}`}
              aria-current={here ? 'step' : undefined}
              className="flex h-11 flex-wrap content-start items-baseline gap-x-1.5 pt-1.5 pl-2 leading-tight"
            >
              <svg
                viewBox="0 0 16 16"
                className={`size-3.5 shrink-0 self-center ${form.tone}`}
                aria-hidden
                fill="none"
                stroke="currentColor"
                strokeWidth="2"
              >
                <path d={form.path} />
              </svg>
              <span className={`text-[15px] ${here ? 'font-bold text-blue' : ''}`}>{STATION_NAMES[s.id]}</span>
              <span className={`text-[12px] ${form.tone}`}>{s.state}</span>
            </Link>
            <svg
              className="absolute inset-x-0 bottom-0 h-5 w-full"
              preserveAspectRatio="none"
              viewBox="0 0 100 20"
              aria-hidden
            >
              {Array.from({ length: 10 }, (_, i) => (
                <line
                  key={i}
                  x1={i * 10}
                  x2={i * 10}
                  y1={i === 0 ? 2 : i === 5 ? 8 : 13}
                  y2={20}
                  stroke="currentColor"
                  strokeWidth={i === 0 ? 2 : 1}
                  vectorEffect="non-scaling-stroke"
                  className={i === 0 ? 'text-ink' : 'text-rim'}
                />
              ))}
              {here && <rect x={0} y={15} width={100} height={5} className="fill-blue" />}
            </svg>
          </li>
        );
      })}
    </ol>
  </nav>
);
