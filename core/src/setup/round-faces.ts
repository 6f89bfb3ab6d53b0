import { batchArt, carriedBy, pieceShapes, rectBox, withArt, type BatchArt, type ZoneContent } from '../artwork';
import {
  bandWidth,
  diameterAt,
  evenFaces,
  fitInto,
  inTurn,
  linesBox,
  turnBegins,
  type FacePlace,
  type RoundShape,
  type Seam,
} from '../drive';
import { boxCorners, flatten, polyline, type Vec } from '../geometry';
import type { Blank, Zone } from '../holding';
import type { Alphabet } from '../lettering';
import { type Mm, type Ordinal, type Rad, nth } from '../units';
import type { BatchInput, FaceChoice, PictureOnFace } from './input';

/** Lines and areas of one face in its picture frame (reading direction to the right), mm of surface. */
export interface FaceShapes {
  readonly filled: readonly (readonly Vec[])[];
  readonly drawn: readonly (readonly Vec[])[];
}

/** How large art comes out, mm, in its reading direction, and times its own size along and across it. */
export interface ArtSize {
  readonly width: Mm;
  readonly height: Mm;
  readonly across: number;
  readonly along: number;
}

/** A face with where it goes and what it carries. */
export interface PlacedFace {
  readonly choice: FaceChoice;
  readonly zone: Zone;
  readonly places: readonly FacePlace[];
  /** Room around and along, margins taken off, mm. */
  readonly around: Mm;
  readonly along: Mm;
  /** Half of what it takes round, rad. */
  readonly half: Rad;
  /** Imported art as fitted, with its size in its reading direction and what its file's own is multiplied by; null where the roster fills it. */
  readonly art: (FaceShapes & { readonly size: ArtSize }) | null;
  /** Size that a picture takes in its reading direction, mm; null where none is carried. */
  readonly picture: { readonly content: PictureOnFace; readonly width: Mm; readonly height: Mm } | null;
}

const TURN = 2 * Math.PI;
/** Angles are taken the short way from where it is zeroed, so that as little as possible is turned before art begins. */
const shortWay = (angle: Rad, zeroAt: Rad): Rad => {
  const onward = inTurn(angle, zeroAt);
  return onward > zeroAt + Math.PI + 1e-12 ? onward - TURN : onward;
};

/** A picture in a room: whole and undistorted, or as wide as the wrap with its height kept where that fits. */
const fitPicture = (choice: FaceChoice, width: Mm, height: Mm): PlacedFace['picture'] => {
  if (choice.content.kind !== 'picture') return null;
  const content = choice.content;
  const scale = Math.min(width / content.width, height / content.height);
  if (choice.wraps) return { content, width, height: Math.min(height, (width / content.width) * content.height) };
  return { content, width: scale * content.width, height: scale * content.height };
};

/** Imported contours in a room: in its middle undistorted, true or as large as it takes them, or stretched to meet itself all the way round. */
const fitArt = (choice: FaceChoice, width: Mm, height: Mm): PlacedFace['art'] => {
  if (choice.content.kind !== 'art') return null;
  const lines = choice.content.contours.map((c) => ({ closed: c.closed, points: flatten(c, 0.01) }));
  const box = linesBox(lines.map((l) => l.points));
  const whole = fitInto(box, width, height);
  const fit = choice.content.size === 'true' && !choice.wraps ? { ...whole, scale: 1 } : whole;
  // Wrapped art takes the whole width; its height keeps its own proportion where that fits.
  const kx = choice.wraps ? width / Math.max(1e-9, box.maxX - box.minX) : fit.scale;
  const ky = choice.wraps ? Math.min(kx, height / Math.max(1e-9, box.maxY - box.minY)) : fit.scale;
  const put = (points: readonly Vec[]): Vec[] => points.map((p) => ({ x: (p.x + fit.x) * kx, y: (p.y + fit.y) * ky }));
  return {
    filled: lines.filter((l) => l.closed).map((l) => put(l.points)),
    drawn: lines.filter((l) => !l.closed).map((l) => put(l.points)),
    size: { width: kx * (box.maxX - box.minX), height: ky * (box.maxY - box.minY), along: ky, across: kx },
  };
};

/** Half of what a face takes round its blank, where that is narrowest, rad. */
const halfTurnOf = (shape: RoundShape, zone: Zone, around: Mm): Rad =>
  around / Math.min(...[-1, 0, 1].map((end) => diameterAt(shape.profile, zone.x + (end * zone.width) / 2)));

/** One of the faces, each of its places the short way round. */
const placedFace = (choice: FaceChoice, zone: Zone, shape: RoundShape, seam: Seam, zeroAt: Rad): PlacedFace => {
  const diameter = diameterAt(shape.profile, zone.x);
  const around = choice.wraps ? bandWidth(diameter, seam) : zone.height - 2 * zone.margin;
  const along = zone.width - 2 * zone.margin;
  const [width, height] = choice.reads === 'around' ? [around, along] : [along, around];
  return {
    choice,
    zone,
    around,
    along,
    half: choice.wraps ? Math.PI : halfTurnOf(shape, zone, around),
    places: evenFaces(zone.angle ?? 0, choice.wraps ? 1 : choice.repeats).map((angle) => ({
      angle: choice.wraps ? angle : shortWay(angle, zeroAt),
      along: zone.x,
      closes: choice.wraps,
    })),
    art: fitArt(choice, width, height),
    picture: fitPicture(choice, width, height),
  };
};

/**
 * The faces of a setup on their blank; those whose zone is gone are left out. Where they take more than a turn from the
 * first to the last, the turn is begun where none of them is.
 */
export const placeFaces = (input: BatchInput, shape: RoundShape, seam: Seam, zeroAt: Rad = 0): PlacedFace[] => {
  const faces = input.setup.faces.flatMap((choice) => {
    const zone = input.blank.zones.find((z) => z.id === choice.zoneId);
    return zone ? [placedFace(choice, zone, shape, seam, zeroAt)] : [];
  });
  const begin = turnBegins(faces.flatMap(({ places, half }) => places.map(({ angle }) => ({ angle, half }))));
  return begin === null
    ? faces
    : faces.map((f) => ({ ...f, places: f.places.map((p) => ({ ...p, angle: inTurn(p.angle, begin) })) }));
};

/** The zone of a face as the lettering sees it: flat, its width in reading direction. */
export const letteringZone = (face: PlacedFace): Zone => ({
  ...face.zone,
  x: 0,
  y: 0,
  margin: 0,
  width: face.choice.reads === 'around' ? face.around : face.along,
  height: face.choice.reads === 'around' ? face.along : face.around,
  keepOuts: [],
});

/** What lies in the zone of a face that carries what its zone does; over its edge there is no blank to reach over. */
export const contentsOn = ({ setup }: Pick<BatchInput, 'setup'>, { zone }: Pick<PlacedFace, 'zone'>): readonly ZoneContent[] =>
  (setup.contents ?? []).filter((c) => c.zoneId === zone.id).map((c) => ({ ...c, over: null })); // prettier-ignore

/** The roster set into the lettering face, with what its zone carries beside it. */
export const roundLettering = (
  input: BatchInput,
  face: PlacedFace,
  alphabets: Readonly<Record<string, Alphabet>>,
  make: typeof batchArt = batchArt,
): BatchArt => {
  const zone = letteringZone(face);
  const blank: Blank = { ...input.blank, holes: [], zones: [zone] };
  const { setup, roster, artworks = [], serials = [], quantity } = input;
  const art = make(blank, zone, setup.lettering, roster, alphabets);
  const contents = contentsOn(input, face);
  if (contents.length === 0) return art;
  // There is nothing of the blank beyond the room that its face takes.
  const outline = [polyline(boxCorners(rectBox(zone)), true)];
  const side = zone.side ?? 'front';
  const carried = carriedBy({ contents, blank, side, outline, artworks, roster, serials, alphabets, count: quantity });
  return withArt(art, zone, carried, quantity);
};

/** What one piece carries on one face. */
export const shapesOn = (face: PlacedFace, art: BatchArt | null, ordinal: Ordinal): FaceShapes => {
  if (face.art) return face.art;
  if (face.picture) return { filled: [], drawn: [] };
  const piece = nth(art?.pieces, ordinal);
  return art && piece ? pieceShapes(art, letteringZone(face), piece) : { filled: [], drawn: [] };
};
