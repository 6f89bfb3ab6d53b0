import svgpath from 'svgpath';
import type { Mm } from '../units';

/** Largest part of a turn that one cubic stands for: an eighth is off by 4 in a million of the radius, a sixteenth by 7 in a hundred million. */
const PART = Math.PI / 8;

const n = (value: number): string => String(Math.round(value * 1e6) / 1e6);

/**
 * An elliptic arc as cubics that follow it to less than 10⁻⁷ of its radius; by the endpoint form of SVG 2, 9.5.1 and its
 * conversion to the centre in appendix B.2.4.
 */
const arcAsCubics = (
  x1: number,
  y1: number,
  [rxGiven, ryGiven, degrees, large, sweep, x2, y2]: readonly number[],
): string => {
  let [rx, ry] = [Math.abs(rxGiven!), Math.abs(ryGiven!)];
  if (rx === 0 || ry === 0 || (x1 === x2 && y1 === y2)) return `L${n(x2!)} ${n(y2!)}`;
  const phi = (degrees! * Math.PI) / 180;
  const [c, s] = [Math.cos(phi), Math.sin(phi)];
  const [hx, hy] = [(x1 - x2!) / 2, (y1 - y2!) / 2];
  const [px, py] = [c * hx + s * hy, -s * hx + c * hy];
  const reach = (px / rx) ** 2 + (py / ry) ** 2;
  if (reach > 1) [rx, ry] = [rx * Math.sqrt(reach), ry * Math.sqrt(reach)];
  const [a, b] = [(rx * py) ** 2, (ry * px) ** 2];
  const k = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, ((rx * ry) ** 2 - a - b) / (a + b)));
  const [ux, uy] = [(k * rx * py) / ry, (-k * ry * px) / rx];
  const [cx, cy] = [c * ux - s * uy + (x1 + x2!) / 2, s * ux + c * uy + (y1 + y2!) / 2];
  const from = Math.atan2((py - uy) / ry, (px - ux) / rx);
  let turn = Math.atan2((-py - uy) / ry, (-px - ux) / rx) - from;
  if (sweep && turn < 0) turn += 2 * Math.PI;
  if (!sweep && turn > 0) turn -= 2 * Math.PI;
  const parts = Math.max(1, Math.ceil(Math.abs(turn) / PART));
  const handle = (4 / 3) * Math.tan(turn / parts / 4);
  const at = (t: number, ahead: number): string => {
    const x = rx * (Math.cos(t) - ahead * Math.sin(t));
    const y = ry * (Math.sin(t) + ahead * Math.cos(t));
    return `${n(c * x - s * y + cx)} ${n(s * x + c * y + cy)}`;
  };
  let out = '';
  for (let i = 0; i < parts; i += 1) {
    const [t, u] = [from + (turn * i) / parts, from + (turn * (i + 1)) / parts];
    const end = i === parts - 1 ? `${n(x2!)} ${n(y2!)}` : at(u, 0);
    out += `C${at(t, handle)} ${at(u, -handle)} ${end}`;
  }
  return out;
};

/**
 * Path data whose arcs are written as cubics fine enough to measure by; nothing else of it changes.
 *
 * @returns null where it cannot be read as a path
 * @example withoutArcs('M0 0A5 5 0 0 1 10 0') // 'M0 0C0 -0.663054 …'
 */
export const withoutArcs = (d: string): string | null => {
  const path = svgpath(d);
  if ((path as unknown as { err: string }).err) return null;
  if (!/a/i.test(d)) return d;
  let out = '';
  path.abs().iterate((s, _i, x, y) => {
    const v = s.slice(1) as number[];
    out += s[0] === 'A' ? arcAsCubics(x, y, v) : `${s[0]}${v.map(n).join(' ')}`;
  });
  return out;
};

/** An ellipse as a path, from its rightmost place on, the way that SVG 2, 10.4 goes round it. */
export const ellipsePath = (cx: Mm, cy: Mm, rx: Mm, ry: Mm): string =>
  `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`;

/** A rectangle with elliptic corners as a path [SVG 2, 10.2]. */
export const roundedPath = (x: Mm, y: Mm, w: Mm, h: Mm, rx: Mm, ry: Mm): string =>
  `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ${y + ry}V${y + h - ry}A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`;
