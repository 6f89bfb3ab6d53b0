import { PieceArt } from '../../drawing/PieceArt';
import { useState, type MouseEvent } from 'react';
import type { BatchDocument } from '@bistre/contract';
import { heldAs, alongOutline, blankOutline, nominalSize, screenPath, type Vec } from '@bistre/core';
import { inputWithoutArt } from '@bistre/contract';
import type { Shown } from '../../data/shown';
import { Drawing, fitView, Hatch, Legend, ScaleBar, useSize, type View } from '../../drawing/scale';

const Arrow = ({
  view,
  from,
  way,
  length,
  words,
}: {
  view: View;
  from: Vec;
  way: Vec;
  length: number;
  words: string;
}) => {
  const tip = view.at(from.x, from.y);
  const tail = { x: tip.x - way.x * length, y: tip.y + way.y * length };
  const a = Math.atan2(tip.y - tail.y, tip.x - tail.x);
  const barb = (turn: number): string => `L${tip.x - 12 * Math.cos(a + turn)} ${tip.y - 12 * Math.sin(a + turn)}`;
  return (
    <g className="fill-none stroke-blue" strokeWidth={2.4}>
      <path d={`M${tail.x} ${tail.y}L${tip.x} ${tip.y}M${tip.x} ${tip.y}${barb(0.4)}M${tip.x} ${tip.y}${barb(-0.4)}`} />
      <text
        x={tail.x - way.x * 6}
        y={tail.y + way.y * 8 + 5}
        textAnchor={way.x > 0.5 ? 'end' : way.x < -0.5 ? 'start' : 'middle'}
        className="fill-blue stroke-film text-[13px] font-bold"
        strokeWidth={4}
        paintOrder="stroke"
      >
        {words}
      </text>
    </g>
  );
};

/** Words beside an edge, on its outer side. */
const EdgeLabel = ({
  at,
  way,
  far,
  className,
  words,
}: {
  at: Vec;
  way: Vec;
  /** From the point, px. */
  far: number;
  className: string;
  words: string;
}) => (
  <text
    x={at.x + way.x * far}
    y={at.y - way.y * far + 5}
    textAnchor={way.x > 0.4 ? 'start' : way.x < -0.4 ? 'end' : 'middle'}
    className={`${className} stroke-film text-[13px]`}
    strokeWidth={4}
    paintOrder="stroke"
  >
    {words}
  </text>
);

/** One place of a witness-line fixture, to scale: pegs, lines, where to push, what of the blank can be engraved. */
export const SeatDrawing = ({
  batch,
  shown,
  onContacts,
}: {
  batch: BatchDocument;
  shown: Shown;
  /** Moves the contacts, or lets Bistre choose; absent while a saved board is in use. */
  onContacts?: ((contacts: [number, number] | null) => void) | undefined;
}) => {
  const [ref, size] = useSize();
  const [moving, setMoving] = useState<0 | 1 | null>(null);
  const { own, sizes, art, onTheBoard } = shown.reckoning;
  const { lines, usable } = own;
  const spec = batch.blank.spec;
  const nominal = nominalSize(spec.shape);
  const { peg } = heldAs(batch, 'pegs').choice;
  const room = peg + 10;
  const view = fitView(
    size,
    {
      x: -nominal.length / 2 - room,
      y: -nominal.width / 2 - room,
      width: nominal.length + 2 * room,
      height: nominal.width + 2 * room,
    },
    { left: 50, right: 50, top: 60, bottom: 80 },
  );
  const outline = blankOutline(inputWithoutArt(batch).blank, sizes);
  const click = (e: MouseEvent<SVGRectElement>): void => {
    if (moving === null || !lines || !onContacts) return;
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    const zero = view.at(0, 0);
    const s = alongOutline(outline[0]!, {
      x: (e.clientX - box.left - zero.x) / view.k,
      y: (zero.y - (e.clientY - box.top)) / view.k,
    });
    const next: [number, number] = [...lines.contacts];
    next[moving] = s;
    onContacts(next);
    setMoving(null);
  };
  const firstArt = art?.paths[onTheBoard[0]?.ordinal ?? -1];
  return (
    <Drawing
      refTo={ref}
      label="One place of the fixture, to scale"
      caption={
        moving !== null ? (
          <b className="text-blue">Touch the edge where contact {moving + 1} shall bear.</b>
        ) : (
          <>One place of the board, seen from above: push the blank against both pegs, slide it to the lines.</>
        )
      }
      tools={
        onContacts &&
        lines && (
          <span className="flex shrink-0 gap-4">
            {([0, 1] as const).map((i) => (
              <button key={i} className="link" onClick={() => setMoving(moving === i ? null : i)}>
                {moving === i ? 'leave it' : `move contact ${i + 1}`}
              </button>
            ))}
            {heldAs(batch, 'pegs').choice.contacts && (
              <button className="link" onClick={() => onContacts(null)}>
                let Bistre choose
              </button>
            )}
          </span>
        )
      }
    >
      <Hatch />
      <g transform={view.group}>
        {outline.slice(0, 1).map((c, i) => (
          <path
            key={i}
            d={screenPath(c)}
            className="fill-sheet stroke-rim"
            strokeWidth={1.4}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {usable && usable.inset > 0 && (
          <path
            d={[...outline.slice(0, 1), ...usable.area].map((c) => screenPath(c)).join('')}
            fillRule="evenodd"
            className="fill-hairline stroke-none"
          />
        )}
        {usable?.area.map((c, i) => (
          <path
            key={i}
            d={screenPath(c)}
            className="fill-none stroke-blue"
            strokeWidth={1.2}
            strokeDasharray="10 5"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {spec.holes.map((h, i) => (
          <circle
            key={i}
            cx={h.x}
            cy={h.y}
            r={h.diameter / 2}
            className="fill-film stroke-rim"
            strokeWidth={1.2}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {firstArt && <PieceArt art={firstArt} width={1.2} />}
        {lines?.lines.map((c, i) => (
          <path
            key={i}
            d={screenPath(c)}
            className="fill-none stroke-ink"
            strokeWidth={3}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {lines?.pegs.map((p, i) => (
          <circle
            key={i}
            cx={p.x}
            cy={p.y}
            r={peg / 2}
            className="fill-film stroke-copper"
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
      {lines?.seat.points.map((p, i) => {
        const contact = p.by === 'contact';
        // Beyond the peg, or beside the line.
        const off = contact ? peg + 1 : 0;
        return (
          <EdgeLabel
            key={i}
            at={view.at(p.at.x + p.normal.x * off, p.at.y + p.normal.y * off)}
            way={p.normal}
            far={contact ? 10 : 17}
            className={contact ? 'fill-copper font-bold' : 'fill-ink'}
            words={contact ? `peg ${i + 1}` : `line ${i - 1}`}
          />
        );
      })}
      {lines && <Arrow view={view} from={lines.push.from} way={lines.push.way} length={46} words="push here" />}
      {moving !== null && (
        <rect width={size.width} height={size.height} fill="transparent" className="cursor-crosshair" onClick={click} />
      )}
      <Legend height={size.height} entries={['engrave', 'cut', 'guide']} />
      <ScaleBar view={view} />
    </Drawing>
  );
};
