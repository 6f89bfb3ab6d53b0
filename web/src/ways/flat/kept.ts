import type { HoldSettings } from '@bistre/core';
import type { HoldPages } from '../pages';

/** How a kept board was cut. */
export const cutWords = ({ clearance, boardThickness }: HoldSettings): string =>
  `${clearance.school === 'own' ? `${clearance.total} mm clearance` : clearance.school}, ${boardThickness} mm board.`;

/** A board that is cut, labelled and kept on the Shelf. */
export const KEPT_BOARD: HoldPages['kept'] = { noun: 'board', words: cutWords };
