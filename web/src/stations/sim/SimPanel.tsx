import { useEffect, useRef, useState } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type BodyOf, type SimView } from '@bistre/contract';
import { movesWork } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import { showReply } from '../../data/show';
import type { BatchHandle } from '../../data/use-batch';
import { Choice } from '../../parts/fields';

/**
 * The picture through the loupe: the board's real lines, magnified, the pointer's dot in the middle. A touch says where the
 * dot is wanted; keys jog.
 */
const LoupePicture = ({
  loupe,
  size,
  onPoint,
}: {
  loupe: SimView['loupe'];
  size: number;
  /** How far from the dot was touched: to the right and away, mm. */
  onPoint: (dx: number, dy: number) => void;
}) => {
  const k = size / 2 / loupe.radius;
  const at = (p: { x: number; y: number }): string => `${size / 2 + p.x * k} ${size / 2 - p.y * k}`;
  return (
    <svg
      width={size}
      height={size}
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label="Loupe: what lies under the pointer’s dot"
      className="shrink-0 cursor-crosshair"
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        onPoint((e.clientX - box.left - box.width / 2) / k, (box.top + box.height / 2 - e.clientY) / k);
      }}
    >
      <defs>
        <clipPath id="loupe">
          <circle cx={size / 2} cy={size / 2} r={size / 2 - 2} />
        </clipPath>
      </defs>
      <g clipPath="url(#loupe)">
        <rect width={size} height={size} fill="#d9c29a" />
        {loupe.lines
          .filter((l) => l.kind !== 'burn')
          .map((l, i) => (
            <polyline
              key={i}
              points={l.points.map((p) => at(p).replace(' ', ',')).join(' ')}
              fill="none"
              stroke={l.kind === 'edge' ? '#7a6a4e' : '#2b1d12'}
              strokeWidth={l.kind === 'edge' ? 2 : 0.16 * k}
              strokeLinecap="round"
            />
          ))}
        {loupe.lines
          .filter((l) => l.kind === 'burn')
          .map((l, i) => (
            <circle
              key={i}
              cx={size / 2 + l.points[0]!.x * k}
              cy={size / 2 - l.points[0]!.y * k}
              r={0.12 * k}
              fill="#160d07"
            />
          ))}
        <circle cx={size / 2} cy={size / 2} r={0.09 * k} fill="#d0201a" />
      </g>
      <circle cx={size / 2} cy={size / 2} r={size / 2 - 2} fill="none" className="stroke-ink" strokeWidth={2.5} />
      <path
        d={`M${size / 2} 4v7M${size / 2} ${size - 4}v-7M4 ${size / 2}h7M${size - 4} ${size / 2}h-7`}
        className="stroke-ink"
        strokeWidth={1.5}
      />
    </svg>
  );
};

/**
 * The simulated machine: home, jog in three steps, look through the loupe, take the display's
 * numbers as a reading. It stands in for a real machine and is run by hand like one.
 */
export const SimPanel = ({
  handle,
  mark,
  purpose,
  onReading,
  onHead,
}: {
  handle: BatchHandle;
  mark: number | null;
  purpose: 'place' | 'reread';
  onReading: (x: number, y: number) => void;
  onHead: (at: { x: number; y: number }) => void;
}) => {
  const { batch } = handle;
  const client = useQueryClient();
  // Work that was turned over or moved on lies elsewhere: what was seen before no longer holds.
  const moved = batch.ticks.filter((t) => movesWork(t.step)).map((t) => t.step);
  const load = Math.max(0, ...batch.pieces.map((p) => p.load));
  const key = ['sim', batch.id, load, ...moved];
  const { data: view, error } = useQuery({
    queryKey: key,
    queryFn: () => call(api.simView, { params: { id: batch.id } }),
  });
  const [step, setStep] = useState('1');
  const panel = useRef<HTMLDivElement>(null);
  const { jogSteps } = batch.machine.profile;
  const act = async (body: BodyOf<typeof api.simDo>): Promise<void> => {
    try {
      await showReply(client, key, await call(api.simDo, { params: { id: batch.id }, body }));
    } catch (problem) {
      toast.error(messageOf(problem));
    }
  };
  useEffect(() => {
    if (view) onHead(view.head);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when the head has moved
  }, [view?.head.x, view?.head.y]);
  if (!view) return <p className="text-soft">{error ? messageOf(error) : 'Switching the simulated machine on …'}</p>;
  const size = jogSteps[Number(step)]!;
  const jog = (dx: number, dy: number): void => void act({ act: 'jog', dx: dx * size, dy: dy * size });
  const seen = view.marksSeen.find((m) => m.id === mark);
  const arrows = [
    ['↑', 0, 1, 'col-start-2', 'away'],
    ['←', -1, 0, 'col-start-1 row-start-2', 'left'],
    ['→', 1, 0, 'col-start-3 row-start-2', 'right'],
    ['↓', 0, -1, 'col-start-2 row-start-3', 'towards you'],
  ] as const;
  return (
    <div
      className="border border-rim p-3"
      aria-label="Simulated machine"
      role="group"
      ref={panel}
      tabIndex={-1}
      onKeyDown={(e) => {
        const found = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[e.key];
        if (!found || (e.target as HTMLElement).closest('input, [role="radio"]')) return;
        e.preventDefault();
        // It jogs, and turns no step of the bench view.
        e.stopPropagation();
        jog(found[0]!, found[1]!);
      }}
    >
      <div className="flex flex-wrap gap-4">
        <LoupePicture
          loupe={view.loupe}
          size={168}
          onPoint={(dx, dy) => {
            const finest = jogSteps[2];
            const steps = (d: number): number => Math.round(d / finest) * finest;
            if (view.homed) void act({ act: 'jog', dx: steps(dx), dy: steps(dy) });
          }}
        />
        <div className="min-w-0 flex-1">
          <p className="text-[13px] text-soft">
            Simulated machine{view.homed ? '; touch the loupe where the dot is wanted' : ': not homed'}. Display:
          </p>
          <p className="text-[40px] leading-tight font-bold">
            {view.display.x.toFixed(2)}, {view.display.y.toFixed(2)}
          </p>
          <div className="mt-1 flex flex-wrap items-end gap-3">
            <div className="grid grid-cols-3 gap-1">
              {arrows.map(([sign, dx, dy, place, word]) => (
                <button
                  key={sign}
                  className={`act size-16 justify-center !p-0 !text-[24px] ${place}`}
                  aria-label={`jog ${word}`}
                  disabled={!view.homed}
                  onClick={() => jog(dx, dy)}
                >
                  {sign}
                </button>
              ))}
            </div>
            <Choice
              label="step, mm"
              value={step}
              options={jogSteps.map((s, i) => [String(i), String(s)] as const)}
              onChange={(next) => {
                setStep(next);
                // The arrows jog again.
                panel.current?.focus();
              }}
            />
          </div>
        </div>
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        {!view.homed && (
          <button className="act act-main" onClick={() => void act({ act: 'home' })}>
            Home it
          </button>
        )}
        {view.homed && seen && (
          <button
            className="act"
            onClick={() => {
              // The eye brings the head near a mark; aiming is done by jogging.
              const toDisplay = { x: view.display.x - view.head.x + seen.at.x, y: seen.at.y };
              const p = batch.machine.profile;
              const zero = p.zeroCorner.startsWith('front') ? 0 : p.bed.height;
              void act({ act: 'goto', x: toDisplay.x, y: p.yRuns === 'away' ? seen.at.y - zero : zero - seen.at.y });
            }}
          >
            Push the head near {mark !== null && mark >= 400 ? 'the corner' : `mark ${mark}`}
          </button>
        )}
        {view.homed && mark !== null && (
          <button className="act act-main" onClick={() => onReading(view.display.x, view.display.y)}>
            {purpose === 'reread'
              ? `Mark ${mark} is under the dot again`
              : mark >= 400
                ? 'Take reading of the corner'
                : `Take reading of mark ${mark}`}
          </button>
        )}
      </div>
      <p className="mt-2 flex flex-wrap gap-x-4 text-[13px]">
        <button className="link" onClick={() => void act({ act: 'dot' })}>
          burn a test dot here
        </button>
        <button
          className="link"
          disabled={view.dots === 0}
          onClick={() => void handle.act(api.pointerFromSim).then((good) => good && toast('Pointer offset measured.'))}
        >
          the dot lies on the burn: take the pointer offset
        </button>
        <button className="link" onClick={() => void act({ act: 'lay' })}>
          lay the work anew
        </button>
      </p>
    </div>
  );
};
