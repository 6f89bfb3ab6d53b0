import { useEffect, useRef, useState, type RefObject } from 'react';
import { photoPath, type BatchDocument } from '@bistre/contract';
import { effectiveHold, fixed, mm, worked, type HoldSettings } from '@bistre/core';
import { PhotoLook, shots } from '../../data/photo';
import type { BatchHandle } from '../../data/use-batch';
import type { Shown } from '../../data/reckon.worker';
import { Choice, MeasureField, TextField } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { useSimulated } from '../../parts/use-simulated';

const lastLoad = (batch: BatchDocument): number => Math.max(0, ...batch.pieces.map((p) => p.load));

/** Lays the waiting parts into the offcuts seen, and keeps where they lie. */
const layParts = async (
  handle: BatchHandle,
  hold: HoldSettings,
  seconds: number,
  looking: RefObject<PhotoLook | null>,
  progress: (share: number, words: string) => void,
  problem: (words: string) => void,
): Promise<void> => {
  const { batch } = handle;
  const count = batch.quantity - batch.pieces.filter((p) => p.state === 'done').length;
  const worker = new PhotoLook();
  looking.current = worker;
  const document = { ...batch, setup: { ...batch.setup, hold } } as BatchDocument;
  const made = await worker.lay(document, count, seconds, (share, laid, density) =>
    progress(share, `${laid} of ${count} laid, ${(100 * density).toFixed(1)} % of the stock they take`),
  );
  if (!made) return;
  if (!made.ok) {
    problem(made.problem.message);
    return;
  }
  const { found, density, left } = made.value;
  handle.update('hold', {
    ...hold,
    photo: { ...hold.photo, found, density: Math.min(1, density), left },
  } as typeof batch.setup.hold);
};

/** Takes a photograph in, from a file or the simulated camera, and keeps what it shows. */
export const PhotoTake = ({ handle, large = false }: { handle: BatchHandle; large?: boolean }) => {
  const { batch } = handle;
  const [simulated, setSimulated] = useSimulated();
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const looking = useRef<PhotoLook | null>(null);
  useEffect(() => () => looking.current?.end(), []);
  const hold = effectiveHold(batch);
  const open = batch.pieces.some((p) => p.state === 'loaded');
  const look = async (file: Blob, name: string): Promise<void> => {
    looking.current?.end();
    const worker = new PhotoLook();
    looking.current = worker;
    setProblem(null);
    setShare(0);
    try {
      const seen = await worker.look(file, name, batch, setShare);
      if (!seen) return;
      if (!seen.ok) {
        setProblem(seen.problem.message);
        return;
      }
      const looked = seen.value;
      const old = shots.get()[batch.id];
      if (old) URL.revokeObjectURL(old.url);
      shots.set({ ...shots.get(), [batch.id]: { url: URL.createObjectURL(looked.picture), looked } });
      const kept: HoldSettings = {
        ...batch.setup.hold,
        photo: {
          ...batch.setup.hold.photo,
          found: [...looked.found],
          offcuts: [...looked.offcuts],
          density: null,
          left: looked.strangers.length,
          spread: looked.spread,
          marks: looked.residuals.length,
          afterLoad: lastLoad(batch),
          takenAt: new Date().toISOString(),
        },
      };
      handle.update('hold', kept);
      if (kept.photo.use === 'offcuts') await layParts(handle, kept, 3, looking, (s) => setShare(s), setProblem);
    } catch (error) {
      setProblem(`The picture could not be looked at: ${error instanceof Error ? error.message : String(error)}`);
    } finally {
      setShare(null);
    }
  };
  const simulate = async (): Promise<void> => {
    setShare(0);
    try {
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
            className={`${button} ${hold.photo.found.length === 0 ? 'act-main' : ''}`}
            disabled={share !== null || open}
            onClick={() => void simulate()}
          >
            Take it with the simulated camera
          </button>
        ) : (
          <label className={`${button} cursor-pointer ${open ? 'opacity-50' : ''}`}>
            {hold.photo.found.length === 0 ? 'Photograph of the bed' : 'Another photograph'}
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
  const { hold } = handle.batch.setup;
  const { found } = hold.photo;
  const set = (next: typeof found): void => handle.update('hold', { ...hold, photo: { ...hold.photo, found: next } });
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

/** Settings of blanks that lie anywhere under a camera. */
export const PhotoFields = ({
  handle,
  hold,
  update,
}: {
  handle: BatchHandle;
  hold: HoldSettings;
  update: (part: Partial<HoldSettings>) => void;
}) => (
  <>
    <div className="col-span-2">
      <Choice
        label="On the bed lie"
        value={hold.photo.use}
        options={[
          ['blanks', 'blanks, engraved as they lie'],
          ['offcuts', 'offcuts, parts are cut from them'],
        ]}
        onChange={(use) =>
          update({ photo: { ...hold.photo, use, found: [], offcuts: [], density: null, takenAt: null } })
        }
      />
    </div>
    {hold.photo.use === 'offcuts' && (
      <>
        <MeasureField
          label="Free between parts"
          value={hold.photo.gap}
          min={0}
          max={100}
          hint="beside the kerf"
          onCommit={(gap) => update({ photo: { ...hold.photo, gap } })}
        />
        <Choice
          label="Grain"
          value={hold.photo.grain}
          options={[
            ['along', 'parts along it'],
            ['any', 'any way'],
          ]}
          onChange={(grain) => update({ photo: { ...hold.photo, grain } })}
        />
      </>
    )}
    <MeasureField
      label="Camera over the bed"
      value={hold.photo.cameraHeight}
      min={100}
      max={5_000}
      hint="takes the blanks’ thickness into account"
      onCommit={(cameraHeight) => update({ photo: { ...hold.photo, cameraHeight } })}
    />
    <MeasureField
      label="Marks, from the bed’s edges"
      value={hold.photo.inset}
      min={8}
      max={300}
      onCommit={(inset) => update({ photo: { ...hold.photo, inset } })}
    />
    <TextField label="Name of the work" value={hold.name} most={24} onCommit={(name) => update({ name })} />
    <div className="col-span-2">
      <PhotoTake handle={handle} />
    </div>
  </>
);

/** Other orders tried for longer, until stopped; the best is kept. */
const LayAgain = ({ handle }: { handle: BatchHandle }) => {
  const looking = useRef<PhotoLook | null>(null);
  const [words, setWords] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => () => looking.current?.end(), []);
  const open = handle.batch.pieces.some((p) => p.state === 'loaded');
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <button
        className="act"
        disabled={words !== null || open}
        onClick={() => {
          setWords('laying …');
          void layParts(handle, handle.batch.setup.hold, 15, looking, (_s, w) => setWords(w), setProblem).finally(() =>
            setWords(null),
          );
        }}
      >
        Lay them anew, for 15 s
      </button>
      {words !== null && (
        <>
          <span role="status" className="text-soft">
            {words}
          </span>
          <button className="link" onClick={() => looking.current?.end()}>
            stop
          </button>
        </>
      )}
      {problem && <Finding tone="out">{problem}</Finding>}
    </div>
  );
};

const SIZE = 'text-[16px] lg:text-[17px]';

/** What a photograph said: how well its marks agree, what was found, what thickness would have cost. */
export const PhotoReckon = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => {
  const { batch } = handle;
  const { photo, budget } = shown.reckoning;
  const settings = effectiveHold(batch).photo;
  const shot = shots.use()[batch.id];
  if (!photo) return null;
  const worst = shot ? [...shot.looked.residuals].sort((a, b) => b.distance - a.distance)[0] : undefined;
  return (
    <>
      <div className="grid grid-cols-3 gap-x-2 gap-y-3">
        <Reading
          label={photo.parts ? 'parts laid' : 'blanks found'}
          size={SIZE}
          value={String(photo.found)}
          unit={
            photo.parts
              ? `of ${batch.quantity}`
              : photo.asks > 0
                ? `${photo.asks} asked about`
                : photo.found > 0
                  ? 'all sure'
                  : ''
          }
          tone={photo.asks > 0 ? 'attention' : photo.found > 0 ? 'inside' : 'plain'}
          note={
            settings.left > 0
              ? photo.parts
                ? `${settings.left} find no place`
                : `${settings.left} other things left out`
              : undefined
          }
        />
        <Reading
          label="marks agree within"
          size={SIZE}
          value={settings.spread === null ? '–' : settings.spread.toFixed(2)}
          unit="mm"
          note={
            worst
              ? `${settings.marks} marks; worst ${worst.id}: ${worst.distance.toFixed(2)}`
              : `${settings.marks} marks`
          }
        />
        <Reading
          label="at 95 %"
          size={SIZE}
          value={`± ${budget.predicted.toFixed(2)}`}
          unit="mm"
          tone={budget.verdict === 'over' ? 'out' : 'inside'}
          working={budget.working}
        />
        <Reading
          label="thickness, if forgotten"
          size={SIZE}
          value={(shot?.looked.forgotten ?? photo.forgotten).toFixed(2)}
          unit="mm"
          note={shot ? 'at the farthest; taken out' : 'at the bed’s corner; taken out'}
          working={[
            worked(
              'shift outwards',
              'ρ · t / (H − t)',
              `t ${fixed(shown.reckoning.sizes.thickness.mean)}, H ${fixed(settings.cameraHeight, 0)}`,
              mm(shot?.looked.forgotten ?? photo.forgotten),
              'geometry',
            ),
          ]}
        />
        {photo.parts ? (
          <Reading
            label="of the stock taken"
            size={SIZE}
            value={settings.density === null ? '–' : (100 * settings.density).toFixed(0)}
            unit="% is parts"
            note={`${settings.offcuts.length} offcuts, ${settings.offcuts.reduce((s, o) => s + o.defects.length, 0)} knots and holes kept clear`}
          />
        ) : (
          <Reading
            label="picture"
            size={SIZE}
            value={shot ? ((shot.looked.dots.width * shot.looked.dots.height) / 1e6).toFixed(1) : '–'}
            unit="million dots"
            note={
              shot
                ? `looked at in ${shot.looked.seconds.toFixed(1)} s; lens bends ${(100 * shot.looked.bending).toFixed(1)} %`
                : 'not kept after a reload'
            }
          />
        )}
        <Reading
          label="taken"
          size={SIZE}
          value={
            settings.takenAt
              ? new Date(settings.takenAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
              : '–'
          }
          note={`${photo.free} ${photo.parts ? 'parts' : 'blanks'} without a burn`}
        />
      </div>
      <PhotoAsks handle={handle} />
      {photo.parts && settings.offcuts.length > 0 && <LayAgain handle={handle} />}
    </>
  );
};
