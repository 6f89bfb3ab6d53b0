import { addRow, Moves, type Dialect, type FilledRow } from '../burn';
import type { DriveAxis } from '../drive';
import type { MmPerS } from '../units';
import { programHead } from './gcode';
import { LineBuffer, linesOf, type Lines } from './line-buffer';

export interface TurningJob {
  readonly title: string;
  readonly notes: readonly string[];
  readonly dialect: Dialect;
  readonly axis: DriveAxis;
  /** File units of the turning word to a millimetre of surface travel. */
  readonly perMm: number;
  /** What the head’s axis counts for a true millimetre along the blank. */
  readonly alongPerMm: number;
  /** Fastest surface speed while the beam is off. */
  readonly idleSpeed: MmPerS;
  readonly rapidSpeed: MmPerS;
  /** Whether it waits at its end, before it goes back, until somebody lets it go on (M0). */
  readonly waits?: boolean;
  /** Air over the place that is burned; as it stands where nobody said. */
  readonly air?: 'on' | 'off' | null | undefined;
}

const F = 'F'.charCodeAt(0);
const S = 'S'.charCodeAt(0);
const X = 'X'.charCodeAt(0);

/** Shortest time a move is given, s. */
const SHORTEST = 1e-4;
/** Decimals of an inverse time. */
const IN_TIME = 3;

/** Writes moves line by line and remembers what the machine remembers: place, feed, power and modes. */
class TurningWriter {
  readonly out = new LineBuffer();
  private readonly decimals: number;
  /** The turning word needs its steps whole: one digit more than the dialect's lengths. */
  private readonly fine: number;
  private readonly letter: number;
  private readonly degrees: boolean;
  private x = 0;
  private y = 0;
  private lastX = NaN;
  private lastY = NaN;
  private feed = NaN;
  private level = 0;
  private inTime = false;
  /** G0 or G1, whichever stands; 9 before the first. */
  private motion = 9;
  private which = new Int32Array(64);
  private readonly moves = new Moves();
  private lists: { readonly grid: FilledRow['grid']; readonly lists: readonly [Lines, Lines] } | null = null;

  constructor(private readonly job: TurningJob) {
    this.decimals = job.dialect.decimals;
    this.fine = Math.max(4, this.decimals);
    this.letter = job.axis.letter.charCodeAt(0);
    this.degrees = job.axis.unit === 'degrees';
    for (const line of programHead(job.title, job.notes, job.dialect)) this.out.line(line);
    if (job.air) this.out.line(job.air === 'on' ? 'M8' : 'M9');
  }

  private go(motion: 0 | 1): void {
    if (motion !== this.motion) this.out.text(motion === 0 ? 'G0' : 'G1');
    this.motion = motion;
  }

  private feedWord(units: number): void {
    if (units !== this.feed) this.out.word(F, units, this.inTime ? IN_TIME : this.decimals);
    // An inverse time holds for its own line only.
    this.feed = this.inTime ? NaN : units;
  }

  write(moves: Moves): void {
    const { out, job, decimals, fine, letter, degrees } = this;
    const { perMm, alongPerMm, idleSpeed, rapidSpeed } = job;
    const { powerMax } = job.dialect;
    const unit = 10 ** decimals;
    const fineUnit = 10 ** fine;
    const { count, x: xs, y: ys, speed: speeds, power: powers } = moves;
    let { x, y, lastX, lastY, level } = this;
    // Speeds and powers repeat from move to move: rounded when they change.
    let [ofSpeed, feed, ofShare, share] = [NaN, 0, NaN, 0];
    for (let i = 0; i < count; i += 1) {
      const tx = xs[i]!;
      const ty = ys[i]!;
      const dx = Math.abs(tx - x);
      const dy = Math.abs(ty - y);
      const sx = Math.round(tx * alongPerMm * unit);
      const sy = dy === 0 && lastY === lastY ? lastY : Math.round(ty * perMm * fineUnit);
      x = tx;
      y = ty;
      const along = sx !== lastX;
      const turns = sy !== lastY;
      if (!along && !turns) continue;
      lastX = sx;
      lastY = sy;
      const speed = speeds[i]!;
      const idle = speed < 0;
      if (powers[i] !== ofShare) {
        ofShare = powers[i]!;
        share = Math.round(ofShare * powerMax);
      }
      const power = idle ? 0 : share;
      if (idle && power !== level) {
        out.line('S0');
        level = 0;
      }
      if (idle && !turns) {
        this.go(0);
        out.word(X, sx, decimals);
        out.end();
        continue;
      }
      const wanted = idle ? rapidSpeed : speed;
      const inverse = degrees && turns;
      if (inverse !== this.inTime) {
        this.inTime = inverse;
        out.line(inverse ? 'G93' : 'G94');
        this.feed = NaN;
      }
      this.go(1);
      if (along) out.word(X, sx, decimals);
      if (turns) {
        // Seconds: neither the head faster than wanted nor the surface faster than it may turn.
        const seconds = Math.max(Math.hypot(dx, dy) / wanted, dy / idleSpeed, SHORTEST);
        out.word(letter, sy, fine);
        this.feedWord(
          Math.round(inverse ? (60 * 10 ** IN_TIME) / seconds : (Math.hypot(dx, dy * perMm) / seconds) * 60 * unit),
        );
      } else {
        if (wanted !== ofSpeed) {
          ofSpeed = wanted;
          feed = Math.round(wanted * 60 * unit);
        }
        if (feed !== this.feed) this.feedWord(feed);
      }
      if (power !== level) {
        out.word(S, power, 0);
        level = power;
      }
      out.end();
    }
    this.x = x;
    this.y = y;
    this.lastX = lastX;
    this.lastY = lastY;
    this.level = level;
  }

  /** A filled line: a run-up, its stretches by turns with the beam off and on, a run-out. */
  row(row: FilledRow): void {
    const { grid, spans, y, setting, lead, forward } = row;
    const { moves } = this;
    moves.clear();
    if (!grid) {
      addRow(moves, row);
      this.write(moves);
      return;
    }
    // A picture's line: its words were written once for every place of the grid, and are copied.
    const n = spans.length;
    const { pitch, first } = grid;
    const lists = this.linesFor(grid, Math.round(setting.power * this.job.dialect.powerMax));
    if (this.which.length < n) this.which = new Int32Array(2 * n);
    const { which } = this;
    if (forward) for (let i = 1; i < n; i += 1) which[i - 1] = spans[i]! - first;
    else for (let i = 1; i < n; i += 1) which[i - 1] = spans[n - 1 - i]! - first;
    const begin = pitch * (forward ? spans[0]! : spans[n - 1]!);
    const end = pitch * (forward ? spans[n - 1]! : spans[0]!);
    const sense = forward ? lead : -lead;
    // The way to the first stretch sets feed and modes; the rest differ in place and power only.
    moves.rapid(begin - sense, y);
    moves.push(begin, y, setting.speed, 0);
    this.write(moves);
    this.go(1);
    this.out.copied(which, n - 1, lists);
    this.x = end;
    this.lastX = Math.round(end * this.job.alongPerMm * 10 ** this.decimals);
    this.level = Math.round(setting.power * this.job.dialect.powerMax);
    moves.clear();
    moves.push(end + sense, y, setting.speed, 0);
    this.write(moves);
  }

  private linesFor(grid: NonNullable<FilledRow['grid']>, power: number): readonly [Lines, Lines] {
    if (this.lists?.grid !== grid) {
      const unit = 10 ** this.decimals;
      const ending = (word: string): Lines =>
        linesOf(grid.last - grid.first + 1, (out, n) => {
          out.word(X, Math.round((grid.first + n) * grid.pitch * this.job.alongPerMm * unit), this.decimals);
          out.line(word);
        });
      this.lists = { grid, lists: [ending(`S${power}`), ending('S0')] };
    }
    return this.lists.lists;
  }

  /** Beam off, and back the way it came, so that cable and zero stay as they were. */
  finish(): void {
    const { out, degrees, y, job } = this;
    const seconds = Math.max(Math.abs(y) / job.idleSpeed, 0.1);
    for (const line of ['S0', 'M5', ...(job.air === 'on' ? ['M9'] : []), 'G94', ...(job.waits ? ['M0'] : []), 'G0X0'])
      out.line(line);
    if (Math.abs(y) > 0) {
      if (degrees) out.line('G93');
      this.inTime = degrees;
      this.feed = NaN;
      out.text('G1');
      out.word(this.letter, 0, 0);
      const perMinute = (Math.abs(y * job.perMm) * 60) / seconds;
      this.feedWord(Math.round(degrees ? (60 * 10 ** IN_TIME) / seconds : perMinute * 10 ** this.decimals));
      out.end();
      if (degrees) out.line('G94');
    }
    out.line('M2');
  }
}

/**
 * G-code (RS-274) of moves on a turning blank: `x` along it, `y` surface travel round it, both mm
 * from the zero that was set at the rim on the crest.
 *
 * No rapid move turns the blank: idle turning is a feed move with the beam off at the idle speed.
 * A turning axis in degrees is fed by inverse time (G93), since its feed would not be surface speed.
 *
 * @param blocks of moves and filled lines; a block may be reused once the next was asked for
 * @example [...turningChunks([moves], job)].join('')
 */
export function* turningChunks(blocks: Iterable<Moves | FilledRow>, job: TurningJob): Generator<string> {
  const writer = new TurningWriter(job);
  for (const block of blocks) {
    if (block instanceof Moves) writer.write(block);
    else writer.row(block);
    if (writer.out.full) yield writer.out.take();
  }
  writer.finish();
  yield writer.out.take();
}
