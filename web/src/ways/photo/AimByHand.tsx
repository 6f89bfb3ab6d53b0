import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent } from 'react';
import type { PhotoMark } from '@bistre/core';
import type { HandMark } from './photo.worker';
import { Modal } from '../../parts/Modal';

/** Size of the loupe on the screen and how much it magnifies against the picture's own dots. */
const LOUPE = { size: 200, zoom: 6 };
const FEWEST = 4;

/** The picture as it was taken, its marks aimed at one by one under a loupe. */
export const AimByHand = ({
  file,
  marks,
  field,
  onUse,
  onClose,
}: {
  file: Blob;
  marks: readonly PhotoMark[];
  field: { readonly width: number; readonly height: number };
  onUse: (aimed: HandMark[]) => void;
  onClose: () => void;
}) => {
  const [url, setUrl] = useState<string | null>(null);
  const [aimed, setAimed] = useState<readonly HandMark[]>([]);
  const [now, setNow] = useState(marks[0]?.id ?? 1);
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const image = useRef<HTMLImageElement>(null);
  const loupe = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const made = URL.createObjectURL(file);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  useEffect(() => {
    const g = loupe.current?.getContext('2d');
    const img = image.current;
    if (!g || !img || !at) return;
    const span = LOUPE.size / LOUPE.zoom;
    g.imageSmoothingEnabled = false;
    g.fillStyle = '#888';
    g.fillRect(0, 0, LOUPE.size, LOUPE.size);
    g.drawImage(img, at.x - span / 2, at.y - span / 2, span, span, 0, 0, LOUPE.size, LOUPE.size);
    g.strokeStyle = '#9F2D27';
    g.lineWidth = 1.5;
    g.beginPath();
    const c = LOUPE.size / 2;
    g.moveTo(c - 40, c);
    g.lineTo(c + 40, c);
    g.moveTo(c, c - 40);
    g.lineTo(c, c + 40);
    g.stroke();
  }, [at]);
  const toDots = (e: MouseEvent<HTMLElement>): { x: number; y: number } | null => {
    const img = image.current;
    if (!img) return null;
    const box = img.getBoundingClientRect();
    return {
      x: ((e.clientX - box.left) / box.width) * img.naturalWidth,
      y: ((e.clientY - box.top) / box.height) * img.naturalHeight,
    };
  };
  const put = (p: { x: number; y: number }): void => {
    setAimed([...aimed.filter((m) => m.id !== now), { id: now, ...p }]);
  };
  const next = (): void => {
    const open = marks.find((m) => m.id !== now && !aimed.some((a) => a.id === m.id));
    if (open) setNow(open.id);
  };
  const nudge = (e: KeyboardEvent): void => {
    const by: Readonly<Record<string, [number, number]>> = {
      ArrowLeft: [-0.5, 0],
      ArrowRight: [0.5, 0],
      ArrowUp: [0, -0.5],
      ArrowDown: [0, 0.5],
    };
    const way = by[e.key];
    const mark = aimed.find((m) => m.id === now);
    if (!way || !mark) return;
    e.preventDefault();
    const moved = { x: mark.x + way[0], y: mark.y + way[1] };
    put(moved);
    setAt(moved);
  };
  const current = marks.find((m) => m.id === now);
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title={`Aim at mark ${now}${current ? `: ${current.x.toFixed(0)}, ${current.y.toFixed(0)} mm from the front left` : ''}`}
      note="Click on its middle in the picture; the loupe follows, arrow keys move it by half a dot. Four marks at least, all round the work; the more, the surer."
    >
      <div className="grid grid-cols-[1fr_200px] gap-4" onKeyDown={nudge}>
        <div className="relative">
          {url && (
            <img
              ref={image}
              src={url}
              alt="The photograph as it was taken"
              className="block max-h-[60dvh] w-full cursor-crosshair object-contain select-none"
              style={{ width: 'auto', maxWidth: '100%' }}
              draggable={false}
              onMouseMove={(e) => setAt(toDots(e))}
              onClick={(e) => {
                const p = toDots(e);
                if (!p) return;
                put(p);
                next();
              }}
            />
          )}
          {image.current &&
            aimed.map((m) => (
              <span
                key={m.id}
                className="pointer-events-none absolute -translate-x-1/2 -translate-y-1/2 border-2 border-verdigris px-1 text-[12px] font-bold text-verdigris"
                style={{
                  left: (m.x / image.current!.naturalWidth) * image.current!.clientWidth,
                  top: (m.y / image.current!.naturalHeight) * image.current!.clientHeight,
                }}
              >
                {m.id}
              </span>
            ))}
        </div>
        <div>
          <canvas
            ref={loupe}
            width={LOUPE.size}
            height={LOUPE.size}
            className="border border-ink"
            role="img"
            aria-label="Loupe on the picture"
          />
          <svg
            viewBox={`-8 -8 ${field.width + 16} ${field.height + 16}`}
            className="mt-2 w-full border border-hairline"
            role="img"
            aria-label="Where the marks are"
          >
            <g transform={`translate(0 ${field.height}) scale(1 -1)`}>
              {marks.map((m) => (
                <circle
                  key={m.id}
                  cx={m.x}
                  cy={m.y}
                  r={field.width / 40}
                  className={
                    m.id === now ? 'fill-blue' : aimed.some((a) => a.id === m.id) ? 'fill-verdigris' : 'fill-hairline'
                  }
                />
              ))}
            </g>
          </svg>
          <div className="mt-2 flex flex-wrap gap-1">
            {marks.map((m) => (
              <button
                key={m.id}
                className={`act !px-2.5 ${m.id === now ? 'act-main' : ''}`}
                aria-label={`mark ${m.id}${aimed.some((a) => a.id === m.id) ? ', aimed at' : ''}`}
                onClick={() => setNow(m.id)}
              >
                {aimed.some((a) => a.id === m.id) ? '✓' : ''}
                {m.id}
              </button>
            ))}
          </div>
          <button
            className="act act-main mt-3 w-full justify-center"
            disabled={aimed.length < FEWEST}
            onClick={() => onUse([...aimed])}
          >
            Measure by these {aimed.length}
          </button>
        </div>
      </div>
    </Modal>
  );
};
