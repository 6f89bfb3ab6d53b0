import { inWay } from '../../../core/src/test-held';
import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
import {
  apply,
  batchDrawing,
  compose,
  drawingSvg,
  placedArt,
  placedPieces,
  reckonBatch,
  slotTransform,
  writeSvg,
  type Vec,
} from '@bistre/core';
import { loadedPieces, testBatch, testMachine } from '../../../core/src/test-batch';
import { readAt } from '../../../core/src/test-reckon';
import { alphabetsFor, LABELS } from '../alphabets';
import { DPI, pageOf, picture, px, runs, type Picture } from '../testing/page';
import { setupSheet } from './pdf';
import { piecePicture } from './piece-picture';
import { proofSheet, type ProofFacts } from './proof';
import { printSheet } from './print';
import { shadesOf } from './shades';

const small = testBatch({
  machine: { ...testMachine, bed: { width: 250, height: 160 } },
  quantity: 6,
});
const input = inWay(small, 'pockets', { extent: { kind: 'count', count: 6 } });
const options = {
  now: new Date('2026-11-23T08:00:00Z'),
  alphabets: alphabetsFor(['b612-bold']),
  labels: LABELS,
  simulatedPieces: 500,
};
const reckoning = reckonBatch(input, options);
/** A picture that is black all over. */
const DARK = new Map([['p', { width: 200, height: 160, pixels: new Uint8Array(32_000) }]]);

describe('printed pages, measured from their rendering by poppler', () => {
  const facts: ProofFacts = { title: 'Boat tags', customer: 'Regatta office', on: '23 November 2026', every: true, artworks: [], columns: ['name', 'seat'] }; // prettier-ignore

  it('prints the proof on A4 (ISO 216: 210 × 297 mm), its bar 100 mm long and the piece in true size', async () => {
    const p = await pageOf(await proofSheet(input, reckoning, facts));
    expect(Math.abs(p.width - px(210))).toBeLessThan(1);
    expect(Math.abs(p.height - px(297))).toBeLessThan(1);
    // A row through the upper ends of the bar's two ticks.
    const ticks = runs(p, Math.round(px(41.6)));
    expect(ticks).toHaveLength(2);
    expect(((ticks[1]! - ticks[0]!) / DPI) * 25.4).toBeCloseTo(100, 1);
    // Across the first piece below its lettering: left and right edge.
    const edges = runs(p, Math.round(px(76 + reckoning.sizes.width.mean - 3.6)));
    expect(((edges[1]! - edges[0]!) / DPI) * 25.4).toBeCloseTo(reckoning.sizes.length.mean, 1);
  });
  it('shows every piece with its name, one kind once, and all names in a table; as many pages as that takes', async () => {
    const many = { ...input, quantity: 150, roster: Array.from({ length: 150 }, (_, i) => ({ name: `CREW ${i + 1}`, seat: `LANE ${(i % 8) + 1}` })) }; // prettier-ignore
    const r = reckonBatch(many, options);
    const text = (pdf: Buffer): string => execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf, maxBuffer: 1e8 }).toString(); // prettier-ignore
    const all = text(await proofSheet(many, r, facts));
    const once = text(await proofSheet(many, r, { ...facts, every: false }));
    // Each once in the table; its letters on the piece are outlines, its name under it is text.
    for (const name of ['CREW 1', 'CREW 77', 'CREW 150']) {
      expect(all.match(new RegExp(`${name}\\b`, 'g'))!.length).toBeGreaterThanOrEqual(2);
      expect(once).toMatch(new RegExp(`${name}\\b`));
    }
    expect(once).toMatch(/1 kind of 150 pieces shown once/);
    expect(once).toMatch(/piece 1 and 149 like it/);
    expect(all).toMatch(/Every piece is shown/);
    for (const word of ['signature', 'date', 'Regatta office', '23 November 2026']) expect(once).toContain(word);
    const pages = [...all.matchAll(/page (\d+) of (\d+)/g)].map((m) => [Number(m[1]), Number(m[2])]);
    expect(pages).toEqual(pages.map((_, i) => [i + 1, pages.length]));
    // Two across and seven or eight down.
    expect(pages.length).toBeGreaterThan(150 / 16);
  });
  it('lays a piece that is longer than a page over sheets, the same line of it on both at their joint', async () => {
    const shape = { kind: 'rectangle', length: 400, width: 120, cornerRadius: 0 } as const;
    const zone = { ...input.blank.zones[0]!, x: 0, y: 0, width: 380, height: 100, keepOuts: [] };
    const long = { ...input, machine: testMachine, blank: { ...input.blank, shape, zones: [zone], holes: [], samples: { ...input.blank.samples, length: [], width: [] } } } as typeof input; // prettier-ignore
    const r = reckonBatch({ ...long, quantity: 1 }, options);
    const pdf = await proofSheet({ ...long, quantity: 1 }, r, { ...facts, columns: [] });
    // Turned a quarter: 120 across, 400 down in windows of 258 that share 10.
    const [one, two] = [await pageOf(pdf, 2), await pageOf(pdf, 3)];
    const edges = (p: Picture): number[] => runs(p, Math.round(px(150))).map((x) => (x / DPI) * 25.4);
    expect(edges(one)[0]!).toBeCloseTo(15, 0);
    expect(edges(one).at(-1)! - edges(one)[0]!).toBeCloseTo(120, 0);
    // The lower end of the piece: 400 from its upper end, which lies at 24 on the first sheet.
    const column = (p: Picture): number[] => {
      const x = Math.round(px(15 + 8));
      const rows: number[] = [];
      for (let y = 0; y < p.height; y += 1)
        if (p.dark[y * p.width + x]! > 0.3 && y > px(21)) rows.push((y / DPI) * 25.4);
      return rows;
    };
    expect(column(one)[0]!).toBeCloseTo(24, 0);
    expect(Math.max(...column(two).filter((y) => y < 270))).toBeCloseTo(24 + 400 - 248, 0);
  });
  it('pictures one piece at twice its size: by its own density the outline is 2 × as long, its letters where they are burned', async () => {
    const png = await piecePicture(input, reckoning, new Map());
    const { density } = await sharp(png).metadata();
    expect(density).toBeCloseTo(300, 0);
    const p = await picture(sharp(png));
    const mm = (x: number): number => (x / density!) * 25.4;
    const { length, width } = { length: reckoning.sizes.length.mean, width: reckoning.sizes.width.mean };
    // Through its middle, below the hole and between the lines of letters the outline alone.
    const edges = runs(p, Math.round(p.height * ((3 + width - 3.6) / (width + 6))));
    expect(mm(edges.at(-1)! - edges[0]!)).toBeCloseTo(2 * length, 0);
    const { shapes } = placedPieces(reckoning, reckoning.onTheBoard)[0]!;
    const intended = moments(shapes.filled.map((line) => line.map((v) => ({ x: v.x, y: v.y }))));
    const scale = p.width / (length + 6);
    const ink = inkOf(p, scale, { x0: 3 + 9, x1: 3 + length - 2, y0: 3 + 2, y1: 3 + width - 2 });
    expect(ink.x - 3 - length / 2).toBeCloseTo(intended.x, 1);
    expect(3 + width / 2 - ink.y).toBeCloseTo(intended.y, 1);
  });
  it('has pictures on the proof where and as large as they are burned', async () => {
    const shade = { pictureId: 'p', name: 'dark', width: 200, height: 160, darkness: 1, treatment: { kernel: 'stucki', densest: 1, gamma: 1, negative: false } } as const; // prettier-ignore
    const content = { kind: 'picture', id: 'c', zoneId: 'face', ...shade, size: { kind: 'width', width: 20 }, offset: { x: 5, y: 0 }, turn: 0, mirrored: false } as const; // prettier-ignore
    const shaded = { ...input, setup: { ...input.setup, lettering: { ...input.setup.lettering, lines: [] }, contents: [content] } }; // prettier-ignore
    const r = reckonBatch(shaded, options);
    const p = await pageOf(await proofSheet(shaded, r, facts, await shadesOf(DARK, shaded)));
    const { length, width } = { length: r.sizes.length.mean, width: r.sizes.width.mean };
    // Below the hole.
    const row = Math.round(px(76 + width / 2 + 4));
    // Left edge of the first tag, the picture from the zone’s middle (3.5) and 5 on, right edge.
    const [left, middle, right] = runs(p, row);
    const mm = (x: number): number => (x / DPI) * 25.4;
    expect(mm(middle!) - (mm(left!) + mm(right!)) / 2).toBeCloseTo(8.5, 1);
    let dark = 0;
    for (let x = Math.round(left!) + 6; x < right! - 6; x += 1) dark += p.dark[row * p.width + x]!;
    expect(mm(dark)).toBeCloseTo(20, 0);
    expect(mm(right! - left!)).toBeCloseTo(length, 1);
  });
  it('has pictures in a print in their shades, each once in the file, and light for dark where that is burned', async () => {
    const picture = { pictureId: 'p', name: 'dark', width: 200, height: 160, darkness: 1 } as const;
    const content = (negative: boolean) => ({ kind: 'picture', id: `c${negative}`, zoneId: 'face', ...picture, treatment: { kernel: 'stucki', densest: 1, gamma: 1, negative }, size: { kind: 'width', width: 10 }, offset: { x: negative ? 12 : 0, y: -2 }, turn: 0, mirrored: false }) as const; // prettier-ignore
    const shaded = inWay({ ...input, machine: testMachine, setup: { ...input.setup, lettering: { ...input.setup.lettering, lines: [] }, contents: [content(false), content(true)] } }, 'sheet', { marks: 4 }); // prettier-ignore
    const r = reckonBatch(shaded, { ...options, labels: LABELS });
    expect(r.onTheBoard.length).toBeGreaterThan(3);
    const pdf = await printSheet(shaded, r, r.board!, 'Boat tags', await shadesOf(DARK, shaded));
    // Two images, one of them changed over, however many pieces carry them.
    expect(pdf.toString('latin1').match(/\/Subtype \/Image/g)).toHaveLength(2);
    const p = await pageOf(pdf);
    const dark = (x: number, y: number): number => p.dark[Math.round(px(r.board!.height - y)) * p.width + Math.round(px(x))]!; // prettier-ignore
    for (const { slot } of placedArt(r, r.onTheBoard)) {
      const at = (x: number, y: number): number => {
        const q = apply(slotTransform(slot), { x: x + input.blank.zones[0]!.x, y: y + input.blank.zones[0]!.y });
        return dark(q.x, q.y);
      };
      // 10 × 8 mm round (0, −2) of the zone’s middle; white round (12, −2), where the ground of the print was.
      for (const black of [at(-4.7, -2), at(4.7, -5.7), at(4.7, 1.7)]) expect(black).toBeGreaterThan(0.97);
      // The ground, and white on it.
      expect(at(-5.4, -2)).toBeLessThan(0.6);
      expect(at(12, -2)).toBeLessThan(0.02);
    }
    expect(batchDrawing(shaded, r, 'load')).not.toMatchObject({ ok: false, problem: { code: 'picture-in-drawing' } });
  });
  it('prints a sheet on a page of its own size, its marks where they are drawn and its bar 100 mm long', async () => {
    const sheetInput = inWay(input, 'sheet', { marks: 4 });
    const r = reckonBatch(sheetInput, {
      now: new Date('2026-11-23T08:00:00Z'),
      alphabets: alphabetsFor(['b612-bold']),
      labels: LABELS,
      simulatedPieces: 500,
    });
    // A sheet must lie on the bed: this one is 250 × 160, so A4 across does not.
    expect(r.board).toBeNull();
    const wide = { ...sheetInput, machine: testMachine };
    const onWide = reckonBatch(wide, {
      now: new Date('2026-11-23T08:00:00Z'),
      alphabets: alphabetsFor(['b612-bold']),
      labels: LABELS,
      simulatedPieces: 500,
    });
    const board = onWide.board!;
    const pdf = await printSheet(wide, onWide, board, 'Boat tags');
    const p = await pageOf(pdf);
    expect(Math.abs(p.width - px(297))).toBeLessThan(1);
    expect(Math.abs(p.height - px(210))).toBeLessThan(1);
    const [one, , three] = board.marks;
    // Four millimetres above the middles of the front marks: circle, cross, circle, twice.
    const seen = runs(p, Math.round(px(210 - one!.at.y - 4)));
    expect(seen).toHaveLength(6);
    expect((seen[1]! / DPI) * 25.4).toBeCloseTo(one!.at.x, 1);
    expect(((seen[4]! - seen[1]!) / DPI) * 25.4).toBeCloseTo(three!.at.x - one!.at.x, 1);
    const ticks = runs(p, Math.round(px(210 - 9 - 1.4))).filter((x) => x > px(20) && x < px(130));
    expect(((ticks[1]! - ticks[0]!) / DPI) * 25.4).toBeCloseTo(100, 1);
    expect(pdf.toString('latin1').match(/\/Type \/Page\n/g)).toHaveLength(1);
  });
  it('draws the board on the setup sheet to the scale that its bar says', async () => {
    const p = await pageOf(await setupSheet(input, reckoning, 'Boat tags'));
    const { width, height } = reckoning.board!;
    const scale = Math.min(180 / width, 85 / height);
    const rows = Array.from({ length: p.height }, (_, row) => runs(p, row));
    const bar = rows.filter((r) => r.length === 2 && Math.abs(r[1]! - r[0]! - px(100 * scale)) < 3);
    expect(bar.length).toBeGreaterThan(10);
  });
});

/** Area (non-zero for holes wound the other way) and centre of polygons. */
const moments = (polygons: readonly (readonly Vec[])[]): { area: number; x: number; y: number } => {
  let area = 0;
  let x = 0;
  let y = 0;
  for (const polygon of polygons) {
    polygon.forEach((a, i) => {
      const b = polygon[(i + 1) % polygon.length]!;
      const cross = a.x * b.y - b.x * a.y;
      area += cross / 2;
      x += ((a.x + b.x) * cross) / 6;
      y += ((a.y + b.y) * cross) / 6;
    });
  }
  return { area: Math.abs(area), x: x / area, y: y / area };
};

const inkOf = (
  p: Picture,
  scale: number,
  box: { x0: number; x1: number; y0: number; y1: number },
): { area: number; x: number; y: number } => {
  let area = 0;
  let x = 0;
  let y = 0;
  for (let row = Math.max(0, Math.floor(box.y0 * scale)); row < Math.min(p.height, box.y1 * scale); row += 1) {
    for (
      let column = Math.max(0, Math.floor(box.x0 * scale));
      column < Math.min(p.width, box.x1 * scale);
      column += 1
    ) {
      const d = p.dark[row * p.width + column]!;
      area += d;
      x += d * (column + 0.5);
      y += d * (row + 0.5);
    }
  }
  return { area: area / scale ** 2, x: x / area / scale, y: y / area / scale };
};

describe('drawings, rendered by librsvg and compared with the intent', () => {
  /** Pixels to a millimetre. */
  const SCALE = 20;
  const dpi = String(25.4 * SCALE);
  const render = (svg: string): Promise<Picture> =>
    picture(sharp(execFileSync('rsvg-convert', ['-d', dpi, '-p', dpi], { input: svg, maxBuffer: 1e8 })));

  it('shows every piece’s lettering within 0.01 mm of where the board lies', async () => {
    // Its marks read where it lies square in the middle, six pieces on.
    const aimed = { ...readAt(input, reckoning.boardToBed), pieces: loadedPieces([1, 2, 3, 4, 5, 6]) };
    const drawn = batchDrawing(aimed, reckonBatch(aimed, options), 'load');
    if (!drawn.ok) throw new Error(drawn.problem.message);
    const p = await render(drawingSvg(drawn.value));
    expect([p.width, p.height]).toEqual([250 * SCALE, 160 * SCALE]);
    const pieces = placedPieces(reckoning, reckoning.onTheBoard);
    expect(pieces.length).toBeGreaterThan(4);
    for (const { slot, shapes } of pieces) {
      const m = compose(reckoning.boardToBed, slotTransform(slot));
      const intended = moments(shapes.filled.map((line) => line.map((v) => apply(m, v))));
      const c = apply(m, { x: 0, y: 0 });
      const ink = inkOf(p, SCALE, { x0: c.x - 29, x1: c.x + 29, y0: 160 - c.y - 12, y1: 160 - c.y + 12 });
      expect(Math.abs(ink.x - intended.x)).toBeLessThan(0.01);
      expect(Math.abs(160 - ink.y - intended.y)).toBeLessThan(0.01);
      expect(ink.area / intended.area).toBeCloseTo(1, 2);
    }
  });
  it('keeps arcs arcs: a drawn disc has the area and the place of a disc', async () => {
    const disc = {
      closed: true,
      vertices: [
        { x: 12, y: 9, bulge: 1 },
        { x: 4, y: 9, bulge: 1 },
      ],
    };
    const p = await render(writeSvg('disc', 20, 15, [{ name: 'disc', kind: 'fill', contours: [disc] }]));
    const ink = inkOf(p, SCALE, { x0: 0, x1: 20, y0: 0, y1: 15 });
    expect(ink.area).toBeCloseTo(Math.PI * 16, 1);
    expect(ink.x).toBeCloseTo(8, 2);
    expect(15 - ink.y).toBeCloseTo(9, 2);
  });
});
