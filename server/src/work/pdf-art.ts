import { fail, readPdfPage, type PdfFont, type PdfPage, type ReadArt, type Result } from '@bistre/core';
import type { PDFDocumentProxy } from 'pdfjs-dist';
import { plainSvg } from './plain-svg';

/** The reader; it is large, and only read in once there is a PDF. */
const reader = () => import('pdfjs-dist/legacy/build/pdf.mjs');

type Reader = Awaited<ReturnType<typeof reader>>;

/** Longest that a page’s program may be, steps. */
const MOST_STEPS = 400_000;

/** What stops a PDF from being read, in words. */
const whyNot = (error: unknown): Result<never> => {
  const name = error instanceof Error ? error.name : '';
  if (name === 'PasswordException')
    return fail('locked-pdf', 'The PDF is locked by a password. Have it sent without one, or unlock it and save it anew.', 'file'); // prettier-ignore
  return fail('damaged-pdf', 'The PDF is damaged or is none: nothing can be read of it. Have it saved anew.', 'file');
};

interface KnownFont {
  readonly name?: string;
  readonly loadedName?: string;
  readonly missingFile?: boolean;
  readonly isType3Font?: boolean;
  readonly fontMatrix?: readonly number[];
}

/** What the reader keeps of a font, once the page’s program was read. */
const fontsOf = (kept: { has(id: string): boolean; get(id: string): unknown }): PdfPage['fontOf'] => {
  const known = new Map<string, PdfFont>();
  return (id) => {
    const found = known.get(id);
    if (found || !kept.has(id)) return found ?? null;
    const font = kept.get(id) as KnownFont;
    const made: PdfFont = {
      name: font.name ?? id,
      embedded: font.missingFile !== true && font.isType3Font !== true,
      advance: font.fontMatrix?.[0] ?? 0.001,
      outlineOf: (letter) => {
        const path = `${font.loadedName ?? id}_path_${letter}`;
        return kept.has(path) ? (kept.get(path) as { path: ArrayLike<number> }).path : null;
      },
    };
    known.set(id, made);
    return made;
  };
};

const firstPage = async (document: PDFDocumentProxy, { OPS, AnnotationMode }: Reader): Promise<Result<ReadArt>> => {
  const page = await document.getPage(1);
  const list = await page.getOperatorList({ annotationMode: AnnotationMode.DISABLE });
  if (list.fnArray.length > MOST_STEPS)
    return fail('too-large', 'The page draws more than is read. Keep only what is engraved in it.', 'file');
  const layers = await document.getOptionalContentConfig();
  const names = new Map(Object.entries(OPS).map(([name, number]) => [number as number, name]));
  const steps = list.fnArray.map((fn, i) => {
    const args = (list.argsArray[i] ?? []) as readonly unknown[];
    const name = names.get(fn) ?? '';
    // How a path is painted comes by its number.
    return { name, args: name === 'constructPath' ? [names.get(args[0] as number) ?? '', ...args.slice(1)] : args };
  });
  const [x0, y0, x1, y1] = page.view as [number, number, number, number];
  return readPdfPage(
    {
      view: [x0, y0, x1, y1],
      rotate: page.rotate,
      userUnit: page.userUnit,
      steps,
      fontOf: fontsOf(page.commonObjs as never),
      isShown: (marked) => layers.isVisible(marked as never) !== false,
    },
    plainSvg,
    document.numPages > 1 ? [`The first of its ${document.numPages} pages is read.`] : [],
  );
};

/** Reads what the first page of a PDF draws. */
export const readPdfArt = async (bytes: Uint8Array): Promise<Result<ReadArt>> => {
  const pdf = await reader();
  const loading = pdf.getDocument({
    data: new Uint8Array(bytes),
    // Letters come as outlines, from the file alone.
    disableFontFace: true,
    useSystemFonts: false,
    isEvalSupported: false,
    stopAtErrors: false,
    verbosity: 0,
  });
  try {
    return await firstPage(await loading.promise, pdf);
  } catch (error) {
    return whyNot(error);
  } finally {
    await loading.destroy();
  }
};
