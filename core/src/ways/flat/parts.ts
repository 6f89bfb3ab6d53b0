import { apply, boxCorners, compose, type Box, type Transform } from '../../geometry';
import {
  slotTransform,
  type BlankSizes,
  type Board,
  type FixtureBasis,
  type Pocket,
  printBeyond,
  type SheetSettings,
  type Slot,
} from '../../holding';
import { errorMap, type ErrorMap } from '../../marks';

import type { Mm, Ordinal } from '../../units';
import { placeErrors, type BatchInput, type PlaceReckoning, type Remark } from '../../setup';

/** How much more a sheet that may be stretched adds to the aiming error over the pieces than a plain turn and shift. */
export const aimingGrowth = (board: Board, place: PlaceReckoning): number => {
  const read = place.pairs.length >= 2 ? place.pairs.map((p) => p.drawn) : board.marks.map((m) => m.at);
  const rms = (map: ErrorMap | null): number =>
    map
      ? Math.sqrt(board.slots.reduce((s, { centre }) => s + map.at(centre).major ** 2 + map.at(centre).minor ** 2, 0))
      : 1;
  const plain = errorMap('rigid', read, place.sigma);
  const grown = placeErrors(place, read, true);
  return plain && grown ? rms(grown) / rms(plain) : 1;
};

/** Print must go at least as far beyond the cut as the cut may miss it. */
export const bleedWarning = (sheet: SheetSettings, predicted: Mm): Remark[] => {
  const bleed = printBeyond(sheet);
  if (bleed + sheet.inset >= predicted) return [];
  const more = (predicted - bleed - sheet.inset).toFixed(2);
  return [
    {
      station: 'hold',
      message: sheet.traced
        ? `The cut may miss the print by ${predicted.toFixed(2)} mm and runs ${sheet.inset.toFixed(2)} mm inside it. Cut ${more} mm further in, or a rim of paper may show.`
        : `The cut may miss the print by ${predicted.toFixed(2)} mm; bleed and inset together are ${(bleed + sheet.inset).toFixed(2)} mm. Give ${more} mm more, or paper will show.`,
    },
  ];
};

export const cornersOffBed = (
  on: readonly { slot: Slot; ordinal: Ordinal }[],
  art: Box,
  boardToBed: Transform,
  input: BatchInput,
): Remark[] =>
  on.flatMap(({ slot, ordinal }) => {
    const m = compose(boardToBed, slotTransform(slot));
    const outside = boxCorners(art).some((c) => {
      const p = apply(m, c);
      return p.x < 0 || p.y < 0 || p.x > input.machine.bed.width || p.y > input.machine.bed.height;
    });
    return outside
      ? [
          {
            station: 'place',
            message: `Slot ${slot.slot}: the art leaves the bed.`,
            danger: 'travel',
            pieces: [ordinal],
          },
        ]
      : [];
  });

/**
 * The pocket of a board that was cut: its own opening, with today's pieces floating in it.
 *
 * @param pocketOf the pocket for pieces of these sizes
 * @param total how much larger a pocket is than the size allowed for, mm
 */
export const existingPocket = (
  pocketOf: (sizes: BlankSizes) => Pocket,
  sizes: BlankSizes,
  wanted: Pocket,
  cut: FixtureBasis,
  total: Mm,
): Pocket => {
  const same = (upper: Mm, opening: Mm): boolean => Math.abs(opening - upper - total) < 1e-9;
  if (same(sizes.length.upper, cut.pocketLength) && same(sizes.width.upper, cut.pocketWidth)) return wanted;
  return pocketOf({
    ...sizes,
    length: { ...sizes.length, upper: cut.pocketLength - total },
    width: { ...sizes.width, upper: cut.pocketWidth - total },
  });
};
