import { useEffect, useMemo, useRef, useState } from 'react';
import {
  developed,
  diameterAt,
  faceOutline,
  featureName,
  featureOutline,
  featuresOf,
  flatOutline,
  greatestDiameter,
  listed,
  metOnSide,
  roundLength,
  type RoundShape,
} from '@bistre/core';
import type { RoundShown } from '../../data/shown';
import { prepare } from './strokes';
import { drawCells, usePictureCells, type PictureCells } from './pictures';
import { Drawing, Legend, niceLength, ScaleBar, useSize, type View } from '../scale';

const still = (): boolean => window.matchMedia('(prefers-reduced-motion: reduce)').matches;

/** Colour of a theme token, for the canvas. */
const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** A bar of a whole length on the canvas, at the scale that the blank is drawn in. */
const paintBar = (g: CanvasRenderingContext2D, k: number, w: number, h: number): void => {
  const length = niceLength(k, 60);
  const [x, y] = [w - 14 - length * k, h - 6];
  g.strokeStyle = token('--ink');
  g.fillStyle = token('--ink');
  g.lineWidth = 1.2;
  g.beginPath();
  g.moveTo(x, y - 5);
  g.lineTo(x, y);
  g.lineTo(x + length * k, y);
  g.lineTo(x + length * k, y - 5);
  g.stroke();
  g.font = '12px B612, sans-serif';
  g.textAlign = 'center';
  g.fillText(`${length} mm`, x + (length * k) / 2, y - 7);
};

/**
 * The blank turning, art on it, drawn as it is seen from the front with its rim up. Strokes are
 * unrolled arcs; each frame turns them round and leaves out those behind.
 */
export const TurningView = ({
  shape,
  strokes,
  pictures,
  label,
}: {
  shape: RoundShape;
  strokes: Float32Array;
  pictures: readonly PictureCells[];
  label: string;
}) => {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [turning, setTurning] = useState(() => !still());
  const [held, setHeld] = useState(0);
  const angle = useRef(0);
  useEffect(() => {
    const c = canvas.current;
    const g = c?.getContext('2d');
    if (!c || !g) return;
    const { sin, cos, radius, along, joined } = prepare(shape, strokes);
    const paint = (): void => {
      const { clientWidth: w, clientHeight: h } = c;
      const dense = window.devicePixelRatio || 1;
      if (c.width !== w * dense) c.width = w * dense;
      if (c.height !== h * dense) c.height = h * dense;
      g.setTransform(dense, 0, 0, dense, 0, 0);
      g.clearRect(0, 0, w, h);
      const length = roundLength(shape);
      const widest = greatestDiameter(shape);
      // Seen from a little above, so that the rim is an ellipse.
      const lean = 0.22;
      const k = Math.min((w - 24) / widest, (h - 76) / (length * Math.cos(lean) + widest * Math.sin(lean)));
      const cx = w / 2;
      const top = (h - 36 - length * Math.cos(lean) * k) / 2;
      if (!(k > 0)) return;
      const at = (v: number, along: number, turn: number): { x: number; y: number; front: boolean } => {
        const r = diameterAt(shape.profile, along) / 2;
        const a = v / r + turn;
        return {
          x: cx + r * Math.sin(a) * k,
          y: top + (along * Math.cos(lean) + r * Math.cos(a) * Math.sin(lean)) * k,
          front: Math.cos(a) > 0,
        };
      };
      g.lineWidth = 1.4;
      g.strokeStyle = token('--ink');
      g.fillStyle = token('--sheet');
      g.beginPath();
      shape.profile.forEach((p, i) => {
        const x = cx + (p.diameter / 2) * k;
        const y = top + p.at * Math.cos(lean) * k;
        if (i === 0) g.moveTo(x, y);
        else g.lineTo(x, y);
      });
      const base = shape.profile[shape.profile.length - 1]!;
      g.ellipse(
        cx,
        top + base.at * Math.cos(lean) * k,
        (base.diameter / 2) * k,
        (base.diameter / 2) * Math.sin(lean) * k,
        0,
        0,
        Math.PI,
      );
      [...shape.profile].reverse().forEach((p) => g.lineTo(cx - (p.diameter / 2) * k, top + p.at * Math.cos(lean) * k));
      g.fill();
      g.stroke();
      const rim = shape.profile[0]!;
      g.beginPath();
      g.ellipse(
        cx,
        top + rim.at * k,
        (rim.diameter / 2) * k,
        (rim.diameter / 2) * Math.sin(lean) * k,
        0,
        0,
        2 * Math.PI,
      );
      g.fillStyle = token('--film');
      g.fill();
      g.stroke();
      g.beginPath();
      // sin(a + turn) and cos(a + turn) by the sums of angles: no trigonometry in a frame.
      const [st, ct] = [Math.sin(angle.current), Math.cos(angle.current)];
      const [down, tip] = [Math.cos(lean) * k, Math.sin(lean) * k];
      let penX = NaN;
      let penY = NaN;
      for (let i = 0; i + 1 < sin.length; i += 2) {
        const front = cos[i]! * ct - sin[i]! * st;
        const next = cos[i + 1]! * ct - sin[i + 1]! * st;
        if (front <= 0 || next <= 0) {
          penX = NaN;
          continue;
        }
        const x = cx + radius[i + 1]! * (sin[i + 1]! * ct + cos[i + 1]! * st) * k;
        const y = top + along[i + 1]! * down + radius[i + 1]! * next * tip;
        if (!joined[i] || Number.isNaN(penX)) {
          penX = cx + radius[i]! * (sin[i]! * ct + cos[i]! * st) * k;
          penY = top + along[i]! * down + radius[i]! * front * tip;
          g.moveTo(penX, penY);
        }
        // Steps below a third of a pixel do not show.
        if (Math.abs(x - penX) + Math.abs(y - penY) < 0.35 && joined[i + 2]) continue;
        g.lineTo(x, y);
        penX = x;
        penY = y;
      }
      g.lineWidth = 1.2;
      g.stroke();
      paintBar(g, k, w, h);
      for (const cells of pictures)
        drawCells(g, cells, dense, (n) => {
          const a = cells.angle[n]! + angle.current;
          const facing = Math.cos(a);
          return facing < 0.02
            ? null
            : {
                x: cx + cells.radius[n]! * Math.sin(a) * k,
                y: top + cells.along[n]! * down + cells.radius[n]! * facing * tip,
              };
        });
      g.strokeStyle = token('--copper');
      for (const f of featuresOf(shape)) {
        g.beginPath();
        const edge = featureOutline(f, shape);
        // Closed, and only what is seen of it.
        [...edge, edge[0]!].reduce((from: { readonly front: boolean } | null, { angle: a, along }) => {
          const p = at((a * diameterAt(shape.profile, along)) / 2, along, angle.current);
          if (p.front && from?.front) g.lineTo(p.x, p.y);
          else if (p.front) g.moveTo(p.x, p.y);
          return p;
        }, null);
        g.stroke();
      }
      if (shape.feature) {
        const a = at(0, shape.profile[0]!.at, angle.current);
        const b = at(0, base.at, angle.current);
        if (a.front) {
          g.strokeStyle = token('--copper');
          g.setLineDash([6, 4]);
          g.beginPath();
          g.moveTo(a.x, a.y);
          g.lineTo(b.x, b.y);
          g.stroke();
          g.setLineDash([]);
        }
      }
    };
    let frame = 0;
    let before = performance.now();
    const loop = (now: number): void => {
      angle.current = (angle.current + ((now - before) / 1000) * 0.6) % (2 * Math.PI);
      before = now;
      paint();
      frame = requestAnimationFrame(loop);
    };
    if (!turning) angle.current = held;
    paint();
    if (turning) frame = requestAnimationFrame(loop);
    const observer = new ResizeObserver(paint);
    observer.observe(c);
    return () => {
      cancelAnimationFrame(frame);
      observer.disconnect();
    };
  }, [shape, strokes, pictures, turning, held]);
  return (
    <div className="flex h-full min-h-0 flex-col">
      <canvas ref={canvas} role="img" aria-label={label} className="min-h-0 w-full flex-1" />
      <p className="flex items-center justify-center gap-3 pb-2 text-[13px]">
        <button className="link shrink-0 whitespace-nowrap" onClick={() => setTurning(!turning)}>
          {turning ? 'hold it still' : 'let it turn'}
        </button>
        <input
          type="range"
          className="w-32 min-w-0"
          aria-label="turn the blank by hand"
          min={0}
          max={360}
          value={Math.round((held * 180) / Math.PI)}
          disabled={turning}
          onChange={(e) => setHeld((Number(e.target.value) * Math.PI) / 180)}
        />
      </p>
    </div>
  );
};

const line = (points: readonly { x: number; y: number }[]): string =>
  `M${points.map((p) => `${p.x.toFixed(2)} ${p.y.toFixed(2)}`).join('L')}`;

/** The side of the blank laid flat to scale, rim up, the feature in its middle; zones, art and the seam. */
const Unrolled = ({ round, pictures }: { round: RoundShown; pictures: readonly PictureCells[] }) => {
  const [ref, size] = useSize();
  const { shape, on } = round;
  const length = roundLength(shape);
  const flat = developed(shape.profile, round.artFrom, round.artTo);
  const outline = flatOutline(shape, round.artFrom, round.artTo);
  const xs = outline.map((p) => p.x);
  const ys = outline.map((p) => p.y);
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const width = 2 * Math.max(...xs.map(Math.abs));
  const k = Math.max(0.05, Math.min((size.width - 56) / width, (size.height - 140) / (high - low)));
  const cx = size.width / 2;
  const top = (size.height - (high - low) * k) / 2 + high * k - 6;
  const view = { width: size.width, height: size.height, k } as View;
  const place = (p: { x: number; y: number }): { x: number; y: number } => ({ x: cx + p.x * k, y: top - p.y * k });
  const bottom = top - low * k;
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current;
    const g = c?.getContext('2d');
    if (!c || !g) return;
    const dense = window.devicePixelRatio || 1;
    c.width = size.width * dense;
    c.height = size.height * dense;
    // Art over ±180° goes on at the other side: it is there twice, and cut at the edge.
    g.save();
    g.setTransform(dense, 0, 0, dense, 0, 0);
    g.beginPath();
    for (const p of outline) g.lineTo(place(p).x, place(p).y);
    g.clip();
    for (const cells of pictures) drawCells(g, cells, dense, (n) => place(flat(cells.angle[n]!, cells.along[n]!)));
    g.restore();
  });
  const seamWord = on
    ? on.seam.gap > 0
      ? `seam gap ${on.seam.gap.toFixed(1)} ± ${on.seam.spread.toFixed(2)} mm`
      : `seam closes to ± ${on.seam.spread.toFixed(2)} mm`
    : '';
  return (
    <div ref={ref} className="relative h-full min-h-0 overflow-hidden">
      {pictures.length > 0 && (
        <canvas ref={canvas} aria-hidden className="pointer-events-none absolute inset-0 h-full w-full" />
      )}
      <svg role="img" aria-label="The blank laid flat with its art" className="block h-full w-full select-none">
        {[-180, -90, 0, 90, 180].map((a) => {
          const rim = place(flat((a * Math.PI) / 180, 0));
          return (
            <g key={a} className="stroke-rim">
              <line x1={rim.x} x2={rim.x} y1={rim.y - 10} y2={rim.y - 2} />
              <text x={rim.x} y={rim.y - 15} textAnchor="middle" className="fill-soft stroke-none text-[12px]">
                {`${a}°`.replace('-', '−')}
              </text>
            </g>
          );
        })}
        <g transform={`translate(${cx} ${top}) scale(${k} ${-k})`}>
          <path
            d={`${line(outline)}Z`}
            className="fill-sheet stroke-copper"
            strokeWidth={1.2}
            vectorEffect="non-scaling-stroke"
          />
          {shape.feature && (
            <path
              d={line([flat(0, 0), flat(0, length)])}
              className="stroke-copper"
              strokeDasharray={`${6 / k} ${4 / k}`}
              strokeWidth={1.2 / k}
            />
          )}
          <pattern id="kept-off" width="2" height="2" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="2" className="stroke-copper" strokeWidth="0.5" />
          </pattern>
          <clipPath id="laid-flat">
            <path d={`${line(outline)}Z`} />
          </clipPath>
          {featuresOf(shape).flatMap((f, i) =>
            [-2 * Math.PI, 0, 2 * Math.PI].map((turn) => (
              <path
                key={`${i} ${turn}`}
                d={`${line(featureOutline(f, shape).map((q) => flat(q.angle + turn, q.along)))}Z`}
                clipPath="url(#laid-flat)"
                className="stroke-copper"
                fill={f.kind === 'seam weld' ? 'none' : 'url(#kept-off)'}
                strokeWidth={1}
                vectorEffect="non-scaling-stroke"
              />
            )),
          )}
          {round.faces.flatMap((f) =>
            f.places.map((p, i) => (
              <path
                key={`${f.zone.id}${i}`}
                d={`${line(faceOutline(round.side, p, f.around, f.along).map((q) => flat(q.angle, q.along)))}Z`}
                clipPath="url(#laid-flat)"
                className="fill-none stroke-blue"
                strokeDasharray={`${8 / k} ${4 / k}`}
                strokeWidth={1 / k}
              />
            )),
          )}
          {round.unrolled.fill && <path d={round.unrolled.fill} clipPath="url(#laid-flat)" className="fill-ink" />}
          {round.unrolled.line && (
            <path
              d={round.unrolled.line}
              clipPath="url(#laid-flat)"
              className="fill-none stroke-ink"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          )}
        </g>
        <text x={cx} y={bottom + 20} textAnchor="middle" className="fill-blue text-[12px]">
          {(Math.PI * diameterAt(shape.profile, 0)).toFixed(1)} mm round the rim,{' '}
          {(Math.PI * diameterAt(shape.profile, length)).toFixed(1)} at the base
        </text>
        <text x={cx} y={bottom + 37} textAnchor="middle" className="fill-soft text-[12px]">
          {seamWord}
        </text>
        <Legend height={size.height} entries={['engrave', 'cut', 'guide']} />
        <ScaleBar view={view} />
      </svg>
    </div>
  );
};

/** Colours of pictures on the blank, anew when the lamp is switched. */
const useColours = (): { ink: string; ground: string } => {
  const read = (): { ink: string; ground: string } => ({ ink: token('--ink'), ground: token('--sheet') });
  const [colours, setColours] = useState(read);
  useEffect(() => {
    const watch = new MutationObserver(() => setColours(read()));
    watch.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    return () => watch.disconnect();
  }, []);
  return colours;
};

/** The wrap: unrolled and turning side by side. */
export const WrapDrawing = ({ round }: { round: RoundShown }) => {
  const [ref] = useSize();
  const others = (round.shape.feature?.others ?? []).map(featureName);
  const met = useMemo(() => ({ ...round, faces: round.faces.map(metOnSide) }), [round]);
  const pictures = usePictureCells(met, useColours());
  return (
    <Drawing
      refTo={ref}
      label="wrap"
      bare
      caption={
        <>
          The side of the blank laid flat, rim up, and as it stands. 0° is{' '}
          {round.shape.feature ? `the ${round.shape.feature.kind}` : 'where the turn begins'}; angles go to the right.
          {others.length > 0 && ` Copper beside it: ${listed(others)}.`}
        </>
      }
    >
      <div className="grid h-full min-h-0 grid-cols-[minmax(0,1.9fr)_minmax(0,1fr)]">
        <Unrolled round={met} pictures={pictures} />
        <TurningView
          shape={round.shape}
          strokes={round.strokes}
          pictures={pictures}
          label="The blank turning with its art"
        />
      </div>
    </Drawing>
  );
};
