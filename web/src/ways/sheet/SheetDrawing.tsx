import { memo, useCallback, useDeferredValue, useEffect, useRef, type KeyboardEvent } from 'react';
import { contourBox, MARK_WORDS, screenPath, TRACED_ROLES, type TracedShape, type TracedSheet } from '@bistre/core';
import { Drawing, fitView, Legend, ScaleBar, useSize } from '../../drawing/scale';

const LOOKS: Readonly<Record<TracedShape['role'], string>> = {
  piece: 'fill-rim/40 stroke-logwood',
  mark: 'fill-none stroke-blue',
  'left out': 'fill-none stroke-soft',
};

const nextRole = (role: TracedShape['role']): TracedShape['role'] =>
  TRACED_ROLES[(TRACED_ROLES.indexOf(role) + 1) % TRACED_ROLES.length]!;

/** One shape; drawn anew only when it or its number changes, so that hundreds stay quick to click. */
const ShapeSign = memo(
  ({
    shape,
    index,
    number,
    inner,
    onTurn,
  }: {
    shape: TracedShape;
    /** Its place among the sheet's shapes. */
    index: number;
    number: number | undefined;
    inner: boolean;
    onTurn: ((index: number) => void) | null;
  }) => {
    const box = contourBox(shape.outline);
    const what = shape.role === 'piece' ? `piece ${number}` : shape.role;
    const form = shape.look ? `, ${MARK_WORDS[shape.look.kind]}` : '';
    const words = `${what}, ${(box.maxX - box.minX).toFixed(1)} × ${(box.maxY - box.minY).toFixed(1)} mm${form}`;
    const lines = [shape.outline, ...shape.holes].map((c) => screenPath(c));
    return (
      <g
        className={`${LOOKS[shape.role]} ${onTurn ? 'cursor-pointer outline-offset-4 focus-visible:outline-2 focus-visible:outline-blue' : ''}`}
        strokeWidth={shape.role === 'left out' ? 1.2 : 1.6}
        strokeDasharray={shape.role === 'left out' ? '5 4' : undefined}
        pointerEvents="all"
        {...(onTurn
          ? {
              role: 'button',
              tabIndex: 0,
              'aria-label': words,
              onClick: () => onTurn(index),
              onKeyDown: (e: KeyboardEvent) => {
                if (e.key !== 'Enter' && e.key !== ' ') return;
                e.preventDefault();
                onTurn(index);
              },
            }
          : {})}
      >
        <title>{words}</title>
        <path d={lines.join('')} fillRule="evenodd" className="stroke-none" />
        <path d={inner ? lines.join('') : lines[0]} className="fill-none" vectorEffect="non-scaling-stroke" />
      </g>
    );
  },
);
ShapeSign.displayName = 'ShapeSign';

/** A sheet as it was found in its picture, to scale: what is cut, what is aimed at, what is left alone. */
export const SheetDrawing = ({
  sheet: newest,
  inner,
  onChange,
}: {
  sheet: TracedSheet;
  /** Whether holes are cut out too. */
  inner: boolean;
  /** Told the sheet with one shape made something else; absent while it is saved. */
  onChange?: ((sheet: TracedSheet) => void) | undefined;
}) => {
  // A sheet of hundreds of shapes is drawn when there is time, so that fields keep answering.
  const sheet = useDeferredValue(newest);
  const [ref, size] = useSize();
  const view = fitView(
    size,
    { x: 0, y: 0, width: sheet.width, height: sheet.height },
    { left: 24, right: 24, top: 12, bottom: 52 },
  );
  const order = new Map(sheet.shapes.filter((s) => s.role === 'piece').map((s, i) => [s, i + 1]));
  const latest = useRef({ sheet: newest, onChange });
  useEffect(() => {
    latest.current = { sheet: newest, onChange };
  });
  const turn = useCallback((index: number): void => {
    const { sheet: now, onChange: tell } = latest.current;
    const next = { ...now, shapes: now.shapes.map((s, i) => (i === index ? { ...s, role: nextRole(s.role) } : s)) };
    // Two quick clicks are two turns, also where nothing was drawn between them.
    latest.current = { sheet: next, onChange: tell };
    tell?.(next);
  }, []);
  return (
    <Drawing
      refTo={ref}
      bare
      label="Sheet as found in its file"
      caption={
        <>
          {sheet.name}, {sheet.width.toFixed(1)} × {sheet.height.toFixed(1)} mm, as found: {order.size} pieces to cut
          out; dashed: left alone.{' '}
          {onChange ? 'Click a shape: cut out, mark, left out in turn.' : 'Saved: its places stay as they are.'}
        </>
      }
    >
      <svg className="block h-full w-full select-none" role="group" aria-label="Sheet as found in its file">
        <g transform={view.group}>
          <rect
            width={sheet.width}
            height={sheet.height}
            className="fill-sheet stroke-ink"
            vectorEffect="non-scaling-stroke"
          />
          {sheet.pictureId && (
            <image
              href={`/api/pictures/${sheet.pictureId}`}
              width={sheet.width}
              height={sheet.height}
              transform={`matrix(1 0 0 -1 0 ${sheet.height})`}
              preserveAspectRatio="none"
              opacity={0.3}
            />
          )}
          {sheet.shapes.map((s, i) => (
            <ShapeSign
              key={i}
              index={i}
              shape={s}
              number={order.get(s)}
              inner={inner}
              onTurn={onChange ? turn : null}
            />
          ))}
        </g>
        {sheet.shapes.map((s, i) => {
          if (s.role === 'left out') return null;
          const box = contourBox(s.outline);
          const p = s.role === 'mark' ? view.at(s.at.x, s.at.y) : view.at(box.minX, box.maxY);
          return s.role === 'mark' ? (
            <path
              key={i}
              d={`M${p.x - 8} ${p.y}h16M${p.x} ${p.y - 8}v16`}
              className="pointer-events-none stroke-blue"
              strokeWidth={1.2}
            />
          ) : (
            <text
              key={i}
              x={p.x}
              y={p.y - 3}
              fontSize={Math.max(7, Math.min(13, 0.5 * (box.maxX - box.minX) * view.k))}
              className="pointer-events-none fill-ink font-bold"
            >
              {order.get(s)}
            </text>
          );
        })}
        <Legend height={size.height} entries={['cut']} />
        <ScaleBar view={view} />
      </svg>
    </Drawing>
  );
};
