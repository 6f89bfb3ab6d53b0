import type { Dialect, Moves } from '../burn';
import type { DriveAxis } from '../drive';
import type { MmPerS } from '../units';
import { LINES_PER_CHUNK, programHead } from './gcode';

export interface TurningJob {
  readonly title: string;
  readonly notes: readonly string[];
  readonly dialect: Dialect;
  readonly axis: DriveAxis;
  /** File units of the turning word to a millimetre of surface travel. */
  readonly perMm: number;
  /** Fastest surface speed while the beam is off. */
  readonly idleSpeed: MmPerS;
  readonly rapidSpeed: MmPerS;
}

/**
 * G-code (RS-274) of moves on a turning blank: `x` along it, `y` surface travel round it, both mm
 * from the zero that was set at the rim on the crest.
 *
 * No rapid move turns the blank: idle turning is a feed move with the beam off at the idle speed.
 * A turning axis in degrees is fed by inverse time (G93), since its feed would not be surface speed.
 *
 * @example [...turningChunks(moves, job)].join('')
 */
export function* turningChunks(moves: Moves, job: TurningJob): Generator<string> {
  const { dialect, axis, perMm } = job;
  const number = (v: number, digits: number): string => String(Number(v.toFixed(digits)) || 0);
  // The turning word needs its steps whole: one digit more than the dialect's lengths.
  const n = (v: number): string => number(v, dialect.decimals);
  const turn = (v: number): string => number(v * perMm, Math.max(4, dialect.decimals));
  const degrees = axis.unit === 'degrees';
  let lines = programHead(job.title, job.notes, dialect);
  let x = 0;
  let y = 0;
  let lastX = '';
  let lastY = '';
  let feed = '';
  let level = 0;
  let mode = 'G94';
  for (let i = 0; i < moves.count; i += 1) {
    const tx = moves.x[i]!;
    const ty = moves.y[i]!;
    const [dx, dy] = [Math.abs(tx - x), Math.abs(ty - y)];
    const sx = n(tx);
    const sy = turn(ty);
    const target = `${sx === lastX ? '' : `X${sx}`}${sy === lastY ? '' : `${axis.letter}${sy}`}`;
    x = tx;
    y = ty;
    if (target === '') continue;
    const turns = sy !== lastY;
    lastX = sx;
    lastY = sy;
    const idle = moves.speed[i]! < 0;
    const power = idle ? 0 : Math.round(moves.power[i]! * dialect.powerMax);
    if (idle && power !== level) {
      lines.push('S0');
      level = 0;
    }
    if (idle && !turns) {
      lines.push(`G0${target}`);
      continue;
    }
    const wanted = idle ? job.rapidSpeed : moves.speed[i]!;
    // Seconds: neither the head faster than wanted nor the surface faster than it may turn.
    const seconds = Math.max(Math.hypot(dx, dy) / wanted, dy / job.idleSpeed, 1e-4);
    const inverse = degrees && turns;
    if (inverse !== (mode === 'G93')) {
      mode = inverse ? 'G93' : 'G94';
      lines.push(mode);
      feed = '';
    }
    const f = inverse ? number(60 / seconds, 3) : n((Math.hypot(dx, dy * perMm) / seconds) * 60);
    const words = `${f === feed && !inverse ? '' : `F${f}`}${power === level ? '' : `S${power}`}`;
    feed = f;
    level = power;
    lines.push(`G1${target}${words}`);
    if (lines.length >= LINES_PER_CHUNK) {
      yield `${lines.join('\n')}\n`;
      lines = [];
    }
  }
  // Back the way it came, so that cable and zero stay as they were.
  const seconds = Math.max(Math.abs(y) / job.idleSpeed, 0.1);
  lines.push('S0', 'M5', 'G94', 'G0X0');
  if (Math.abs(y) > 0) {
    if (degrees) lines.push('G93', `G1${axis.letter}0F${number(60 / seconds, 3)}`, 'G94');
    else lines.push(`G1${axis.letter}0F${n((Math.abs(y) * Math.abs(perMm) * 60) / seconds)}`);
  }
  lines.push('M2');
  yield `${lines.join('\n')}\n`;
}
