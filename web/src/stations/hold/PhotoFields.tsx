import { useEffect, useRef, useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, photoPath } from '@bistre/contract';
import {
  effectiveHold,
  fixed,
  MARK_SHEETS,
  mm,
  parseMarkTable,
  photoField,
  photoMarks,
  worked,
  type HoldSettings,
  type MarkSheet,
} from '@bistre/core';
import { call, messageOf } from '../../data/api';
import { lastLoad, layParts } from '../../data/lay-parts';
import { PhotoLook, shots } from '../../data/photo';
import type { HandMark } from '../../data/photo.worker';
import type { BatchHandle } from '../../data/use-batch';
import type { Shown } from '../../data/reckon.worker';
import { Choice, MeasureField, Select, TextField } from '../../parts/fields';
import { TableBox } from '../../parts/TableBox';
import { Finding } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { useSimulated } from '../../parts/use-simulated';
import { AimByHand } from './AimByHand';
import { AlsoFields, KeepRemains, LayAgain, ShelfWould } from './OffcutFields';

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
  const last = useRef<{ file: Blob; name: string } | null>(null);
  const [aiming, setAiming] = useState<Blob | null>(null);
  const look = async (file: Blob, name: string, hand: readonly HandMark[] | null = null): Promise<void> => {
    last.current = { file, name };
    if (hold.photo.marksOn === 'own' && !hand) {
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
      const kept: HoldSettings = {
        ...batch.setup.hold,
        photo: {
          ...batch.setup.hold.photo,
          found: [...looked.found],
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
          marks={photoMarks(hold.photo, batch.machine.profile.bed)}
          field={photoField(hold.photo, batch.machine.profile.bed)}
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

/** Where the marks come from: burned, printed, or on the bed already. */
const MarkFields = ({
  batchId,
  hold,
  update,
}: {
  batchId: string;
  hold: HoldSettings;
  update: (part: Partial<HoldSettings>) => void;
}) => {
  const { photo } = hold;
  // Other marks: what was measured by the old ones is void.
  const put = (part: Partial<typeof photo>): void => {
    const { [batchId]: _old, ...others } = shots.get();
    shots.set(others);
    update({ photo: { ...photo, found: [], offcuts: [], others: [], density: null, takenAt: null, ...part } });
  };
  return (
    <>
      <Select
        label="Marks"
        value={photo.marksOn}
        options={[
          ['bed', 'burned on paper'],
          ['sheet', 'printed sheet'],
          ['own', 'the bed’s own'],
        ]}
        onChange={(marksOn) => put({ marksOn: marksOn as typeof photo.marksOn })}
      />
      {photo.marksOn === 'bed' && (
        <MeasureField
          label="Marks, from the bed’s edges"
          value={photo.inset}
          min={8}
          max={300}
          onCommit={(inset) => put({ inset })}
        />
      )}
      {photo.marksOn === 'sheet' && (
        <Select
          label="Sheet"
          value={photo.sheet}
          options={Object.entries(MARK_SHEETS).map(
            ([id, { width, height }]) => [id, `${id}, ${width} × ${height} mm`] as const,
          )}
          onChange={(sheet) => put({ sheet: sheet as MarkSheet })}
        />
      )}
      {photo.marksOn === 'own' && (
        <div className="col-span-2">
          <p className="text-[13px]">
            {photo.own.length === 0
              ? 'Say where they are: corners of the bed, screws, burned dots; four at least, all round the work.'
              : `${photo.own.length} marks: ${photo.own.map((m) => `${m.x}, ${m.y}`).join('; ')}.`}
          </p>
          <TableBox
            draft={`photo-own.${hold.name}`}
            label="A line each: x, y from the bed’s front left corner"
            example={'0; 0\n400; 0\n400; 400\n0; 400'}
            read={parseMarkTable}
            onRead={(marks) => put({ own: marks.slice(0, 40).map(({ x, y }) => ({ x, y })) })}
          />
        </div>
      )}
    </>
  );
};

/** Keeps the camera of the last photograph as the machine's own, fixed one. */
const KeepCamera = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const client = useQueryClient();
  const shot = shots.use()[batch.id];
  const { machine } = batch;
  const kept = machine.profile.camera;
  if (effectiveHold(batch).photo.marksOn !== 'bed') return null;
  const save = async (camera: typeof kept): Promise<void> => {
    try {
      await call(api.saveMachine, {
        params: { id: machine.id },
        body: { name: machine.name, version: machine.version, profile: { ...machine.profile, camera } },
      });
      await client.invalidateQueries({ queryKey: ['batch', batch.id] });
      toast(
        camera
          ? `The camera is kept as ${machine.name}’s own. Leave two or more marks in its sight: they tell whether it moved.`
          : `${machine.name} has no fixed camera any more.`,
      );
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <p className="mt-2 text-[13px]">
      {kept
        ? `Fixed camera of ${machine.name}, measured ${new Date(kept.at).toLocaleDateString('en-GB')} by ${kept.marks} marks${kept.spread === null ? '' : ` within ${kept.spread.toFixed(2)} mm`}. `
        : 'A camera that stays where it is? '}
      {shot && shot.looked.seenBy !== 'kept, not checked' && (
        <button className="link" onClick={() => void save(shot.looked.camera)}>
          {kept ? 'keep this measuring instead' : 'keep it as the machine’s fixed camera'}
        </button>
      )}{' '}
      {kept && (
        <button className="link" onClick={() => void save(null)}>
          it is not fixed any more
        </button>
      )}
    </p>
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
        <AlsoFields handle={handle} />
        <ShelfWould handle={handle} />
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
    <MarkFields batchId={handle.batch.id} hold={hold} update={update} />
    <TextField label="Name of the work" value={hold.name} most={24} onCommit={(name) => update({ name })} />
    <div className="col-span-2">
      <PhotoTake handle={handle} />
    </div>
  </>
);

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
              : settings.seenBy === 'kept, not checked'
                ? 'fixed camera, not checked'
                : `${settings.marks} marks`
          }
          tone={settings.seenBy === 'kept, not checked' ? 'attention' : 'plain'}
          working={(shot?.looked.residuals ?? []).map((m) =>
            worked(
              `mark ${m.id}`,
              'where the picture shows it − where it is',
              settings.seenBy === 'hand' ? 'aimed at by hand' : 'its middle, found',
              mm(m.distance),
              'measured in the picture',
            ),
          )}
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
      {shot && <p className="mt-2 text-[13px] text-soft">Camera: {shot.looked.said}.</p>}
      <KeepCamera handle={handle} />
      {photo.parts && settings.offcuts.length > 0 && <LayAgain handle={handle} />}
      {photo.parts && <KeepRemains handle={handle} />}
    </>
  );
};
