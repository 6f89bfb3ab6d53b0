import { expose } from 'comlink';
import {
  addGreyRows,
  blankOutline,
  blankSizes,
  calibrate,
  cameraPlace,
  besideNow,
  heldAs,
  fitCamera,
  photoField,
  photoMarks,
  recheck,
  apply,
  rigid,
  keep,
  type CameraFit,
  type KeptCamera,
  type Offcut,
  type SeenBy,
  ALONG_GRAIN,
  ANY_QUARTER,
  flatten,
  nest,
  polyline,
  simplifyContour,
  footDoubt,
  matchBlank,
  parallax,
  PHOTO_MARK,
  polygonArea,
  partOutline,
  readingOrder,
  rectify,
  seenShapes,
  type AcceptedBlank,
  type FoundBlank,
  type SeenOffcut,
  type GreyPicture,
  type Result,
  type Vec,
} from '@bistre/core';
import { inputWithoutArt, type BatchDocument } from '@bistre/contract';

/** Rows unpacked at once, and the largest picture that is taken, dots. */
const STRIP = 512;
const MOST_DOTS = 60_000_000;
/** Finest dots of the picture from above, mm. */
const FINEST = 0.25;

/** What a photograph showed. */
export interface Looked {
  readonly found: readonly AcceptedBlank[];
  /** Pieces of stock, where parts are to be laid into them. */
  readonly offcuts: readonly SeenOffcut[];
  readonly strangers: readonly { readonly outline: readonly Vec[]; readonly why: string }[];
  readonly residuals: readonly { readonly id: number; readonly distance: number }[];
  readonly spread: number | null;
  /** How the camera was known, and in words what a quick look at it said. */
  readonly seenBy: SeenBy;
  readonly said: string;
  /** The camera, to be kept when it is fixed. */
  readonly camera: KeptCamera;
  readonly bending: number;
  /** What forgetting the thickness would have cost at the farthest blank, mm. */
  readonly forgotten: number;
  readonly seconds: number;
  readonly dots: { readonly width: number; readonly height: number };
  /** The bed from straight above, as a picture file. */
  readonly picture: Blob;
}

const greyOf = async (file: Blob): Promise<GreyPicture | null> => {
  // A camera's note of how it was held is followed.
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image', premultiplyAlpha: 'none' });
  const { width, height } = bitmap;
  if (width * height > MOST_DOTS) {
    bitmap.close();
    return null;
  }
  const picture = { width, height, data: new Uint8Array(width * height) };
  const strip = new OffscreenCanvas(width, Math.min(height, STRIP));
  const g = strip.getContext('2d', { willReadFrequently: true })!;
  for (let top = 0; top < height; top += STRIP) {
    const count = Math.min(STRIP, height - top);
    g.drawImage(bitmap, 0, top, width, count, 0, 0, width, count);
    addGreyRows(picture, top, count, g.getImageData(0, 0, width, count).data);
  }
  bitmap.close();
  return picture;
};

const fileOf = ({ width, height, data }: GreyPicture): Promise<Blob> => {
  const canvas = new OffscreenCanvas(width, height);
  const g = canvas.getContext('2d')!;
  const image = g.createImageData(width, height);
  for (let i = 0; i < data.length; i += 1) {
    image.data[4 * i] = image.data[4 * i + 1] = image.data[4 * i + 2] = data[i]!;
    image.data[4 * i + 3] = 255;
  }
  g.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
};

/** A mark aimed at by hand, in dots of the picture. */
export interface HandMark {
  readonly id: number;
  readonly x: number;
  readonly y: number;
}

interface Known {
  readonly fit: CameraFit;
  readonly seenBy: SeenBy;
  readonly said: string;
}

const mmOf = (v: number): string => `${v.toFixed(2)} mm`;

/** The camera of a picture: from marks aimed at by hand, a fixed camera that still stands, or marks found in it. */
const cameraOf = (picture: GreyPicture, batch: BatchDocument, hand: readonly HandMark[] | null): Result<Known> => {
  const photo = { ...heldAs(batch, 'photo').choice, ...heldAs(batch, 'photo').found };
  const { bed, camera } = batch.machine.profile;
  const marks = photoMarks(photo, bed);
  if (hand) {
    const fit = fitCamera(
      hand.flatMap(({ id, x, y }) => {
        const m = marks.find((k) => k.id === id);
        return m ? [{ id, bed: { x: m.x, y: m.y }, dot: { x, y } }] : [];
      }),
      picture,
    );
    return fit.ok
      ? { ok: true, value: { fit: fit.value, seenBy: 'hand', said: `${hand.length} marks aimed at by hand` } }
      : fit;
  }
  const fixed = camera && photo.marksOn === 'bed' ? recheck(picture, camera, marks) : null;
  if (fixed?.ok && fixed.value.verdict === 'holds')
    return {
      ok: true,
      value: {
        fit: fixed.value.fit,
        seenBy: 'kept',
        said: `the fixed camera stands as on ${new Date(camera!.at).toLocaleDateString('en-GB')}: ${fixed.value.marks} marks within ${mmOf(fixed.value.off!)}`,
      },
    };
  if (photo.marksOn === 'own')
    return {
      ok: false,
      problem: {
        code: 'by-hand',
        message: 'The bed’s own marks are aimed at by hand: choose “aim at the marks by hand”.',
        field: 'photo.marks',
      },
    };
  const calibrated = calibrate(picture, marks);
  if (calibrated.ok)
    return {
      ok: true,
      value: {
        fit: calibrated.value.fit,
        seenBy: 'marks',
        said: fixed?.ok
          ? `the fixed camera has moved${fixed.value.off === null ? '' : ` by some ${mmOf(fixed.value.off)}`}; it was measured anew by ${calibrated.value.pairs.length} marks`
          : `${calibrated.value.pairs.length} marks found`,
      },
    };
  if (fixed?.ok && fixed.value.verdict === 'not seen')
    return {
      ok: true,
      value: {
        fit: fixed.value.fit,
        seenBy: 'kept, not checked',
        said: `no mark is in sight: the fixed camera is trusted as it was on ${new Date(camera!.at).toLocaleDateString('en-GB')}, with twice the doubt`,
      },
    };
  return calibrated;
};

/** Parts of one batch that wait, as the nesting takes them. */
const partOf = (batch: BatchDocument): { outline: Vec[]; count: number; doubt: number } => {
  const photo = { ...heldAs(batch, 'photo').choice, ...heldAs(batch, 'photo').found };
  return {
    outline: partOutline(inputWithoutArt(batch).blank, 0.05),
    count: Math.max(0, batch.quantity - batch.pieces.filter((p) => p.state === 'done').length),
    doubt: Math.max(0.05, photo.spread ?? 0.3),
  };
};

/** What was laid for one of the lists. */
export interface LaidList {
  readonly batchId: string;
  readonly found: AcceptedBlank[];
  /** Outlines of its parts where they lie. */
  readonly outlines: Vec[][];
  readonly left: number;
}

const service = {
  /** Finds the batch's blanks in a photograph of its bed. `hand`: marks that were aimed at by hand. */
  async look(
    file: Blob,
    name: string,
    batch: BatchDocument,
    progress: (share: number) => void,
    hand: readonly HandMark[] | null = null,
  ): Promise<Result<Looked>> {
    const start = performance.now();
    const bad = (message: string): Result<never> => ({
      ok: false,
      problem: { code: 'bad-picture', message, field: 'photo' },
    });
    let picture: GreyPicture | null;
    try {
      picture = await greyOf(file);
    } catch {
      return bad(`${name} is damaged, or of a kind that cannot be read. Save it as JPEG or PNG.`);
    }
    if (!picture)
      return bad(`${name} has more than ${MOST_DOTS / 1e6} million dots. Take it with fewer: 12 million are plenty.`);
    progress(0.25);
    const input = inputWithoutArt(batch);
    const { choice } = heldAs(batch, 'photo');
    const beside = besideNow(batch);
    const bed = photoField(choice, input.machine.bed);
    const marks = photoMarks(choice, input.machine.bed);
    const known = cameraOf(picture, batch, hand);
    if (!known.ok) return known;
    progress(0.4);
    const { fit, seenBy, said } = known.value;
    const sizes = blankSizes(input.blank, beside.coverage, beside.confidence);
    const above = sizes.thickness.mean;
    const camera = cameraPlace(fit, choice.cameraHeight);
    const flat = rectify(
      picture,
      fit,
      { minX: 0, minY: 0, maxX: bed.width, maxY: bed.height },
      Math.max(FINEST, fit.dot),
      camera,
      above,
      (s) => progress(0.4 + 0.15 * s),
    );
    const outline = flatten(blankOutline(input.blank, sizes)[0]!, 0.05);
    const area = Math.abs(polygonArea(outline));
    const seen = seenShapes(
      flat,
      // Their patches of paper lie lower than the blanks: a little more is looked away from.
      marks.map((m) => ({ x: m.x, y: m.y, radius: PHOTO_MARK + 4 })),
      0.15 * area,
      (s) => progress(0.55 + 0.25 * s),
    );
    if (!seen.ok) return seen;
    const doubt = (seenBy === 'kept, not checked' ? 2 : 1) * (fit.spread ?? 0.3);
    const simple = (points: readonly Vec[]): Vec[] =>
      simplifyContour(polyline(points, true), 0.3).vertices.map(({ x, y }) => ({ x, y }));
    const stock = choice.use === 'offcuts';
    const offcuts = stock
      ? seen.value.slice(0, 60).map((s) => ({ outline: simple(s.outline), defects: s.holes.slice(0, 200).map(simple) }))
      : [];
    const looks = (stock ? [] : seen.value).map((s, i) => {
      progress(0.8 + (0.2 * i) / seen.value.length);
      return matchBlank(s, { outline, holes: input.blank.holes }, doubt, {
        camera,
        above,
        dot: flat.dot,
        foot: footDoubt(fit),
      });
    });
    const blanks = looks.filter((l): l is FoundBlank => 'centre' in l);
    const tall = Math.sqrt(area);
    return {
      ok: true,
      value: {
        found: readingOrder(blanks, tall).map((f): AcceptedBlank => ({
          x: f.centre.x,
          y: f.centre.y,
          angle: f.angle,
          ask: f.verdict === 'ask',
          why: f.why.slice(0, 300),
          doubt: f.doubt.centre,
          turn: f.doubt.angle,
          foot: f.doubt.foot,
        })),
        offcuts,
        strangers: looks.flatMap((l) => ('centre' in l ? [] : [l])),
        residuals: fit.residuals,
        spread: fit.spread,
        seenBy,
        said,
        camera: keep(fit, new Date().toISOString()),
        bending: fit.k1,
        forgotten: Math.max(
          0,
          ...[...blanks.map((f) => f.centre), ...offcuts.flatMap((o) => o.outline)].map((p) =>
            parallax(Math.hypot(p.x - camera.x, p.y - camera.y), above, camera.height),
          ),
        ),
        seconds: (performance.now() - start) / 1000,
        dots: { width: picture.width, height: picture.height },
        picture: await fileOf(flat),
      },
    };
  },
  /**
   * Lays the waiting parts of a batch, and of others with it, into its offcuts for so many seconds;
   * says the best so far.
   */
  lay(
    batches: readonly BatchDocument[],
    seconds: number,
    progress: (share: number, laid: number, density: number) => void,
  ): Result<{ lists: LaidList[]; density: number; tries: number; seconds: number }> {
    const start = performance.now();
    const [first] = batches;
    const photo = { ...heldAs(first!, 'photo').choice, ...heldAs(first!, 'photo').found };
    const parts = batches.map(partOf);
    const made = nest(
      photo.offcuts,
      parts,
      {
        gap: photo.gap + first!.machine.profile.kerf,
        turns: photo.grain === 'along' ? ALONG_GRAIN : ANY_QUARTER,
        cell: 1,
      },
      (best) => {
        const gone = (performance.now() - start) / 1000;
        progress(Math.min(1, gone / seconds), best.laid.length, best.density);
        return gone < seconds;
      },
    );
    if (!made.ok) return made;
    const { laid, density, left, tries } = made.value;
    const { doubt } = parts[0]!;
    const lists = batches.map((b, k): LaidList => {
      const { outline } = parts[k]!;
      const mine = laid.filter((l) => l.part === k);
      return {
        batchId: b.id,
        found: readingOrder(
          mine.map((l) => ({ centre: { x: l.x, y: l.y }, angle: l.angle })),
          Math.sqrt(Math.abs(polygonArea(outline))),
        ).map(({ centre, angle }) => ({ ...centre, angle, ask: false, why: '', doubt, turn: 0 })),
        outlines: mine.map((l) => {
          const m = rigid(l.angle, l.x, l.y);
          return simplifyContour(polyline(outline, true), 0.2).vertices.map((p) => apply(m, p));
        }),
        left: left[k]!,
      };
    });
    return { ok: true, value: { lists, density, tries, seconds: (performance.now() - start) / 1000 } };
  },
  /** How many of a batch's waiting parts each of some stored offcuts would take. */
  wouldTake(batch: BatchDocument, offcuts: readonly Offcut[]): Result<{ each: number[]; left: number }> {
    const photo = { ...heldAs(batch, 'photo').choice, ...heldAs(batch, 'photo').found };
    const part = partOf(batch);
    let tries = 0;
    const made = nest(
      offcuts,
      [part],
      {
        gap: photo.gap + batch.machine.profile.kerf,
        turns: photo.grain === 'along' ? ALONG_GRAIN : ANY_QUARTER,
        cell: 1,
      },
      () => (tries += 1) < 2,
    );
    if (!made.ok) return made;
    const each = offcuts.map((_, i) => made.value.laid.filter((l) => l.offcut === i).length);
    return { ok: true, value: { each, left: made.value.left[0]! } };
  },
};

export type PhotoService = typeof service;
expose(service);
