import { avoidDefects, laidOffUsable, offUsable, type BatchArt } from '../artwork';
import { apply, compose, translation, type Transform, type Vec } from '../geometry';
import { bedToFile } from '../burn';
import {
  insideUsable,
  reckonPins,
  type BlankSizes,
  type Board,
  type Locator,
  type Pins,
  type Rests,
  type UsableArea,
  type Zone,
} from '../holding';
import { pointerAt } from '../marks';
import type { Problem, Result } from '../result';
import type { Mm } from '../units';
import { reckonStand, slotFit, type SlotFit, type Stand } from '../slotted';
import { besideNow } from './held';
import { headOver } from './head';
import type { BatchInput } from './input';

/** What stands beside any way: pins that hold work down, a stand under it. */
export interface Fixings {
  readonly pins: Pins | null;
  readonly stand: Stand | null;
  readonly fit: SlotFit | null;
  /** What of it cannot be made, and why. */
  readonly problems: readonly Problem[];
}

export const noFixings: Fixings = {
  pins: null,
  stand: null,
  fit: null,
  problems: [],
};

/** How high the top of what pins hold, and the engraved surface, stand over the bed, mm. */
const standing = (rests: Rests, board: Mm, lift: Mm, thickness: Mm): { top: Mm; surface: Mm } => {
  switch (rests) {
    case 'on':
      return { top: board + lift, surface: board + lift + thickness };
    case 'in':
      return { top: board + lift, surface: thickness + lift };
    case 'alone':
      return { top: thickness + lift, surface: thickness + lift };
  }
};

/** Pins and a stand under a flat batch, from the settings on screen: they are not part of the board. */
export const pinsAndStand = (
  input: BatchInput,
  sizes: BlankSizes,
  board: Board | null,
  path: readonly Vec[],
  rests: Rests,
): Fixings => {
  const { pins: settings, stand: wanted, stock } = input.setup.beside;
  const problems: Problem[] = [];
  const take = <T>(result: Result<T>): T | null => {
    if (result.ok) return result.value;
    problems.push(result.problem);
    return null;
  };
  const pins =
    settings && board
      ? take(
          reckonPins(
            settings,
            {
              width: board.width,
              height: board.height,
              ...standing(rests, board.thickness, wanted?.height ?? 0, sizes.thickness.mean),
              warp: besideNow(input).boardWarp,
            },
            headOver(input),
            path,
            board.marks.map((m) => m.at),
          ),
        )
      : null;
  const fit = slotFit(stock, stock.thickness);
  const stand = wanted && fit.ok ? take(reckonStand(wanted, fit.value, input.machine.kerf)) : null;
  if (wanted && !fit.ok) problems.push(fit.problem);
  return { pins, stand, fit: fit.ok ? fit.value : null, problems };
};

/** What pins leave of a board's bow: h(s/L)² between pins s apart over a length L; mm. */
export const bowLeft = (warp: Mm, board: Board | null, pins: Pins | null): Mm => {
  if (!board || !pins || pins.blocked > 0) return warp;
  const long = Math.max(board.width, board.height);
  return warp * (Math.min(pins.spacing, long) / long) ** 2;
};

const overWhat = ({ inset }: UsableArea): string =>
  inset > 0
    ? 'a rounded shoulder or an edge, where it would be out of focus'
    : 'the edge of the blank, a notch or an opening in it';

/** Art that keeps clear of each piece's defects, with what leaves the part that can be engraved named. */
export const artOnPieces = (
  input: BatchInput,
  art: BatchArt | null,
  zone: Zone | null,
  usable: UsableArea | null,
): BatchArt | null => {
  if (!art || !zone) return art;
  const fits = usable ? insideUsable(usable) : () => true;
  const clear = avoidDefects(art, zone, input.setup.looks.pieces, fits);
  return usable
    ? {
        ...clear,
        laid: laidOffUsable(clear, fits, overWhat(usable)),
        problems: [...clear.problems, ...offUsable(clear, zone, fits, overWhat(usable))],
      }
    : clear;
};

/**
 * From the bed's frame to the coordinates that a load's file is written in: the machine's own; on a
 * locator board, counted from the intersection over which the pointer stands when zero is set.
 */
export const bedToLoad = (
  input: BatchInput,
  { own, sizes }: { readonly own: { readonly locator?: Locator | null }; readonly sizes: BlankSizes },
): Transform => {
  const toFile = bedToFile(input.machine);
  const { locator } = own;
  if (!locator) return toFile;
  const { pointerOffset } = input.machine;
  // The grid lies under the blanks, whose tops are in focus.
  const off = pointerOffset ? pointerAt(pointerOffset, -sizes.thickness.mean) : { x: 0, y: 0 };
  const zero = { x: locator.zero.x - off.x, y: locator.zero.y - off.y };
  return compose(translation(-apply(toFile, zero).x, -apply(toFile, zero).y), toFile);
};
