import { Link } from 'react-router';
import { artHeight, artWidth, type Setup, type ZoneContentDocument } from '@bistre/contract';
import { fixed } from '@bistre/core';
import { newId } from '../../data/api';
import { useArtworks } from '../../data/queries';
import { Measure, Select, Tick } from '../../parts/fields';
import { NewerFile } from '../../parts/NewerFile';
import type { BatchProps } from '../../ways/pages';

type Contents = NonNullable<Setup['contents']>;
type Size = ZoneContentDocument['size'];

const SIZES = [
  ['true', 'as its file says'],
  ['width', 'so wide'],
  ['height', 'so high'],
  ['fit', 'as the zone takes it'],
] as const;
const TURNS = [
  ['0', 'as drawn'],
  ['90', 'a quarter to the left'],
  ['180', 'half round'],
  ['270', 'a quarter to the right'],
] as const;
const ACROSS = [['', 'as the zone'], ['left', 'left'], ['centre', 'centre'], ['right', 'right']] as const; // prettier-ignore
const DOWN = [['', 'as the zone'], ['top', 'top'], ['middle', 'middle'], ['bottom', 'bottom']] as const; // prettier-ignore

/** One artwork in a zone: how large, where, which way; and what room is left. */
const Row = ({
  content,
  laid,
  names,
  zones,
  newestOf,
  onChange,
  onDrop,
}: {
  content: ZoneContentDocument;
  laid: Laid | undefined;
  names: readonly (readonly [string, string])[];
  zones: readonly (readonly [string, string])[];
  newestOf: (artworkId: string) => number | undefined;
  onChange: (next: ZoneContentDocument) => void;
  onDrop: () => void;
}) => {
  const { size } = content;
  const width = laid ? laid.box.maxX - laid.box.minX : 20;
  const height = laid ? laid.box.maxY - laid.box.minY : 20;
  const sized = (kind: string): Size =>
    kind === 'width' ? { kind, width: Number(fixed(width, 1)) } : kind === 'height' ? { kind, height: Number(fixed(height, 1)) } : { kind: kind as 'true' }; // prettier-ignore
  const turn = Math.round((content.turn * 180) / Math.PI);
  const quarter = ((turn % 360) + 360) % 360;
  return (
    <div role="group" aria-label={laid?.name ?? 'artwork'} className="border-t border-hairline py-2">
      <div className="grid grid-cols-[1.4fr_1fr_2.2rem] items-end gap-2">
        <Select
          label="Artwork"
          value={content.artworkId}
          options={names}
          onChange={(artworkId) => onChange({ ...content, artworkId, revision: newestOf(artworkId) ?? 1 })}
        />
        <Select
          label="In"
          value={content.zoneId}
          options={zones}
          onChange={(zoneId) => onChange({ ...content, zoneId })}
        />
        <button
          type="button"
          className="act min-w-9 justify-center !px-0"
          aria-label={`Take ${laid?.name ?? 'it'} out`}
          onClick={onDrop}
        >
          ✕
        </button>
      </div>
      <div className="mt-1.5 grid grid-cols-3 items-end gap-2">
        <Select
          label="Size"
          value={size.kind}
          options={SIZES}
          onChange={(kind) => onChange({ ...content, size: sized(kind) })}
        />
        {size.kind === 'width' && (
          <Measure
            of={artWidth}
            at="width"
            label="Width"
            value={size.width}
            onCommit={(w) => onChange({ ...content, size: { kind: 'width', width: w } })}
          />
        )}
        {size.kind === 'height' && (
          <Measure
            of={artHeight}
            at="height"
            label="Height"
            value={size.height}
            onCommit={(h) => onChange({ ...content, size: { kind: 'height', height: h } })}
          />
        )}
        <Select
          label="Turned"
          value={TURNS.some(([t]) => t === String(quarter)) ? String(quarter) : 'free'}
          options={TURNS.some(([t]) => t === String(quarter)) ? TURNS : [...TURNS, ['free', `${turn}°`]]}
          onChange={(t) => onChange({ ...content, turn: t === 'free' ? content.turn : (Number(t) * Math.PI) / 180 })}
        />
        <Select
          label="Across"
          value={content.across ?? ''}
          options={ACROSS}
          onChange={(a) => onChange({ ...content, across: a === '' ? null : (a as 'left') })}
        />
        <Select
          label="Down"
          value={content.down ?? ''}
          options={DOWN}
          onChange={(d) => onChange({ ...content, down: d === '' ? null : (d as 'top') })}
        />
        <Tick
          label="mirrored, to be seen from behind"
          checked={content.mirrored}
          onChange={(mirrored) => onChange({ ...content, mirrored })}
        />
      </div>
      {laid && (
        <p className="mt-1 text-[13px]">
          <b>
            {fixed(width, 1)} × {fixed(height, 1)} mm
          </b>
          {Math.abs(laid.scale - 1) > 1e-6 && `, ${fixed(laid.scale, 3)} times its file`}; room to the zone:{' '}
          {fixed(laid.room.left, 1)} left, {fixed(laid.room.right, 1)} right, {fixed(laid.room.front, 1)} front,{' '}
          {fixed(laid.room.back, 1)} back.
        </p>
      )}
      <NewerFile
        what="this batch"
        have={content.revision}
        newest={newestOf(content.artworkId)}
        onTake={(revision) => onChange({ ...content, revision })}
      />
    </div>
  );
};

type Laid = NonNullable<NonNullable<BatchProps['shown']['reckoning']['art']>['laid']>[number];

/** Art that zones carry beside their lettering, from the Shelf. */
export const ContentsFields = ({ handle, shown }: BatchProps) => {
  const { data: artworks = [] } = useArtworks();
  const contents: Contents = handle.batch.setup.contents ?? [];
  const zones = handle.batch.blank.spec.zones.map((z) => [z.id, z.name] as const);
  const laid = shown.reckoning.art?.laid ?? [];
  const put = (next: Contents): void => handle.update('contents', next);
  // What was put away is still carried by who has it.
  const names = [
    ...artworks.map((a) => [a.id, a.name] as const),
    ...handle.batch.artworks.filter((u) => !artworks.some((a) => a.id === u.id)).map((u) => [u.id, u.name] as const),
  ];
  const newestOf = (id: string): number | undefined => artworks.find((a) => a.id === id)?.revisions.length;
  if (zones.length === 0) return null;
  return (
    <section aria-label="Art in the zones" className="mt-2">
      {contents.map((c) => (
        <Row
          key={c.id}
          content={c}
          laid={laid.find((l) => l.id === c.id)}
          names={names}
          zones={zones}
          newestOf={newestOf}
          onChange={(next) => put(contents.map((x) => (x.id === c.id ? next : x)))}
          onDrop={() => put(contents.filter((x) => x.id !== c.id))}
        />
      ))}
      {artworks.length === 0 ? (
        <p className="text-[13px] text-soft">
          A logo or a crest on every piece?{' '}
          <Link className="link" to="/shelf/artworks/new">
            Put its file on the Shelf.
          </Link>
        </p>
      ) : (
        <button
          type="button"
          className="link"
          onClick={() =>
            put([
              ...contents,
              { kind: 'artwork', id: newId(), zoneId: zones[0]![0], artworkId: artworks[0]!.id, revision: artworks[0]!.revisions.length, size: { kind: 'fit' }, turn: 0, mirrored: false }, // prettier-ignore
            ])
          }
        >
          put art in a zone
        </button>
      )}
    </section>
  );
};
