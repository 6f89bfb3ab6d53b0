import { useState } from 'react';
import { Link } from 'react-router';
import type { ZoneContentDocument } from '@bistre/contract';
import { burnsLight, CODE_NAMES, fixed, wayOf, wordsIn } from '@bistre/core';
import { newId } from '../../../data/api';
import { useArtworks } from '../../../data/queries';
import { Select } from '../../../parts/fields';
import type { BatchProps } from '../../../ways/pages';
import { ArtworkFields, byName, ListedFields } from './ArtFields';
import { CodeFields, GiveNumbers, SerialFields } from './CodeFields';
import { ShadesFields, TakePicture } from './PictureInZone';
import { LaidFigures, Lies } from './Lies';
import type { Contents, Known, Laid, Names, Of } from './parts';

const titleOf = (content: ZoneContentDocument, laid: Laid | undefined): string => {
  switch (content.kind) {
    case 'artwork':
      return laid?.name ?? 'artwork';
    case 'listed':
      return 'art by the list';
    case 'code':
      return CODE_NAMES[content.symbology];
    case 'serial':
      return 'serial number';
    case 'picture':
      return content.name;
  }
};

/** What belongs to its kind alone. */
const Own = ({ content, onChange, known, laid }: { content: ZoneContentDocument; onChange: (next: ZoneContentDocument) => void; known: Known; laid: Laid | undefined }) => {
  switch (content.kind) {
    case 'artwork':
      return <ArtworkFields {...{ content, onChange, known }} />;
    case 'listed':
      return <ListedFields {...{ content, onChange, known }} />;
    case 'code':
      return <CodeFields {...{ content, onChange, known }} module={laid?.scale} />;
    case 'serial':
      return <SerialFields {...{ content, onChange, known }} />;
    case 'picture':
      return <ShadesFields {...{ content, onChange, known }} laid={laid} onTraced={onChange} />;
  }
}; // prettier-ignore

/** One thing in a zone: what it is and how large it comes out; opened, all that can be said of it. */
const Row = ({
  content,
  laid,
  zones,
  known,
  open,
  onOpen,
  onChange,
  onDrop,
}: {
  content: ZoneContentDocument;
  laid: Laid | undefined;
  zones: Names;
  known: Known;
  open: boolean;
  /** Absent where it stays as it is. */
  onOpen: (() => void) | undefined;
  onChange: (next: ZoneContentDocument) => void;
  onDrop: () => void;
}) => {
  const title = titleOf(content, laid);
  const zone = zones.find(([id]) => id === content.zoneId)?.[1] ?? 'no zone';
  return (
    <div role="group" aria-label={title} className="border-t border-hairline py-1.5">
      <div className="flex items-center gap-3">
        <p className="min-w-0 flex-1">
          <b className="inline-block first-letter:uppercase">{title}</b>
          <span className="text-soft"> in {zone}</span>
          {laid && !open && <Size of={laid} />}
        </p>
        {onOpen && (
          <button type="button" className="link" aria-expanded={open} onClick={onOpen}>
            {open ? 'close' : 'change'}
          </button>
        )}
        <button
          type="button"
          className="act min-w-11 justify-center !px-0"
          aria-label={`Take ${title === 'artwork' ? 'it' : title} out`}
          onClick={onDrop}
        >
          ✕
        </button>
      </div>
      {open && (
        <>
          <div className="mt-1 grid grid-cols-2 items-end gap-2">
            {content.kind === 'artwork' && (
              <Select
                label="Artwork"
                value={content.artworkId}
                options={known.artworks}
                onChange={(artworkId) => onChange({ ...content, artworkId, revision: known.newestOf(artworkId) ?? 1, choice: null })} // prettier-ignore
              />
            )}
            <Select
              label="In"
              value={content.zoneId}
              options={zones}
              onChange={(zoneId) => onChange({ ...content, zoneId })}
            />
          </div>
          <Own {...{ content, onChange, known, laid }} />
          <Lies content={content} laid={laid} mayReach={!known.round} onChange={onChange} />
          {laid && <LaidFigures kind={content.kind} laid={laid} round={known.round} />}
        </>
      )}
    </div>
  );
};

const Size = ({ of: { box } }: { of: Laid }) => (
  <span className="ml-3 whitespace-nowrap">
    {fixed(box.maxX - box.minX, 1)} × {fixed(box.maxY - box.minY, 1)} mm
  </span>
);

/** What zones carry beside their lettering: art from the Shelf, codes, serial numbers. */
export const ContentsFields = ({ handle, shown, onPlace }: BatchProps & { onPlace: () => void }) => {
  const { data: artworks = [] } = useArtworks();
  const { batch } = handle;
  const contents: Contents = batch.setup.contents ?? [];
  const zones = batch.blank.spec.zones.map((z) => [z.id, z.name] as const);
  const [numbering, setNumbering] = useState<string | null>(null);
  const [opened, setOpened] = useState<string | null>(null);
  if (zones.length === 0)
    return (
      <p className="mt-2">
        {batch.blank.name} has no zone to put anything in.{' '}
        <Link className="link" to={`/shelf/blanks/${batch.blank.id}`}>
          Give it one on the Shelf
        </Link>
      </p>
    );
  const laid = shown.reckoning.art?.laid ?? [];
  const put = (next: Contents): void => handle.update('contents', next);
  // Laid flat it is drawn by its way; it is engraved by one recipe, and ends where it ends.
  const round = Boolean(shown.reckoning.own.round);
  const known: Known = {
    handle,
    round,
    // What was put away is still carried by who has it.
    artworks: [
      ...artworks.map((a) => [a.id, a.name] as const),
      ...batch.artworks.filter((u) => !artworks.some((a) => a.id === u.id)).map((u) => [u.id, u.name] as const),
    ],
    newestOf: (id) => artworks.find((a) => a.id === id)?.revisions.length,
  };
  const here = shown.reckoning.zone?.id;
  const lies = () => ({
    id: newId(),
    zoneId: here ?? zones[0]![0],
    size: { kind: 'fit' as const },
    turn: 0,
    mirrored: false,
  });
  const add = (content: ZoneContentDocument): void => {
    setOpened(content.id);
    put([...contents, content]);
  };
  const column = batch.columns[0];
  const give = (so: Pick<Of<'serial'>, 'prefix' | 'digits' | 'step' | 'first'>): void => {
    setNumbering(null);
    if (numbering === 'new')
      add({ ...lies(), size: { kind: 'true' }, kind: 'serial', alphabet: 'readability', capHeight: 3, ...so });
    else put(contents.map((c) => (c.id === numbering && c.kind === 'serial' ? { ...c, ...so } : c)));
  };
  const numbered = contents.find((c): c is Of<'serial'> => c.kind === 'serial' && c.id === numbering);
  return (
    <section aria-label="In the zones beside lettering" className="mt-2">
      {contents.map((c) => (
        <Row
          key={c.id}
          content={c}
          laid={laid.find((l) => l.id === c.id)}
          zones={zones}
          known={known}
          // One alone lies open.
          open={contents.length === 1 || c.id === opened}
          onOpen={contents.length === 1 ? undefined : () => setOpened(c.id === opened ? null : c.id)}
          onChange={(next) => put(contents.map((x) => (x.id === c.id ? next : x)))}
          onDrop={() => put(contents.filter((x) => x.id !== c.id))}
        />
      ))}
      {numbering !== null && (
        <GiveNumbers
          of={numbered ?? { prefix: '', digits: 4, step: 1, first: null }}
          count={batch.quantity}
          onGive={give}
          onLeave={() => setNumbering(null)}
        />
      )}
      {laid.length > 0 && !round && (
        <button type="button" className="link mb-1" onClick={onPlace}>
          move them on one piece, drawn large
        </button>
      )}
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        <span className="text-soft">Put in a zone:</span>
        {artworks.length === 0 ? (
          <Link className="link" to="/shelf/artworks/new">
            a logo or a crest, from its file
          </Link>
        ) : (
          <button
            type="button"
            className="link"
            onClick={() => add({ ...lies(), kind: 'artwork', artworkId: artworks[0]!.id, revision: artworks[0]!.revisions.length })} // prettier-ignore
          >
            art
          </button>
        )}
        {artworks.length > 0 && column !== undefined && (
          <button
            type="button"
            className="link"
            onClick={() => add({ ...lies(), kind: 'listed', column, of: byName(wordsIn(batch.roster, column), known) })}
          >
            art by the list
          </button>
        )}
        <button
          type="button"
          className="link"
          onClick={() => add({ ...lies(), kind: 'code', symbology: 'qr', text: column === undefined ? batch.name : `{${column}}`, reversed: burnsLight(batch.blank.spec.material ?? '') })} // prettier-ignore
        >
          a code
        </button>
        <button type="button" className="link" onClick={() => setNumbering('new')}>
          serial numbers
        </button>
        {wayOf(batch).carries(batch).includes('picture') && (
          <TakePicture batch={batch} onTake={(taken) => add({ ...lies(), ...taken })} />
        )}
      </div>
    </section>
  );
};
