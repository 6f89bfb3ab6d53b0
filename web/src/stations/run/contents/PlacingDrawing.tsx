import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { fixed, listed } from '@bistre/core';
import type { Vec } from '@bistre/core';
import { BlankDrawing } from '../../../drawing/BlankDrawing';
import type { View } from '../../../drawing/scale';
import { Choice } from '../../../parts/fields';
import type { BatchProps } from '../../../ways/pages';
import type { Contents, Laid } from './parts';

const STEPS = [['0.1', '0.1'], ['1', '1'], ['5', '5']] as const; // prettier-ignore
const KEYS: Readonly<Record<string, Vec>> = { ArrowLeft: { x: -1, y: 0 }, ArrowRight: { x: 1, y: 0 }, ArrowUp: { x: 0, y: 1 }, ArrowDown: { x: 0, y: -1 } }; // prettier-ignore

/** How far something reaches over its zone, in words; '' where it does not. */
const beyond = ({ room }: Laid): string =>
  listed((['left', 'right', 'front', 'back'] as const).filter((s) => room[s] < -0.01).map((s) => `${fixed(-room[s], 1)} mm at its ${s}`)); // prettier-ignore

/** One thing in a zone, to be taken hold of: by the pointer, or by the arrow keys. */
const Hold = ({ laid, view, step, onMove }: { laid: Laid; view: View; step: number; onMove: (by: Vec) => void }) => {
  const from = useRef<Vec | null>(null);
  const [drag, setDrag] = useState<Vec>({ x: 0, y: 0 });
  const a = view.at(laid.box.minX, laid.box.maxY);
  const b = view.at(laid.box.maxX, laid.box.minY);
  const onKey = (event: KeyboardEvent): void => {
    const way = KEYS[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    onMove({ x: way.x * step, y: way.y * step });
  };
  const at = (event: PointerEvent): Vec => ({ x: event.clientX, y: event.clientY });
  const end = (event: PointerEvent): void => {
    if (!from.current) return;
    const to = at(event);
    const snap = (px: number): number => Math.round(px / view.k / step) * step;
    const by = { x: snap(to.x - from.current.x), y: snap(from.current.y - to.y) };
    from.current = null;
    setDrag({ x: 0, y: 0 });
    if (by.x !== 0 || by.y !== 0) onMove(by);
  };
  const over = beyond(laid);
  return (
    <button
      type="button"
      aria-label={`Move ${laid.name}: arrow keys, or drag`}
      className="absolute cursor-move touch-none border-2 border-dashed border-blue bg-transparent focus-visible:outline-3 focus-visible:outline-blue"
      style={{ left: a.x + drag.x, top: a.y + drag.y, width: Math.max(8, b.x - a.x), height: Math.max(8, b.y - a.y) }}
      onKeyDown={onKey}
      onPointerDown={(event) => {
        from.current = at(event);
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (from.current) setDrag({ x: event.clientX - from.current.x, y: event.clientY - from.current.y });
      }}
      onPointerUp={end}
      onPointerCancel={() => {
        from.current = null;
        setDrag({ x: 0, y: 0 });
      }}
    >
      {over !== '' && (
        <span className="absolute top-full left-0 mt-1 bg-sheet px-1 text-left text-[13px] font-bold whitespace-nowrap text-oxide">
          over its zone: {over}
        </span>
      )}
    </button>
  );
};

/** Hatches what of a thing lies outside its zone. */
const Outside = ({ laid, zone, view }: { laid: Laid; zone: { x: number; y: number; width: number; height: number; margin: number }; view: View }) => {
  const [w, h] = [zone.width / 2 - zone.margin, zone.height / 2 - zone.margin];
  const { minX, maxX, minY, maxY } = laid.box;
  const parts = [
    [minX, minY, Math.min(maxX, zone.x - w), maxY],
    [Math.max(minX, zone.x + w), minY, maxX, maxY],
    [Math.max(minX, zone.x - w), minY, Math.min(maxX, zone.x + w), Math.min(maxY, zone.y - h)],
    [Math.max(minX, zone.x - w), Math.max(minY, zone.y + h), Math.min(maxX, zone.x + w), maxY],
  ] as const;
  return parts.map(([x0, y0, x1, y1], i) => {
    const a = view.at(x0, y1);
    return x1 - x0 > 0.01 && y1 - y0 > 0.01 ? (
      <svg key={i} aria-hidden className="pointer-events-none absolute" style={{ left: a.x, top: a.y }} width={(x1 - x0) * view.k} height={(y1 - y0) * view.k}>
        <rect width="100%" height="100%" fill="url(#hatch)" />
      </svg>
    ) : null;
  });
}; // prettier-ignore

/** One piece as large as there is room: what lies in its zones is moved here. */
export const PlacingDrawing = ({ handle, shown, onClose }: BatchProps & { onClose: () => void }) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const [step, setStep] = useState<'0.1' | '1' | '5'>('1');
  const contents: Contents = batch.setup.contents ?? [];
  const laid = reckoning.art?.laid ?? [];
  const { blank } = reckoning.face;
  const move = (id: string, by: Vec): void => {
    const rounded = (v: number): number => Math.round(v * 100) / 100 || 0;
    handle.update('contents', contents.map((c) => (c.id === id ? { ...c, offset: { x: rounded((c.offset?.x ?? 0) + by.x), y: rounded((c.offset?.y ?? 0) + by.y) } } : c))); // prettier-ignore
  };
  return (
    <BlankDrawing
      spec={{ ...batch.blank.spec, zones: [...blank.zones] as never, holes: [...blank.holes] }}
      sizes={reckoning.sizes}
      path={shown.blankPath}
      art={reckoning.art?.paths[reckoning.onTheBoard[0]?.ordinal ?? 1]}
      caption="One piece. Take hold of what lies in its zones: drag it, or go to it by Tab and move it by the arrow keys."
      tools={
        <span className="flex items-end gap-4">
          <Choice label="step, mm" value={step} options={STEPS} onChange={setStep} />
          <button type="button" className="link" onClick={onClose}>
            back to the load
          </button>
        </span>
      }
      over={(view) => (
        <>
          {laid.map((l) => {
            const zone = blank.zones.find((z) => z.id === contents.find((c) => c.id === l.id)?.zoneId);
            return zone ? <Outside key={l.id} laid={l} zone={zone} view={view} /> : null;
          })}
          {laid.map((l) => (
            <Hold key={l.id} laid={l} view={view} step={Number(step)} onMove={(by) => move(l.id, by)} />
          ))}
        </>
      )}
    />
  );
};
