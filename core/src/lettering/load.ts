import opentype from 'opentype.js';
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import type { Alphabet, Glyph } from './alphabet';

/** Greatest distance between a glyph's curve and its chord, cap heights: 5 µm on a 6 mm capital. */
const CHORD = 0.0008;

interface Curve {
  (t: number): [number, number];
}

const flattenCurve = (curve: Curve, size: number, into: number[]): void => {
  const steps = Math.max(2, Math.min(24, Math.ceil(Math.sqrt(size / (8 * CHORD)))));
  for (let i = 1; i <= steps; i += 1) into.push(...curve(i / steps));
};

type Command = {
  type: 'M' | 'L' | 'Q' | 'C' | 'Z';
  x: number;
  y: number;
  x1: number;
  y1: number;
  x2: number;
  y2: number;
};

/** Path commands to polylines, scaled so that a cap height is 1; `foot` is where its capitals stand. */
const toLines = (commands: readonly Command[], scale: number, foot: number): number[][] => {
  const lines: number[][] = [];
  let line: number[] = [];
  let x0 = 0;
  let y0 = 0;
  const finish = (): void => {
    if (line.length >= 4) lines.push(line.map((v) => Math.round(v * 1e4) / 1e4));
    line = [];
  };
  for (const c of commands) {
    const x = c.x * scale;
    const y = (c.y - foot) * scale;
    if (c.type === 'Z') continue;
    if (c.type === 'M') {
      finish();
      line = [x, y];
    } else if (c.type === 'L') line.push(x, y);
    else {
      const [ax, ay, px, py] = [c.x1 * scale, (c.y1 - foot) * scale, x0, y0];
      const bx = c.type === 'C' ? c.x2 * scale : ax;
      const by = c.type === 'C' ? (c.y2 - foot) * scale : ay;
      const size = Math.hypot(ax - px, ay - py) + Math.hypot(bx - ax, by - ay) + Math.hypot(x - bx, y - by);
      const quadratic: Curve = (t) => [
        (1 - t) ** 2 * px + 2 * (1 - t) * t * ax + t * t * x,
        (1 - t) ** 2 * py + 2 * (1 - t) * t * ay + t * t * y,
      ];
      const cubic: Curve = (t) => [
        (1 - t) ** 3 * px + 3 * (1 - t) ** 2 * t * ax + 3 * (1 - t) * t * t * bx + t ** 3 * x,
        (1 - t) ** 3 * py + 3 * (1 - t) ** 2 * t * ay + 3 * (1 - t) * t * t * by + t ** 3 * y,
      ];
      flattenCurve(c.type === 'Q' ? quadratic : cubic, size, line);
    }
    x0 = x;
    y0 = y;
  }
  finish();
  return lines;
};

/** Foot and height of the ink of a capital H in font units: the baseline and the unit of every alphabet. */
const capitalOf = (commands: readonly Command[]): { foot: number; height: number } => {
  const ys = commands.flatMap((c) => (c.type === 'Z' ? [] : [c.y]));
  const foot = Math.min(...ys);
  return { foot, height: Math.max(...ys) - foot };
};

/** A glyph that is drawn when it is first asked for: of a font's thousand a name needs ten. */
const whenNeeded = (glyphs: Record<string, Glyph>, c: string, draw: () => Glyph): void => {
  const shown = { enumerable: true, configurable: true };
  Object.defineProperty(glyphs, c, {
    ...shown,
    get: () => {
      const value = draw();
      Object.defineProperty(glyphs, c, { ...shown, value });
      return value;
    },
  });
};

/**
 * An outline alphabet from font files (OpenType, TrueType or WOFF); later files fill gaps.
 * @throws when the first file has no capital H: that is a broken shipment, not an operator's input
 */
export const alphabetFromFonts = (
  id: string,
  name: string,
  licence: string,
  files: readonly ArrayBuffer[],
): Alphabet => {
  const fonts = files.map((file) => opentype.parse(file));
  const commandsOf = (glyph: opentype.Glyph): Command[] =>
    glyph.path.commands.map((c) => ({ x: 0, y: 0, x1: 0, y1: 0, x2: 0, y2: 0, ...c }) as Command);
  const { foot, height } = capitalOf(commandsOf(fonts[0]!.charToGlyph('H')));
  const scale = 1 / height;
  const glyphs: Record<string, Glyph> = {};
  for (const font of fonts) {
    for (let i = 0; i < font.glyphs.length; i += 1) {
      const glyph = font.glyphs.get(i);
      for (const code of glyph.unicodes ?? []) {
        const c = String.fromCodePoint(code);
        if (code < 32 || Object.hasOwn(glyphs, c)) continue;
        whenNeeded(glyphs, c, () => ({
          advance: (glyph.advanceWidth ?? 0) * scale,
          lines: toLines(commandsOf(glyph), scale, foot),
        }));
      }
    }
  }
  const kern: Record<string, number> = {};
  const paired = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz.,'].filter((c) => Object.hasOwn(glyphs, c));
  for (const a of paired) {
    for (const b of paired) {
      const value = fonts[0]!.getKerningValue(fonts[0]!.charToGlyph(a), fonts[0]!.charToGlyph(b)) * scale;
      if (Math.abs(value) > 0.002) kern[a + b] = Math.round(value * 1e4) / 1e4;
    }
  }
  return { id, name, licence, kind: 'outline', glyphs, kern };
};

/** A single-stroke alphabet from an SVG font (y runs up, as SVG fonts have it). */
export const alphabetFromSvgFont = (id: string, name: string, licence: string, svg: string): Alphabet => {
  const found: { c: string; advance: number; commands: Command[] }[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', (tag) => {
    const a = tag.attributes as Record<string, string>;
    if (tag.name !== 'glyph' || !a.unicode || [...a.unicode].length !== 1) return;
    const commands: Command[] = [];
    svgpath(a.d ?? '')
      .abs()
      .unarc()
      .unshort()
      .iterate((s, _i, x, y) => {
        const n = s.slice(1) as number[];
        const blank = { x: 0, y: 0, x1: 0, y1: 0, x2: 0, y2: 0 };
        switch (s[0]) {
          case 'M':
          case 'L':
            commands.push({ ...blank, type: s[0], x: n[0]!, y: n[1]! });
            break;
          case 'H':
            commands.push({ ...blank, type: 'L', x: n[0]!, y });
            break;
          case 'V':
            commands.push({ ...blank, type: 'L', x, y: n[0]! });
            break;
          case 'Q':
            commands.push({ ...blank, type: 'Q', x1: n[0]!, y1: n[1]!, x: n[2]!, y: n[3]! });
            break;
          case 'C':
            commands.push({ type: 'C', x1: n[0]!, y1: n[1]!, x2: n[2]!, y2: n[3]!, x: n[4]!, y: n[5]! });
            break;
          default:
            break;
        }
      });
    found.push({ c: a.unicode, advance: Number(a['horiz-adv-x'] ?? 0), commands });
  });
  parser.write(svg).close();
  const { foot, height } = capitalOf(found.find((g) => g.c === 'H')!.commands);
  const scale = 1 / height;
  const glyphs: Record<string, Glyph> = {};
  for (const g of found) glyphs[g.c] ??= { advance: g.advance * scale, lines: toLines(g.commands, scale, foot) };
  return { id, name, licence, kind: 'stroke', glyphs, kern: {} };
};
