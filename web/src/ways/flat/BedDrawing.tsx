import { memo, useState } from 'react';
import type { MachineDocument } from '@bistre/contract';
import { fixed, angleOf, apply, slotTransform, SLOT_NUMBER_HEIGHT, type Vec } from '@bistre/core';
import type { Shown, SideShown } from '../../data/shown';
import { BedRulers, Head } from '../../drawing/bed';
import { BoardPaths, BoardSize, Marks, Piece, Pins, SlotSigns, type DrawnPiece } from '../../drawing/board';
import { ErrorLines } from '../../drawing/errors';
import { Drawing, fitView, Hatch, Legend, matrix, ScaleBar, useSize, type Extent } from '../../drawing/scale';

/** Height of a figure on the screen below which it is not drawn, px. */
const LEGIBLE = 4;
const CUT_FIRST = ['edge', 'grid', 'outline', 'pockets', 'pegs'];
const ENGRAVED = ['lines', 'art-fill', 'art-line', 'art-cut', 'marks', 'labels', 'code', 'pieces'];
const ENGRAVED_ALL = [...ENGRAVED, 'slots'];
const NO_STATES: readonly DrawnPiece[] = [];

/** The bed from above, to scale: the board where it lies, blanks, art, marks and readings. */
export const BedDrawing = memo(
  ({
    machine,
    shown: up,
    fit,
    states = NO_STATES,
    head,
    showOutline = false,
    aim,
    noun = 'Board',
    lies,
  }: {
    machine: MachineDocument;
    shown: Shown;
    fit: 'bed' | 'board';
    states?: readonly DrawnPiece[];
    head?: Vec | undefined;
    showOutline?: boolean;
    /** The mark that is aimed at now. */
    aim?: number | null;
    /** What lies on the bed. */
    noun?: string;
    /** How it lies, where its marks do not say it; given the side that is drawn, and whether that is the other one. */
    lies?: ((shown: SideShown, other: boolean) => string) | undefined;
  }) => {
    const [ref, size] = useSize();
    const [focus, setFocus] = useState<'bed' | 'board'>(fit);
    const [turned, setTurned] = useState(false);
    const shown = turned && up.other ? up.other : up;
    const { reckoning } = shown;
    const { board } = reckoning;
    const { bed } = machine.profile;
    const m = reckoning.boardToBed;
    const corners = board
      ? [
          apply(m, { x: 0, y: 0 }),
          apply(m, { x: board.width, y: 0 }),
          apply(m, { x: board.width, y: board.height }),
          apply(m, { x: 0, y: board.height }),
        ]
      : [];
    const extent: Extent =
      focus === 'bed' || !board
        ? { x: 0, y: 0, width: bed.width, height: bed.height }
        : {
            x: Math.min(...corners.map((c) => c.x)),
            y: Math.min(...corners.map((c) => c.y)),
            width: Math.max(...corners.map((c) => c.x)) - Math.min(...corners.map((c) => c.x)),
            height: Math.max(...corners.map((c) => c.y)) - Math.min(...corners.map((c) => c.y)),
          };
    const view = fitView(size, extent, { left: 52, right: 40, top: 24, bottom: 62 });
    const angle = (angleOf(m) * 180) / Math.PI;
    const onSlot = new Map(reckoning.onTheBoard.map((o) => [o.slot.slot, o.ordinal]));
    const map = reckoning.place.placement && fit === 'bed';
    const placed =
      lies?.(shown, shown === up.other) ??
      (reckoning.placed
        ? `${noun} lies turned ${fixed(angle)}°, from its marks.${map ? ' Dotted: lines of equal aiming error over it, ± mm at 95 %.' : ''}`
        : `${noun} drawn square in the middle; its marks are not read yet.`);
    const legible = view.k * SLOT_NUMBER_HEIGHT >= LEGIBLE;
    const b0 = view.at(0, bed.height);
    return (
      <Drawing
        refTo={ref}
        label={`Bed of ${machine.name} with board ${board?.name ?? ''}`}
        caption={
          <>
            Bed {bed.width} × {bed.height} mm, seen from above, operator’s side below. {placed}
          </>
        }
        tools={
          <span className="flex shrink-0 gap-4">
            {up.other && (
              <button className="link" onClick={() => setTurned(!turned)}>
                {turned
                  ? 'show the side that is up'
                  : `show side ${up.reckoning.face.side === 'front' ? 'two' : 'one'}`}
              </button>
            )}
            <button className="link shrink-0" onClick={() => setFocus(focus === 'bed' ? 'board' : 'bed')}>
              {focus === 'bed' ? 'show the board' : 'show the bed'}
            </button>
          </span>
        }
      >
        <Hatch />
        <rect
          x={b0.x}
          y={b0.y}
          width={bed.width * view.k}
          height={bed.height * view.k}
          className="fill-sheet stroke-ink"
          strokeWidth={1.2}
        />
        <BedRulers view={view} machine={machine} />
        {board && (
          <>
            <g transform={view.group}>
              <g transform={matrix(m)}>
                <BoardPaths paths={shown.boardPaths} names={CUT_FIRST} />
                {board.slots
                  .filter((s) => onSlot.has(s.slot))
                  .map((s) => {
                    const art = reckoning.art?.paths[onSlot.get(s.slot)!];
                    return <Piece key={s.slot} at={matrix(slotTransform(s))} blank={shown.blankPath} art={art} />;
                  })}
                <BoardPaths paths={shown.boardPaths} names={legible ? ENGRAVED_ALL : ENGRAVED} />
                <Pins pins={reckoning.fixings.pins} />
              </g>
              {showOutline && shown.outline.length > 2 && (
                <path
                  d={`M${shown.outline.map((p) => `${p.x} ${p.y}`).join('L')}Z`}
                  className="fill-none stroke-blue"
                  strokeWidth={1.5}
                  strokeDasharray="12 6"
                  vectorEffect="non-scaling-stroke"
                />
              )}
            </g>
            <SlotSigns view={view} shown={shown} states={states} />
            <BoardSize view={view} m={m} width={board.width} height={board.height} />
            <Marks view={view} shown={shown} aim={aim} />
            {map && <ErrorLines view={view} shown={shown} />}
          </>
        )}
        {head && <Head view={view} at={head} machine={machine} />}
        <Legend height={size.height} entries={['engrave', 'cut', 'guide', 'read']} />
        <ScaleBar view={view} />
      </Drawing>
    );
  },
);
BedDrawing.displayName = 'BedDrawing';
