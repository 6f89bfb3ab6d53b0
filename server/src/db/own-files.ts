import { contoursBox, readArt, stylesOf, type Contour, type LongShape } from '@bistre/core';
import { createHash, randomUUID } from 'node:crypto';
import { sql, type Kysely, type Migration } from 'kysely';
import { DRAWING_ROLES, drawingFile } from '../drawing-file';
import { plainSvg } from '../work/plain-svg';

type Json = Readonly<Record<string, unknown>>;
type Shapes = readonly Pick<LongShape, 'kind' | 'contour'>[];

interface OldZone {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly margin: number;
  readonly side?: string;
}

interface OldBatch {
  readonly id: string;
  readonly name: string;
  readonly customer: string;
  readonly setup: Json;
  readonly blankId: string;
  readonly shape: { readonly kind: string; readonly length?: number; readonly width?: number };
  readonly zones: readonly OldZone[];
}

/** A face that carries a file of its own. */
const ownFile = (face: Json): { name: string; contours: readonly Contour[]; size?: string } | null => {
  const content = face['content'] as Json | undefined;
  return content?.['kind'] === 'art' ? (content as never) : null;
};

/** Names on the Shelf are each one's own. */
const freeName = async (db: Kysely<unknown>, wanted: string): Promise<string> => {
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? wanted.slice(0, 80) : `${wanted.slice(0, 74)} ${n}`;
    const { rows } = await sql<{ taken: boolean }>`
      select exists (select from artworks where lower(name) = lower(${name})) as taken`.execute(db);
    if (!rows[0]!.taken) return name;
  }
};

/** Puts a file that a batch kept for itself on the Shelf; nothing where it cannot be read any more. */
const shelve = async (db: Kysely<unknown>, batch: OldBatch, name: string, shapes: Shapes): Promise<string | null> => {
  const text = drawingFile(shapes);
  const art = readArt('own.svg', text, plainSvg);
  if (!art.ok) return null;
  const id = randomUUID();
  const plain = name.replace(/\.[^.]*$/, '') || 'Art';
  const spec = { customer: batch.customer, roles: DRAWING_ROLES };
  await sql`insert into artworks (id, name, spec)
    values (${id}, ${await freeName(db, `${plain}, ${batch.name}`)}, ${JSON.stringify(spec)}::jsonb)`.execute(db);
  await sql`insert into artwork_revisions (artwork_id, number, file_name, file, sha256, art, by)
    values (${id}, 1, ${`${plain}.svg`}, ${Buffer.from(text)}, ${createHash('sha256').update(text).digest('hex')},
      ${JSON.stringify({ ...art.value, styles: stylesOf(art.value.shapes) })}::jsonb, 'Bistre')`.execute(db);
  return id;
};

const isFront = ({ side }: OldZone): boolean => (side ?? 'front') === 'front';

/** The zone that such art lies in: the first of the blank, or one that is all of it, where it has none. */
const zoneFor = async (db: Kysely<unknown>, { blankId, shape, zones }: OldBatch): Promise<OldZone> => {
  const first = zones.find(isFront);
  if (first) return first;
  const whole = { id: 'whole', name: 'whole', x: 0, y: 0, width: shape.length ?? 100, height: shape.width ?? 100, margin: 0, across: 'centre', down: 'middle', keepOuts: [] }; // prettier-ignore
  await sql`update blanks set spec = jsonb_set(spec, '{zones}', coalesce(spec -> 'zones', '[]'::jsonb) || ${JSON.stringify([whole])}::jsonb)
    where id = ${blankId} and not coalesce(spec -> 'zones', '[]'::jsonb) @> '[{"id": "whole"}]'::jsonb`.execute(db);
  // Where there was no zone nothing was lettered, whatever had been chosen; that stays so.
  await sql`update batches set setup = jsonb_set(setup, '{lettering,lines}', '[]'::jsonb)
    where blank_id = ${blankId} and setup ? 'lettering'`.execute(db);
  return whole;
};

/** Whether art about the middle of its blank lies on the blank, though not within its zone. */
const leavesZoneOnly = (shapes: Shapes, zone: OldZone, { shape }: OldBatch): boolean => {
  const box = contoursBox(shapes.map((s) => s.contour));
  const [w, h] = [(box.maxX - box.minX) / 2, (box.maxY - box.minY) / 2];
  const [zw, zh] = [zone.width / 2 - zone.margin, zone.height / 2 - zone.margin];
  const within = Math.abs(zone.x) + w <= zw + 0.01 && Math.abs(zone.y) + h <= zh + 0.01;
  return !within && w <= (shape.length ?? 0) / 2 + 0.01 && h <= (shape.width ?? 0) / 2 + 0.01;
};

/** Whether a batch’s work is in segments, the only work that burned art of its own. */
const inSegments = ({ setup }: OldBatch): boolean => {
  const held = setup['held'] as { way?: string; choice?: { work?: { kind?: string } } } | undefined;
  return held?.way === 'long' || (held?.way === 'feed' && held.choice?.work?.kind === 'long');
};

const contentOf = async (db: Kysely<unknown>, batch: OldBatch, artworkId: string, shapes: Shapes): Promise<Json> => {
  const zone = await zoneFor(db, batch);
  return {
    kind: 'artwork',
    id: randomUUID(),
    zoneId: zone.id,
    artworkId,
    revision: 1,
    size: { kind: 'true' },
    // About the middle of the work, as it lay.
    across: 'centre',
    down: 'middle',
    offset: { x: -zone.x, y: -zone.y },
    turn: 0,
    mirrored: false,
    ...(leavesZoneOnly(shapes, zone, batch) ? { over: true } : {}),
  };
};

const facesNow = async (db: Kysely<unknown>, batch: OldBatch, faces: readonly Json[]): Promise<readonly Json[]> => {
  const out: Json[] = [];
  for (const face of faces) {
    const own = ownFile(face);
    if (!own) {
      out.push(face);
      continue;
    }
    const shapes = own.contours.map((contour) => ({ kind: contour.closed ? 'fill' : 'line', contour }) as const);
    const artworkId = await shelve(db, batch, own.name, shapes);
    const name = own.name.slice(0, 80);
    if (artworkId)
      out.push({ ...face, content: { kind: 'artwork', artworkId, revision: 1, name, ...(own.size ? { size: own.size } : {}) } }); // prettier-ignore
  }
  return out;
};

const setupNow = async (db: Kysely<unknown>, batch: OldBatch): Promise<Json> => {
  const { art, faces, ...rest } = batch.setup as Json & { art?: { name: string; shapes: Shapes } | null };
  const artworkId = art ? await shelve(db, batch, art.name, art.shapes) : null;
  const bare = !batch.zones.some(isFront);
  const contents = (rest['contents'] as readonly Json[] | null | undefined) ?? [];
  return {
    ...rest,
    ...(faces === undefined ? {} : { faces: await facesNow(db, batch, faces as readonly Json[]) }),
    ...(artworkId && inSegments(batch)
      ? {
          contents: [...contents, await contentOf(db, batch, artworkId, art!.shapes)],
          ...(bare && rest['lettering'] ? { lettering: { ...(rest['lettering'] as Json), lines: [] } } : {}),
        }
      : {}),
  };
};

/** First answers stay for writes that are sent again, without the faces that nobody can read any more. */
const repliesNow = async (db: Kysely<unknown>): Promise<void> => {
  const { rows } = await sql<{ key: string; body: string }>`
    select key, body from replies where body like '%"kind":"art"%'`.execute(db);
  for (const { key, body } of rows) {
    const document = JSON.parse(body) as { setup?: { faces?: readonly Json[] } };
    const { setup } = document;
    if (!setup?.faces) continue;
    const left = { ...document, setup: { ...setup, faces: setup.faces.filter((f) => !ownFile(f)) } };
    await sql`update replies set body = ${JSON.stringify(left)} where key = ${key}`.execute(db);
  }
};

/**
 * Files that batches kept for themselves are artworks of the Shelf: art of work in segments lies in a zone of its blank, where
 * it lay; faces of round work name their artwork. What would bring such a file back is not taken back any more.
 */
export const ownFiles: Migration = {
  async up(db: Kysely<unknown>) {
    const { rows } = await sql<OldBatch>`
      select b.id, b.name, coalesce(b.customer, '') as customer, b.setup, k.id as "blankId", k.spec -> 'shape' as shape,
        coalesce(k.spec -> 'zones', '[]'::jsonb) as zones
      from batches b join blanks k on k.id = b.blank_id
      where b.setup ? 'art' or b.setup -> 'faces' @> '[{"content": {"kind": "art"}}]'::jsonb`.execute(db);
    for (const batch of rows)
      await sql`update batches set setup = ${JSON.stringify(await setupNow(db, batch))}::jsonb
        where id = ${batch.id}`.execute(db);
    await sql`
      update events set undo = null where undo ->> 'section' = 'art' or undo::text like '%"kind": "art"%';
      update events set undo = jsonb_set(undo, '{before}', (undo -> 'before') - 'art')
        where undo ->> 'kind' = 'sections' and undo -> 'before' ? 'art';
      update events set parts = array_replace(parts, 'art', 'contents') where 'art' = any (parts);
    `.execute(db);
    await repliesNow(db);
  },
};
