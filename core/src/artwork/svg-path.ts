import svgpath from 'svgpath';
import type { Contour, Transform, Vec } from '../geometry';
import { ART_LIMITS } from './art-file';
import { Refusal } from './svg-prepare';

/** What a file with too much in it is told. */
export const tooMany = (): Refusal =>
  new Refusal(`The file has more than ${ART_LIMITS.shapes} shapes or ${ART_LIMITS.vertices} points.`);

/** One command of a path, all of it absolute, and where the path was before it. */
type Visit = (command: string, v: readonly number[], x: number, y: number) => void;

/** How many numbers each command has in a path that was made plain. */
const PLAIN: Readonly<Record<string, number>> = { M: 2, L: 2, Q: 4, C: 6, Z: 0 };

/**
 * Goes through a path that was made plain: absolute lines and curves, a space between all of its words.
 *
 * @returns whether all of it was so; nothing more was visited than is true where it was not
 */
const plainPath = (d: string, { a, b, c, d: e, e: dx, f: dy }: Transform, visit: Visit): boolean => {
  let command = '';
  let v: number[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const done = (): boolean => {
    if (command === '') return true;
    if (v.length !== PLAIN[command]) return false;
    visit(command, v, x, y);
    if (command === 'Z') [x, y] = [startX, startY];
    else [x, y] = [v[v.length - 2]!, v[v.length - 1]!];
    if (command === 'M') [startX, startY] = [x, y];
    return true;
  };
  for (let i = 0; i < d.length;) {
    const end = d.indexOf(' ', i);
    const to = end < 0 ? d.length : end;
    const code = d.charCodeAt(i);
    if (code > 64) {
      if (to !== i + 1 || PLAIN[d[i]!] === undefined || !done()) return false;
      command = d[i]!;
      v = [];
    } else {
      const value = to === i ? NaN : Number(d.slice(i, to));
      if (Number.isNaN(value)) return false;
      v.push(value);
    }
    const n = v.length;
    // Both of a place are there.
    if (n > 0 && n % 2 === 0 && code <= 64) {
      const [px, py] = [v[n - 2]!, v[n - 1]!];
      v[n - 2] = a * px + c * py + dx;
      v[n - 1] = b * px + e * py + dy;
    }
    i = to + 1;
  }
  return done();
};

/** Goes through any path. */
const anyPath = (d: string, to: Transform, visit: Visit): void => {
  const parsed = svgpath(d);
  const error = (parsed as unknown as { err: string }).err;
  if (error) throw new Refusal(`A path cannot be read: ${error}.`);
  parsed
    .matrix([to.a, to.b, to.c, to.d, to.e, to.f])
    .abs()
    .unshort()
    .unarc()
    .iterate((s, _i, x, y) => visit(s[0], s.slice(1) as number[], x, y));
};

/**
 * Curves of one path as polylines.
 *
 * @param to from user units to where they are wanted
 * @param chord greatest chord error, where they are wanted
 * @param most points that the file may still have; a path that wants more is given up there
 */
export const pathContours = (d: string, to: Transform, chord: number, most: number): Contour[] => {
  const out: Contour[] = [];
  let points = 0;
  let line: Vec[] = [];
  const close = (closed: boolean): void => {
    const first = line[0];
    const last = line[line.length - 1];
    if (first && last && line.length > 2 && Math.hypot(first.x - last.x, first.y - last.y) < 1e-6)
      out.push({ closed: true, vertices: line.slice(0, -1) });
    else if (line.length >= 2) out.push({ closed, vertices: line });
    line = [];
  };
  const visit: Visit = (command, v, x, y) => {
    // Chords of a curve of degree 2 or 3 are within the error at √(d(d − 1)/8 × second difference / error) of them
    // [published: Wang 1984, the bound for Bézier curves].
    const curve = (at: (t: number) => Vec, bend: number): void => {
      const steps = Math.max(1, Math.min(400, Math.ceil(Math.sqrt(bend / chord))));
      for (let i = 1; i <= steps; i += 1) line.push(at(i / steps));
      points += steps;
    };
    switch (command) {
      case 'M':
        close(false);
        line = [{ x: v[0]!, y: v[1]! }];
        break;
      case 'L':
        line.push({ x: v[0]!, y: v[1]! });
        break;
      case 'H':
        line.push({ x: v[0]!, y });
        break;
      case 'V':
        line.push({ x, y: v[0]! });
        break;
      case 'Q':
        curve(
          (t) => ({
            x: (1 - t) ** 2 * x + 2 * t * (1 - t) * v[0]! + t * t * v[2]!,
            y: (1 - t) ** 2 * y + 2 * t * (1 - t) * v[1]! + t * t * v[3]!,
          }),
          Math.hypot(x - 2 * v[0]! + v[2]!, y - 2 * v[1]! + v[3]!) / 4,
        );
        break;
      case 'C':
        curve(
          (t) => ({
            x: (1 - t) ** 3 * x + 3 * t * (1 - t) ** 2 * v[0]! + 3 * t * t * (1 - t) * v[2]! + t ** 3 * v[4]!,
            y: (1 - t) ** 3 * y + 3 * t * (1 - t) ** 2 * v[1]! + 3 * t * t * (1 - t) * v[3]! + t ** 3 * v[5]!,
          }),
          0.75 *
            Math.max(
              Math.hypot(x - 2 * v[0]! + v[2]!, y - 2 * v[1]! + v[3]!),
              Math.hypot(v[0]! - 2 * v[2]! + v[4]!, v[1]! - 2 * v[3]! + v[5]!),
            ),
        );
        break;
      case 'Z':
        close(true);
        break;
      default:
        break;
    }
    points += 1;
    if (points > most) throw tooMany();
    const far = line[line.length - 1];
    if (far && !(Number.isFinite(far.x) && Number.isFinite(far.y)))
      throw new Refusal('A path has a coordinate that is not a finite number.');
  };
  if (!plainPath(d, to, visit)) {
    [out.length, points, line] = [0, 0, []];
    anyPath(d, to, visit);
  }
  close(false);
  return out;
};
