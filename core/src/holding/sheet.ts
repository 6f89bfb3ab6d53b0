import { offsetContours, type Contour } from '../geometry';
import type { Mm } from '../units';
import type { GoverningSize } from '../samples';
import { blankOutline, nominalSize, type Blank, type BlankSizes } from './blank';
import type { HoldSettings } from './settings';

/** Sheets by their upright sizes, mm: A sizes [ISO 216], Letter 8½ × 11 in. */
export const PAPERS = {
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
  Letter: { width: 215.9, height: 279.4 },
} as const;
export type Paper = keyof typeof PAPERS | 'own';

/** A sheet on which pieces are printed, to be cut out afterwards. Lengths mm. */
export interface SheetSettings {
  readonly paper: Paper;
  /** Long side to the right. */
  readonly landscape: boolean;
  /** Size of an own sheet, as it lies. */
  readonly own: { readonly width: Mm; readonly height: Mm };
  /** How far the print goes beyond the piece's outline. */
  readonly bleed: Mm;
  /** How far inside the outline the cut runs; 0 cuts on it. */
  readonly inset: Mm;
  /** Colour printed behind the pieces and into the bleed, `#rrggbb`. */
  readonly ground: string;
  /** Left between the bleeds of neighbouring pieces [common practice: 1 mm]. */
  readonly gap: Mm;
}

/** Bleed and inset of half a millimetre [common practice]. */
export const freshSheet: SheetSettings = {
  paper: 'A4',
  landscape: true,
  own: { width: 300, height: 200 },
  bleed: 1,
  inset: 0,
  ground: '#f0d9a8',
  gap: 1,
};

/** The sheet as it lies. */
export const sheetSize = ({ paper, landscape, own }: SheetSettings): { width: Mm; height: Mm } => {
  if (paper === 'own') return own;
  const { width, height } = PAPERS[paper];
  return landscape ? { width: height, height: width } : { width, height };
};

/** The settings by which a sheet's grid is laid: as a board without walls, notches and labels. */
export const gridSettings = (hold: HoldSettings): HoldSettings => ({
  ...hold,
  extent: { kind: 'board', ...sheetSize(hold.sheet) },
  wall: 2 * hold.sheet.bleed + hold.sheet.gap,
  boardThickness: 0,
  notches: 'none',
  slotNumbers: false,
});

/** What is printed is as large as it is drawn: no samples, no spread. */
export const printedSizes = (blank: Blank, sizes: BlankSizes): BlankSizes => {
  const { length, width } = nominalSize(blank.shape);
  const exact = (size: GoverningSize, value: Mm): GoverningSize => ({
    ...size,
    mean: value,
    upper: value,
    spread: 0,
    dof: Infinity,
    assumed: false,
    working: [],
  });
  return { length: exact(sizes.length, length), width: exact(sizes.width, width), thickness: sizes.thickness };
};

/**
 * The line along which a printed piece is cut, its frame: the outline inwards by the inset, outwards
 * by half the kerf so that the piece keeps its size.
 */
export const pieceCut = (blank: Blank, sizes: BlankSizes, sheet: SheetSettings, kerf: Mm): Contour[] => {
  const by = kerf / 2 - sheet.inset;
  const outline = blankOutline(blank, sizes).slice(0, 1);
  return Math.abs(by) < 1e-9 ? outline : offsetContours(outline, by);
};

/** The ground that is printed behind a piece: its outline and the bleed. */
export const pieceGround = (blank: Blank, sizes: BlankSizes, sheet: SheetSettings): Contour[] =>
  offsetContours(blankOutline(blank, sizes).slice(0, 1), sheet.bleed);
