import { besideOf } from '../../ways/held';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { api, wholeNumber } from '@bistre/contract';
import { freshPins, GAUGE_STEPS, mm, roomFromGauge, shankFromGauge, SHANK_STEPS } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import type { BatchHandle } from '../../data/use-batch';
import { Measure } from '../../parts/fields';
import { useSimulated } from '../../parts/use-simulated';

/** How many dots stand under what went in. */
const DOTS = z.object({
  shank: wholeNumber('The number of dots', 1, SHANK_STEPS.length),
  fit: wholeNumber('The number of dots', 1, GAUGE_STEPS.length),
});

/** A finding that is typed, or read off the simulated bench. */
export const Take = ({
  handle,
  what,
  time = 0,
  label,
  words,
  of,
  at,
  onTake,
}: {
  handle: BatchHandle;
  what: 'card' | 'back' | 'shank' | 'fit';
  time?: number;
  label: string;
  words: ReactNode;
  /** What may be typed, in the contract. */
  of: z.ZodType;
  at: string;
  onTake: (value: number) => void;
}) => {
  const [simulated, setSimulated] = useSimulated();
  const look = async (): Promise<void> => {
    try {
      onTake((await call(api.simMeasure, { params: { id: handle.batch.id }, body: { what, time } })).value);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <div className="grid grid-cols-[1fr_10.5rem] items-end gap-3 py-1">
      <p className="text-[13px]">{words}</p>
      {simulated ? (
        <button className="act justify-center" onClick={() => void look()}>
          Read the simulated bench
        </button>
      ) : (
        <Measure of={of} at={at} list label={label} onCommit={onTake} />
      )}
      <button className="link col-span-2 justify-self-end" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'type it' : 'use the simulated bench'}
      </button>
    </div>
  );
};

export const sure = (value: number | null): ReactNode =>
  value === null ? <span className="text-ochre">not compared yet</span> : <b>{mm(value)}</b>;

/** The pin gauge's answer. */
export const ShankCheck = ({ handle }: { handle: BatchHandle }) => {
  const { beside, put } = besideOf(handle);
  const pins = beside.pins ?? freshPins;
  return (
    <Take
      handle={handle}
      what="shank"
      of={DOTS}
      at="shank"
      label="dots, then Enter"
      words={
        <>
          Widest shank of the gauge that goes into a cell by hand:{' '}
          {pins.shank === null ? <span className="text-ochre">not tried yet</span> : <b>{mm(pins.shank)}</b>}. Count its
          dots.
        </>
      }
      onTake={(dots) => {
        const shank = shankFromGauge(pins.cell, dots);
        if (shank === null) toast.error(`The gauge has ${SHANK_STEPS.length} shanks, not ${dots}.`);
        else put({ pins: { ...pins, shank } });
      }}
    />
  );
};

/** The fit gauge's answer. */
export const FitCheck = ({ handle }: { handle: BatchHandle }) => {
  const { beside, put } = besideOf(handle);
  return (
    <Take
      handle={handle}
      what="fit"
      of={DOTS}
      at="fit"
      label="dots, then Enter"
      words={
        <>
          Narrowest slot of the gauge that an offcut goes into and stays:{' '}
          {beside.stock.room === null ? (
            <span className="text-ochre">not tried yet</span>
          ) : (
            <b>
              {beside.stock.room >= 0 ? '+' : '−'} {Math.abs(beside.stock.room).toFixed(1)} mm over the board
            </b>
          )}
          . Count its dots.
        </>
      }
      onTake={(dots) => {
        const room = roomFromGauge(dots);
        if (room === null) toast.error(`The gauge has ${GAUGE_STEPS.length} slots, not ${dots}.`);
        else put({ stock: { ...beside.stock, room } });
      }}
    />
  );
};
