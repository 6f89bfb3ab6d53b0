import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { api, fileNameOf, type BatchDocument } from '@bistre/contract';
import { messageOf } from '../data/api';
import { warmPictures, writePictures } from '../data/picture-worker';
import { write } from '../data/write';
import { handToBrowser, Held, useAgainst } from './FileLinks';

/** Writes the G-code of a piece with pictures here in the browser, with how far it is and a way to stop. */
export const PictureFile = ({ batch }: { batch: BatchDocument }) => {
  const [share, setShare] = useState<number | null>(null);
  const stop = useRef<AbortController>(null);
  const reasons = useAgainst()('load.gcode');
  useEffect(() => () => stop.current?.abort(), []);
  const ids = batch.setup.faces.flatMap((f) => (f.content.kind === 'picture' ? [f.content.pictureId] : []));
  const key = [...new Set(ids)].join();
  useEffect(() => warmPictures(key.split(',')), [key]);
  const make = async (): Promise<void> => {
    stop.current = new AbortController();
    setShare(0);
    try {
      const written = await writePictures(batch, setShare, stop.current.signal);
      if (!written) return;
      const name = fileNameOf(batch.name, 'load.gcode', new Date());
      handToBrowser(written.file, name);
      toast.success(`${name}: ${(written.file.size / 1e6).toFixed(1)} MB in ${written.seconds.toFixed(1)} s`);
      await write({ endpoint: api.wroteFile, params: { id: batch.id }, body: { file: name }, scope: batch.id });
    } catch (error) {
      toast.error(messageOf(error), { duration: 10_000 });
    } finally {
      setShare(null);
    }
  };
  if (share === null)
    return (
      <>
        <p className="my-1.5">
          <span className="mr-1">This piece, with its pictures:</span>
          <button className="act !px-2.5" disabled={reasons.length > 0} onClick={() => void make()}>
            Write the G-code
          </button>
        </p>
        {reasons.length > 0 && <Held batchId={batch.id} reasons={reasons} />}
      </>
    );
  return (
    <div className="my-1.5 flex items-center gap-3" aria-live="polite">
      <progress
        className="h-2 flex-1 accent-[var(--blue)]"
        aria-label="lines written"
        value={Math.max(0.01, share)}
        max={1}
      />
      <span className="w-12 text-right">{Math.round(100 * share)} %</span>
      <button className="act !px-2.5" onClick={() => stop.current?.abort()}>
        Stop
      </button>
    </div>
  );
};
