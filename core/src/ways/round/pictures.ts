import { alongSide, lineToTravel, travelFor, diameterAt, type FacePlace, type Unrolling } from '../../drive';
import { boxOf, invert, type Box, type Transform, type Vec } from '../../geometry';
import { densities, Halftone, levelFor, transposed, type Grey } from '../../picture';
import type { Mm } from '../../units';
import type { PlacedFace } from '../../setup';

/** A face's picture at one of its places, with where it lies in the file's axes. */
export interface LaidPicture {
  readonly face: PlacedFace;
  readonly place: FacePlace;
  /** First and last line, and first and last dot of every line, in steps of the interval. */
  readonly lines: readonly [number, number];
  readonly dots: readonly [number, number];
  /** Its rim in the file's axes. */
  readonly rim: readonly Vec[];
}

const rimOf = (width: Mm, height: Mm): Vec[] => {
  const [w, h] = [width / 2, height / 2];
  return [
    { x: -w, y: -h },
    { x: w, y: -h },
    { x: w, y: h },
    { x: -w, y: h },
  ];
};

/**
 * Where the pictures of a setup come to lie on a grid of lines and dots `interval` apart.
 * @param turn the turn that their lines are burned in; null for all of them
 */
export const laidPictures = (
  faces: readonly PlacedFace[],
  u: Unrolling,
  interval: Mm,
  turn: { readonly from: Mm; readonly to: Mm } | null = null,
): LaidPicture[] =>
  faces.flatMap((face) => {
    const { picture } = face;
    if (!picture) return [];
    return face.places.flatMap((place) => {
      const rim = lineToTravel(rimOf(picture.width, picture.height), place, face.choice.reads, u, true);
      const box: Box = boxOf(rim);
      const steps = (from: Mm, to: Mm): [number, number] => [
        Math.ceil(from / interval - 1e-9),
        Math.floor(to / interval + 1e-9),
      ];
      const [first, last] = steps(box.minX, box.maxX);
      const lines = steps(Math.max(box.minY, turn?.from ?? -Infinity), Math.min(box.maxY, turn?.to ?? Infinity));
      return lines[0] > lines[1] ? [] : [{ face, place, rim, lines, dots: [first, last - 1] as const }];
    });
  });

/**
 * The burned stretches of a picture on a blank, line by line along it. Each dot looks back through
 * the unrolling to the place of the picture it falls on, so that row scaling bends the picture as it
 * bends lines. Keeps a few lines only.
 */
export class PictureLines {
  private readonly source: Grey;
  private readonly wanted: Float32Array;
  private readonly tone: Halftone;
  private readonly count: number;
  private readonly row: Float32Array;
  private readonly burned: Uint8Array;
  private readonly back: Transform;
  /** Whether lines run along the blank, as they do unless the machine's axes are exchanged. */
  private readonly alongBlank: boolean;
  /** Dots of the source to a millimetre of surface: along a line and across lines, with their senses. */
  private readonly perMm: { readonly along: number; readonly across: number };
  /** For each dot of a line: its place in the source's line, whole and rest; -1 beyond the picture. */
  private readonly column: Int32Array;
  private readonly rest: Float64Array;
  /** Its line of the source: `slope` times the travel from the picture's middle, and `offset`. */
  private readonly slope: Float64Array;
  private readonly offset: Float64Array;

  constructor(
    private readonly laid: LaidPicture,
    picture: Grey,
    private readonly u: Unrolling,
    private readonly interval: Mm,
  ) {
    const { content, width, height } = laid.face.picture!;
    const { reads } = laid.face.choice;
    const around = reads === 'around';
    this.back = invert(u.toFile);
    this.alongBlank = Math.abs(this.back.a) < 1e-9;
    const level = levelFor(picture, Math.min(picture.width / width, picture.height / height) * interval);
    // So that the dots of a line are neighbours in memory.
    this.source = this.alongBlank === around ? transposed(level) : level;
    // A face reading down has its picture's right towards the base and its foot to the left; reading up, both the other way.
    const turned = reads === 'up' ? -1 : 1;
    const down = around ? level.height / height : (turned * level.width) / width;
    const right = around ? level.width / width : (-turned * level.height) / height;
    this.perMm = this.alongBlank ? { along: down, across: right } : { along: right, across: down };
    this.wanted = densities(content.treatment);
    this.count = Math.max(0, laid.dots[1] - laid.dots[0] + 1);
    this.tone = new Halftone(content.treatment.kernel, this.count);
    this.row = new Float32Array(this.count);
    this.burned = new Uint8Array(this.count);
    this.column = new Int32Array(this.count);
    this.rest = new Float64Array(this.count);
    this.slope = new Float64Array(this.count);
    this.offset = new Float64Array(this.count);
    this.standAt(0);
  }

  private travelAt(y: Mm): Mm {
    return this.back.c * y + this.back.e - ((this.laid.place.angle - this.u.zeroAt) * this.u.contactDiameter) / 2;
  }

  /** Where the dots of the line at travel `y` look; the same for all lines that run along the blank. */
  private standAt(y: Mm): void {
    const { back, laid, u, interval, source, perMm, alongBlank } = this;
    const middle = diameterAt(u.profile, laid.place.along);
    const stands = alongSide(laid.place.along, u);
    const scaled = u.rowScaling && !laid.place.closes;
    const [inLine, lines] = [source.width, source.height];
    for (let i = 0; i < this.count; i += 1) {
      const x = (laid.dots[0] + i + 0.5) * interval;
      const along = -(back.b * x + back.d * y + back.f);
      const gain = 1 / travelFor(1, along, u.lying, u.contactDiameter, middle, scaled);
      const down = along - stands;
      const at = (alongBlank ? down : (this.travelAt(y) + back.a * x) * gain) * perMm.along + inLine / 2 - 0.5;
      const held = Math.min(Math.max(at, 0), inLine - 1);
      const whole = Math.min(Math.floor(held), inLine - 2);
      this.column[i] = at < -0.5 || at > inLine - 0.5 ? -1 : whole;
      this.rest[i] = held - whole;
      this.slope[i] = alongBlank ? gain * perMm.across : 0;
      this.offset[i] = (alongBlank ? 0 : down * perMm.across) + lines / 2 - 0.5;
    }
  }

  /** Appends the burned stretches of line `k` to `spans` as pairs of dot numbers from, to (exclusive). */
  line(k: number, spans: number[]): void {
    const { count, row, burned, column, rest, slope, offset, wanted } = this;
    const { pixels, width: inLine, height: lines } = this.source;
    const y = k * this.interval;
    if (!this.alongBlank) this.standAt(y);
    const travel = this.travelAt(y);
    const end = lines - 1;
    for (let i = 0; i < count; i += 1) {
      const x0 = column[i]!;
      let across = travel * slope[i]! + offset[i]!;
      if (x0 < 0 || across < -0.5 || across > end + 0.5) {
        row[i] = 0;
        continue;
      }
      across = across < 0 ? 0 : across > end ? end : across;
      let y0 = across | 0;
      if (y0 === end) y0 -= 1;
      // Between four dots, by the shares of the place between them.
      const at = y0 * inLine + x0;
      const fx = rest[i]!;
      const near = pixels[at]!;
      const far = pixels[at + inLine]!;
      const top = near + (pixels[at + 1]! - near) * fx;
      const low = far + (pixels[at + inLine + 1]! - far) * fx;
      row[i] = wanted[(top + (low - top) * (across - y0) + 0.5) | 0]!;
    }
    this.tone.row(row, burned);
    const first = this.laid.dots[0];
    for (let i = 0; i < count; i += 1) {
      if (burned[i] !== 1) continue;
      const from = i;
      while (i + 1 < count && burned[i + 1] === 1) i += 1;
      spans.push(first + from, first + i + 1);
    }
  }
}
