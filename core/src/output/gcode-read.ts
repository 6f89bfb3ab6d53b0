import { fail, ok, type Result } from '../result';
import { Moves } from '../burn';

/** A program as the machine understands it: moves in file coordinates, mm, mm/s, power as a share. */
export interface Program {
  readonly moves: Moves;
  /** Waits (G4) with the move that each comes before; seconds. */
  readonly waits: readonly { readonly before: number; readonly seconds: number }[];
  /** Sources that are chosen (T), with the move that each comes before. */
  readonly tools: readonly { readonly before: number; readonly tool: number }[];
  /** Moves before which the program waits for a person (M0). */
  readonly stops: readonly number[];
  readonly lines: number;
  /** Lines with words this reader does not act on, by number. */
  readonly ignored: readonly number[];
}

/** Bulge of the arc from (x0, y0) about (cx, cy) to (x1, y1). */
const bulgeOf = (
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  cx: number,
  cy: number,
  clockwise: boolean,
): number => {
  let sweep = Math.atan2(y1 - cy, x1 - cx) - Math.atan2(y0 - cy, x0 - cx);
  if (clockwise) {
    if (sweep >= -1e-12) sweep -= 2 * Math.PI;
  } else if (sweep <= 1e-12) sweep += 2 * Math.PI;
  return Math.tan(sweep / 4);
};

/**
 * Reads G-code (RS-274): G0–G4 (P in seconds), G20/G21, G90/G91, F, S, T, M0, M2–M9; comments in brackets or after `;`.
 * One pass over the characters, no string per word.
 *
 * A turning word in the place of y is read with `turning`: its values are kept as they are written,
 * and under inverse time (G93) a move's speed is its length in file units over its time.
 *
 * @param powerMax value of S at full power
 * @param turning letter of the word that takes the place of y
 * @returns the moves, or the line number of what cannot be read
 */
export const readGcode = (text: string, powerMax: number, turning: 'Y' | 'A' | 'B' | 'C' = 'Y'): Result<Program> => {
  const turningLetter = turning.charCodeAt(0);
  let inverse = false;
  const moves = new Moves();
  const waits: { before: number; seconds: number }[] = [];
  const tools: { before: number; tool: number }[] = [];
  const stops: number[] = [];
  const ignored: number[] = [];
  let motion = 0;
  let unit = 1;
  let absolute = true;
  let beam = false;
  let x = 0,
    y = 0,
    feed = 0,
    power = 0;
  let lineNumber = 1;
  const end = text.length;
  let i = 0;
  while (i <= end) {
    // One line.
    let hasX = false,
      hasY = false,
      hasI = false,
      hasJ = false,
      waiting = false,
      foreign = false;
    let seconds = 0,
      vx = 0,
      vy = 0,
      vi = 0,
      vj = 0;
    while (i < end) {
      const c = text.charCodeAt(i);
      if (c === 10) break;
      if (c === 32 || c === 13 || c === 9) {
        i += 1;
        continue;
      }
      if (c === 59) {
        while (i < end && text.charCodeAt(i) !== 10) i += 1;
        break;
      }
      if (c === 40) {
        while (i < end && text.charCodeAt(i) !== 41 && text.charCodeAt(i) !== 10) i += 1;
        if (text.charCodeAt(i) !== 41)
          return fail('open-comment', `Line ${lineNumber}: a comment is not closed.`, `line ${lineNumber}`);
        i += 1;
        continue;
      }
      const letter = c >= 97 && c <= 122 ? c - 32 : c;
      if (letter < 65 || letter > 90)
        return fail('not-gcode', `Line ${lineNumber}: “${text[i]}” is not a word of G-code.`, `line ${lineNumber}`);
      i += 1;
      let sign = 1;
      while (text.charCodeAt(i) === 32) i += 1;
      let d = text.charCodeAt(i);
      if (d === 45) {
        sign = -1;
        i += 1;
      } else if (d === 43) i += 1;
      let value = 0,
        digits = 0,
        scale = 1;
      for (d = text.charCodeAt(i); d >= 48 && d <= 57; d = text.charCodeAt(++i)) {
        value = value * 10 + d - 48;
        digits += 1;
      }
      if (d === 46) {
        for (d = text.charCodeAt(++i); d >= 48 && d <= 57; d = text.charCodeAt(++i)) {
          value = value * 10 + d - 48;
          scale *= 10;
          digits += 1;
        }
      }
      if (digits === 0)
        return fail(
          'word-without-number',
          `Line ${lineNumber}: ${String.fromCharCode(letter)} has no number.`,
          `line ${lineNumber}`,
        );
      value = (sign * value) / scale;
      switch (letter === turningLetter ? 89 : letter) {
        case 88:
          hasX = true;
          vx = value;
          break;
        case 89:
          hasY = true;
          vy = value;
          break;
        case 73:
          hasI = true;
          vi = value;
          break;
        case 74:
          hasJ = true;
          vj = value;
          break;
        case 70:
          feed = inverse ? value / 60 : (value * unit) / 60;
          break;
        case 83:
          power = value / powerMax;
          break;
        case 71:
          if (value <= 3) motion = value;
          else if (value === 4) waiting = true;
          else if (value === 20) unit = 25.4;
          else if (value === 21) unit = 1;
          else if (value === 90) absolute = true;
          else if (value === 91) absolute = false;
          else if (value === 93 || value === 94) inverse = value === 93;
          else if (value !== 17 && value !== 54) foreign = true;
          break;
        case 77:
          if (value === 3 || value === 4) beam = true;
          else if (value === 5 || value === 2 || value === 30) beam = false;
          else if (value === 0) stops.push(moves.count);
          else if (value < 6 || value > 9) foreign = true;
          break;
        case 84:
          tools.push({ before: moves.count, tool: value });
          break;
        case 78:
          break;
        case 80:
          seconds = value;
          break;
        default:
          foreign = true;
      }
    }
    if (waiting) waits.push({ before: moves.count, seconds });
    else if (seconds !== 0) foreign = true;
    if (foreign) ignored.push(lineNumber);
    if (hasX || hasY) {
      const tx = hasX ? (absolute ? 0 : x) + vx * unit : x;
      const ty = hasY ? (absolute ? 0 : y) + vy * unit : y;
      if (motion === 0) moves.push(tx, ty, -1, 0);
      else {
        if (feed <= 0)
          return fail('no-feed', `Line ${lineNumber}: a feed move before any F word.`, `line ${lineNumber}`);
        let bulge = 0;
        if (motion >= 2) {
          if (!hasI && !hasJ)
            return fail('arc-without-centre', `Line ${lineNumber}: an arc has no I or J.`, `line ${lineNumber}`);
          bulge = bulgeOf(x, y, tx, ty, x + vi * unit, y + vj * unit, motion === 2);
        }
        // Under inverse time F says how often a minute the move would fit.
        moves.push(tx, ty, inverse ? Math.hypot(tx - x, ty - y) * feed : feed, beam ? power : 0, bulge);
      }
      x = tx;
      y = ty;
    }
    i += 1;
    lineNumber += 1;
  }
  return ok({ moves, waits, tools, stops, lines: lineNumber - 1, ignored });
};
