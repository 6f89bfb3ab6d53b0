import {
  boxCentre,
  boxHeight,
  boxWidth,
  clipAreas,
  clipLines,
  comesInto,
  compose,
  contourLength,
  contoursBox,
  coveredArea,
  flatten,
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
import type { Mm, Rad } from '../units';
import { fixed, listed, mm } from '../working';
import type { ArtFile, ArtShape } from './art-file';
import { keepOutBox, zoneRoom } from './zone';
import { sortArt, type Roles, type SortedArt } from './styles';

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

/** Art in a zone. */
export interface ZoneContent {
  readonly kind: 'artwork';
  readonly id: string;
  readonly zoneId: string;
  readonly artworkId: string;
  readonly revision: number;
  readonly size: ArtSizing;
  /** Where in the zone it lies; as the zone says where nothing is said. */
  readonly across?: Zone['across'] | null;
  readonly down?: Zone['down'] | null;
  /** Counter-clockwise, rad. */
  readonly turn: Rad;
  /** For what is seen from behind. */
  readonly mirrored: boolean;
}

/** Art as it lies on the blank, blank frame, mm. */
export interface LaidArt extends SortedArt {
  readonly content: ZoneContent;
  readonly artwork: Pick<Artwork, 'id' | 'name' | 'revision'>;
  /** Of all that is burned of it. */
  readonly box: Box;
  /** What its file's own size is multiplied by. */
  readonly scale: number;
  /** To the zone's edges, margins kept: left, right, front and back; negative where it reaches over. */
  readonly room: { readonly left: Mm; readonly right: Mm; readonly front: Mm; readonly back: Mm };
  /** What is wrong with it, in sentences. */
  readonly problems: readonly string[];
}

const moved = (sorted: SortedArt, m: Transform): SortedArt => ({
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
interface Under {
  readonly zone: Zone;
  readonly blank: Blank;
  readonly outline: readonly Contour[];
}

const lengthOf = (lines: readonly Contour[]): Mm => lines.reduce((s, c) => s + contourLength(c), 0);
/** Whether some of the art lies where there is nothing of the blank. */
const offBlank = ({ areas, lines, cuts }: SortedArt, outline: readonly Contour[]): boolean => {
  const drawn = [...lines, ...cuts];
  // Where all of its box is on the blank, so is the art.
  const { minX, minY, maxX, maxY } = contoursBox([...areas, ...drawn]);
  const box = polyline([{ x: minX, y: minY }, { x: maxX, y: minY }, { x: maxX, y: maxY }, { x: minX, y: maxY }], true); // prettier-ignore
  if (coveredArea([box]) - coveredArea(clipAreas([box], outline)) < 1e-6) return false;
  return (
    (areas.length > 0 && coveredArea(areas) - coveredArea(clipAreas(areas, outline)) > 0.01) ||
    (drawn.length > 0 && lengthOf(drawn) - lengthOf(clipLines(drawn, outline)) > 0.05)
  );
};

const SIDES = ['left', 'right', 'front', 'back'] as const;

const problemsOf = (
  name: string,
  laid: SortedArt,
  box: Box,
  room: LaidArt['room'],
  { zone, blank, outline }: Under,
): string[] => {
  const over = SIDES.filter((s) => room[s] < -NEAR);
  const holes = blank.holes.map((h, i) => ({ i, h })).filter(({ h }) => comesInto(h, burned(laid), laid.areas, NEAR));
  const kept = zone.keepOuts.map((k, i) => ({ i, box: keepOutBox(zone, k) })).filter((k) => overRect(laid, k.box));
  return [
    ...(over.length > 0
      ? [
          `${name}, ${fixed(boxWidth(box), 1)} × ${mm(boxHeight(box))}, leaves ${zone.name} by ${listed(over.map((s) => `${mm(-room[s])} at its ${s}`))}. Make it smaller, or turn it.`,
        ]
      : []),
    ...(offBlank(laid, outline) ? [`${name} lies over the edge of ${blank.name}, or over what is cut out of it.`] : []), // prettier-ignore
    ...holes.map(({ i }) => `${name} lies over hole ${i + 1} of the blank.`),
    ...kept.map(({ i }) => `${name} runs into keep-out ${i + 1} of ${zone.name}.`),
  ];
};

/**
 * Lays art in a zone of a blank: as large as is said, turned and mirrored, at the zone's anchor. Its place is that of what
 * is burned of it; guides do not count.
 *
 * @returns the art in the blank's frame, mm, with what is wrong with it; null where nothing of it is burned
 * @example layArt(crest, { kind: 'artwork', size: { kind: 'width', width: 85 }, turn: 0, … }, { zone, blank, outline })
 */
export const layArt = (artwork: Artwork, content: ZoneContent, under: Under): LaidArt | null => {
  const { zone } = under;
  const sorted = sortArt(artwork.shapes, artwork.roles);
  if (!isBurned(artwork)) return null;
  const flipped = content.mirrored ? moved(sorted, { a: -1, b: 0, c: 0, d: 1, e: 0, f: 0 }) : sorted;
  const turned = content.turn === 0 ? flipped : moved(flipped, rotation(content.turn));
  const own = contoursBox(burned(turned));
  const room = zoneRoom(zone);
  const scale = scaleOf(content.size, own, room, artwork.scale ?? 1);
  const [w, h] = [scale * boxWidth(own), scale * boxHeight(own)];
  const [freeX, freeY] = [(room.width - w) / 2, (room.height - h) / 2];
  const across = { left: -freeX, centre: 0, right: freeX }[content.across ?? zone.across];
  const down = { bottom: -freeY, middle: 0, top: freeY }[content.down ?? zone.down];
  const middle = boxCentre(own);
  const place = compose(translation(zone.x + across, zone.y + down), {
    a: scale,
    b: 0,
    c: 0,
    d: scale,
    e: -scale * middle.x,
    f: -scale * middle.y,
  });
  const laid = moved(turned, place);
  const box = contoursBox(burned(laid));
  const free = {
    left: box.minX - (zone.x - room.width / 2),
    right: zone.x + room.width / 2 - box.maxX,
    front: box.minY - (zone.y - room.height / 2),
    back: zone.y + room.height / 2 - box.maxY,
  };
  const { id, name, revision } = artwork;
  return {
    ...laid,
    content,
    artwork: { id, name, revision },
    box,
    scale,
    room: free,
    problems: [
      ...(content.size.kind === 'true' && sizeIsOpen(artwork) ? [unitIsOpen(name)] : []),
      ...problemsOf(name, laid, box, free, under),
    ],
  };
};
