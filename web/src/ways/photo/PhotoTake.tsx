import { useEffect, useRef, useState } from 'react';
import { photoPath } from '@bistre/contract';
import { unstored } from '../../data/unstored';
import { photoField, photoMarks, type Held } from '@bistre/core';
import { lastLoad, layParts } from './lay-parts';
import { PhotoLook, shots } from './photo';
import type { HandMark } from './photo.worker';
import type { BatchHandle } from '../../data/use-batch';
import { Finding } from '../../parts/Part';
import { useSimulated } from '../../parts/use-simulated';
import { heldIn } from '../held';
import { AimByHand } from './AimByHand';

/** Takes a photograph in, from a file or the simulated camera, and keeps what it shows. */
export const PhotoTake = ({ handle, large = false }: { handle: BatchHandle; large?: boolean }) => {
  const { batch } = handle;
  const [simulated, setSimulated] = useSimulated();
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const looking = useRef<PhotoLook | null>(null);
  useEffect(() => () => looking.current?.end(), []);
  const { choice, found: seenBefore, note } = heldIn(handle, 'photo');
  const open = batch.pieces.some((p) => p.state === 'loaded');
  const last = useRef<{ file: Blob; name: string } | null>(null);
  const [aiming, setAiming] = useState<Blob | null>(null);
  const look = async (file: Blob, name: string, hand: readonly HandMark[] | null = null): Promise<void> => {
    last.current = { file, name };
    if (choice.marksOn === 'own' && !hand) {
      setShare(null);
      setAiming(file);
      return;
    }
    looking.current?.end();
    const worker = new PhotoLook();
    looking.current = worker;
    setProblem(null);
    setShare(0);
    try {
      const seen = await worker.look(file, name, batch, setShare, hand);
      if (!seen) return;
      if (!seen.ok) {
        setProblem(seen.problem.message);
        return;
      }
      const looked = seen.value;
      const old = shots.get()[batch.id];
      if (old) URL.revokeObjectURL(old.url);
      shots.set({ ...shots.get(), [batch.id]: { url: URL.createObjectURL(looked.picture), looked } });
      const kept: Held<'photo'> = {
        way: 'photo',
        choice,
        found: {
          ...seenBefore,
          blanks: [...looked.found],
          offcuts: [...looked.offcuts],
          density: null,
          left: looked.strangers.length,
          spread: looked.spread,
          seenBy: looked.seenBy,
          others: [],
          marks: looked.residuals.length,
          afterLoad: lastLoad(batch),
          takenAt: new Date().toISOString(),
        },
      };
      note(kept.found);
      if (choice.use === 'offcuts') await layParts(handle, kept, 3, looking, (s) => setShare(s), setProblem);
    } catch (error) {
      setProblem(`The picture could not be looked at: ${error instanceof Error ? error.message : String(error)}`);
    } finally {
      setShare(null);
    }
  };
  const simulate = async (): Promise<void> => {
    setShare(0);
    try {
      // The bed is seen as the server knows it: with the marks that were chosen a moment ago.
      const missing = await unstored(batch.id);
      if (missing !== null) throw new Error(`Not saved yet: ${missing}. The picture would be taken without it.`);
      const response = await fetch(`${photoPath(batch.id)}?shot=${Math.floor(Math.random() * 1000)}`);
      if (!response.ok) throw new Error(((await response.json()) as { message: string }).message);
      await look(await response.blob(), 'the simulated camera’s picture');
    } catch (error) {
      setShare(null);
      setProblem(error instanceof Error ? error.message : String(error));
    }
  };
  const button = large ? 'act !min-h-14 !px-8 !text-lg' : 'act';
  return (
    <div className={large ? 'mt-5' : ''}>
      <p className="flex flex-wrap items-center gap-3">
        {simulated ? (
          <button
            className={`${button} ${seenBefore.blanks.length === 0 ? 'act-main' : ''}`}
            disabled={share !== null || open}
            onClick={() => void simulate()}
          >
            Take it with the simulated camera
          </button>
        ) : (
          <label className={`${button} cursor-pointer ${open ? 'opacity-50' : ''}`}>
            {seenBefore.blanks.length === 0 ? 'Photograph of the bed' : 'Another photograph'}
            <input
              type="file"
              accept="image/jpeg,image/png,image/webp"
              className="sr-only"
              disabled={open}
              onChange={(e) => {
                const file = e.target.files?.[0];
                if (file) void look(file, file.name.slice(0, 120));
                e.target.value = '';
              }}
            />
          </label>
        )}
        {share !== null && (
          <>
            <progress max={1} value={share} aria-label="looking at the picture" />
            <button
              className="link"
              onClick={() => {
                looking.current?.end();
                setShare(null);
              }}
            >
              stop
            </button>
          </>
        )}
        <button className="link" onClick={() => setSimulated(!simulated)}>
          {simulated ? 'a picture from a file' : 'use the simulated camera'}
        </button>
      </p>
      {last.current && share === null && !open && (
        <p className="mt-1">
          <button className="link" onClick={() => setAiming(last.current?.file ?? null)}>
            aim at the marks by hand
          </button>
        </p>
      )}
      {aiming && (
        <AimByHand
          file={aiming}
          marks={photoMarks(choice, batch.machine.profile.bed)}
          field={photoField(choice, batch.machine.profile.bed)}
          onClose={() => setAiming(null)}
          onUse={(hand) => {
            setAiming(null);
            void look(last.current!.file, last.current!.name, hand);
          }}
        />
      )}
      {open && <p className="mt-1 text-soft">Pieces of the last photograph are on the machine; judge them first.</p>}
      {problem && (
        <div className="mt-2">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
    </div>
  );
};

/** Blanks that wait for an answer: each is taken as drawn, or left out. */
export const PhotoAsks = ({ handle, large = false }: { handle: BatchHandle; large?: boolean }) => {
  const { found: seen, note } = heldIn(handle, 'photo');
  const found = seen.blanks;
  const set = (blanks: typeof found): void => note({ blanks });
  const asked = found.flatMap((f, i) => (f.ask ? [i] : []));
  if (asked.length === 0) return null;
  return (
    <ul className={large ? 'mt-4 max-w-2xl text-lg' : 'mt-2'}>
      {asked.map((i) => (
        <li key={i} className="flex items-center justify-between gap-3 border-t border-hairline py-1.5">
          <span>
            <b className="text-ochre">{i + 1}</b> {found[i]!.why}
          </span>
          <span className="flex shrink-0 gap-2">
            <button className="act" onClick={() => set(found.map((f, k) => (k === i ? { ...f, ask: false } : f)))}>
              Take it
            </button>
            <button className="act" onClick={() => set(found.filter((_, k) => k !== i))}>
              Leave it out
            </button>
          </span>
        </li>
      ))}
    </ul>
  );
};
