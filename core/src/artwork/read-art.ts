import { boxHeight, boxWidth, contoursBox, scaling, transformContour, type Box } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { TracedArt } from '../trace';
import type { Mm } from '../units';
import type { ArtFile, ArtShape } from './art-file';
import { pdfDrawing, type PdfPage } from './pdf-page';
import { readDxfArt } from './dxf-read';
import { readSvgArt, type MakePlain } from './outline-svg';

/** Least and greatest size of a drawing of art, mm. */
const SMALLEST: Mm = 0.5;
const LARGEST: Mm = 10_000;

/** A drawing as it is kept: its shapes from their common lower left corner on, and how large they are together. */
export interface ReadArt {
  readonly shapes: readonly ArtShape[];
  readonly width: Mm;
  readonly height: Mm;
  readonly unit: ArtFile['unit'];
  readonly notes: readonly string[];
  /** How far its outlines may be off, standard uncertainty a side, where they were traced from a picture. */
  readonly doubt?: Mm;
  /** Where its page lies about its shapes, where it has one. */
  readonly page?: Box;
}

const rounded = (value: number): number => Math.round(value * 10_000) / 10_000;

/** Whether a file is a DXF, by its name or by how it begins. */
export const isDxf = (name: string, text: string): boolean => /\.dxf$/i.test(name) || /^\s*0\s*\r?\n\s*SECTION/.test(text.slice(0, 200)); // prettier-ignore

/**
 * Reads a file of art: an SVG as its standard says it, a DXF as its lines, each in its colour.
 *
 * @returns what is seen of it, or why nothing can be made of it
 */
export const readArt = (name: string, text: string, makePlain: MakePlain): Result<ReadArt> => {
  return keptArt(isDxf(name, text) ? readDxfArt(text) : readSvgArt(text, makePlain));
};

/** Reads what a page of a PDF draws; what of it is no drawing is named. */
export const readPdfPage = (page: PdfPage, makePlain: MakePlain, more: readonly string[] = []): Result<ReadArt> => {
  const { svg, notes } = pdfDrawing(page);
  const file = readSvgArt(svg, makePlain);
  const said = [...more, ...notes];
  if (!file.ok) return file;
  if (file.value.shapes.length === 0)
    return fail('nothing-seen', ['Nothing is drawn on the page.', ...said].join(' '), 'file');
  return keptArt({ ok: true, value: { ...file.value, unit: 'mm', notes: [...said, ...file.value.notes] } });
};

/** Dots to the inch that a picture is taken for which does not say. */
const USUAL_DOTS = 96;

/**
 * Makes art of what was traced in a picture.
 *
 * @param perInch dots to the inch as the file says; nothing where it does not, so that its size must be asked about
 */
export const readTraced = ({ contours, doubt, notes }: TracedArt, perInch: number | null): Result<ReadArt> => {
  const dot = 25.4 / (perInch ?? USUAL_DOTS);
  const shape = { rule: 'evenodd', fill: '#000000', stroke: null, width: 0 } as const;
  const shapes = [{ ...shape, contours: contours.map((c) => transformContour(scaling(dot), c)) }];
  const read = keptArt({ ok: true, value: { shapes, unpainted: [], hidden: 0, unit: perInch ? 'in' : 'px', notes } });
  return read.ok ? ok({ ...read.value, doubt: doubt * dot }) : read;
};

const keptArt = (file: Result<ArtFile>): Result<ReadArt> => {
  if (!file.ok) return file;
  const { shapes, hidden, unpainted, unit, notes, page } = file.value;
  const unseen = hidden + unpainted.length;
  const said = [
    ...notes,
    ...(unseen > 0 ? [`${unseen === 1 ? 'A shape is' : `${unseen} shapes are`} not seen in the file (hidden, or without fill and line) and left out.`] : []), // prettier-ignore
  ];
  if (shapes.length === 0) return fail('nothing-seen', ['Nothing is seen in the file.', ...said].join(' '), 'file');
  const box = contoursBox(shapes.flatMap((s) => s.contours));
  const [width, height] = [boxWidth(box), boxHeight(box)];
  if (Math.max(width, height) < SMALLEST || Math.max(width, height) > LARGEST)
    return fail('art-size', `The art is ${width.toFixed(2)} × ${height.toFixed(2)} mm. It must be between ${SMALLEST} mm and ${LARGEST / 1000} m. Check the file’s unit.`, 'file'); // prettier-ignore
  return ok({
    shapes: shapes.map((s) => ({
      ...s,
      width: rounded(s.width),
      contours: s.contours.map(({ closed, vertices }) => ({
        closed,
        vertices: vertices.map((v) => {
          const [x, y] = [rounded(v.x - box.minX), rounded(v.y - box.minY)];
          return v.bulge ? { x, y, bulge: v.bulge } : { x, y };
        }),
      })),
    })),
    width,
    height,
    unit,
    notes: said,
    ...(page ? { page: { minX: -box.minX, minY: -box.minY, maxX: page.width - box.minX, maxY: page.height - box.minY } } : {}), // prettier-ignore
  });
};
