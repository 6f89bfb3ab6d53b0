import { FoundFields } from '../fields';
import { heldIn } from '../held';
import { useState } from 'react';
import { z } from 'zod';
import { api, inputWithoutArt, inRange } from '@bistre/contract';
import {
  accelerationIn,
  afterLetter,
  correctionWords,
  letterIsOld,
  numberIn,
  ringIsDoubtful,
  ringIsFar,
  type Orientation,
} from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import type { RoundShown } from '../../data/shown';
import { Field, Measure } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { LetterPictures } from './LetterPictures';

type OnDrive = NonNullable<RoundShown['on']>;

/** The number that the machine must be given, and that it was typed in. */
export const NumberStep = ({ handle, on, large = false }: { handle: BatchHandle; on: OnDrive; large?: boolean }) => {
  const { control } = on;
  if (control.value === null)
    return <p className="text-[13px] text-soft">Nothing is typed into the machine: the file carries the scale.</p>;
  const set = numberIn(inputWithoutArt(handle.batch), control);
  const right = set !== null && Math.abs(set / control.value - 1) < 1e-6;
  return (
    <p className={`flex flex-wrap items-center gap-3 ${large ? 'mt-5 text-xl' : ''}`}>
      <button
        className={`act ${right ? '' : 'act-main'} ${large ? '!min-h-14 !px-8 !text-lg' : ''}`}
        onClick={() => void handle.act(api.setOnMachine, { body: { what: 'number', value: control.value! } })}
      >
        {control.value} stands in the machine
      </button>
      <span className={right ? 'text-verdigris' : set === null ? 'text-soft' : 'text-ochre'}>
        {set === null
          ? `it was ${control.was}`
          : right
            ? `typed in; back to ${control.was} at the end`
            : `now ${set}: type the new number`}
      </span>
    </p>
  );
};

/** The turning axis's acceleration, lowered for this blank. */
export const SlowStep = ({ handle, on, large = false }: { handle: BatchHandle; on: OnDrive; large?: boolean }) => {
  const wanted = Math.floor(on.throwing.recommended);
  if (wanted >= on.drive.axisAcceleration) return null;
  const set = accelerationIn(inputWithoutArt(handle.batch), on.drive);
  return (
    <p className={`flex flex-wrap items-center gap-3 ${large ? 'mt-5 text-xl' : 'mt-1'}`}>
      <button
        className={`act ${on.mustSlow ? 'act-main' : ''} ${large ? '!min-h-14 !px-8 !text-lg' : ''}`}
        onClick={() => void handle.act(api.setOnMachine, { body: { what: 'acceleration', value: wanted } })}
      >
        {wanted} mm/s² is set
      </button>
      <span className={on.mustSlow ? 'text-oxide' : 'text-verdigris'}>
        {set === on.drive.axisAcceleration
          ? `it stands at ${set}`
          : `set to ${set}; back to ${on.drive.axisAcceleration} at the end`}
      </span>
    </p>
  );
};

/** A part of a ring, measured along the surface from tick to tick. */
const RING_LINE = z.object({ length: inRange('The line', 1, 5_000, 'mm') });

/** Reading a witness ring: overlap or gap, as often as it is burned. */
export const RingStep = ({ handle, on, large = false }: { handle: BatchHandle; on: OnDrive; large?: boolean }) => {
  const [doubt, setDoubt] = useState<number | null>(null);
  const [diameter, setDiameter] = useState<number | null>(null);
  const { rings } = handle.batch;
  const { circumference: whole, part } = on.ring;
  const circumference = whole * part;
  const take = async (overlap: number, sure = false): Promise<void> => {
    setDoubt(null);
    const far = rings.length === 0 && ringIsFar(circumference, overlap);
    if (!sure && (far || ringIsDoubtful(circumference, overlap))) {
      setDoubt(overlap);
      return;
    }
    await handle.act(api.takeRing, {
      body: { overlap, ...(diameter === null ? {} : { diameter }), ...(sure ? { sure } : {}) },
    });
  };
  return (
    <div className={large ? 'mt-5 max-w-2xl text-lg' : ''}>
      {part < 1 && (
        <Measure
          of={RING_LINE}
          at="length"
          list
          label={`the line of ${circumference.toFixed(1)} mm is long, then Enter`}
          draft={`ring.${handle.batch.id}.line`}
          onCommit={(v) => void take(v - circumference)}
        />
      )}
      <div className={part < 1 ? 'hidden' : 'grid grid-cols-2 gap-3'}>
        <Measure
          of={api.takeRing.body}
          at="overlap"
          list
          label="overlaps by, then Enter"
          draft={`ring.${handle.batch.id}.over`}
          onCommit={(v) => void take(v)}
        />
        <Measure
          of={api.takeRing.body}
          at="overlap"
          list
          label="or a gap is left of, then Enter"
          draft={`ring.${handle.batch.id}.gap`}
          onCommit={(v) => void take(-v)}
        />
      </div>
      {part === 1 && (
        <p className="mt-1 text-[13px] text-soft">
          By a pen dot: while the turn waits, the dot past the pointer is an overlap, short of it a gap.
        </p>
      )}
      {on.drive.kind !== 'chuck' && (
        <div className="mt-2 w-1/2 pr-1.5">
          <Measure
            of={api.takeRing.body}
            at="diameter"
            draft={`ring.${handle.batch.id}.diameter`}
            value={diameter}
            onCommit={setDiameter}
          />
        </div>
      )}
      {doubt !== null && (
        <Finding tone="attention">
          {ringIsDoubtful(circumference, doubt)
            ? `${Math.abs(doubt)} mm is more than a quarter turn.`
            : `${Math.abs(doubt)} mm of ${circumference.toFixed(0)} is more than any drive is off by.`}{' '}
          {rings.length === 0 && on.control.value !== null && (
            <>
              Does <b>{on.control.value}</b> really stand in the machine? If not, type it in and burn the ring again;{' '}
              <button className="link" onClick={() => setDoubt(null)}>
                this one is let go
              </button>
              . If it does:{' '}
            </>
          )}
          <button className="link" onClick={() => void take(-doubt, true)}>
            {doubt > 0 ? 'It is a gap' : 'It is an overlap'}
          </button>{' '}
          ·{' '}
          <button className="link" onClick={() => void take(doubt, true)}>
            it is as I typed it
          </button>
        </Finding>
      )}
      {rings.length > 0 && (
        <ol className="mt-1 flex flex-wrap gap-x-3 text-[13px]" aria-label="ring readings">
          {rings.map((r, i) => (
            <li key={r.id}>
              ring {i + 1}: {r.overlap > 0 ? 'overlap' : r.overlap < 0 ? 'gap' : 'closed'}{' '}
              {Math.abs(r.overlap).toFixed(2)} mm
              {r.batchId === handle.batch.id ? '' : ' (earlier batch)'}{' '}
              <button
                className="link"
                aria-label={`take ring ${i + 1} out`}
                onClick={() => void handle.act(api.dropRing, { params: { ring: r.id } })}
              >
                ✕
              </button>
            </li>
          ))}
        </ol>
      )}
      {rings.length > 0 && (
        <>
          <Finding tone={ringIsFar(1, on.rings.correction - 1) ? 'attention' : 'inside'}>
            Steps × {on.rings.correction.toFixed(5)}; the next ring on that piece closes to ±{' '}
            {on.rings.remaining.toFixed(2)} mm.
            {ringIsFar(1, on.rings.correction - 1) &&
              ' No drive is so far from its own dimensions: look at roller, steps and the number first.'}
          </Finding>
          {on.rings.ofPiece > 0 && (
            <p className="mt-1 text-[13px] text-soft">
              Rollers turn a length, and pieces differ: the one that carried the ring was not measured, which leaves ±{' '}
              {(200 * on.rings.ofPiece).toFixed(2)} % on all others.
            </p>
          )}
        </>
      )}
    </div>
  );
};

/** The F on tape: which of the eight pictures it is. */
export const LetterStep = ({ handle, large = false }: { handle: BatchHandle; large?: boolean }) => {
  const { choice, found, note } = heldIn(handle, 'drive');
  const { drive } = handle.batch;
  const [last, setLast] = useState<Orientation | null>(null);
  const old = letterIsOld({ ...handle.batch, drive: drive?.spec ?? null });
  const pick = (seen: Orientation): void => {
    setLast(seen);
    const letterWith = drive ? { rimFaces: choice.rimFaces, topMoves: drive.spec.topMoves } : undefined;
    note({ letter: afterLetter(old ? null : found.letter, seen), letterWith });
  };
  return (
    <div className={large ? 'mt-5' : 'mt-1'}>
      {!large && (
        <p className="mb-1 text-[13px] text-soft">Stand it on its base, rim up. Which picture is the F on the tape?</p>
      )}
      <LetterPictures picked={last} onPick={pick} large={large} />
      {old && (
        <Finding tone="out">
          Which way the rim faces or the drive turns was entered anew since the F was burned: burn it again.
        </Finding>
      )}
      {found.letter && !old && (
        <Finding tone="inside">
          {correctionWords(last ?? found.letter)}{' '}
          {last && (last.quarters !== 0 || last.mirrored) ? 'Burn it once more to see it upright.' : ''}
        </Finding>
      )}
    </div>
  );
};

/** Dial reading of a chucked blank. */
export const RunOutStep = ({ handle }: { handle: BatchHandle }) => (
  <div className="w-56">
    <FoundFields handle={handle} way="drive">
      <Field at="runOut" />
    </FoundFields>
  </div>
);
