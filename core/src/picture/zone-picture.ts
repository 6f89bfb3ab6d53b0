import { compose, translation, type Transform, type Vec } from '../geometry';
import type { Treatment } from './halftone';
import type { PicturePlace } from './rows';
import type { Share } from '../units';

/** A picture that was taken in, and how its shades become dots; the dots themselves are kept apart and fetched when a file is written. */
export interface BurnedPicture {
  readonly pictureId: string;
  readonly name: string;
  /** Dots across and down. */
  readonly width: number;
  readonly height: number;
  /** Mean darkness, 0 white to 1 black. */
  readonly darkness: Share;
  readonly treatment: Treatment;
}

/** A picture on a piece: which, how its shades become dots, and where it lies, blank frame. */
export interface ZonePicture {
  readonly pictureId: string;
  readonly treatment: Treatment;
  /** Dots across and down. */
  readonly width: number;
  readonly height: number;
  readonly place: PicturePlace;
}

export const movedPicture = (p: ZonePicture, by: Vec): ZonePicture => ({ ...p, place: compose(translation(by.x, by.y), p.place) }); // prettier-ignore

/** The rim of a picture, closed, where it comes to lie. */
export const pictureRim = ({ width, height, place }: ZonePicture, to: Transform): Vec[] => {
  const m = compose(to, place);
  const at = (x: number, y: number): Vec => ({ x: m.a * x + m.c * y + m.e, y: m.b * x + m.d * y + m.f });
  return [at(0, 0), at(width, 0), at(width, height), at(0, height)];
};
