import { insidePolygon, type Vec } from '../geometry';
import type { Mm, Rad, Share } from '../units';
import type { Homography } from './camera';
import { fieldMarks, type PhotoMark } from './marks';

/** A blank that a photograph showed, as it was accepted. Bed frame. */
export interface AcceptedBlank {
  readonly x: Mm;
  readonly y: Mm;
  readonly angle: Rad;
  /** A person must say whether it is one, and how it lies. */
  readonly ask: boolean;
  readonly why: string;
  /** Standard uncertainty of its middle per axis, and of its angle. */
  readonly doubt: Mm;
  readonly turn: Rad;
  /** How far it may lie aside per axis by what is not known of the camera’s foot, ± mm; none where nobody said. */
  readonly foot?: Mm | null;
}

/** A piece of stock as a photograph showed it, with holes and knots. Bed frame, mm. */
export interface SeenOffcut {
  readonly outline: readonly Vec[];
  readonly defects: readonly (readonly Vec[])[];
}

/** Sizes of paper that a sheet of marks is printed on, lying along, mm. */
export const MARK_SHEETS = {
  A4: { width: 297, height: 210 },
  A3: { width: 420, height: 297 },
  Letter: { width: 279.4, height: 215.9 },
} as const;
export type MarkSheet = keyof typeof MARK_SHEETS;
/** Printers leave an edge blank; marks on a sheet lie so far in, mm. */
export const SHEET_INSET: Mm = 15;

/** A fixed camera as it was calibrated: which point of the bed lies where in its picture. */
export interface KeptCamera {
  /** Dots of its pictures. */
  readonly width: number;
  readonly height: number;
  readonly toPicture: Homography;
  readonly k1: number;
  readonly k2: number;
  /** Spread of the marks it was calibrated by, mm. */
  readonly spread: Mm | null;
  readonly marks: number;
  readonly at: string;
}

/** How the camera of the last photograph was known. */
export type SeenBy = 'marks' | 'hand' | 'kept' | 'kept, not checked';

/** What is chosen where blanks lie anywhere under a camera. */
export interface PhotoSettings {
  /** Blanks that are engraved as they lie, or offcuts that parts are laid into and cut from. */
  readonly use: 'blanks' | 'offcuts';
  /** Height of the camera over the bed, mm. */
  readonly cameraHeight: Mm;
  /** The machine burned the marks, a printed sheet carries them, or they are features of the bed at known places. */
  readonly marksOn: 'bed' | 'sheet' | 'own';
  readonly sheet: MarkSheet;
  /** Features of the bed that are aimed at by hand, bed frame, mm. */
  readonly own: readonly Vec[];
  /** Distance of burned marks from the bed's edges, mm. */
  readonly inset: Mm;
  /** Free between parts, kerf not counted, mm. */
  readonly gap: Mm;
  /** Parts lie along the bed's x, as the grain runs, or by any quarter turn. */
  readonly grain: 'along' | 'any';
  /** Other batches whose parts are laid into the same stock. */
  readonly also: readonly string[];
}

/** What the last photograph showed, and what was laid into it. */
export interface PhotoFindings {
  readonly offcuts: readonly SeenOffcut[];
  /** Parts of other batches where they were laid: taken for this batch. */
  readonly others: readonly (readonly Vec[])[];
  /** Area of parts over the stock they take, 0 to 1; null before they are laid. */
  readonly density: Share | null;
  /** Blanks in reading order; parts as they were laid into the offcuts. */
  readonly blanks: readonly AcceptedBlank[];
  /** Things on the bed that were left out. */
  readonly left: number;
  /** Spread of the marks' residuals, mm; null when nothing was taken. */
  readonly spread: Mm | null;
  readonly marks: number;
  readonly seenBy: SeenBy;
  /** Number of the last load before it was taken. */
  readonly afterLoad: number;
  readonly takenAt: string | null;
}

export const freshPhoto: PhotoSettings = {
  use: 'blanks',
  gap: 1,
  grain: 'along',
  also: [],
  cameraHeight: 700,
  marksOn: 'bed',
  sheet: 'A3',
  own: [],
  inset: 20,
};

export const nothingSeen: PhotoFindings = {
  offcuts: [],
  others: [],
  density: null,
  blanks: [],
  left: 0,
  spread: null,
  marks: 0,
  seenBy: 'marks',
  afterLoad: 0,
  takenAt: null,
};

/** The field that a photograph shows, from its front left corner: the bed, or a sheet of marks on it, mm. */
export const photoField = (
  { marksOn, sheet }: Pick<PhotoSettings, 'marksOn' | 'sheet'>,
  bed: { readonly width: Mm; readonly height: Mm },
): { readonly width: Mm; readonly height: Mm } => (marksOn === 'sheet' ? MARK_SHEETS[sheet] : bed);

/** The marks that a photograph is measured by, field frame. */
export const photoMarks = (
  settings: Pick<PhotoSettings, 'marksOn' | 'sheet' | 'own' | 'inset'>,
  bed: { readonly width: Mm; readonly height: Mm },
): PhotoMark[] =>
  settings.marksOn === 'own'
    ? settings.own.map(({ x, y }, i) => ({ id: i + 1, x, y, ring: false }))
    : fieldMarks(photoField(settings, bed), settings.marksOn === 'sheet' ? SHEET_INSET : settings.inset);

/** Size of a defect that is marked by hand, mm across. */
export const HAND_DEFECT: Mm = 16;

/** Marks a defect on the piece of stock at a point, or takes the one out that lies there. Parts must be laid again. */
export const markDefect = (offcuts: readonly SeenOffcut[], at: Vec): SeenOffcut[] =>
  offcuts.map((o) => {
    const hit = o.defects.findIndex((d) => insidePolygon(at, d));
    if (hit >= 0) return { ...o, defects: o.defects.filter((_, i) => i !== hit) };
    if (!insidePolygon(at, o.outline)) return o;
    const ring = Array.from({ length: 16 }, (_, i) => ({
      x: at.x + (HAND_DEFECT / 2) * Math.cos((i * Math.PI) / 8),
      y: at.y + (HAND_DEFECT / 2) * Math.sin((i * Math.PI) / 8),
    }));
    return { ...o, defects: [...o.defects, ring] };
  });
