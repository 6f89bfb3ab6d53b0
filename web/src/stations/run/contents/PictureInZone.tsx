import { useRef, useState } from 'react';
import { LARGEST_PICTURE } from '@bistre/contract';
import { burnsLight, FRESH_TREATMENT } from '@bistre/core';
import { messageOf, sendPicture } from '../../../data/api';
import { Finding } from '../../../parts/Part';
import { PictureFields } from '../../../parts/PictureFields';
import type { BatchProps } from '../../../ways/pages';
import type { Change, Laid, Of } from './parts';

/** How a picture's shades are burned, as close up as they will look. */
export const ShadesFields = ({
  content,
  onChange,
  known,
  laid,
}: Change<Of<'picture'>> & { laid: Laid | undefined }) => {
  const { recipe, machine } = known.handle.batch;
  return (
    <PictureFields
      content={content}
      across={laid ? laid.scale * content.width : 50}
      interval={recipe?.spec.engrave.interval ?? 0.1}
      spot={machine.profile.kerf}
      narrow
      onChange={onChange}
    />
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
