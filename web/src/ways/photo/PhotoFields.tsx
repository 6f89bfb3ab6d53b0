import { fixed, heldAs, mm, worked } from '@bistre/core';
import { shots } from './photo';
import { ChoiceFields } from '../fields';
import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import { Choice, Field } from '../../parts/fields';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { AlsoFields, KeepRemains, LayAgain, ShelfWould } from './OffcutFields';
import { KeepCamera, MarkFields } from './PhotoMarks';
import { PhotoAsks, PhotoTake } from './PhotoTake';

/** Settings of blanks that lie anywhere under a camera. */
export const PhotoFields = ({ handle }: BatchProps) => {
  const { choice: photo, renew } = heldIn(handle, 'photo');
  return (
    <ChoiceFields handle={handle} way="photo">
      <div className="col-span-2">
        <Choice
          label="On the bed lie"
          value={photo.use}
          options={[
            ['blanks', 'blanks, engraved as they lie'],
            ['offcuts', 'offcuts, parts are cut from them'],
          ]}
          onChange={(use) => renew({ use }, { blanks: [], offcuts: [], density: null, takenAt: null })}
        />
      </div>
      {photo.use === 'offcuts' && (
        <>
          <AlsoFields handle={handle} />
          <ShelfWould handle={handle} />
          <Field at="gap" />
          <Field at="grain" open />
        </>
      )}
      <Field at="cameraHeight" />
      <MarkFields handle={handle} />
      <Field at="name" />
      <div className="col-span-2">
        <PhotoTake handle={handle} />
      </div>
    </ChoiceFields>
  );
};

/** What a photograph said: how well its marks agree, what was found, what thickness would have cost. */
export const PhotoReckon = ({ handle, shown }: BatchProps) => {
  const { batch } = handle;
  const { budget } = shown.reckoning;
  const { photo } = shown.reckoning.own;
  const { choice, found: seen } = heldAs(batch, 'photo');
  const shot = shots.use()[batch.id];
  if (!photo) return null;
  const worst = shot ? [...shot.looked.residuals].sort((a, b) => b.distance - a.distance)[0] : undefined;
  return (
    <>
      <div className="readings">
        <Reading
          label={photo.parts ? 'parts laid' : 'blanks found'}
          size={ROW_SIZE}
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
            seen.left > 0
              ? photo.parts
                ? `${seen.left} find no place`
                : `${seen.left} other things left out`
              : undefined
          }
        />
        <Reading
          label="marks agree within"
          size={ROW_SIZE}
          value={seen.spread === null ? '–' : seen.spread.toFixed(2)}
          unit="mm"
          note={
            worst
              ? `${seen.marks} marks; worst ${worst.id}: ${worst.distance.toFixed(2)}`
              : seen.seenBy === 'kept, not checked'
                ? 'fixed camera, not checked'
                : `${seen.marks} marks`
          }
          tone={seen.seenBy === 'kept, not checked' ? 'attention' : 'plain'}
          working={(shot?.looked.residuals ?? []).map((m) =>
            worked(
              `mark ${m.id}`,
              'where the picture shows it − where it is',
              seen.seenBy === 'hand' ? 'aimed at by hand' : 'its middle, found',
              mm(m.distance),
              'measured in the picture',
            ),
          )}
        />
        <Reading
          label="at 95 %"
          size={ROW_SIZE}
          value={`± ${budget.predicted.toFixed(2)}`}
          unit="mm"
          tone={budget.verdict === 'over' ? 'out' : 'inside'}
          working={budget.working}
        />
        <Reading
          label="thickness, if forgotten"
          size={ROW_SIZE}
          value={(shot?.looked.forgotten ?? photo.forgotten).toFixed(2)}
          unit="mm"
          note={shot ? 'at the farthest; taken out' : 'at the bed’s corner; taken out'}
          working={[
            worked(
              'shift outwards',
              'ρ · t / (H − t)',
              `t ${fixed(shown.reckoning.sizes.thickness.mean)}, H ${fixed(choice.cameraHeight, 0)}`,
              mm(shot?.looked.forgotten ?? photo.forgotten),
              'geometry',
            ),
          ]}
        />
        {photo.parts ? (
          <Reading
            label="of the stock taken"
            size={ROW_SIZE}
            value={seen.density === null ? '–' : (100 * seen.density).toFixed(0)}
            unit="% is parts"
            note={`${seen.offcuts.length} offcuts, ${seen.offcuts.reduce((s, o) => s + o.defects.length, 0)} knots and holes kept clear`}
          />
        ) : (
          <Reading
            label="picture"
            size={ROW_SIZE}
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
          size={ROW_SIZE}
          value={
            seen.takenAt
              ? new Date(seen.takenAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
              : '–'
          }
          note={`${photo.free} ${photo.parts ? 'parts' : 'blanks'} without a burn`}
        />
      </div>
      <PhotoAsks handle={handle} />
      {shot && <p className="mt-2 text-[13px] text-soft">Camera: {shot.looked.said}.</p>}
      <KeepCamera handle={handle} />
      {photo.parts && seen.offcuts.length > 0 && <LayAgain handle={handle} />}
      {photo.parts && <KeepRemains handle={handle} />}
    </>
  );
};
