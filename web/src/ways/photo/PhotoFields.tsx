import { effectiveHold, fixed, mm, worked, type HoldSettings } from '@bistre/core';
import { shots } from './photo';
import type { Shown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { Choice, MeasureField, TextField } from '../../parts/fields';
import { Reading } from '../../parts/Reading';
import { AlsoFields, KeepRemains, LayAgain, ShelfWould } from './OffcutFields';
import { KeepCamera, MarkFields } from './PhotoMarks';
import { PhotoAsks, PhotoTake } from './PhotoTake';

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
