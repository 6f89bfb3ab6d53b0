import type { Mm } from '../units';
import type { TracedSheet } from '../trace';

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
  /** A sheet that somebody else printed, found in its picture; null for one that is laid out here. */
  readonly traced: TracedSheet | null;
  /** Whether holes of a traced sheet's pieces are cut out too. */
  readonly inner: boolean;
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
  traced: null,
  inner: false,
};

/** The sheet as it lies. */
export const sheetSize = ({ paper, landscape, own }: SheetSettings): { width: Mm; height: Mm } => {
  if (paper === 'own') return own;
  const { width, height } = PAPERS[paper];
  return landscape ? { width: height, height: width } : { width, height };
};
