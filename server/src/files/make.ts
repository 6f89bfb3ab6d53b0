import sharp from 'sharp';
import type { BatchDocument, FileName } from '@bistre/contract';
import {
  allShapes,
  thicknessOf,
  apply,
  batchDrawing,
  batchList,
  batchProgram,
  boxHeight,
  boxOf,
  boxWidth,
  compose,
  drawingDxf,
  drawingSvg,
  fitGaugeDrawing,
  gateOf,
  gaugeStrip,
  hasPaper,
  identity,
  MOST_DOTS,
  ok,
  onSheet,
  passed,
  pictureRim,
  PictureRows,
  placedPieces,
  rasterize,
  safeCell,
  serialText,
  slotTransform,
  translation,
  wayOf,
  writeSvg,
  type BatchInput,
  type DrawingName,
  type PaperName,
  type Pictures,
  type Raster,
  type ProgramName,
  type Result,
  type Ordinal,
} from '@bistre/core';
import { alphabet, LABELS } from '../alphabets';
import { needBoard, reckonDocument } from '../batches';
import { refused } from '../http/problem';
import { markSheet } from './marks';
import { setupSheet, templateSheet } from './pdf';
import { proofSheet, type Side } from './proof';
import { labelSheet } from './labels';
import { loadCard } from './load-card';
import { targetSheet } from './target';
import { piecePicture } from './piece-picture';
import { printSheet } from './print';
import { shadesOf } from './shades';

const need = <T>(result: Result<T>): T => {
  if (!result.ok) throw refused(result.problem);
  return result.value;
};

/** A file's bytes: at once, or as they are written. */
export type Body = string | Buffer | Generator<string>;

const csv = (rows: readonly (readonly string[])[]): string =>
  `\uFEFF${rows.map((cells) => cells.map(safeCell).join(',')).join('\r\n')}\r\n`;

/** Burns a picture's dots into one at exact resolution. */
const burnDots = ({ width, height, pixels }: Raster, rows: PictureRows): void => {
  for (let k = rows.grid.lines[0]; k <= rows.grid.lines[1]; k += 1) {
    const spans = rows.line(k);
    const row = height - 1 - k;
    if (row < 0 || row >= height) continue;
    for (let i = 0; i < spans.length; i += 2)
      pixels.fill(0, row * width + Math.max(0, spans[i]!), row * width + Math.min(width, spans[i + 1]!));
  }
};

/** The pieces on the board as a picture in the board's frame, one dot an engraving interval. */
const loadPng = async (batch: BatchDocument, pictures: Pictures): Promise<Buffer> => {
  const { input, reckoning } = reckonDocument(batch, 1_000);
  need(passed(gateOf(input, reckoning, 'load'), () => ok(null)));
  if (reckoning.own.long)
    throw refused({ code: 'picture-of-segments', message: 'A picture would show all segments at once. Take the G-code of the one that is on.', field: 'run' }); // prettier-ignore
  if (!input.recipe)
    throw refused({
      code: 'no-recipe',
      message: 'Choose a recipe first: its interval sets the picture’s resolution.',
      field: 'recipe',
    });
  const placed = placedPieces(reckoning, reckoning.onTheBoard);
  const polygons = placed.flatMap(({ shapes, slot }) =>
    allShapes(shapes).filled.map((p) => p.map((v) => apply(slotTransform(slot), v))),
  );
  const shaded = placed.flatMap(({ shapes, slot }) =>
    (shapes.pictures ?? []).map((p) => ({ ...p, place: compose(slotTransform(slot), p.place) })),
  );
  if (polygons.length + shaded.length === 0)
    throw refused({
      code: 'no-filled-art',
      message:
        'There is no filled lettering to make a picture of. Single-stroke alphabets go out as G-code, SVG or DXF.',
      field: 'lettering',
    });
  const box = boxOf([...polygons, ...shaded.map((p) => pictureRim(p, identity))].flat());
  const shifted = polygons.map((p) => p.map((v) => ({ x: v.x - box.minX, y: v.y - box.minY })));
  // PNG states its resolution in whole dots per metre, so the interval is rounded to one.
  const interval = 1000 / Math.round(1000 / input.recipe.engrave.interval);
  if ((boxWidth(box) / interval) * (boxHeight(box) / interval) > MOST_DOTS)
    throw refused({
      code: 'picture-too-large',
      message: 'The picture would have more than 200 million dots. Use a coarser interval.',
    });
  const raster = rasterize(shifted, { width: boxWidth(box), height: boxHeight(box) }, interval);
  for (const p of shaded) {
    const grey = pictures.get(p.pictureId);
    if (!grey) throw refused({ code: 'no-picture', message: 'A picture of this setup is not at hand. Choose it again.', field: 'run' }); // prettier-ignore
    // A line of dots is sampled through their middles.
    const place = compose(translation(-box.minX, -box.minY - interval / 2), p.place);
    burnDots(raster, new PictureRows(grey, place, p.treatment, interval));
  }
  return sharp(raster.pixels, { raw: { width: raster.width, height: raster.height, channels: 1 } })
    .toColourspace('b-w')
    .withMetadata({ density: raster.dotsPerMetre * 0.0254 })
    .png({ compressionLevel: 6 })
    .toBuffer();
};

/** Refuses a paper that a batch's way of holding does not have. */
const mustHave = (input: BatchInput, paper: PaperName, why: string): void => {
  if (!hasPaper(input, paper)) throw refused({ code: 'no-such-file', message: `${input.name} ${why}.` });
};

/** Only the setup sheet prints the budget: other files need no large simulation. */
const piecesFor = (file: FileName): number => (file === 'setup.pdf' ? 50_000 : 1_000);

/** A batch with each of its sides up, the front first; as it lies, where it has one. */
const sidesOf = (batch: BatchDocument, now: Side): readonly [Side, Side?] => {
  const { turnedBy } = wayOf(now.input);
  if (!turnedBy) return [now];
  const ticks = batch.ticks.filter((t) => t.step !== turnedBy);
  const turned = { step: turnedBy, at: batch.updatedAt, by: batch.updatedBy };
  return [reckonDocument({ ...batch, ticks }, 1_000), reckonDocument({ ...batch, ticks: [...ticks, turned] }, 1_000)];
};

/** A date as papers say it. */
const onDay = (at: Date): string => at.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** Makes one file of a batch from what is saved. Throws what stands against it, in words. */
export const makeFile = async (
  batch: BatchDocument,
  file: FileName,
  pictures: Pictures,
  { input, reckoning: r } = reckonDocument(batch, piecesFor(file)),
  origin = '',
): Promise<Body> => {
  const [name, ending] = file.split('.') as [DrawingName & ProgramName & PaperName, string];
  switch (file) {
    case 'gauge.svg': {
      const strip = gaugeStrip(thicknessOf(input), alphabet(LABELS)!);
      return writeSvg('Bistre gauge strip', strip.width, strip.height, strip.passes);
    }
    case 'fit-gauge.svg':
      return drawingSvg(fitGaugeDrawing(input));
    case 'load.png':
      return loadPng(batch, pictures);
    case 'locator.csv':
      return csv(need(batchList(input, r, 'locator')));
    case 'print.pdf':
      mustHave(input, 'print', 'is not held by a sheet; only sheets are printed');
      need(passed(gateOf(input, r, 'print'), () => ok(null)));
      return printSheet(input, r, needBoard(r), batch.name, await shadesOf(pictures, input));
    case 'marks.pdf':
      mustHave(input, 'marks', 'is not placed by a photograph');
      return markSheet(input, r, batch.name);
    case 'template.pdf':
      mustHave(input, 'template', 'is not round; a template is wrapped round a blank');
      return templateSheet(onSheet(need(batchDrawing(input, r, 'template'))), batch.name);
    case 'setup.pdf':
      return setupSheet(input, r, batch.name, origin && `${origin}/batches/${batch.id}`);
    case 'target.pdf':
      if (!wayOf(input).files.programs.target) throw refused({ code: 'no-such-file', message: `${input.name} has no piece that is aimed at by itself.` }); // prettier-ignore
      return targetSheet(input, r, batch.name);
    case 'labels.pdf':
      return labelSheet(input, r, {
        title: batch.name,
        customer: batch.customer,
        dueAt: batch.dueAt && onDay(new Date(batch.dueAt)),
        fixture: batch.fixture && { ...batch.fixture, address: `${origin}/shelf/fixtures/${batch.fixture.fixtureId}` },
        address: `${origin}/batches/${batch.id}`,
      });
    case 'load-card.pdf':
      return loadCard(input, r, batch.name);
    case 'piece.png':
      return piecePicture(input, r, await shadesOf(pictures, input));
    case 'proof.pdf':
    case 'proof-all.pdf': {
      const [front, back] = sidesOf(batch, { input, reckoning: r });
      return proofSheet(
        front.input,
        front.reckoning,
        {
          title: batch.name,
          customer: batch.customer,
          on: onDay(new Date()),
          every: file === 'proof-all.pdf',
          artworks: batch.artworks,
          columns: batch.columns,
          approval: batch.approval,
        },
        await shadesOf(pictures, input),
        back,
      );
    }
    case 'job.zip':
      throw new Error('a job is written from the database, not from its document');
    case 'roster.csv': {
      const state = new Map(batch.pieces.map((p) => [p.ordinal, p]));
      // Which face was engraved and what was kept clear of, where anybody looked.
      const looks = new Map(batch.setup.looks.pieces.map((p) => [p.ordinal, p]));
      const seen = (ordinal: Ordinal): string[] => {
        if (looks.size === 0) return [];
        const look = looks.get(ordinal);
        return [
          look?.side ?? '',
          (look?.defects ?? [])
            .map((d) => `${d.x.toFixed(1)}/${d.y.toFixed(1)} across ${d.diameter.toFixed(1)}`)
            .join('; '),
        ];
      };
      // Numbers that pieces have, where they have any, though no list names them.
      const counted = (batch.setup.contents ?? []).filter((c) => c.kind === 'serial');
      const serialOf = (c: (typeof counted)[number], i: number): string => {
        const number = batch.serials.find((s) => s.contentId === c.id)?.numbers[i] ?? null;
        return number === null ? '' : serialText(c, number);
      };
      const count = counted.length > 0 ? Math.max(batch.roster.length, batch.quantity) : batch.roster.length;
      const rows = Array.from({ length: count }, (_, i) => [
        String(i + 1),
        ...batch.columns.map((c) => batch.roster[i]?.[c] ?? ''),
        ...counted.map((c) => serialOf(c, i)),
        ...seen(i + 1),
        state.get(i + 1)?.state ?? 'waiting',
        state.get(i + 1)?.cause ?? '',
      ]);
      const head = looks.size === 0 ? [] : ['side', 'defects mm'];
      return csv([
        [
          'piece',
          ...batch.columns,
          ...counted.map((_, i) => (i === 0 ? 'serial number' : `serial number ${i + 1}`)),
          ...head,
          'state',
          'cause',
        ],
        ...rows,
      ]);
    }
    default:
      if (ending === 'svg') return drawingSvg(need(batchDrawing(input, r, name)));
      if (ending === 'dxf') return drawingDxf(need(batchDrawing(input, r, name)));
      return need(batchProgram(input, r, name, { title: batch.name, pictures }));
  }
};
