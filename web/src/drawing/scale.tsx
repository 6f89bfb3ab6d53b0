import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import type { Transform } from '@bistre/core';

export interface View {
  readonly width: number;
  readonly height: number;
  /** Pixels to a millimetre. */
  readonly k: number;
  /** Millimetres (y up) to pixels. */
  readonly at: (x: number, y: number) => { x: number; y: number };
  /** Transform of a group drawn in millimetres with y up. */
  readonly group: string;
}

/** A transform as SVG writes it. */
export const matrix = (m: Transform): string => `matrix(${m.a} ${m.b} ${m.c} ${m.d} ${m.e} ${m.f})`;

export interface Extent {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The size of an element as it changes. */
export const useSize = (): [RefObject<HTMLDivElement | null>, { width: number; height: number }] => {
  const ref = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 640, height: 480 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      if (width > 0 && height > 0) setSize({ width, height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, size];
};

/** Width of a drawing that has room for its legend beside its bar, pixels. */
const WITH_LEGEND = 480;

/** Fits an extent of millimetres into pixels, the same scale both ways; over its legend, if narrow, a bar has room. */
export const fitView = (
  size: { width: number; height: number },
  extent: Extent,
  pad: { left: number; right: number; top: number; bottom: number },
): View => {
  const bottom = pad.bottom + (size.width < WITH_LEGEND ? 24 : 0);
  const k = Math.max(
    0.001,
    Math.min((size.width - pad.left - pad.right) / extent.width, (size.height - pad.top - bottom) / extent.height),
  );
  const ox = pad.left + (size.width - pad.left - pad.right - extent.width * k) / 2 - extent.x * k;
  const oy = pad.top + (size.height - pad.top - bottom - extent.height * k) / 2 + (extent.y + extent.height) * k;
  return {
    width: size.width,
    height: size.height,
    k,
    at: (x, y) => ({ x: ox + x * k, y: oy - y * k }),
    group: `translate(${ox} ${oy}) scale(${k} ${-k})`,
  };
};

/** A whole length that is drawn about as long as that. @param k pixels to a millimetre */
export const niceLength = (k: number, pixels = 110): number => {
  const wanted = pixels / k;
  const power = 10 ** Math.floor(Math.log10(wanted));
  return [5, 2, 1].map((m) => m * power).find((v) => v <= wanted) ?? power;
};

/** A bar of a whole length, so that the drawing can be measured. */
export const ScaleBar = ({ view }: { view: View }) => {
  const length = niceLength(view.k);
  const px = length * view.k;
  const x = view.width - 18 - px;
  // Over the legend, where both have no room side by side.
  const y = view.height - (view.width < WITH_LEGEND ? 36 : 12);
  return (
    <g className="stroke-ink" strokeWidth={1.2}>
      <path d={`M${x} ${y - 5}V${y}H${x + px}V${y - 5}`} fill="none" />
      <text x={x + px / 2} y={y - 7} textAnchor="middle" className="fill-ink stroke-none text-[12px]">
        {length} mm
      </text>
    </g>
  );
};

/** What the line styles mean. */
export const Legend = ({
  height,
  entries,
}: {
  height: number;
  entries: readonly ('engrave' | 'cut' | 'guide' | 'keep-out' | 'read')[];
}) => {
  let x = 18;
  return (
    <g aria-hidden>
      {entries.map((e) => {
        const from = x;
        x += 34 + e.length * 8.6;
        const y = height - 16;
        return (
          <g key={e}>
            {e === 'engrave' && <rect x={from} y={y - 5} width={16} height={9} className="fill-ink" />}
            {e === 'cut' && (
              <line x1={from} x2={from + 18} y1={y} y2={y} className="stroke-logwood" strokeWidth={1.6} />
            )}
            {e === 'guide' && (
              <line
                x1={from}
                x2={from + 20}
                y1={y}
                y2={y}
                className="stroke-blue"
                strokeWidth={1.4}
                strokeDasharray="8 4"
              />
            )}
            {e === 'keep-out' && (
              <rect x={from} y={y - 6} width={16} height={11} fill="url(#hatch)" className="stroke-oxide" />
            )}
            {e === 'read' && (
              <circle cx={from + 8} cy={y} r={5} fill="none" className="stroke-verdigris" strokeWidth={2} />
            )}
            <text x={from + 24} y={y + 4} className="fill-soft text-[12px]">
              {e}
            </text>
          </g>
        );
      })}
    </g>
  );
};

export const Hatch = () => (
  <defs>
    <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="6" className="stroke-oxide" strokeWidth="1.2" />
    </pattern>
  </defs>
);

/** A caption in words above a drawing, then the drawing. */
export const Drawing = ({
  caption,
  refTo,
  label,
  children,
  tools,
  bare = false,
  over,
}: {
  caption: ReactNode;
  refTo: RefObject<HTMLDivElement | null>;
  label: string;
  children: ReactNode;
  tools?: ReactNode;
  /** The children are not drawn into one SVG. */
  bare?: boolean;
  /** What lies over the drawing and can be touched. */
  over?: ReactNode;
}) => (
  <figure className="flex h-full min-h-0 flex-col bg-film">
    <figcaption className="flex shrink-0 flex-wrap items-center justify-between gap-x-4 gap-y-1 px-5 py-2 text-[13px] text-soft">
      <span className="min-w-0 flex-[1_1_15rem]">{caption}</span>
      {tools}
    </figcaption>
    <div ref={refTo} className="relative min-h-0 flex-1 overflow-hidden">
      {bare ? (
        children
      ) : (
        <svg role="img" aria-label={label} className="block h-full w-full select-none">
          {children}
        </svg>
      )}
      {over}
    </div>
  </figure>
);
