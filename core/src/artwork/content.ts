import {
  apply,
  boxCentre,
  boxCorners,
  boxHeight,
  boxOf,
  boxWidth,
  clipAreas,
  clipLines,
  comesInto,
  compose,
  contourLength,
  contoursBox,
  coveredArea,
  flatten,
  identity,
  insidePolygon,
  polyline,
  rotation,
  transformContour,
  translation,
  type Box,
  type Contour,
  type Transform,
  type Vec,
} from '../geometry';
import type { Blank, Zone } from '../holding';
import { uniteLetters } from '../long';
import type { BurnedPicture, ZonePicture } from '../picture';
import type { Mm, Rad } from '../units';
import { fixed, listed, mm } from '../working';
import type { Symbology } from '../codes';
import type { ArtFile, ArtShape } from './art-file';
import { keepOutBox, zoneRoom } from './zone';
import { sortArt, stylesOf, type Roles, type SortedArt } from './styles';

/** A file of art as a batch uses it: one revision of an artwork of the Shelf. */
export interface Artwork {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly shapes: readonly ArtShape[];
  readonly roles: Roles;
  /** What the file says of its unit. */
  readonly unit: ArtFile['unit'];
  /** What its size is multiplied by, as a person said of a file that states no unit; nothing while nobody did. */
  readonly scale?: number | null | undefined;
  /** How far its outlines may be off in its file’s own size, standard uncertainty, where they were traced from a picture. */
  readonly doubt?: Mm | null | undefined;
}

/** Whether nobody knows how large a file really is: it states no unit, and nobody said. */
export const sizeIsOpen = ({ unit, scale }: Pick<Artwork, 'unit' | 'scale'>): boolean =>
  (unit === 'unstated' || unit === 'px') && (scale ?? null) === null;

/** What stands against art at its file's own size while nobody knows how large that is. */
export const unitIsOpen = (name: string): string =>
  `${name} states no unit: say on the Shelf how large it really is, or have it as large as is said here.`;

/** How large art is made: as its file says, by one of its measures, or as large as its zone takes it. */
export type ArtSizing =
  | { readonly kind: 'true' }
  | { readonly kind: 'width'; readonly width: Mm }
  | { readonly kind: 'height'; readonly height: Mm }
  | { readonly kind: 'fit' };

/** How something lies in a zone. */
export interface Lies {
  readonly id: string;
  readonly zoneId: string;
  readonly size: ArtSizing;
  /** Where in the zone it lies; as the zone says where nothing is said. */
  readonly across?: Zone['across'] | null | undefined;
  readonly down?: Zone['down'] | null | undefined;
  /** How far it is moved from there, to the right and to the back, mm. */
  readonly offset?: Vec | null | undefined;
  /** Counter-clockwise, rad. */
  readonly turn: Rad;
  /** For what is seen from behind. */
  readonly mirrored: boolean;
  /** May leave its zone and reach over the blank’s edge, on purpose: a rim is to be burned as well. */
  readonly over?: boolean | null | undefined;
}

/** Which styles are burned for each word of a roster’s column; a style that no word names is burned on every piece. */
export interface StyleChoice {
  readonly column: string;
  readonly of: readonly { readonly word: string; readonly styles: readonly string[] }[];
}

/** The same art on every piece, or with some of its styles on some of them. */
export interface ArtworkContent extends Lies {
  readonly kind: 'artwork';
  readonly artworkId: string;
  readonly revision: number;
  readonly choice?: StyleChoice | null | undefined;
  /** Styles that are burned by a recipe of their own, and not by the batch’s. */
  readonly recipes?: readonly { readonly style: string; readonly recipeId: string }[] | null | undefined;
  /** Cut lines that overlap, such as letters of a word, are cut as the one outline that they make. */
  readonly united?: boolean | null | undefined;
}

/** Art that the roster names, piece by piece. */
export interface ListedContent extends Lies {
  readonly kind: 'listed';
  readonly column: string;
  /** What each word of the column stands for; without an artwork for nothing at all. */
  readonly of: readonly { readonly word: string; readonly artworkId: string | null; readonly revision: number }[];
}

/** A code that a camera reads, of a text with fields of the roster in braces: `{Boat}`, or `{serial}`. */
export interface CodeContent extends Lies {
  readonly kind: 'code';
  readonly symbology: Symbology;
  readonly text: string;
  /** Burns what is light, for work that is burned lighter than it is, such as slate. */
  readonly reversed: boolean;
}

/** A number that no other piece of the shop has. */
export interface SerialContent extends Lies {
  readonly kind: 'serial';
  readonly prefix: string;
  /** Least count of digits; noughts are put before them. */
  readonly digits: number;
  readonly step: number;
  readonly alphabet: string;
  readonly capHeight: Mm;
}

/** A picture whose shades are burned as dots. */
export interface PictureContent extends Lies, BurnedPicture {
  readonly kind: 'picture';
}

/** Something in a zone beside its lettering. */
export type ZoneContent = ArtworkContent | ListedContent | CodeContent | SerialContent | PictureContent;

/** Something that can be laid in a zone. */
export interface ZoneDrawing {
  readonly name: string;
  /** All that may be burned of it. */
  readonly burned: SortedArt;
  /** What of that is burned now, where it is not all of it. */
  readonly now?: SortedArt;
  /** What it says, where it is a text of its own. */
  readonly text?: string;
  /** What of what is burned now goes by another recipe: it is not in `now` then. */
  readonly apart?: readonly (SortedArt & { readonly recipeId: string })[];
  /** A picture that is as large as its frame, one of its dots to a millimetre. */
  readonly picture?: Omit<ZonePicture, 'place'>;
  /** What it is placed and measured by, all of which must stay clear; the box of what is burned where nothing is said. */
  readonly frame?: Box;
  /** What its own size is multiplied by to be true. */
  readonly real?: number;
  /** What stands against it at its own size, in a sentence. */
  readonly doubt?: string;
}

/** Art as it lies on the blank, blank frame, mm. */
export interface LaidArt extends SortedArt {
  readonly content: ZoneContent;
  readonly name: string;
  /** Which file it is of, where it is of one, and which of its styles are not burned here. */
  readonly artwork?: Pick<Artwork, 'id' | 'revision'> & { readonly hidden: readonly string[] };
  /** What it says, where it is a text of its own. */
  readonly text?: string;
  /** What of it is burned by other recipes than the batch’s. */
  readonly apart?: readonly (SortedArt & { readonly recipeId: string })[];
  /** The picture that is burned here as dots, where it is one. */
  readonly picture?: ZonePicture;
  /** Of all that is burned of it, or of what must stay clear round that. */
  readonly box: Box;
  /** Whether all of its box must stay clear. */
  readonly framed: boolean;
  /** What its file's own size is multiplied by. */
  readonly scale: number;
  /** How far its outlines may be off as it lies, standard uncertainty, where they were traced from a picture. */
  readonly doubt?: Mm;
  /** To the zone's edges, margins kept: left, right, front and back; negative where it reaches over. */
  readonly room: { readonly left: Mm; readonly right: Mm; readonly front: Mm; readonly back: Mm };
  /** To the edges of the blank, where that reaches farthest: left, right, front and back; negative where it reaches over. */
  readonly edges: LaidArt['room'];
  /** How far it reaches over the blank’s edge where it may, mm; absent where none of it does. */
  readonly beyond?: Mm;
  /** What is wrong with it, in sentences. */
  readonly problems: readonly string[];
}

/** What is burned as areas and lines. */
export const DRAWN_CONTENTS = ['artwork', 'listed', 'code', 'serial'] as const satisfies readonly ZoneContent['kind'][];
export const ALL_CONTENTS = [...DRAWN_CONTENTS, 'picture'] as const;

/** All of some art, whichever recipe it goes by. */
export const wholeArt = ({ areas, lines, cuts, apart = [] }: SortedArt & { readonly apart?: readonly SortedArt[] | undefined }): SortedArt =>
  apart.length === 0
    ? { areas, lines, cuts }
    : {
        areas: [...areas, ...apart.flatMap((a) => a.areas)],
        lines: [...lines, ...apart.flatMap((a) => a.lines)],
        cuts: [...cuts, ...apart.flatMap((a) => a.cuts)],
      }; // prettier-ignore

/** Nothing of any kind. */
export const NO_ART: SortedArt = { areas: [], lines: [], cuts: [] };

/** Art, moved. */
export const movedArt = (sorted: SortedArt, m: Transform): SortedArt => ({
  areas: sorted.areas.map((c) => transformContour(m, c)),
  lines: sorted.lines.map((c) => transformContour(m, c)),
  cuts: sorted.cuts.map((c) => transformContour(m, c)),
});

const burned = ({ areas, lines, cuts }: SortedArt): Contour[] => [...areas, ...lines, ...cuts];

/** Whether anything of an artwork is burned at all. */
export const isBurned = ({ shapes, roles }: Pick<Artwork, 'shapes' | 'roles'>): boolean =>
  burned(sortArt(shapes, roles)).length > 0;

const scaleOf = (size: ArtSizing, box: Box, room: { width: Mm; height: Mm }, real: number): number => {
  const [w, h] = [Math.max(1e-6, boxWidth(box)), Math.max(1e-6, boxHeight(box))];
  switch (size.kind) {
    case 'true':
      return real;
    case 'width':
      return size.width / w;
    case 'height':
      return size.height / h;
    case 'fit':
      return Math.min(room.width / w, room.height / h);
  }
};

const NEAR: Mm = 0.01;

/** Whether art burns somewhere in a rectangle: a side of it, a corner within, or all of it. */
export const overRect = (sorted: SortedArt, { minX, minY, maxX, maxY }: Box): boolean => {
  const all = contoursBox(burned(sorted));
  if (all.minX >= maxX || all.maxX <= minX || all.minY >= maxY || all.maxY <= minY) return false;
  const inside = (p: Vec): boolean => p.x > minX && p.x < maxX && p.y > minY && p.y < maxY;
  const crosses = (a: Vec, b: Vec): boolean => {
    // The stretch of a line that lies between both pairs of sides [Liang and Barsky 1984].
    let [from, to] = [0, 1];
    for (const [p, q] of [
      [a.x - b.x, a.x - minX],
      [b.x - a.x, maxX - a.x],
      [a.y - b.y, a.y - minY],
      [b.y - a.y, maxY - a.y],
    ] as const) {
      if (p === 0 && q < 0) return false;
      if (p < 0) from = Math.max(from, q / p);
      if (p > 0) to = Math.min(to, q / p);
    }
    return to - from > 1e-9;
  };
  const middle = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
  return (
    burned(sorted).some((c) => {
      const points = flatten(c);
      return points.some((p, i) => inside(p) || ((i > 0 || c.closed) && crosses(points[(i + points.length - 1) % points.length]!, p))); // prettier-ignore
    }) || sorted.areas.filter((c) => insidePolygon(middle, flatten(c))).length % 2 === 1
  );
};

/** What art is laid on: a zone of a blank, and the outline of what there is of it, even-odd rule; blank frame. */
export interface Under {
  readonly zone: Zone;
  readonly blank: Blank;
  readonly outline: readonly Contour[];
}

const boxContour = (box: Box): Contour => polyline(boxCorners(box), true);

const lengthOf = (lines: readonly Contour[]): Mm => lines.reduce((s, c) => s + contourLength(c), 0);

/** How much of some art is burned within an outline: of its areas, mm², and of its lines, mm; what is less is rounding. */
const within = ({ areas, lines, cuts }: SortedArt, outline: readonly Contour[]): { area: number; length: Mm } => ({
  area: areas.length === 0 ? 0 : coveredArea(clipAreas(areas, outline)),
  length: lines.length + cuts.length === 0 ? 0 : lengthOf(clipLines([...lines, ...cuts], outline)),
});
const [LEAST_AREA, LEAST_LENGTH] = [0.01, 0.05];

/** Whether some of the art is burned within an outline. */
export const isWithin = (art: SortedArt, outline: readonly Contour[]): boolean => {
  const { area, length } = within(art, outline);
  return area > LEAST_AREA || length > LEAST_LENGTH;
};

/** Whether some of the art lies where there is nothing of the blank. */
const offBlank = (art: SortedArt, outline: readonly Contour[]): boolean => {
  const drawn = [...art.lines, ...art.cuts];
  // Where all of its box is on the blank, so is the art.
  const { minX, minY, maxX, maxY } = contoursBox([...art.areas, ...drawn]);
  const box = boxContour({ minX, minY, maxX, maxY });
  if (coveredArea([box]) - coveredArea(clipAreas([box], outline)) < 1e-6) return false;
  const { area, length } = within(art, outline);
  return coveredArea(art.areas) - area > LEAST_AREA || lengthOf(drawn) - length > LEAST_LENGTH;
};

const SIDES = ['left', 'right', 'front', 'back'] as const;

const problemsOf = (
  name: string,
  laid: SortedArt,
  box: Box,
  room: LaidArt['room'],
  { zone, blank, outline }: Under,
  mayReach: boolean,
): string[] => {
  const over = mayReach ? [] : SIDES.filter((s) => room[s] < -NEAR);
  const holes = blank.holes.map((h, i) => ({ i, h })).filter(({ h }) => comesInto(h, burned(laid), laid.areas, NEAR));
  const kept = zone.keepOuts.map((k, i) => ({ i, box: keepOutBox(zone, k) })).filter((k) => overRect(laid, k.box));
  return [
    ...(over.length > 0
      ? [
          `${name}, ${fixed(boxWidth(box), 1)} × ${mm(boxHeight(box))}, leaves ${zone.name} by ${listed(over.map((s) => `${mm(-room[s])} at its ${s}`))}. Make it smaller, turn it or move it.`,
        ]
      : []),
    ...(!mayReach && offBlank(laid, outline) ? [`${name} lies over the edge of ${blank.name}, or over what is cut out of it.`] : []), // prettier-ignore
    ...holes.map(({ i }) => `${name} lies over hole ${i + 1} of the blank.`),
    ...kept.map(({ i }) => `${name} runs into keep-out ${i + 1} of ${zone.name}.`),
  ];
};

/** A box that is mirrored, turned, and held upright again. */
const turnedBox = (box: Box, m: Transform): Box => boxOf(boxCorners(box).map((p) => apply(m, p)));

/** Where something of such a box goes in its zone, when it is so large. */
const placeOf = (own: Box, scale: number, { across, down, offset }: Lies, zone: Zone): Transform => {
  const room = zoneRoom(zone);
  const freeX = (room.width - scale * boxWidth(own)) / 2;
  const freeY = (room.height - scale * boxHeight(own)) / 2;
  const x = { left: -freeX, centre: 0, right: freeX }[across ?? zone.across];
  const y = { bottom: -freeY, middle: 0, top: freeY }[down ?? zone.down];
  const middle = boxCentre(own);
  return compose(translation(zone.x + x + (offset?.x ?? 0), zone.y + y + (offset?.y ?? 0)), { a: scale, b: 0, c: 0, d: scale, e: -scale * middle.x, f: -scale * middle.y }); // prettier-ignore
};

/** What is left between a box and the one round it. */
const roomIn = (box: Box, round: Box): LaidArt['room'] => ({
  left: box.minX - round.minX,
  right: round.maxX - box.maxX,
  front: box.minY - round.minY,
  back: round.maxY - box.maxY,
});
const roomLeft = (box: Box, zone: Zone): LaidArt['room'] => {
  const { width, height } = zoneRoom(zone);
  return roomIn(box, { minX: zone.x - width / 2, maxX: zone.x + width / 2, minY: zone.y - height / 2, maxY: zone.y + height / 2 }); // prettier-ignore
};

const MIRROR: Transform = { a: -1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/**
 * Lays a drawing in a zone of a blank: as large as is said, turned and mirrored, at the zone's anchor. Its place is that
 * of its frame, or of all that may be burned of it; guides do not count.
 *
 * @returns the drawing in the blank's frame, mm, with what is wrong with it; null where nothing of it is ever burned
 * @example lay({ name: 'Crest', burned: sorted }, { size: { kind: 'width', width: 85 }, turn: 0, … }, { zone, blank, outline })
 */
export const lay = (drawing: ZoneDrawing, content: ZoneContent, under: Under): LaidArt | null => {
  const { zone } = under;
  const { burned: all, now = all, frame, name, text, picture, real = 1, doubt } = drawing;
  if (burned(all).length === 0 && !picture) return null;
  const upright = compose(rotation(content.turn), content.mirrored ? MIRROR : identity);
  const isPlain = content.turn === 0 && !content.mirrored;
  const own = frame ? turnedBox(frame, upright) : contoursBox(burned(isPlain ? all : movedArt(all, upright)));
  const scale = scaleOf(content.size, own, zoneRoom(zone), real);
  const m = compose(placeOf(own, scale, content, zone), upright);
  const laid = movedArt(now, m);
  const apart = drawing.apart?.map((a) => ({ recipeId: a.recipeId, ...movedArt(a, m) }));
  const whole = now === all ? laid : movedArt(all, m);
  const box = frame ? turnedBox(frame, m) : contoursBox(burned(whole));
  const room = roomLeft(box, zone);
  const edges = roomIn(box, contoursBox(under.outline));
  const framed = frame !== undefined;
  const clear = framed ? { ...NO_ART, areas: [transformContour(m, boxContour(frame))] } : wholeArt({ ...laid, apart });
  return {
    ...laid,
    content,
    name,
    ...(text === undefined ? {} : { text }),
    ...(picture ? { picture: { ...picture, place: m } } : {}),
    ...(apart?.length ? { apart } : {}),
    box,
    framed,
    scale,
    room,
    edges,
    ...(content.over && offBlank(clear, under.outline) ? { beyond: Math.max(0, ...SIDES.map((s) => -edges[s])) } : {}),
    problems: [...(content.size.kind === 'true' && doubt ? [doubt] : []), ...problemsOf(name, clear, box, room, under, content.over === true)], // prettier-ignore
  };
};

const cutAsOne = ({ cuts, ...rest }: SortedArt): SortedArt => ({ ...rest, cuts: [...uniteLetters(cuts.filter((c) => c.closed)), ...cuts.filter((c) => !c.closed)] }); // prettier-ignore

/** The art of a file with some of its styles, which no piece’s place depends on. */
export const layArt = (
  artwork: Artwork,
  content: ZoneContent,
  under: Under,
  hidden: readonly string[] = [],
): LaidArt | null => {
  const { shapes, roles, name, id, revision } = artwork;
  const own = content.kind === 'artwork' ? (content.recipes ?? []) : [];
  const united = content.kind === 'artwork' && content.united === true;
  const sorted = (as: Roles): SortedArt => (united ? cutAsOne(sortArt(shapes, as)) : sortArt(shapes, as));
  /** As it is burned without some of its styles. */
  const without = (keys: readonly string[]): SortedArt => sorted({ ...roles, ...Object.fromEntries(keys.map((key) => [key, 'guide' as const])) }); // prettier-ignore
  const keys = stylesOf(shapes).map((s) => s.key);
  const apart = [...new Set(own.map((o) => o.recipeId))].map((recipeId) => {
    const its = own.filter((o) => o.recipeId === recipeId && !hidden.includes(o.style)).map((o) => o.style);
    return { recipeId, ...without(keys.filter((k) => !its.includes(k))) };
  });
  const gone = [...hidden, ...own.map((o) => o.style)];
  const laid = lay(
    {
      name,
      burned: sorted(roles),
      ...(gone.length > 0 ? { now: without(gone) } : {}),
      ...(apart.length > 0 ? { apart } : {}),
      real: artwork.scale ?? 1,
      ...(sizeIsOpen(artwork) ? { doubt: unitIsOpen(name) } : {}),
    },
    content,
    under,
  );
  const traced = laid && artwork.doubt ? { doubt: artwork.doubt * laid.scale } : {};
  return laid && { ...laid, ...traced, artwork: { id, revision, hidden } };
};
