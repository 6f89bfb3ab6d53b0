import { apply, arcOf, determinant, flatten, type Transform } from '../geometry';
import {
  focusWords,
  PLAIN,
  sameStand,
  standAfter,
  standLines,
  type Dialect,
  type Moves,
  type BurnStand,
} from '../burn';
import { fixedPointWriter } from './fixed-point';

/** Lines put between two lists of moves, beam off: a feed, a wait. */
export interface Pause {
  readonly lines: readonly string[];
}

export interface GcodeJob {
  readonly title: string;
  /** From the bed's frame to the file's coordinates. */
  readonly toFile: Transform;
  readonly dialect: Dialect;
  readonly park: { readonly x: number; readonly y: number };
  /** Comment lines put at the top; brackets are replaced. */
  readonly notes: readonly string[];
  /** Lines after the head of the program. */
  readonly before?: readonly string[];
}

/** A comment line that every RS-274 reader takes: printable ASCII, no brackets inside. */
export const comment = (text: string): string => `(${text.replace(/[()]/g, ' ').replace(/[^\x20-\x7e]/g, '?')})`;

/** Whether a map leaves circles round: a machine whose axes are not alike cannot be told of arcs. */
const isSimilarity = ({ a, b, c, d }: Transform): boolean =>
  Math.abs(Math.abs(a) - Math.abs(d)) < 1e-9 &&
  Math.abs(Math.abs(b) - Math.abs(c)) < 1e-9 &&
  Math.abs(a * c + b * d) < 1e-9;

/** Lines joined into pieces of this many, so that a long file never is one string. */
export const LINES_PER_CHUNK = 20_000;

/** What a program puts back at its end: the first source, the air off; a lens out of focus is for a person. */
const leftBehind = (stand: BurnStand): string[] => {
  const lines = standLines(stand, { ...PLAIN, focus: stand.focus, air: stand.air === 'on' ? 'off' : null });
  return stand.focus === 0 ? lines : [...lines, comment(`the lens stands ${focusWords(stand.focus)}: set it back`)];
};

/** What every file begins with: what it is, and every modal state said, beam off. */
export const programHead = (title: string, notes: readonly string[], dialect: Dialect): string[] => [
  comment(title),
  ...notes.map(comment),
  comment('Bistre prepares this file. A person at the machine starts it and stays with it.'),
  'G21',
  'G90',
  'G17',
  'G94',
  'G54',
  'M5',
  'S0',
  dialect.laserOn === 'M4' ? 'M4 S0' : 'M3 S0',
];

/**
 * G-code (RS-274, NIST IR 6556 words) of a list of moves, in chunks of text.
 *
 * Absolute millimetres; every modal state is written at the start; the beam is off on every rapid
 * move, and while another source, the air or the lens is set; at the end it is off and the head parked. Coordinates repeat only when they change.
 *
 * @param moves in the bed's frame, mm; in one list, or in several one after the other with pauses between them, each begun
 *   with a rapid move and used up before the next is asked for
 * @example [...gcodeChunks(moves, job)].join('')
 */
export function* gcodeChunks(moves: Moves | Iterable<Moves | Pause>, job: GcodeJob): Generator<string> {
  const { dialect, toFile } = job;
  const unit = 10 ** dialect.decimals;
  const units = (value: number): number => Math.round(value * unit) || 0;
  const write = fixedPointWriter(dialect.decimals);
  const n = (value: number): string => write(units(value));
  const mirrored = determinant(toFile) < 0;
  const arcs = dialect.arcs && isSimilarity(toFile);
  let lines = [...programHead(job.title, job.notes, dialect), ...(job.before ?? [])];
  let x = 0;
  let y = 0;
  let lastX = Number.NaN;
  let lastY = Number.NaN;
  let lastSpeed = -1;
  let feed = '';
  let lastPower = 0;
  let motion = '';
  const words = (speed: number, level: number): string => {
    let out = '';
    if (speed !== lastSpeed) {
      lastSpeed = speed;
      const f = n(speed * 60);
      if (f !== feed) out += `F${f}`;
      feed = f;
    }
    const s = Math.round(level * dialect.powerMax);
    if (s !== lastPower) out += `S${s}`;
    lastPower = s;
    return out;
  };
  /** One motion line; nothing when the head would not move. */
  const line = (code: string, tx: number, ty: number, arc: string, speed: number, level: number): void => {
    const sx = units(tx);
    const sy = units(ty);
    let text = '';
    if (arc !== '' || sx !== lastX) text += `X${write(sx)}`;
    if (arc !== '' || sy !== lastY) text += `Y${write(sy)}`;
    x = tx;
    y = ty;
    if (text === '') return;
    lastX = sx;
    lastY = sy;
    text += arc;
    if (speed > 0) text += words(speed, level);
    lines.push(code === motion ? text : code + text);
    motion = code;
  };
  /** Lines with the beam off; every modal word is said again after them. */
  const between = (its: readonly string[]): void => {
    lines.push('S0', 'M5', ...its, dialect.laserOn === 'M4' ? 'M4 S0' : 'M3 S0');
    lastX = lastY = Number.NaN;
    lastSpeed = -1;
    feed = motion = '';
    lastPower = 0;
  };
  let stand: BurnStand = PLAIN;
  const stood = (next: BurnStand): void => {
    const to = standAfter(stand, next);
    if (!sameStand(stand, to)) between(standLines(stand, to));
    stand = to;
  };
  const lists = Symbol.iterator in moves ? moves : [moves];
  for (const list of lists) {
    if ('lines' in list) {
      between(list.lines);
      continue;
    }
    let next = 0;
    for (let i = 0; i < list.count; i += 1) {
      while (list.stands[next]?.before === i) stood(list.stands[next++]!.stand);
      const bx = list.x[i]!;
      const by = list.y[i]!;
      const tx = toFile.a * bx + toFile.c * by + toFile.e;
      const ty = toFile.b * bx + toFile.d * by + toFile.f;
      const bulge = list.bulge[i]!;
      if (list.speed[i]! < 0) {
        if (lastPower !== 0) {
          lines.push('S0');
          lastPower = 0;
        }
        line('G0', tx, ty, '', 0, 0);
      } else if (bulge === 0) {
        line('G1', tx, ty, '', list.speed[i]!, list.power[i]!);
      } else {
        const from = { x: list.x[i - 1]!, y: list.y[i - 1]! };
        if (arcs) {
          const arc = arcOf(from, { x: bx, y: by }, bulge);
          const centre = apply(toFile, arc.centre);
          const code = bulge > 0 !== mirrored ? 'G3' : 'G2';
          line(code, tx, ty, `I${n(centre.x - x)}J${n(centre.y - y)}`, list.speed[i]!, list.power[i]!);
        } else {
          const points = flatten(
            {
              closed: false,
              vertices: [
                { ...from, bulge },
                { x: bx, y: by },
              ],
            },
            0.005,
          );
          for (const p of points.slice(1)) {
            const q = apply(toFile, p);
            line('G1', q.x, q.y, '', list.speed[i]!, list.power[i]!);
          }
        }
      }
      if (lines.length >= LINES_PER_CHUNK) {
        yield `${lines.join('\n')}\n`;
        lines = [];
      }
    }
  }
  // As it stood before; that the lens is not in focus is said to whoever comes next.
  lines.push('S0', 'M5', ...leftBehind(stand), `G0X${n(job.park.x)}Y${n(job.park.y)}`, 'M2');
  yield `${lines.join('\n')}\n`;
}
