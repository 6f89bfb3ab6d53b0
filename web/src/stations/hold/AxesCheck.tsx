import { useState } from 'react';
import { toast } from 'sonner';
import { api, burnedSquare } from '@bistre/contract';
import { axesOf, fixed, squareFor, type BurnedSquare } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import type { BatchHandle } from '../../data/use-batch';
import { Measure } from '../../parts/fields';
import { FileLinks } from '../../parts/FileLinks';
import { Finding } from '../../parts/Part';
import { Working } from '../../parts/Reading';
import { useSimulated } from '../../parts/use-simulated';
import { saveProfile } from './save-profile';

const SIDES = ['along', 'across', 'rising', 'falling'] as const;
type Sides = { readonly [S in (typeof SIDES)[number]]: number | null };
const NOTHING: Sides = { along: null, across: null, rising: null, falling: null };
/** How a steel rule is read, mm either way [common practice]. */
const RULE = 0.25;

/** What is known of the axes, in words. */
const known = (square: BurnedSquare | null | undefined) => {
  const { axes, measured, working } = axesOf(square);
  if (!square || !measured) return <span className="text-ochre">Nobody measured them: ± 1 mm a metre is carried.</span>;
  const perMetre = (share: number): string => `${share >= 0 ? '+' : '−'} ${fixed(Math.abs(1000 * share), 2)}`;
  return (
    <>
      <b>
        x {perMetre(axes.x - 1)}, y {perMetre(axes.y - 1)}, y leaning {perMetre(axes.lean)} mm a metre
      </b>
      , measured {new Date(square.measuredAt).toLocaleDateString('en-GB')}. Files and readings go by it.{' '}
      <Working lines={working} title="own axes" />
    </>
  );
};

/** A burned square, measured with a rule: what the machine's own axes really go. */
export const AxesCheck = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const { machine } = batch;
  const side = squareFor(machine.profile.bed);
  const [read, setRead] = useState(NOTHING);
  const [simulated, setSimulated] = useSimulated();
  const { along, across, rising, falling } = read;
  const square = along !== null && across !== null && rising !== null && falling !== null ? { side, along, across, rising, falling, rule: RULE, measuredAt: new Date().toISOString() } : null; // prettier-ignore
  const problem = square && axesOf(square).problem;

  const keep = async (taken: BurnedSquare | null): Promise<void> => {
    const kept = await saveProfile(
      machine,
      { square: taken },
      `${machine.name} goes by ${taken ? 'the square' : 'its own count'} now.`,
    );
    // What was typed stays where it could not be kept.
    if (kept) setRead(NOTHING);
  };
  const look = async (): Promise<void> => {
    try {
      const values: number[] = [];
      for (const time of SIDES.keys()) {
        const body = { what: 'square' as const, time };
        values.push((await call(api.simMeasure, { params: { id: batch.id }, body })).value);
      }
      setRead(Object.fromEntries(SIDES.map((s, i) => [s, values[i]!])) as unknown as Sides);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <div className="col-span-2 border-t border-hairline pt-2">
      <p className="text-[13px]">
        Axes of {machine.name}. {known(machine.profile.square)}{' '}
        {machine.profile.square && (
          <button className="link" onClick={() => void keep(null)}>
            forget it
          </button>
        )}
      </p>
      <p className="mt-1 text-[13px] text-soft">
        Burn a square of {side} mm on scrap and measure its sides and both diagonals with a rule, to the half
        millimetre.
      </p>
      <FileLinks
        batchId={batch.id}
        files={[
          ['square.gcode', 'G-code'],
          ['square.svg', 'SVG'],
        ]}
        label="Square"
      />
      <div className="mt-1 grid grid-cols-2 gap-3">
        {SIDES.map((at) => (
          <Measure
            key={at}
            of={burnedSquare}
            at={at}
            value={read[at]}
            onCommit={(value) => setRead((old) => ({ ...old, [at]: value }))}
          />
        ))}
      </div>
      {problem && <Finding tone="out">{problem}</Finding>}
      <p className="mt-2 flex items-center gap-4">
        <button className="act" disabled={!square || problem !== null} onClick={() => void keep(square)}>
          Keep it for {machine.name}
        </button>
        {simulated && (
          <button className="act" onClick={() => void look()}>
            Measure the simulated square
          </button>
        )}
        <button className="link" onClick={() => setSimulated(!simulated)}>
          {simulated ? 'type it' : 'use the simulated bench'}
        </button>
      </p>
    </div>
  );
};
