import {
  circle,
  flatten,
  offsetContours,
  roundedRectangle,
  transformContour,
  type Contour,
  type Vec,
} from '../geometry';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import type { GoverningSize } from '../samples';
import { blankOutline, blankSizes, type Blank, type BlankSizes } from './blank';
import { nominalSize } from './nominal';
import { freshBoard, type BoardSettings } from './settings';
import { layGrid, PRINT_RIM, type GridSettings } from './layout';
import type { PanelSettings } from './panel';
import { slotTransform, type Board, type Grid, type Pass } from './places';
import { crossContours, markContours } from '../marks';
import { ok, type Result } from '../result';
import { type SheetSettings, sheetSize } from './sheet-settings';

/** What is chosen of every sheet that pieces are cut from. */
export type CutSheet = Pick<BoardSettings, 'turned' | 'marks' | 'order' | 'name'>;

const sheetGrid = (
  { turned, marks, order }: CutSheet,
  size: { readonly width: Mm; readonly height: Mm },
  wall: Mm,
  rim: Mm,
): GridSettings => ({
  extent: { kind: 'board', width: size.width, height: size.height },
  turned,
  marks,
  order,
  wall,
  rim,
  notches: 'none',
  notchRadius: 0,
  slotNumbers: false,
});

/** A sheet to begin with, its pieces numbered as a list is read. */
export const freshCutSheet = (name: string): CutSheet => {
  const { turned, marks, order } = freshBoard(name);
  return { name, turned, marks, order };
};

/** A sheet without walls, notches and labels: its marks, its edge, and the lines that free its pieces. */
const sheetBoard = (
  grid: Grid,
  { name, revision, kerf, pocket }: Pick<Board, 'name' | 'revision' | 'kerf' | 'pocket'>,
  marks: Pass,
  cut: readonly Contour[],
): Board => ({
  ...grid,
  name,
  revision,
  thickness: 0,
  pocket: { length: pocket.length, width: pocket.width },
  kerf,
  passes: [
    marks,
    {
      name: 'edge',
      kind: 'line',
      contours: [roundedRectangle({ x: grid.width / 2, y: grid.height / 2 }, grid.width, grid.height, 0)],
    },
    {
      name: 'pieces',
      kind: 'cut',
      contours: grid.slots.flatMap((s) => cut.map((c) => transformContour(slotTransform(s), c))),
    },
  ],
});

/** What a sheet is laid for: a blank of these sizes, on this machine, as this revision. */
export interface SheetFor {
  readonly blank: Blank;
  readonly sizes: BlankSizes;
  readonly pocket: { readonly length: Mm; readonly width: Mm; readonly offset: Vec };
  readonly machine: { readonly bed: { readonly width: Mm; readonly height: Mm }; readonly kerf: Mm };
  readonly revision: number;
}

/** A sheet that is printed with its pieces and marks, and then cut. */
export const printedBoard = (
  { blank, sizes, pocket, machine: { bed, kerf }, revision }: SheetFor,
  sheet: CutSheet & SheetSettings,
): Result<Board> => {
  const laid = layGrid(
    pocket,
    pocket.offset,
    sheetGrid(sheet, sheetSize(sheet), 2 * sheet.bleed + sheet.gap, PRINT_RIM),
    bed,
  );
  if (!laid.ok) return laid;
  const cut = pieceCut(blank, sizes, sheet, kerf);
  const marks: Pass = { name: 'marks', kind: 'line', contours: laid.value.marks.flatMap(markContours) };
  return ok({
    ...sheetBoard(laid.value, { name: sheet.name, revision, kerf, pocket }, marks, cut),
    cuts: laid.value.slots.map(() => cut),
  });
};

/** A sheet that is engraved on both faces: its marks are cut, not printed; pieces in their own holes need none. */
export const panelBoard = (
  { blank, sizes, pocket, machine: { bed, kerf }, revision }: SheetFor,
  panel: CutSheet & PanelSettings,
): Result<Board> => {
  const laid = layGrid(pocket, pocket.offset, sheetGrid(panel, panel, panel.gap, 0), bed);
  if (!laid.ok) return laid;
  const grid = panel.carry === 'holes' ? { ...laid.value, marks: [] } : laid.value;
  const marks: Pass = { name: 'marks', kind: 'cut', contours: grid.marks.flatMap(crossContours) };
  return ok(sheetBoard(grid, { name: panel.name, revision, kerf, pocket }, marks, panelCut(blank, sizes, kerf)));
};

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

/** Outline of a part that is cut from its stock, as drawn, its own frame, mm; `tolerance` for its arcs. */
export const partOutline = (blank: Blank, tolerance: Mm): Vec[] =>
  // Samples say nothing of a part that is cut as it is drawn.
  flatten(blankOutline(blank, printedSizes(blank, blankSizes(blank, 0.95, 0.95)))[0]!, tolerance);

/**
 * The line along which a printed piece is cut, its frame: the outline inwards by the inset, outwards
 * by half the kerf so that the piece keeps its size.
 */
export const pieceCut = (blank: Blank, sizes: BlankSizes, sheet: SheetSettings, kerf: Mm): Contour[] => {
  const by = kerf / 2 - sheet.inset;
  const outline = blankOutline(blank, sizes).slice(0, 1);
  return Math.abs(by) < 1e-9 ? outline : offsetContours(outline, by);
};

/** What is cut to free a piece of a panel: its holes first, then its outline, so that it keeps its size; piece frame. */
export const panelCut = (blank: Blank, sizes: BlankSizes, kerf: Mm): Contour[] => [
  ...blank.holes.map((h) => circle(h, h.diameter / 2 - kerf / 2)),
  ...blankOutline(blank, sizes)
    .slice(1)
    .flatMap((c) => offsetContours([c], -kerf / 2)),
  ...(kerf === 0
    ? blankOutline(blank, sizes).slice(0, 1)
    : blank.shape.kind === 'disc'
      ? [circle({ x: 0, y: 0 }, sizes.length.mean / 2 + kerf / 2)]
      : offsetContours(blankOutline(blank, sizes).slice(0, 1), kerf / 2)),
];

/** The ground that is printed behind a piece: its outline and the bleed. */
export const pieceGround = (blank: Blank, sizes: BlankSizes, sheet: SheetSettings): Contour[] =>
  offsetContours(blankOutline(blank, sizes).slice(0, 1), sheet.bleed);

/** How far print goes beyond the piece's outline; nobody knows of any where the sheet came printed. */
export const printBeyond = ({ bleed, traced }: SheetSettings): Mm => (traced ? 0 : bleed);

/** How far print must reach beyond the cut, and where the cut runs; with working. */
export interface BleedReckoning {
  /** Least bleed with this inset, and least inset with this bleed, mm. */
  readonly leastBleed: Mm;
  readonly leastInset: Mm;
  /** Cut outside the outline, mm; negative inside. */
  readonly outside: Mm;
  readonly working: readonly WorkedLine[];
}

/**
 * The bleed and inset that a promised error asks for: together at least what the cut may miss.
 * @param predicted error of the cut against the print at 95 %, mm
 */
export const reckonBleed = (sheet: SheetSettings, predicted: Mm, kerf: Mm): BleedReckoning => {
  const leastBleed = Math.max(0, predicted - sheet.inset);
  const bleed = printBeyond(sheet);
  const leastInset = Math.max(0, predicted - bleed);
  const outside = kerf / 2 - sheet.inset;
  return {
    leastBleed,
    leastInset,
    outside,
    working: [
      worked(
        'least bleed',
        'error at 95 % − inset',
        `${fixed(predicted)} − ${fixed(sheet.inset)}`,
        mm(leastBleed),
        'statistics',
      ),
      worked(
        'or least inset',
        'error at 95 % − bleed',
        `${fixed(predicted)} − ${fixed(bleed)}`,
        mm(leastInset),
        'statistics',
      ),
      worked(
        'cut outside the outline',
        'kerf / 2 − inset',
        `${fixed(kerf)} / 2 − ${fixed(sheet.inset)}`,
        mm(outside),
        'geometry',
      ),
    ],
  };
};
