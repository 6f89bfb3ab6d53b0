import { z } from 'zod';
import { MARK_KINDS, MOST_TRACED, TRACED_ROLES } from '@bistre/core';
import { tooManyPoints, vertex } from '../geometry';
import { id, inRange, line, oneOf, yesNo } from '../limits';
import { nothing, sheetChoice, way } from './board';

const tracedLine = z.object({ closed: z.boolean(), vertices: z.array(vertex).min(2).max(20_000).readonly() });

/** How outlines are found on a sheet that somebody else printed: asked where it is taken in, nothing of it is kept. */
export const traceChoices = z.object({
  smallest: inRange('Smallest piece', 0.5, 500, 'mm'),
  smooth: inRange('Smoothed over', 0, 3, 'mm'),
  neck: inRange('A neck is narrower than', 0.1, 20, 'mm'),
  apart: yesNo('Cut touching pieces apart at their necks'),
});

/** A printed sheet as it was found in a picture or in its drawing; sheet frame, mm. */
export const tracedSheet = z.object({
  name: line('Picture', 1, 120),
  width: inRange('Sheet width', 10, 5_000, 'mm'),
  height: inRange('Sheet height', 10, 5_000, 'mm'),
  dot: inRange('Size of a dot', 0.001, 5, 'mm'),
  shapes: z
    .array(
      z.object({
        outline: tracedLine,
        holes: z.array(tracedLine).max(1_000).readonly(),
        role: z.enum(TRACED_ROLES),
        look: z.object({ kind: z.enum(MARK_KINDS), size: inRange('Mark', 0.1, 500, 'mm') }).nullable(),
        at: z.object({ x: inRange('x', -10_000, 10_000, 'mm'), y: inRange('y', -10_000, 10_000, 'mm') }),
      }),
    )
    .min(1)
    .max(MOST_TRACED)
    .superRefine((shapes, context) =>
      tooManyPoints(
        shapes.flatMap((s) => [s.outline, ...s.holes]),
        context,
      ),
    )
    .readonly(),
  uncertainty: inRange('Uncertainty', 0, 10, 'mm'),
  edge: inRange('Edge', 0, 10, 'mm'),
  /** The picture that it was found in, where one is kept: it lies faintly under the outlines. */
  pictureId: id.nullish(),
});

export const sheet = way(
  'sheet',
  sheetChoice.extend({
    paper: oneOf('Sheet', { A4: 'A4', A3: 'A3', Letter: 'Letter', own: 'own size' }),
    landscape: z.boolean(),
    own: z.object({
      width: inRange('Sheet width', 60, 5_000, 'mm'),
      height: inRange('Sheet height', 40, 5_000, 'mm'),
    }),
    bleed: inRange('Bleed', 0, 20, 'mm', { label: 'Print beyond the outline' }),
    inset: inRange('Inset', -20, 20, 'mm', {
      label: 'Inset: cut inside the outline',
      hint: 'negative cuts outside it',
    }),
    gap: inRange('Gap between the bleeds', 0, 50, 'mm'),
    ground: z.string().regex(/^#[0-9a-f]{6}$/i, 'The ground is a colour like #f0d9a8.'),
    traced: tracedSheet.nullable(),
    inner: yesNo('Cut holes in the pieces out too'),
  }),
  nothing,
);
