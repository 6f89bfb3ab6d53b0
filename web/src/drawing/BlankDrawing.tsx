import { PieceArt } from './PieceArt';
import type { BlankSpec } from '@bistre/contract';
import { nominalSize, screenPath, type BlankSizes } from '@bistre/core';
import type { ReactNode } from 'react';
import type { PathsShown } from '../data/shown';
import { Drawing, fitView, Hatch, Legend, ScaleBar, useSize, type View } from './scale';

const arrow = (x1: number, y1: number, x2: number, y2: number): string => {
  const a = Math.atan2(y2 - y1, x2 - x1);
  const tip = (x: number, y: number, way: number): string =>
    `M${x} ${y}L${x + way * 8 * Math.cos(a - 0.3)} ${y + way * 8 * Math.sin(a - 0.3)}M${x} ${y}L${x + way * 8 * Math.cos(a + 0.3)} ${y + way * 8 * Math.sin(a + 0.3)}`;
  return `M${x1} ${y1}L${x2} ${y2}${tip(x1, y1, 1)}${tip(x2, y2, -1)}`;
};

/** One piece, face up, to scale: outline at its mean size, holes, zones with margins, keep-outs, art. */
export const BlankDrawing = ({
  spec,
  sizes,
  path,
  art,
  caption,
  tools,
  over,
}: {
  spec: BlankSpec;
  sizes?: BlankSizes;
  path: string;
  art?: PathsShown | undefined;
  /** In place of what it says of the piece. */
  caption?: ReactNode;
  tools?: ReactNode;
  /** What lies over the drawing and can be touched. */
  over?: (view: View) => ReactNode;
}) => {
  const [ref, size] = useSize();
  const nominal = nominalSize(spec.shape);
  const length = sizes?.length.mean ?? nominal.length;
  const width = sizes?.width.mean ?? nominal.width;
  const view = fitView(
    size,
    { x: -length / 2, y: -width / 2, width: length, height: width },
    { left: 80, right: 60, top: 60, bottom: 96 },
  );
  const a = view.at(-length / 2, -width / 2);
  const b = view.at(length / 2, width / 2);
  const below = a.y + 34;
  const beside = a.x - 26;
  return (
    <Drawing
      refTo={ref}
      label="The blank, to scale"
      tools={tools}
      over={over?.(view)}
      caption={
        caption ?? (
          <>
            One piece, face up, seen as it lies in slot 1. Thickness{' '}
            {(sizes?.thickness.mean ?? spec.thickness).toFixed(2)} mm.
          </>
        )
      }
    >
      <Hatch />
      <g transform={view.group}>
        <path d={path} className="fill-sheet stroke-ink" strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
        {spec.holes.map((h, i) => (
          <circle
            key={i}
            cx={h.x}
            cy={h.y}
            r={h.diameter / 2}
            className="fill-film stroke-ink"
            strokeWidth={1.2}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {spec.zones.map((z) => (
          <g key={z.id}>
            <rect
              x={z.x - z.width / 2}
              y={z.y - z.height / 2}
              width={z.width}
              height={z.height}
              className="fill-none stroke-blue"
              strokeWidth={1}
              strokeDasharray="10 5"
              vectorEffect="non-scaling-stroke"
            />
            <rect
              x={z.x - z.width / 2 + z.margin}
              y={z.y - z.height / 2 + z.margin}
              width={Math.max(0, z.width - 2 * z.margin)}
              height={Math.max(0, z.height - 2 * z.margin)}
              className="fill-none stroke-blue"
              strokeWidth={1}
              strokeDasharray="3 4"
              vectorEffect="non-scaling-stroke"
            />
          </g>
        ))}
        {art && <PieceArt art={art} width={1.2} />}
      </g>
      {spec.zones.flatMap((z) =>
        z.keepOuts.map((k, i) => {
          const p = view.at(z.x + k.x - k.width / 2, z.y + k.y + k.height / 2);
          return (
            <rect
              key={`${z.id}${i}`}
              x={p.x}
              y={p.y}
              width={k.width * view.k}
              height={k.height * view.k}
              fill="url(#hatch)"
              className="stroke-oxide"
            />
          );
        }),
      )}
      {spec.zones.map((z, i) => {
        const corner = (of: typeof z) => view.at(of.x - of.width / 2, of.y + of.height / 2);
        const p = corner(z);
        // The others, where several begin at about the same place, as those of both faces do, say it at their lower edge.
        const beside = spec.zones.slice(0, i).filter((o) => Math.abs(corner(o).y - p.y) < 14 && Math.abs(corner(o).x - p.x) < 150).length; // prettier-ignore
        return (
          <text
            key={z.id}
            x={p.x + 6}
            y={beside === 0 ? p.y + 14 : view.at(z.x, z.y - z.height / 2).y + 9 - 15 * beside}
            paintOrder="stroke"
            strokeWidth={3}
            className="fill-blue stroke-sheet text-[12px]"
          >
            {z.name}: {z.width.toFixed(1)} × {z.height.toFixed(1)}, margin {z.margin.toFixed(1)}
          </text>
        );
      })}
      <g className="fill-none stroke-blue" strokeWidth={1}>
        <path d={arrow(a.x, below, b.x, below)} />
        <path d={arrow(beside, a.y, beside, b.y)} />
      </g>
      <text x={(a.x + b.x) / 2} y={below - 6} textAnchor="middle" className="fill-blue text-[14px] font-bold">
        {length.toFixed(2)} mm
      </text>
      <text
        transform={`translate(${beside - 7} ${(a.y + b.y) / 2}) rotate(-90)`}
        textAnchor="middle"
        className="fill-blue text-[14px] font-bold"
      >
        {width.toFixed(2)} mm
      </text>
      <Legend
        height={size.height}
        entries={
          spec.zones.some((z) => z.keepOuts.length > 0)
            ? ['engrave', 'cut', 'guide', 'keep-out']
            : ['engrave', 'cut', 'guide']
        }
      />
      <ScaleBar view={view} />
    </Drawing>
  );
};

/** Outline of a blank that has no samples yet. */
export const nominalPath = (spec: BlankSpec): string => {
  switch (spec.shape.kind) {
    case 'rectangle': {
      const { length, width, cornerRadius: r } = spec.shape;
      const [x, y] = [-length / 2, -width / 2];
      return `M${x + r} ${y}h${length - 2 * r}a${r} ${r} 0 0 1 ${r} ${r}v${width - 2 * r}a${r} ${r} 0 0 1 ${-r} ${r}h${2 * r - length}a${r} ${r} 0 0 1 ${-r} ${-r}v${2 * r - width}a${r} ${r} 0 0 1 ${r} ${-r}Z`;
    }
    case 'disc': {
      const r = spec.shape.diameter / 2;
      return `M${-r} 0a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
    }
    case 'outline':
      return spec.shape.contours.map((c) => screenPath(c)).join('');
    case 'round':
      return '';
  }
};
