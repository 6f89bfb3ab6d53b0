import { contoursBox, DRAWN_BY, flatten, ROLES, roleOf, screenPath, sortArt, styleKey, type ArtShape, type Contour, type Role, type Roles } from '@bistre/core'; // prettier-ignore
import type { ArtPaths } from './shown';
import { forScreen } from './thin';

/** What is never burned of a file. */
const guidesOf = (shapes: readonly ArtShape[], roles: Roles): Contour[] =>
  shapes.flatMap((s) =>
    DRAWN_BY.flatMap((of) => {
      const paint = s[of];
      return paint !== null && roleOf(roles, { key: styleKey(of, paint), of }) === 'guide' ? s.contours : [];
    }),
  );

/** A file of art as paths: what is burned as it is burned, areas that overlap as one, and its guides. */
export const artPaths = (shapes: readonly ArtShape[], roles: Roles): ArtPaths => {
  const box = contoursBox(shapes.flatMap((s) => s.contours));
  const across = Math.max(box.maxX - box.minX, box.maxY - box.minY);
  const { areas, lines, cuts } = sortArt(shapes, roles);
  const of: Readonly<Record<Role, readonly Contour[]>> = { area: areas, line: lines, cut: cuts, guide: guidesOf(shapes, roles) }; // prettier-ignore
  const path = (contours: readonly Contour[]): string => {
    const points = contours.map((c) => (c.vertices.some((v) => v.bulge) ? flatten(c, across / 8_000) : c.vertices));
    const thin = forScreen(points, across);
    // Few are drawn as they are, arcs and all.
    return contours.map((c, i) => screenPath(thin === points ? c : { closed: c.closed, vertices: thin[i]! })).join('');
  };
  return { box, paths: ROLES.flatMap((role) => (of[role].length === 0 ? [] : [{ role, d: path(of[role]) }])) };
};
