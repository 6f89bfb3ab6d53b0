import { useState, type ReactNode } from 'react';
import { artSize, faceFields, isPictureName, LARGEST_PICTURE, type Setup } from '@bistre/contract';
import { fixed, FRESH_TREATMENT, percent, GLASS_TREATMENT } from '@bistre/core';
import type { FaceShown, RoundShown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { messageOf, sendPicture } from '../../data/api';
import { artName, shelveNow } from '../../data/art-file';
import { useArtworks } from '../../data/queries';
import { Field, LiveFields, Select } from '../../parts/fields';
import { Modal } from '../../parts/Modal';
import { NewerFile } from '../../parts/NewerFile';
import { Finding } from '../../parts/Part';
import { PictureFields } from '../../parts/PictureFields';

type Face = Setup['faces'][number];

/** Of a face, what the form holds: not what it carries, which can be large. */
const placed = ({ zoneId, reads, repeats, wraps }: Face) => ({ zoneId, reads, repeats, wraps });

/** How large art comes out on the blank, in its reading direction. */
const ArtComesOut = ({ face }: { face: FaceShown | undefined }) =>
  face?.size ? (
    <p className="pb-2 text-[13px] text-soft">
      comes out{' '}
      <b className="text-ink">
        {fixed(face.size.width, 1)} × {fixed(face.size.height, 1)} mm
      </b>
      , {percent(face.size.across, 1)} of its own size
    </p>
  ) : null;

/** What goes where on a round blank: art or names, in which zone, how often, how it meets itself. */
export const FacesDialog = ({
  handle,
  round,
  onClose,
  children,
}: {
  handle: BatchHandle;
  round: RoundShown | null;
  onClose: () => void;
  /** How art that goes all the way round meets itself. */
  children?: ReactNode;
}) => {
  const { batch } = handle;
  const { faces } = batch.setup;
  const { zones } = batch.blank.spec;
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { data: artworks = [] } = useArtworks();
  const put = (next: Setup['faces']): void => handle.update('faces', next);
  const change = (i: number, part: Partial<Face>): void => put(faces.map((f, k) => (k === i ? { ...f, ...part } : f)));
  const readPicture = async (i: number, file: File): Promise<void> => {
    if (file.size > LARGEST_PICTURE) {
      setProblem(
        `${file.name} is ${(file.size / 1e6).toFixed(0)} MB; at most ${LARGEST_PICTURE / 1e6} MB are read. Make it smaller first.`,
      );
      return;
    }
    setBusy(true);
    try {
      const { id, name, width, height, darkness } = await sendPicture(file);
      const light = batch.blank.spec.shape.kind === 'round' && batch.blank.spec.shape.material === 'glass';
      const treatment = light ? GLASS_TREATMENT : FRESH_TREATMENT;
      change(i, { content: { kind: 'picture', pictureId: id, name, width, height, darkness, treatment } });
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  const readArt = async (i: number, file: File | undefined): Promise<void> => {
    if (!file) return;
    if (isPictureName(file.name)) return readPicture(i, file);
    setBusy(true);
    try {
      const name = artName(file.name);
      const artworkId = await shelveNow(file, { name, customer: batch.customer });
      change(i, { content: { kind: 'artwork', artworkId, revision: 1, name } });
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  const newestOf = (id: string): number | undefined => artworks.find((a) => a.id === id)?.revisions.length;
  // What was put away is still carried by who has it.
  const onShelf = ({ content }: Face): (readonly [string, string])[] => [
    ...artworks.map((a) => [a.id, a.name] as const),
    ...(content.kind === 'artwork' && !artworks.some((a) => a.id === content.artworkId)
      ? [[content.artworkId, content.name] as const]
      : []),
  ];
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title="What goes where"
      note="Zones belong to the blank (Blank station). Angles count from its feature, to the right as it stands."
    >
      {faces.length === 0 && <p className="mb-2 text-soft">Nothing is engraved yet. Add a face.</p>}
      {faces.map((f, i) => (
        <div key={i} className="mb-3 border border-hairline p-3">
          <LiveFields schema={faceFields} value={placed(f)} onChange={(part) => change(i, part)}>
            <div className="grid grid-cols-[1.3fr_1.3fr_1.2fr_0.8fr_2rem] items-end gap-3 max-[800px]:grid-cols-2">
              <Field
                at="zoneId"
                of={zones.map((z) => [z.id, `${z.name}, ${fixed(((z.angle ?? 0) * 180) / Math.PI, 0)}°`] as const)}
              />
              <Select
                label="Carries"
                value={
                  f.content.kind === 'artwork'
                    ? f.content.artworkId
                    : f.content.kind === 'lettering'
                      ? 'lettering'
                      : 'art'
                }
                options={[
                  ['lettering', 'names, and what else its zone carries'],
                  ...onShelf(f),
                  ['art', f.content.kind === 'picture' ? f.content.name : 'art or a picture from a file'],
                ]}
                onChange={(kind) => {
                  const artwork = artworks.find((a) => a.id === kind);
                  if (artwork)
                    change(i, {
                      content: {
                        kind: 'artwork',
                        artworkId: kind,
                        revision: artwork.revisions.length,
                        name: artwork.name,
                      },
                    });
                  else if (kind === 'lettering') change(i, { content: { kind: 'lettering' } });
                  else if (kind === 'art') document.getElementById(`art-${i}`)?.click();
                }}
              />
              <Field at="reads" />
              <Field at="repeats" />
              <button
                className="pb-2 text-blue"
                aria-label={`Take out face ${i + 1}`}
                onClick={() => put(faces.filter((_, k) => k !== i))}
              >
                ✕
              </button>
            </div>
            <div className="flex flex-wrap items-center gap-5">
              <Field at="wraps" />
              <label className="text-[13px] text-soft">
                art (SVG, DXF, PDF: it goes on the Shelf) or a picture (PNG, JPEG, WebP){' '}
                <input
                  id={`art-${i}`}
                  type="file"
                  accept=".svg,.dxf,.pdf,.png,.jpg,.jpeg,.webp"
                  onChange={(e) => void readArt(i, e.target.files?.[0])}
                />
              </label>
            </div>
          </LiveFields>
          {f.content.kind === 'artwork' && (
            <NewerFile
              what="this face"
              have={f.content.revision}
              newest={newestOf(f.content.artworkId)}
              onTake={(revision) => f.content.kind === 'artwork' && change(i, { content: { ...f.content, revision } })}
            />
          )}
          {f.content.kind === 'artwork' && !f.wraps && (
            <LiveFields
              schema={artSize}
              value={{ size: f.content.size ?? 'fit' }}
              onChange={({ size }) => {
                if (f.content.kind === 'artwork') change(i, { content: { ...f.content, size } });
              }}
            >
              <div className="mt-2 grid grid-cols-[1.3fr_2fr] items-end gap-3 max-[800px]:grid-cols-1">
                <Field at="size" />
                <ArtComesOut face={round?.faces.find((shown) => shown.zone.id === f.zoneId && shown.size)} />
              </div>
            </LiveFields>
          )}
          {f.content.kind === 'picture' && (
            <PictureFields
              content={f.content}
              across={round?.faces.find((shown) => shown.zone.id === f.zoneId && shown.picture)?.picture?.width ?? 50}
              interval={round?.on?.interval?.used ?? batch.recipe?.spec.engrave.interval ?? 0.1}
              spot={batch.machine.profile.kerf}
              onChange={(content) => change(i, { content })}
            />
          )}
        </div>
      ))}
      <p>
        <button
          className="act"
          disabled={zones.length === 0}
          onClick={() =>
            put([
              ...faces,
              { zoneId: zones[0]!.id, content: { kind: 'lettering' }, reads: 'around', repeats: 1, wraps: false },
            ])
          }
        >
          Add a face
        </button>
      </p>
      {children}
      {busy && <p className="mt-2 text-soft">Reading the file …</p>}
      {problem && <Finding tone="out">{problem}</Finding>}
      <p className="mt-4 flex justify-end">
        <button className="act act-main" onClick={onClose}>
          Close
        </button>
      </p>
    </Modal>
  );
};
