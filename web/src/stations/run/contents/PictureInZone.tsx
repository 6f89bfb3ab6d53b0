import { useRef, useState } from 'react';
import { LARGEST_PICTURE, PICTURES } from '@bistre/contract';
import { burnsLight, FRESH_TREATMENT, hasPaper } from '@bistre/core';
import { messageOf, sendPicture } from '../../../data/api';
import { shelveNow } from '../../../data/art-file';
import { Finding } from '../../../parts/Part';
import { PictureFields } from '../../../parts/PictureFields';
import type { BatchProps } from '../../../ways/pages';
import type { Change, Laid, Of } from './parts';

/** Puts the outlines of what is black and white by nature on the Shelf, in the place of the picture. */
const TraceIt = ({ content, onTraced }: { content: Of<'picture'>; onTraced: (next: Of<'artwork'>) => void }) => {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const trace = async (): Promise<void> => {
    setBusy(true);
    setProblem(null);
    try {
      const response = await fetch(`${PICTURES}/${content.pictureId}`);
      if (!response.ok) throw new Error('The picture cannot be had from the server now. Nothing was changed.');
      const name = content.name.slice(0, 60);
      const artworkId = await shelveNow(new File([await response.blob()], `${name}.png`), { name: `${name}, traced`, customer: '' });
      const { id, zoneId, size, across, down, offset, turn, mirrored, over } = content;
      onTraced({ kind: 'artwork', id, zoneId, size, across, down, offset, turn, mirrored, over, artworkId, revision: 1 });
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="mt-1.5">
      <button type="button" className="link" disabled={busy} onClick={() => void trace()}>
        {busy ? 'Tracing …' : 'lettering or a stamp: burn its outlines instead'}
      </button>
      {problem && <Finding tone="out">{problem}</Finding>}
    </div>
  );
}; // prettier-ignore

/** How a picture's shades are burned, as close up as they will look; in a print they are printed. */
export const ShadesFields = ({
  content,
  onChange,
  known,
  laid,
  onTraced,
}: Change<Of<'picture'>> & { laid: Laid | undefined; onTraced: (next: Of<'artwork'>) => void }) => {
  const { batch } = known.handle;
  const { recipe, machine } = batch;
  return (
    <>
      {hasPaper(batch, 'print') ? (
        <p className="mt-1.5 text-[13px] text-soft">
          {content.width} × {content.height} dots, printed in their shades
          {content.treatment.negative && ', light for dark'}.{' '}
          <button
            type="button"
            className="link"
            onClick={() =>
              onChange({ ...content, treatment: { ...content.treatment, negative: !content.treatment.negative } })
            }
          >
            {content.treatment.negative ? 'Print them as they are' : 'Print them light for dark'}
          </button>
        </p>
      ) : (
        <PictureFields
          content={content}
          across={laid ? laid.scale * content.width : 50}
          interval={recipe?.spec.engrave.interval ?? 0.1}
          spot={machine.profile.kerf}
          narrow
          onChange={onChange}
        />
      )}
      <TraceIt content={content} onTraced={onTraced} />
    </>
  );
};

type Taken = Pick<Of<'picture'>, 'kind' | 'pictureId' | 'name' | 'width' | 'height' | 'darkness' | 'treatment'>;

/** Takes a picture in from a file. */
export const TakePicture = ({ batch, onTake }: { batch: BatchProps['handle']['batch']; onTake: (taken: Taken) => void }) => {
  const [problem, setProblem] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      if (file.size > LARGEST_PICTURE)
        throw new Error(`${file.name} is ${(file.size / 1e6).toFixed(0)} MB; at most ${LARGEST_PICTURE / 1e6} MB are read. Make it smaller first.`);
      const { id, name, width, height, darkness } = await sendPicture(file);
      const light = burnsLight(batch.blank.spec.material ?? '');
      onTake({ kind: 'picture', pictureId: id, name: name.replace(/\.[a-z]+$/i, '') || name, width, height, darkness, treatment: { ...FRESH_TREATMENT, negative: light } });
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <>
      <button type="button" className="link" onClick={() => input.current?.click()}>
        a picture
      </button>
      <input
        ref={input}
        type="file"
        aria-label="Picture in a zone"
        accept="image/png,image/jpeg,image/webp"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          void take(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      {problem && (
        <div className="w-full">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
    </>
  );
}; // prettier-ignore
