import { artHeight, artWidth, moved, type ZoneContentDocument } from '@bistre/contract';
import { fixed } from '@bistre/core';
import { Measure, Select, Tick } from '../../../parts/fields';
import { Working } from '../../../parts/Reading';
import type { Laid, Names } from './parts';

type Size = ZoneContentDocument['size'];

const SIZES: Readonly<Record<ZoneContentDocument['kind'], Names>> = {
  artwork: [['true', 'as its file says'], ['width', 'so wide'], ['height', 'so high'], ['fit', 'as the zone takes it']], // prettier-ignore
  listed: [['true', 'as its file says'], ['width', 'so wide'], ['height', 'so high'], ['fit', 'as the zone takes it']], // prettier-ignore
  code: [
    ['width', 'so wide'],
    ['fit', 'as the zone takes it'],
  ],
  picture: [
    ['width', 'so wide'],
    ['height', 'so high'],
    ['fit', 'as the zone takes it'],
  ],
  serial: [
    ['true', 'by its capitals'],
    ['width', 'so wide'],
    ['fit', 'as the zone takes it'],
  ],
};
const TURNS = [
  ['0', 'as drawn'],
  ['90', 'a quarter to the left'],
  ['180', 'half round'],
  ['270', 'a quarter to the right'],
] as const;
const ACROSS = [['', 'as the zone'], ['left', 'left'], ['centre', 'centre'], ['right', 'right']] as const; // prettier-ignore
const DOWN = [['', 'as the zone'], ['top', 'top'], ['middle', 'middle'], ['bottom', 'bottom']] as const; // prettier-ignore

/** How something lies in its zone: how large, where, which way round. */
export const Lies = <C extends ZoneContentDocument>({
  content,
  laid,
  mayReach,
  onChange,
}: {
  content: C;
  laid: Laid | undefined;
  /** Whether it may reach over the edge of what it lies on. */
  mayReach: boolean;
  onChange: (next: C) => void;
}) => {
  const { size } = content;
  const width = laid ? laid.box.maxX - laid.box.minX : 20;
  const height = laid ? laid.box.maxY - laid.box.minY : 20;
  const sized = (kind: string): Size =>
    kind === 'width' ? { kind, width: Number(fixed(width, 1)) } : kind === 'height' ? { kind, height: Number(fixed(height, 1)) } : { kind: kind as 'true' }; // prettier-ignore
  const turn = Math.round((content.turn * 180) / Math.PI);
  const quarter = ((turn % 360) + 360) % 360;
  const known = TURNS.some(([t]) => t === String(quarter));
  return (
    <div className="mt-1.5 grid grid-cols-3 items-end gap-2">
      <Select
        label="Size"
        value={size.kind}
        options={SIZES[content.kind]}
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
        value={known ? String(quarter) : 'free'}
        options={known ? TURNS : [...TURNS, ['free', `${turn}°`]]}
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
      <Measure
        of={moved}
        at="x"
        label="Moved to the right"
        value={content.offset?.x ?? 0}
        onCommit={(x) => onChange({ ...content, offset: { x, y: content.offset?.y ?? 0 } })}
      />
      <Measure
        of={moved}
        at="y"
        label="Moved to the back"
        value={content.offset?.y ?? 0}
        onCommit={(y) => onChange({ ...content, offset: { x: content.offset?.x ?? 0, y } })}
      />
      <Tick
        label="mirrored, to be seen from behind"
        checked={content.mirrored}
        onChange={(mirrored) => onChange({ ...content, mirrored })}
      />
      {mayReach && (
        <Tick
          label="over the edge on purpose"
          checked={content.over === true}
          onChange={(over) => onChange({ ...content, over: over || null })}
        />
      )}
    </div>
  );
};

const sides = ({ left, right, front, back }: Laid['room']): string =>
  `${fixed(left, 1)} left, ${fixed(right, 1)} right, ${fixed(front, 1)} front, ${fixed(back, 1)} back`;

/** Its size, and the room that is left, in figures. */
export const LaidFigures = ({
  kind,
  laid,
  round,
}: {
  kind: ZoneContentDocument['kind'];
  laid: Laid;
  round: boolean;
}) => {
  const { box, room, edges, scale, doubt, beyond, pieces, working } = laid;
  const ofFile = kind === 'artwork' || kind === 'listed';
  return (
    <p className="mt-1 text-[13px]">
      <b>
        {fixed(box.maxX - box.minX, 1)} × {fixed(box.maxY - box.minY, 1)} mm
      </b>
      {ofFile && Math.abs(scale - 1) > 1e-6 && `, ${fixed(scale, 3)} times its file`}
      {kind === 'code' && ` with its clear rim, ${fixed(scale)} mm a module`}; room to the zone: {sides(room)}
      {!round && `; to the edges of the piece: ${sides(edges)}`}.
      {beyond !== undefined && ` It reaches ${fixed(beyond, 1)} mm over the edge: lay a backing sheet under it.`}
      {doubt !== undefined && ` Traced from a picture: its outlines are known to ± ${fixed(2 * doubt)} mm.`}
      {pieces !== null && ` On ${pieces} ${pieces === 1 ? 'piece' : 'pieces'}; the first of them is ${laid.name}.`}
      {working.length > 0 && (
        <>
          {' '}
          <Working lines={working} title={`where ${laid.name} lies`} />
        </>
      )}
    </p>
  );
};
