import type { Mm, Share } from '../units';
import type { FillOrder } from './order';
import { freshOwn, type OwnMarks } from './own';
import { freshPhoto, type PhotoSettings } from '../photo';
import { freshStock, type SlottedStock, type StandChoice } from '../slotted';
import { freshPanel, type PanelSettings } from './panel';
import { freshSheet, type SheetSettings } from './sheet-settings';
import { freshLines, type LinesSettings } from './lines';
import { freshLocator, type LocatorSettings } from './locator';
import type { PinSettings } from './pins';
import type { TallThing } from './tall';

/** How much larger than the chosen size a pocket is, in total (not per side). */
export type Clearance =
  { readonly school: 'loose' } | { readonly school: 'snug' } | { readonly school: 'own'; readonly total: Mm };

export type BoardExtent =
  | { readonly kind: 'board'; readonly width: Mm; readonly height: Mm }
  | { readonly kind: 'bed' }
  | { readonly kind: 'count'; readonly count: number };

/** Pockets, a stop corner, pegs and witness lines, the grid of a locator board, a printed sheet from which pieces are cut, a sheet engraved on both faces, one long piece, pieces with marks of their own, a strip on a feeder, or blanks lying anywhere under a camera. */
export type HoldMethod =
  'nest' | 'fence' | 'lines' | 'locator' | 'sheet' | 'panel' | 'long' | 'marked' | 'feed' | 'photo';

/** What is chosen of a board that is cut: its size, walls, order, marks and name. */
export interface BoardSettings {
  readonly boardThickness: Mm;
  /** Least wall between pockets, mm; never below the board's thickness or 2 mm. */
  readonly wall: Mm;
  readonly extent: BoardExtent;
  readonly turned: 'auto' | 'along' | 'across';
  readonly notches: 'none' | 'one' | 'both';
  readonly notchRadius: Mm;
  readonly slotNumbers: boolean;
  /** Registration marks on the board, 2 to 12: two place it, the rest check. */
  readonly marks: number;
  readonly order: FillOrder;
  /** Name engraved on the board and used for its file. */
  readonly name: string;
}

/** What the operator chooses at the Hold station. */
export interface HoldSettings extends BoardSettings {
  /** `nest`: pockets with clearance. `fence`: roomy pockets, every piece pushed to one corner. `sheet`: printed. `panel`: both faces. `long`: in segments. `marked`: by the piece's own marks. `feed`: on a feeder. `photo`: anywhere, under a camera. */
  readonly method: HoldMethod;
  readonly clearance: Clearance;
  readonly coverage: Share;
  readonly confidence: Share;
  readonly boardWarp: Mm;
  /** Room to push a piece against its corner, fence only. */
  readonly pushRoom: Mm;
  readonly tallThings: readonly TallThing[];
  /** Sheet only. */
  readonly sheet: SheetSettings;
  /** Panel only. */
  readonly panel: PanelSettings;
  /** Marked only. */
  readonly own: OwnMarks;
  /** Photo only. */
  readonly photo: PhotoSettings;
  /** Pegs and witness lines only. */
  readonly lines: LinesSettings;
  /** Locator board only. */
  readonly locator: LocatorSettings;
  /** Pins that hold the work down; null for none. */
  readonly pins: PinSettings | null;
  /** Board for slotted parts: cradles and stands. */
  readonly stock: SlottedStock;
  /** A stand under the work; null for none. */
  readonly stand: StandChoice | null;
}

/** Pocket clearances by school [common practice: 0.5 to 1 mm over the piece, in total]. */
export const CLEARANCE: Readonly<Record<'loose' | 'snug', Mm>> = { loose: 1, snug: 0.5 };

export const clearanceTotal = (clearance: Clearance): Mm =>
  clearance.school === 'own' ? clearance.total : CLEARANCE[clearance.school];

/** A board for loose pockets, numbered from the back left corner, as a list is read. */
export const defaultHold = (name: string): HoldSettings => ({
  method: 'nest',
  clearance: { school: 'loose' },
  coverage: 0.95,
  confidence: 0.95,
  boardThickness: 3,
  boardWarp: 0,
  wall: 3,
  extent: { kind: 'bed' },
  turned: 'auto',
  notches: 'one',
  notchRadius: 8,
  slotNumbers: true,
  marks: 3,
  order: { corner: 'back-left', first: 'rows', serpentine: false },
  name,
  pushRoom: 3,
  tallThings: [],
  sheet: freshSheet,
  panel: freshPanel,
  own: freshOwn,
  photo: freshPhoto,
  lines: freshLines,
  locator: freshLocator,
  pins: null,
  stock: freshStock,
  stand: null,
});
