import { contourLength, contoursBox, coveredArea, evenOdd, flatten, overlapping, polygonArea, uniteContours, type Contour } from '../geometry'; // prettier-ignore
import type { Mm } from '../units';
import type { ArtShape, Paint } from './art-file';
import type { Role } from './roles';

/** One fill or stroke that a file uses, and how much of it there is. */
export interface Style {
  /** `fill #rrggbb` or `stroke #rrggbb`. */
  readonly key: string;
  readonly of: 'fill' | 'stroke';
  readonly paint: Paint;
  readonly shapes: number;
  /** Of a fill, all of its shapes together, mm²; nought of a stroke. */
  readonly area: number;
  /** Of its lines, or round its areas, mm. */
  readonly length: Mm;
}

/** Which role each style has, by its key; a style that nobody said anything of has the one that is proposed. */
export type Roles = Readonly<Record<string, Role>>;

/** How a style is named in roles. */
export const styleKey = (of: Style['of'], paint: Paint): string => `${of} ${paint}`;
/** What a shape is drawn by: its fill first, then its stroke. */
export const DRAWN_BY = ['fill', 'stroke'] as const;

/**
 * What is proposed for a style: what is filled is an area, what is drawn is a line; nothing is a cut until somebody says so.
 */
export const proposedRole = ({ of }: Pick<Style, 'of'>): Role => (of === 'fill' ? 'area' : 'line');

/** Areas of shapes by the even-odd rule, as they came first: told with their styles, and then drawn. */
const areasBefore = new WeakMap<ArtShape, Contour[]>();
const areasOf = (shape: ArtShape): Contour[] => {
  const before = areasBefore.get(shape);
  if (before) return before;
  const made = evenOdd(shape.contours, shape.rule);
  areasBefore.set(shape, made);
  return made;
};

/** The distinct fills and strokes of a file in the order they come, with what they draw. */
export const stylesOf = (shapes: readonly ArtShape[]): readonly Style[] => {
  const out = new Map<string, Style>();
  for (const shape of shapes) {
    const length = shape.contours.reduce((s, c) => s + contourLength(c), 0);
    for (const of of DRAWN_BY) {
      const paint = shape[of];
      if (paint === null) continue;
      const key = styleKey(of, paint);
      const area = of === 'fill' ? coveredArea(areasOf(shape)) : 0;
      const so = out.get(key) ?? { key, of, paint, shapes: 0, area: 0, length: 0 };
      out.set(key, { ...so, shapes: so.shapes + 1, area: so.area + area, length: so.length + length });
    }
  }
  return [...out.values()];
};

/** The role of a style as it was said, or as it is proposed. */
export const roleOf = (roles: Roles, style: Pick<Style, 'key' | 'of'>): Role => roles[style.key] ?? proposedRole(style);

/** A drawing by what is done with it: areas that neither cross nor overlap, even-odd rule; lines as they are drawn; cuts, what lies inside before what lies round it. */
export interface SortedArt {
  readonly areas: ArtShape['contours'];
  readonly lines: ArtShape['contours'];
  readonly cuts: ArtShape['contours'];
}

/** A drawing that is sorted, as one list: closed lines are areas, lines that come back to their start are only drawn. */
export const asDrawn = ({ areas, lines, cuts }: SortedArt): ArtShape['contours'] => [
  ...areas,
  ...[...lines, ...cuts].map((c) => (c.closed ? { closed: false, vertices: [...c.vertices, c.vertices[0]!] } : c)),
];

/** Drawings that were sorted, by their shapes and then by roles: a drawing is laid again and again as a batch is changed. */
const sortedBefore = new WeakMap<readonly ArtShape[], Map<string, SortedArt>>();

/**
 * Sorts a drawing by the roles of its styles. Areas that overlap are one: nothing is burned twice.
 *
 * @example sortArt(file.shapes, { 'fill #ffffff': 'guide' })
 */
export const sortArt = (shapes: readonly ArtShape[], roles: Roles): SortedArt => {
  const before = sortedBefore.get(shapes) ?? new Map<string, SortedArt>();
  sortedBefore.set(shapes, before);
  const key = JSON.stringify(Object.entries(roles).sort());
  const found = before.get(key);
  if (found) return found;
  const made = sortAnew(shapes, roles);
  before.set(key, made);
  return made;
};

/** Areas as one: only those that come near each other are put together, which is most of the work. */
const united = (areas: readonly (readonly Contour[])[]): Contour[] => {
  const some = areas.filter((a) => a.length > 0);
  return overlapping(some.map((a) => contoursBox(a))).flatMap((group) => {
    const [first] = group;
    return group.length === 1 ? [...some[first!]!] : uniteContours(group.flatMap((i) => some[i]!));
  });
};

const sortAnew = (shapes: readonly ArtShape[], roles: Roles): SortedArt => {
  const areas: Contour[][] = [];
  const lines: ArtShape['contours'][number][] = [];
  const cuts: ArtShape['contours'][number][] = [];
  const put = (role: Role, shape: ArtShape): void => {
    if (role === 'area') areas.push(areasOf(shape));
    if (role === 'line') lines.push(...shape.contours);
    if (role === 'cut') cuts.push(...shape.contours);
  };
  for (const shape of shapes)
    for (const of of DRAWN_BY) {
      const paint = shape[of];
      if (paint !== null) put(roleOf(roles, { key: styleKey(of, paint), of }), shape);
    }
  const size = (c: (typeof cuts)[number]): number => (c.closed ? Math.abs(polygonArea(flatten(c))) : 0);
  return { areas: united(areas), lines, cuts: [...cuts].sort((a, b) => size(a) - size(b)) };
};
