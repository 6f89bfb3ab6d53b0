import { circle, polyline, roundedRectangle, type Contour, type Vec } from '../geometry';
import { governingSize, type GoverningSize } from '../samples';
import type { Mm, Rad, Share } from '../units';
import { nominalSize, type BlankShape } from './nominal';

/** What tells one end or face of a blank from the other. */
export type Direction =
  { readonly kind: 'none' } | { readonly kind: 'hole' } | { readonly kind: 'clipped-corner'; readonly size: Mm };

export interface Hole {
  readonly x: Mm;
  readonly y: Mm;
  readonly diameter: Mm;
}

export interface Rect {
  readonly x: Mm;
  readonly y: Mm;
  readonly width: Mm;
  readonly height: Mm;
}

/**
 * An engravable region of a blank; x, y is its centre in the blank's frame. On a round blank x is
 * counted from the rim along the axis, `width` lies along and `height` around at its own diameter,
 * and its middle is at `angle` from the feature.
 */
export interface Zone extends Rect {
  readonly id: string;
  readonly name: string;
  readonly margin: Mm;
  readonly across: 'left' | 'centre' | 'right';
  readonly down: 'top' | 'middle' | 'bottom';
  readonly keepOuts: readonly Rect[];
  /** Flat blanks engraved on both faces: the one it is on; a zone of the back is given as seen from there. */
  readonly side?: 'front' | 'back' | undefined;
  /** Round blanks only: to the right of the feature as seen with the rim up. */
  readonly angle?: Rad | undefined;
  /** What its size is short of its blank’s while it follows that, mm; nothing once it was fixed by hand. */
  readonly inset?: Vec | null | undefined;
}

export type Dimension = 'length' | 'width' | 'thickness' | 'diameter' | 'tape';
/** Dimensions of flat blanks. */
type FlatDimension = 'length' | 'width' | 'thickness';

export interface Blank {
  readonly id: string;
  readonly name: string;
  readonly shape: BlankShape;
  readonly thickness: Mm;
  readonly catalogueTolerance: Mm;
  /** Flat blanks: length, width, thickness. Round ones: diameter by caliper and circumference by tape, at the widest place. */
  readonly samples: Readonly<Record<FlatDimension, readonly Mm[]>> & Partial<Record<Dimension, readonly Mm[]>>;
  readonly holes: readonly Hole[];
  readonly direction: Direction;
  readonly zones: readonly Zone[];
  /** What it is made of, in the words of the recipes for it; absent where nobody said. */
  readonly material?: string | null | undefined;
}

/**
 * Zones as they are once their blank is of another size: those that follow it stay so much short of it, those that were fixed
 * by hand stay as they are.
 */
export const followedBy = <Z extends Pick<Zone, 'width' | 'height' | 'inset'>>(
  zones: readonly Z[],
  size: { readonly length: Mm; readonly width: Mm },
): readonly Z[] =>
  zones.map((z) =>
    z.inset
      ? { ...z, width: Math.max(0.5, size.length - z.inset.x), height: Math.max(0.5, size.width - z.inset.y) }
      : z,
  );

export interface BlankSizes {
  readonly length: GoverningSize;
  readonly width: GoverningSize;
  readonly thickness: GoverningSize;
}

/**
 * Governing sizes of a blank from its samples.
 * @param coverage share of pieces the pocket must take
 * @param confidence confidence of that statement
 */
export const blankSizes = (blank: Blank, coverage: Share, confidence: Share): BlankSizes => {
  const nominal = nominalSize(blank.shape);
  const size = (label: FlatDimension, value: Mm): GoverningSize =>
    governingSize({
      label,
      nominal: value,
      catalogueTolerance: blank.catalogueTolerance,
      samples: blank.samples[label],
      coverage,
      confidence,
    });
  const length = size('length', nominal.length);
  return {
    length,
    width: blank.shape.kind === 'disc' ? length : size('width', nominal.width),
    thickness: size('thickness', blank.thickness),
  };
};

/**
 * A rectangle with its upper right corner clipped by `legs`, sides grown outwards by `grow`
 * while the clipped edge stays parallel: the legs become k + d(2 − √2).
 */
export const clippedRectangle = (centre: Vec, width: Mm, height: Mm, legs: Mm, grow: Mm): Contour => {
  const leg = legs + grow * (2 - Math.SQRT2);
  const x0 = centre.x - width / 2;
  const x1 = centre.x + width / 2;
  const y0 = centre.y - height / 2;
  const y1 = centre.y + height / 2;
  return polyline(
    [
      { x: x0, y: y0 },
      { x: x1, y: y0 },
      { x: x1, y: y1 - leg },
      { x: x1 - leg, y: y1 },
      { x: x0, y: y1 },
    ],
    true,
  );
};

/** The outline of a piece of the mean size, in the blank's frame. */
export const blankOutline = (blank: Blank, sizes: BlankSizes): Contour[] => {
  const centre = { x: 0, y: 0 };
  switch (blank.shape.kind) {
    case 'rectangle':
      return [
        blank.direction.kind === 'clipped-corner'
          ? clippedRectangle(centre, sizes.length.mean, sizes.width.mean, blank.direction.size, 0)
          : roundedRectangle(centre, sizes.length.mean, sizes.width.mean, blank.shape.cornerRadius),
      ];
    case 'disc':
      return [circle(centre, sizes.length.mean / 2)];
    case 'outline':
      return [...blank.shape.contours];
    case 'round':
      return [];
  }
};
