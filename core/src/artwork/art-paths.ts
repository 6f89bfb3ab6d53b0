import { contourBox, contoursBox, flatten, overlapping, type Box, type Contour } from '../geometry';
import { DOTS, FEW, screenPath, thinned } from '../output';
import type { ArtShape } from './art-file';
import { ROLES, type Role } from './roles';
import { DRAWN_BY, roleOf, sortArt, styleKey, type Roles } from './styles';

/** A file of art as paths for the screen: one or several for each role that something of it has, y up, mm. */
export interface ArtPaths {
  readonly box: Box;
  readonly paths: readonly { readonly role: Role; readonly d: string }[];
}

/** What is never burned of a file. */
const guidesOf = (shapes: readonly ArtShape[], roles: Roles): Contour[] =>
  shapes.flatMap((s) =>
    DRAWN_BY.flatMap((of) => {
      const paint = s[of];
      return paint !== null && roleOf(roles, { key: styleKey(of, paint), of }) === 'guide' ? s.contours : [];
    }),
  );

/** Longest that a path is, letters: a page takes in so much between two frames. */
const LONGEST = 120_000;

/** Shapes whose boxes meet stay in one path, since what is a hole follows from what lies round it; others need not. */
const inPaths = (contours: readonly Contour[], write: (c: Contour) => string): string[] => {
  const out: string[] = [];
  let path = '';
  for (const group of overlapping(contours.map((c) => contourBox(c)))) {
    const d = group.map((i) => write(contours[i]!)).join('');
    if (path && path.length + d.length > LONGEST) {
      out.push(path);
      path = '';
    }
    path += d;
  }
  return path ? [...out, path] : out;
};

/** A file of art as paths: what is burned as it is burned, areas that overlap as one, and its guides. */
export const artPaths = (shapes: readonly ArtShape[], roles: Roles): ArtPaths => {
  const box = contoursBox(shapes.flatMap((s) => s.contours));
  const across = Math.max(box.maxX - box.minX, box.maxY - box.minY);
  const { areas, lines, cuts } = sortArt(shapes, roles);
  const of: Readonly<Record<Role, readonly Contour[]>> = { area: areas, line: lines, cut: cuts, guide: guidesOf(shapes, roles) }; // prettier-ignore
  const isLarge = ROLES.reduce((n, role) => n + of[role].reduce((m, c) => m + c.vertices.length, 0), 0) > FEW;
  // Few are drawn as they are, arcs and all.
  const write = (c: Contour): string =>
    screenPath(isLarge ? { closed: c.closed, vertices: thinned(c.vertices.some((v) => v.bulge) ? flatten(c, across / 8_000) : c.vertices, across / DOTS) } : c); // prettier-ignore
  return { box, paths: ROLES.flatMap((role) => inPaths(of[role], write).map((d) => ({ role, d }))) };
};
