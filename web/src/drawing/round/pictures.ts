import { useEffect, useState } from 'react';
import { PICTURES } from '@bistre/contract';
import { densities, diameterAt, onBlank, readingTurn, type LyingSide, type Treatment } from '@bistre/core';
import type { FaceShown, RoundShown } from '../../data/shown';

/** A picture on the blank as drawings need it: small squares of it, each with where its corners lie. */
export interface PictureCells {
  readonly image: HTMLCanvasElement;
  readonly columns: number;
  readonly rows: number;
  /** Angle from the feature and place from the rim of each corner, row by row from the picture's top. */
  readonly angle: Float64Array;
  readonly along: Float64Array;
  readonly radius: Float64Array;
}

/** Widest that a picture is drawn, dots: drawings are smaller than this. */
const WIDEST = 900;
const COLUMNS = 32;
const ROWS = 6;

interface Colours {
  readonly ink: string;
  readonly ground: string;
}

/** The picture in ink on the blank's ground, as dense as it will be burned. Opaque, so that squares may overlap. */
const inked = (bitmap: ImageBitmap, treatment: Treatment, { ink, ground }: Colours): HTMLCanvasElement => {
  const canvas = document.createElement('canvas');
  canvas.width = bitmap.width;
  canvas.height = bitmap.height;
  const g = canvas.getContext('2d')!;
  g.drawImage(bitmap, 0, 0);
  const image = g.getImageData(0, 0, canvas.width, canvas.height);
  const dense = densities(treatment);
  for (let i = 0; i < image.data.length; i += 4) image.data[i + 3] = 255 * dense[image.data[i]!]!;
  g.putImageData(image, 0, 0);
  g.globalCompositeOperation = 'source-in';
  g.fillStyle = ink;
  g.fillRect(0, 0, canvas.width, canvas.height);
  g.globalCompositeOperation = 'destination-over';
  g.fillStyle = ground;
  g.fillRect(0, 0, canvas.width, canvas.height);
  return canvas;
};

const cellsOf = (
  side: LyingSide,
  face: FaceShown,
  place: FaceShown['places'][number],
  image: HTMLCanvasElement,
): PictureCells => {
  const { width, height } = face.picture!;
  const n = (COLUMNS + 1) * (ROWS + 1);
  const [angle, along, radius] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  for (let j = 0; j <= ROWS; j += 1)
    for (let i = 0; i <= COLUMNS; i += 1) {
      const p = readingTurn({ x: (i / COLUMNS - 0.5) * width, y: (0.5 - j / ROWS) * height }, face.reads);
      const at = onBlank(p, place, side);
      const k = j * (COLUMNS + 1) + i;
      angle[k] = at.angle;
      along[k] = at.along;
      radius[k] = diameterAt(side.profile, at.along) / 2;
    }
  return { image, columns: COLUMNS, rows: ROWS, angle, along, radius };
};

/** The pictures of a blank, fetched and inked; empty until they are there. */
export const usePictureCells = (round: RoundShown, colours: Colours): readonly PictureCells[] => {
  const [inkings, setInkings] = useState<ReadonlyMap<string, HTMLCanvasElement>>(new Map());
  const [cells, setCells] = useState<readonly PictureCells[]>([]);
  const wanted = round.faces.flatMap((f) => (f.picture ? [f.picture.content] : []));
  const keyOf = (c: { pictureId: string; treatment: Treatment }): string =>
    `${c.pictureId}/${colours.ink}/${JSON.stringify(c.treatment)}`;
  const key = wanted.map(keyOf).join('|');
  useEffect(() => {
    let current = true;
    void Promise.all(
      wanted.map(async (content) => {
        const response = await fetch(`${PICTURES}/${content.pictureId}`);
        if (!response.ok) return null;
        const bitmap = await createImageBitmap(await response.blob(), {
          resizeWidth: Math.min(WIDEST, content.width),
          resizeQuality: 'medium',
        });
        return [keyOf(content), inked(bitmap, content.treatment, colours)] as const;
      }),
    )
      .then((made) => {
        if (current) setInkings(new Map(made.filter((m) => m !== null)));
      })
      .catch(() => undefined);
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says what the pictures follow from
  }, [key]);
  useEffect(() => {
    setCells(
      round.faces.flatMap((face) => {
        const image = face.picture ? inkings.get(keyOf(face.picture.content)) : undefined;
        return image ? face.places.map((place) => cellsOf(round.side, face, place, image)) : [];
      }),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- faces come anew with every reckoning
  }, [inkings, JSON.stringify([round.faces, round.shape.profile])]);
  return cells;
};

/**
 * Draws the squares of a picture, each as the parallelogram of three of its corners.
 * @param at where corner k lies on the canvas, or null where it is not seen
 */
export const drawCells = (
  g: CanvasRenderingContext2D,
  cells: PictureCells,
  dense: number,
  at: (k: number) => { x: number; y: number } | null,
): void => {
  const { image, columns, rows } = cells;
  const w = image.width / columns;
  const h = image.height / rows;
  for (let j = 0; j < rows; j += 1)
    for (let i = 0; i < columns; i += 1) {
      const k = j * (columns + 1) + i;
      const [a, b, c] = [at(k), at(k + 1), at(k + columns + 1)];
      if (!a || !b || !c) continue;
      g.setTransform(
        (dense * (b.x - a.x)) / w,
        (dense * (b.y - a.y)) / w,
        (dense * (c.x - a.x)) / h,
        (dense * (c.y - a.y)) / h,
        dense * a.x,
        dense * a.y,
      );
      // A little over its edge, so that no line of light shows between squares.
      g.drawImage(image, i * w, j * h, w, h, 0, 0, w * 1.03, h * 1.02);
    }
  g.setTransform(dense, 0, 0, dense, 0, 0);
};
