import { useState } from 'react';
import { api, type BlankSpec } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import { sentArt } from '../../data/art-file';
import { usePart } from '../../parts/fields';
import { Finding } from '../../parts/Part';

/** As letters of six bits each no more than the server takes. */
const MOST_BYTES = 3_700_000;

/** The file of an outline; where it does not say its unit, the unit it was in. */
export const OutlineFile = () => {
  const [shape, put] = usePart<BlankSpec['shape']>('spec.shape');
  const [note, setNote] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const readFile = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (file.size > MOST_BYTES) {
      setProblem(
        `${file.name} is ${(file.size / 1e6).toFixed(1)} MB; at most 3.7 MB are read. Keep only the outline in it.`,
      );
      return;
    }
    try {
      const { fileName, ...sent } = await sentArt(file);
      const read = await call(api.readOutline, { body: { name: fileName, ...sent } });
      put({ kind: 'outline', contours: read.contours, source: file.name });
      setProblem(null);
      setNote(
        `${read.width.toFixed(2)} × ${read.height.toFixed(2)} mm. ${read.unit === 'unstated' || read.unit === 'px' ? 'Is that the real size? ' : ''}${read.notes.join(' ')}`,
      );
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  const scale = (k: number): void => {
    if (shape.kind !== 'outline') return;
    const contours = shape.contours.map((c) => ({
      ...c,
      vertices: c.vertices.map((v) => ({ ...v, x: v.x * k, y: v.y * k })),
    }));
    put({ ...shape, contours });
  };
  return (
    <div>
      <label className="text-[13px] text-soft">
        SVG, DXF, PDF or a picture in black and white, with a closed outline
        <input
          type="file"
          accept=".svg,.dxf,.pdf,.png,.jpg,.jpeg,.webp"
          className="block"
          onChange={(e) => void readFile(e.target.files?.[0])}
        />
      </label>
      {problem && <Finding tone="out">{problem}</Finding>}
      {note && (
        <p className="text-[13px]">
          {note}{' '}
          <button type="button" className="link" onClick={() => scale(25.4)}>
            it was inches
          </button>{' '}
          <button type="button" className="link" onClick={() => scale(1 / 25.4)}>
            it was millimetres read as inches
          </button>
        </p>
      )}
    </div>
  );
};
