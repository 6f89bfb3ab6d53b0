import { Clipper, EndType, FillRule, JoinType } from 'clipper2-ts';
import { flatten, polyline, type Contour } from './contour';

/** Whole units to the millimetre for the clipper: a tenth of a micrometre. */
const GRID = 10_000;

const toPath = (contour: Contour): { x: number; y: number }[] =>
  flatten(contour, 0.002).map((p) => ({ x: Math.round(p.x * GRID), y: Math.round(p.y * GRID) }));

const fromPaths = (paths: readonly (readonly { x: number; y: number }[])[]): Contour[] =>
  paths.map((path) =>
    polyline(
      path.map((p) => ({ x: p.x / GRID, y: p.y / GRID })),
      true,
    ),
  );

/**
 * Closed contours grown (positive) or shrunk (negative) by `by` millimetres, corners rounded.
 * Parts that vanish are left out.
 */
export const offsetContours = (contours: readonly Contour[], by: number): Contour[] =>
  fromPaths(Clipper.inflatePaths(contours.map(toPath), by * GRID, JoinType.Round, EndType.Polygon, 2, 0.002 * GRID));

/** Union of closed contours, non-zero rule. */
export const uniteContours = (contours: readonly Contour[]): Contour[] =>
  fromPaths(Clipper.union(contours.map(toPath), FillRule.NonZero));
