import sharp from 'sharp';
import type { BatchDocument, FileName } from '@bistre/contract';
import {
  boardGcode,
  cutList,
  fixingGcode,
  fixingPasses,
  fixingSvg,
  slotFit,
  type FixingFile,
  greatestDiameter,
  letterGcode,
  reckonCradle,
  ringGcode,
  roundLength,
  stillGcode,
  photoMarksGcode,
  photoMarksSvg,
  stripGcode,
  templatePasses,
  transformContour,
  translation,
  turnedGcode,
  type Pictures,
  turnedWalk,
  unrolledPasses,
  type BatchReckoning,
  boxHeight,
  boxWidth,
  gaugeStrip,
  loadGcode,
  loadPasses,
  loadSvg,
  rasterize,
  safeCell,
  placedPieces,
  slotTransform,
  apply,
  boxOf,
  walkGcode,
  writeDxf,
  writeSvg,
  MOST_DOTS,
  type Result,
} from '@bistre/core';
import { alphabet, LABELS } from '../alphabets';
import { needBoard, reckonDocument } from '../batches';
import { refused } from '../http/problem';
import { markSheet } from './marks';
import { proofSheet, setupSheet, templateSheet } from './pdf';
import { printSheet } from './print';

const need = <T>(result: Result<T>): T => {
  if (!result.ok) throw refused(result.problem);
  return result.value;
};

/** A file's bytes: at once, or as they are written. */
export type Body = string | Buffer | Generator<string>;

const csv = (rows: readonly (readonly string[])[]): string =>
  `\uFEFF${rows.map((cells) => cells.map(safeCell).join(',')).join('\r\n')}\r\n`;

/** The pieces on the board as a picture in the board's frame, one dot an engraving interval. */
const loadPng = async (batch: BatchDocument): Promise<Buffer> => {
  const { input, reckoning } = reckonDocument(batch, 1_000);
  if (!input.recipe)
    throw refused({
      code: 'no-recipe',
      message: 'Choose a recipe first: its interval sets the picture’s resolution.',
      field: 'recipe',
    });
  const polygons = placedPieces(reckoning, reckoning.onTheBoard).flatMap(({ shapes, slot }) =>
    shapes.filled.map((p) => p.map((v) => apply(slotTransform(slot), v))),
  );
  if (polygons.length === 0)
    throw refused({
      code: 'no-filled-art',
      message:
        'There is no filled lettering to make a picture of. Single-stroke alphabets go out as G-code, SVG or DXF.',
      field: 'lettering',
    });
  const box = boxOf(polygons.flat());
  const shifted = polygons.map((p) => p.map((v) => ({ x: v.x - box.minX, y: v.y - box.minY })));
  // PNG states its resolution in whole dots per metre, so the interval is rounded to one.
  const interval = 1000 / Math.round(1000 / input.recipe.engrave.interval);
  if ((boxWidth(box) / interval) * (boxHeight(box) / interval) > MOST_DOTS)
    throw refused({
      code: 'picture-too-large',
      message: 'The picture would have more than 200 million dots. Use a coarser interval.',
    });
  const raster = rasterize(shifted, { width: boxWidth(box), height: boxHeight(box) }, interval);
  return sharp(raster.pixels, { raw: { width: raster.width, height: raster.height, channels: 1 } })
    .toColourspace('b-w')
    .withMetadata({ density: raster.dotsPerMetre * 0.0254 })
    .png({ compressionLevel: 6 })
    .toBuffer();
};

const template = (r: BatchReckoning): NonNullable<ReturnType<typeof templatePasses>> => {
  const made = templatePasses(r);
  if (!made) throw refused({ code: 'not-round', message: 'A wrap template is for round blanks.' });
  return made;
};

/** The blank unrolled with its art, shifted so that everything lies on the sheet. */
const unrolledSvg = (r: BatchReckoning, title: string): string => {
  const passes = unrolledPasses(r);
  const points = passes.flatMap((p) => p.contours.flatMap((c) => c.vertices));
  if (points.length === 0)
    throw refused({
      code: 'no-art',
      message: 'There is nothing to engrave yet: say at the Drive station what goes where.',
    });
  const box = boxOf(points);
  const shift = translation(5 - box.minX, 5 - box.minY);
  return writeSvg(
    `${title}, unrolled`,
    boxWidth(box) + 10,
    boxHeight(box) + 10,
    passes.map((p) => ({ ...p, contours: p.contours.map((c) => transformContour(shift, c)) })),
  );
};

/** Only the setup sheet prints the budget: other files need no large simulation. */
const piecesFor = (file: FileName): number => (file === 'setup.pdf' ? 50_000 : 1_000);

/** Makes one file of a batch from what is saved. Throws what stands against it, in words. */
export const makeFile = async (
  batch: BatchDocument,
  file: FileName,
  pictures: Pictures,
  { input, reckoning: r } = reckonDocument(batch, piecesFor(file)),
): Promise<Body> => {
  const board = (): NonNullable<typeof r.board> => needBoard(r);
  switch (file) {
    case 'board.svg':
      return writeSvg(`${board().name} r${board().revision}`, board().width, board().height, board().passes);
    case 'board.dxf':
      return writeDxf(board().passes);
    case 'board.gcode':
      return need(boardGcode(input, board()));
    case 'print.pdf':
      if (!r.cutLine)
        throw refused({ code: 'not-printed', message: 'This batch is held by a board; only sheets are printed.' });
      return printSheet(input, r, board(), batch.name);
    case 'gauge.svg': {
      const strip = gaugeStrip(input.setup.hold.boardThickness, alphabet(LABELS)!);
      return writeSvg('Bistre gauge strip', strip.width, strip.height, strip.passes);
    }
    case 'load.gcode':
      return need(
        !r.round
          ? loadGcode(input, r, batch.name)
          : batch.drive
            ? turnedGcode(input, r, batch.name, pictures)
            : stillGcode(input, r, batch.name),
      );
    case 'load.svg':
      return r.round ? unrolledSvg(r, batch.name) : loadSvg(input, r, batch.name);
    case 'load.dxf':
      return writeDxf(r.round ? unrolledPasses(r) : loadPasses(r));
    case 'load.png':
      return loadPng(batch);
    case 'strip.gcode':
      return need(stripGcode(input, r, batch.name));
    case 'marks.gcode':
      return need(photoMarksGcode(input, r));
    case 'marks.svg':
      return need(photoMarksSvg(input, r));
    case 'marks.pdf':
      return markSheet(input, r, batch.name);
    case 'walk.gcode':
      return need(r.round ? turnedWalk(input, r) : walkGcode(input, r));
    case 'ring.gcode':
      return need(ringGcode(input, r));
    case 'letter.gcode':
      return need(letterGcode(input, r));
    case 'wrap.svg':
      return unrolledSvg(r, batch.name);
    case 'template.svg': {
      const t = template(r);
      return writeSvg(`${batch.name}, wrap template`, t.width, t.height, t.passes);
    }
    case 'template.dxf':
      return writeDxf(template(r).passes);
    case 'template.pdf':
      return templateSheet(template(r), batch.name);
    case 'card.svg':
    case 'grid.svg':
    case 'locator.svg':
    case 'pins.svg':
    case 'pin-gauge.svg':
    case 'fit-gauge.svg':
    case 'stand.svg':
      return need(fixingSvg(input, r, file.slice(0, -4) as FixingFile));
    case 'card.gcode':
    case 'grid.gcode':
    case 'pins.gcode':
      return need(fixingGcode(input, r, file.slice(0, -6) as FixingFile));
    case 'grid.dxf':
      return writeDxf(need(fixingPasses(input, r, 'grid')).passes);
    case 'locator.csv':
      return csv(need(cutList(r)));
    case 'cradle.svg': {
      const { shape } = input.blank;
      if (shape.kind !== 'round') throw refused({ code: 'not-round', message: 'A cradle is for round blanks.' });
      const made = need(
        reckonCradle({
          diameter: greatestDiameter(shape),
          length: roundLength(shape),
          fit: need(slotFit(input.setup.hold.stock, input.setup.hold.boardThickness)),
          crestHeight: null,
          pieces: Math.min(8, input.quantity),
          kerf: input.machine.kerf,
        }),
      );
      return writeSvg('Cradle', made.width + 2, made.height + 2, [
        { name: 'cradle', kind: 'cut', contours: made.contours.map((c) => transformContour(translation(1, 1), c)) },
      ]);
    }
    case 'setup.pdf':
      return setupSheet(input, r, batch.name);
    case 'proof.pdf':
      return proofSheet(input, r, batch.name);
    case 'roster.csv': {
      const state = new Map(batch.pieces.map((p) => [p.ordinal, p]));
      // Which face was engraved and what was kept clear of, where anybody looked.
      const looks = new Map(batch.setup.looks.pieces.map((p) => [p.ordinal, p]));
      const seen = (ordinal: number): string[] => {
        if (looks.size === 0) return [];
        const look = looks.get(ordinal);
        return [
          look?.side ?? '',
          (look?.defects ?? [])
            .map((d) => `${d.x.toFixed(1)}/${d.y.toFixed(1)} across ${d.diameter.toFixed(1)}`)
            .join('; '),
        ];
      };
      const rows = batch.roster.map((row, i) => [
        String(i + 1),
        ...batch.columns.map((c) => row[c] ?? ''),
        ...seen(i + 1),
        state.get(i + 1)?.state ?? 'waiting',
        state.get(i + 1)?.cause ?? '',
      ]);
      const head = looks.size === 0 ? [] : ['side', 'defects mm'];
      return csv([['piece', ...batch.columns, ...head, 'state', 'cause'], ...rows]);
    }
  }
};
