import { apply, compose, identity, type Transform, type Vec } from '../geometry';

/** One step of a page’s program, by the names that its standard’s operators are read as. */
export interface PdfStep {
  readonly name: string;
  readonly args: readonly unknown[];
}

/** A font as a page uses it. */
export interface PdfFont {
  readonly name: string;
  /** Whether its letters are in the file. */
  readonly embedded: boolean;
  /** From its own units to one em; 0.001 times as large where nothing is said. */
  readonly advance: number;
  /** The outline of a letter, in ems: numbers 0 to 4 before the points of a move, a line, a curve, a square curve, a close. */
  readonly outlineOf: (letter: string) => ArrayLike<number> | null;
}

/** A page as a reader of PDF gives it. */
export interface PdfPage {
  /** What of the page is seen: left, bottom, right, top; in its own units. */
  readonly view: readonly [number, number, number, number];
  /** Turned to the right, degrees. */
  readonly rotate: number;
  /** One of its units, in 1/72 inch. */
  readonly userUnit: number;
  readonly steps: readonly PdfStep[];
  readonly fontOf: (id: string) => PdfFont | null;
  /** Whether what is marked so is shown: layers can be off. */
  readonly isShown: (marked: unknown) => boolean;
}

/** A page as a drawing, with what of it could not be one. */
export interface PdfDrawing {
  readonly svg: string;
  readonly notes: readonly string[];
}

interface State {
  readonly m: Transform;
  readonly fill: string;
  readonly stroke: string;
  readonly fillSeen: boolean;
  readonly strokeSeen: boolean;
  readonly width: number;
  /** Name of the clip that holds; '' for none. */
  readonly clip: string;
  readonly font: PdfFont | null;
  readonly size: number;
  readonly charSpace: number;
  readonly wordSpace: number;
  readonly across: number;
  readonly rise: number;
  readonly leading: number;
  /** How letters are drawn [ISO 32000-1, 9.3.6]. */
  readonly mode: number;
}

const FRESH: Omit<State, 'm'> = {
  fill: '#000000',
  stroke: '#000000',
  fillSeen: true,
  strokeSeen: true,
  width: 1,
  clip: '',
  font: null,
  size: 1,
  charSpace: 0,
  wordSpace: 0,
  across: 1,
  rise: 0,
  leading: 0,
  mode: 0,
};

/** Paint of more than one colour, as the drawing names it. */
const MANY = 'url(#many)';
const MM_PER_UNIT = 25.4 / 72;
/** Most letters of a text that is named. */
const NAMED = 40;

const n = (v: number): string => String(Math.round(v * 1e5) / 1e5 || 0);
const isNumbers = (v: unknown): v is ArrayLike<number> =>
  typeof v === 'object' && v !== null && typeof (v as ArrayLike<number>).length === 'number';
const num = (v: unknown): number => (typeof v === 'number' && Number.isFinite(v) ? v : 0);
const matrixOf = (v: unknown): Transform => {
  const [a, b, c, d, e, f] = isNumbers(v) ? Array.from(v, num) : [];
  return { a: a ?? 1, b: b ?? 0, c: c ?? 0, d: d ?? 1, e: e ?? 0, f: f ?? 0 };
};

/** Numbers before the points of a path, and how many points follow [as read: 0 move, 1 line, 2 curve, 3 square curve, 4 close]. */
const POINTS = [1, 1, 3, 2, 0] as const;
const LETTERS = ['M', 'L', 'C', 'Q', 'Z'] as const;

/** A path’s data as a drawing writes it. */
const pathData = (path: ArrayLike<number>, m: Transform): string => {
  let d = '';
  for (let i = 0; i < path.length;) {
    const kind = path[i]!;
    const count = POINTS[kind as 0];
    if (count === undefined) break;
    d += LETTERS[kind as 0];
    for (let p = 0; p < count; p += 1) {
      const { x, y } = apply(m, { x: path[i + 1 + 2 * p]!, y: path[i + 2 + 2 * p]! });
      d += `${p > 0 ? ' ' : ''}${n(x)} ${n(y)}`;
    }
    i += 1 + 2 * count;
  }
  return d;
};

const rectangle = (box: unknown): number[] => {
  const [x0, y0, x1, y1] = isNumbers(box) ? Array.from(box, num) : [0, 0, 0, 0];
  return [0, x0!, y0!, 1, x1!, y0!, 1, x1!, y1!, 1, x0!, y1!, 4];
};

/** How large lines are that a matrix takes, on the whole. */
const growth = ({ a, b, c, d }: Transform): number => Math.sqrt(Math.abs(a * d - b * c));

/** How a path is painted: filled by which rule, drawn, closed before. */
const PAINTS: Readonly<Record<string, { fill?: 'nonzero' | 'evenodd'; stroke?: true; close?: true }>> = {
  stroke: { stroke: true },
  closeStroke: { stroke: true, close: true },
  fill: { fill: 'nonzero' },
  eoFill: { fill: 'evenodd' },
  fillStroke: { fill: 'nonzero', stroke: true },
  eoFillStroke: { fill: 'evenodd', stroke: true },
  closeFillStroke: { fill: 'nonzero', stroke: true, close: true },
  closeEOFillStroke: { fill: 'evenodd', stroke: true, close: true },
  endPath: {},
};

/** Writes a page’s program out as a drawing [ISO 32000-1:2008, 8 and 9]. */
class PageWriter {
  private readonly out: string[] = [];
  private readonly clips: string[] = [];
  private readonly kept: State[] = [];
  private state: State;
  private clipNext: 'nonzero' | 'evenodd' | null = null;
  private text: Transform = identity;
  private line: Vec = { x: 0, y: 0 };
  private pen: Vec = { x: 0, y: 0 };
  private readonly shown: boolean[] = [];
  private pictures = 0;
  private hidden = 0;
  private masked = 0;
  private readonly lost: string[] = [];

  constructor(
    private readonly page: PdfPage,
    private readonly toPage: Transform,
  ) {
    this.state = { m: toPage, ...FRESH };
  }

  private get isShown(): boolean {
    return this.shown.every((s) => s);
  }

  private set(change: Partial<State>): void {
    this.state = { ...this.state, ...change };
  }

  private put(d: string, fill: 'nonzero' | 'evenodd' | undefined, stroke: boolean, grow: number): void {
    const { state } = this;
    const [filled, drawn] = [fill !== undefined && state.fillSeen, stroke && state.strokeSeen];
    if (d === '' || (!filled && !drawn)) return;
    if (!this.isShown) {
      this.hidden += 1;
      return;
    }
    const clip = state.clip === '' ? '' : ` clip-path="url(#${state.clip})"`;
    const painted = `${filled ? ` fill="${state.fill}"${fill === 'evenodd' ? ' fill-rule="evenodd"' : ''}` : ' fill="none"'}${drawn ? ` stroke="${state.stroke}" stroke-width="${n(Math.max(0.001, state.width * grow))}"` : ''}`;
    this.out.push(`<path d="${d}"${painted}${clip}/>`);
  }

  private clipTo(d: string, rule: 'nonzero' | 'evenodd'): void {
    const id = `c${this.clips.length + 1}`;
    const within = this.state.clip === '' ? '' : ` clip-path="url(#${this.state.clip})"`;
    this.clips.push(`<clipPath id="${id}"${within}><path d="${d || 'M0 0'}"${rule === 'evenodd' ? ' clip-rule="evenodd"' : ''}/></clipPath>`); // prettier-ignore
    this.set({ clip: id });
  }

  private path(paint: string, data: unknown): void {
    const how = PAINTS[paint] ?? {};
    const open = isNumbers(data) ? pathData(data, this.state.m) : '';
    const d = how.close && open !== '' && !open.endsWith('Z') ? `${open}Z` : open;
    this.put(d, how.fill, how.stroke === true, growth(this.state.m));
    if (this.clipNext) this.clipTo(d, this.clipNext);
    this.clipNext = null;
  }

  private letter(char: string, x: number): void {
    const { state } = this;
    const outline = state.font?.outlineOf(char) ?? null;
    if (!outline || outline.length === 0) return;
    const at: Transform = {
      a: state.size * state.across,
      b: 0,
      c: 0,
      d: state.size,
      e: x * state.across,
      f: state.rise,
    };
    const d = pathData(outline, compose(this.state.m, compose(this.text, compose({ ...identity, e: this.pen.x, f: this.pen.y }, at)))); // prettier-ignore
    const mode = state.mode & 3;
    this.put(d, mode === 0 || mode === 2 ? 'nonzero' : undefined, mode === 1 || mode === 2, growth(this.state.m));
  }

  private show(glyphs: unknown): void {
    if (!isNumbers(glyphs)) return;
    const { font, size, charSpace, wordSpace, across, mode } = this.state;
    const read = Array.from(glyphs as unknown as ArrayLike<unknown>);
    const words = read.map((g) => (typeof g === 'number' ? (g < -200 ? ' ' : '') : String((g as { unicode?: unknown } | null)?.unicode ?? ''))).join(''); // prettier-ignore
    if (!font?.embedded && mode !== 3 && words.trim() !== '') this.lost.push(words.trim());
    let x = 0;
    for (const g of read) {
      if (typeof g === 'number') {
        x -= (g * size) / 1000;
        continue;
      }
      const glyph = g as {
        fontChar?: string;
        unicode?: string;
        width?: number;
        isSpace?: boolean;
        isInFont?: boolean;
      } | null;
      if (!glyph) continue;
      // The sign that a font has for what it lacks is not drawn where there is only a space.
      const isBlank = glyph.isInFont === false || (glyph.unicode ?? '').trim() === '';
      if (font?.embedded && mode !== 3 && !isBlank) this.letter(glyph.fontChar ?? '', x);
      x += num(glyph.width) * size * (font?.advance ?? 0.001) + charSpace + (glyph.isSpace ? wordSpace : 0);
    }
    this.pen = { x: this.pen.x + x * across, y: this.pen.y };
  }

  private moveLine(x: number, y: number): void {
    this.line = { x: this.line.x + x, y: this.line.y + y };
    this.pen = this.line;
  }

  private paintOf(args: readonly unknown[]): string {
    const [first] = args;
    return typeof first === 'string' && /^#[0-9a-f]{6}$/i.test(first) ? first : MANY;
  }

  private graphics(entries: unknown): void {
    if (!isNumbers(entries)) return;
    for (const entry of Array.from(entries as unknown as ArrayLike<unknown>)) {
      const [key, value] = entry as [string, unknown];
      if (key === 'LW') this.set({ width: num(value) });
      if (key === 'ca') this.set({ fillSeen: num(value) > 0 });
      if (key === 'CA') this.set({ strokeSeen: num(value) > 0 });
      if (key === 'SMask' && value) this.masked += 1;
      if (key === 'Font' && isNumbers(value)) this.font((value as unknown as unknown[])[0], (value as unknown as unknown[])[1]); // prettier-ignore
    }
  }

  private font(id: unknown, size: unknown): void {
    this.set({ font: this.page.fontOf(String(id)), size: num(size) });
  }

  private begin(matrix: unknown, box: unknown): void {
    this.kept.push(this.state);
    if (isNumbers(matrix)) this.set({ m: compose(this.state.m, matrixOf(matrix)) });
    if (isNumbers(box)) this.clipTo(pathData(rectangle(box), this.state.m), 'nonzero');
  }

  private end(): void {
    const before = this.kept.pop();
    if (before) this.state = before;
  }

  private readonly does: Readonly<Record<string, (args: readonly unknown[]) => void>> = {
    save: () => this.kept.push(this.state),
    restore: () => this.end(),
    transform: (args) => this.set({ m: compose(this.state.m, matrixOf(args)) }),
    setLineWidth: ([w]) => this.set({ width: num(w) }),
    setGState: ([entries]) => this.graphics(entries),
    setFillRGBColor: (args) => this.set({ fill: this.paintOf(args) }),
    setStrokeRGBColor: (args) => this.set({ stroke: this.paintOf(args) }),
    setFillColorN: (args) => this.set({ fill: this.paintOf(args) }),
    setStrokeColorN: (args) => this.set({ stroke: this.paintOf(args) }),
    setFillTransparent: () => this.set({ fillSeen: false }),
    setStrokeTransparent: () => this.set({ strokeSeen: false }),
    clip: () => (this.clipNext = 'nonzero'),
    eoClip: () => (this.clipNext = 'evenodd'),
    constructPath: ([paint, data]) => this.path(String(paint), isNumbers(data) ? data[0] : null),
    shadingFill: () => {
      const { view } = this.page;
      const before = this.state.fill;
      this.set({ fill: MANY });
      this.put(pathData(rectangle(view), this.toPage), 'nonzero', false, 1);
      this.set({ fill: before });
    },
    paintFormXObjectBegin: ([matrix, box]) => this.begin(matrix, box),
    paintFormXObjectEnd: () => this.end(),
    beginGroup: ([group]) => this.begin((group as { matrix?: unknown } | undefined)?.matrix, (group as { bbox?: unknown } | undefined)?.bbox), // prettier-ignore
    endGroup: () => this.end(),
    beginMarkedContent: () => this.shown.push(true),
    beginMarkedContentProps: ([tag, marked]) => this.shown.push(tag !== 'OC' || this.page.isShown(marked)),
    endMarkedContent: () => this.shown.pop(),
    beginText: () => {
      this.text = identity;
      this.line = { x: 0, y: 0 };
      this.pen = this.line;
    },
    setTextMatrix: (args) => {
      this.text = matrixOf(args.length === 1 ? args[0] : args);
      this.line = { x: 0, y: 0 };
      this.pen = this.line;
    },
    moveText: ([x, y]) => this.moveLine(num(x), num(y)),
    setLeadingMoveText: ([x, y]) => {
      this.set({ leading: -num(y) });
      this.moveLine(num(x), num(y));
    },
    nextLine: () => this.moveLine(0, -this.state.leading),
    setLeading: ([by]) => this.set({ leading: -num(by) }),
    setCharSpacing: ([by]) => this.set({ charSpace: num(by) }),
    setWordSpacing: ([by]) => this.set({ wordSpace: num(by) }),
    setHScale: ([by]) => this.set({ across: num(by) / 100 }),
    setTextRise: ([by]) => this.set({ rise: num(by) }),
    setTextRenderingMode: ([mode]) => this.set({ mode: num(mode) }),
    setFont: ([id, size]) => this.font(id, size),
    showText: ([glyphs]) => this.show(glyphs),
    showType3Text: ([glyphs]) => this.show(glyphs),
  };

  run(): void {
    for (const { name, args } of this.page.steps) {
      if (/^paint.*Image/.test(name)) this.pictures += this.isShown ? 1 : 0;
      else this.does[name]?.(args);
    }
  }

  written(width: number, height: number): PdfDrawing {
    const texts = [...new Set(this.lost)].map((t) => `“${t.length > NAMED ? `${t.slice(0, NAMED)}…` : t}”`);
    const many = (count: number, one: string, more: string): string => (count === 1 ? one : `${count} ${more}`);
    const gradient = '<linearGradient id="many"><stop stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient>';
    return {
      svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}"><defs>${gradient}${this.clips.join('')}</defs>${this.out.join('')}</svg>`,
      notes: [
        ...(texts.length > 0
          ? [`Text is left out, for its letters are not in the file: ${texts.slice(0, 6).join(', ')}${texts.length > 6 ? ` and ${texts.length - 6} more` : ''}. Have it sent with its fonts embedded, or as paths.`]
          : []),
        ...(this.pictures > 0 ? [`${many(this.pictures, 'A picture is', 'pictures are')} left out: only what is drawn is read.`] : []),
        ...(this.hidden > 0 ? [`${many(this.hidden, 'A shape is', 'shapes are')} on layers that are off, and left out.`] : []),
        ...(this.masked > 0 ? ['A soft mask is left out: what lies under it is read as if it were all there.'] : []),
      ],
    };
  } // prettier-ignore
}

/** From a page’s own units to millimetres from its upper left corner on, as it is turned. */
const toPaper = ({ view: [x0, y0, x1, y1], rotate, userUnit }: PdfPage) => {
  const k = MM_PER_UNIT * userUnit;
  const [w, h] = [(x1 - x0) * k, (y1 - y0) * k];
  const upright: Transform = { a: k, b: 0, c: 0, d: -k, e: -x0 * k, f: y1 * k };
  const quarter = ((Math.round(rotate / 90) % 4) + 4) % 4;
  const turn: readonly Transform[] = [
    identity,
    { a: 0, b: 1, c: -1, d: 0, e: h, f: 0 },
    { a: -1, b: 0, c: 0, d: -1, e: w, f: h },
    { a: 0, b: -1, c: 1, d: 0, e: 0, f: w },
  ];
  return { m: compose(turn[quarter]!, upright), width: quarter % 2 === 0 ? w : h, height: quarter % 2 === 0 ? h : w };
};

/**
 * A page of a PDF as a drawing in millimetres: its paths and the letters whose fonts are in it, clipped and painted as they
 * are there. Pictures, letters without their font and layers that are off are named.
 *
 * @example pdfDrawing(page) // { svg: '<svg width="80mm" …', notes: [] }
 */
export const pdfDrawing = (page: PdfPage): PdfDrawing => {
  const { m, width, height } = toPaper(page);
  const writer = new PageWriter(page, m);
  writer.run();
  return writer.written(width, height);
};
