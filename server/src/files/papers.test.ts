import { BinaryBitmap, HybridBinarizer, QRCodeReader, RGBLuminanceSource } from '@zxing/library';
import {
  batchDrawing,
  kindsOf,
  TURNED,
  type BatchReckoning,
  boxOf,
  flatten,
  onSheet,
  reckonBatch,
  targetOf,
  unrolledPasses,
  type BatchInput,
} from '@bistre/core';
import { loadedPieces, testBatch } from '../../../core/src/test-batch';
import { EXAMPLES } from '../../../core/src/test-ways';
import { alphabetsFor, LABELS } from '../alphabets';
import { DPI, pageOf, px, runs, textOf, type Picture } from '../testing/page';
import sharp from 'sharp';
import { labelSheet, type LabelFacts } from './labels';
import { loadCard } from './load-card';
import { setupSheet, templateSheet } from './pdf';
import { lookOf } from './look';
import { piecePicture } from './piece-picture';
import { proofSheet, type ProofFacts } from './proof';
import { targetSheet } from './target';

const options = { now: new Date('2026-11-23T08:00:00Z'), alphabets: alphabetsFor(['b612-bold', 'b612']), labels: LABELS, simulatedPieces: 200 }; // prettier-ignore
const input = testBatch();
const r = reckonBatch(input, options);
const PAGE = 'http://localhost:4870/batches/b0000000-0000-4000-8000-000000000001';
const mm = (pixels: number): number => (pixels / DPI) * 25.4;

/** What a reader of codes finds in a part of a page, mm. */
const readCode = (p: Picture, x: number, y: number, size: number): string => {
  const [left, top, each] = [px(x), px(y), px(size)].map(Math.round) as [number, number, number];
  const grey = new Uint8ClampedArray(each * each);
  for (let i = 0; i < each; i += 1)
    for (let k = 0; k < each; k += 1) grey[i * each + k] = 255 * (1 - (p.dark[(top + i) * p.width + left + k] ?? 0));
  return new QRCodeReader().decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, each, each)))).getText(); // prettier-ignore
};
/** Middles of the dark runs in a column of a page, px. */
const down = (p: Picture, x: number): number[] =>
  runs({ width: p.height, height: p.width, dark: Float32Array.from({ length: p.height }, (_, y) => p.dark[y * p.width + x]!) }, 0); // prettier-ignore

describe('the target on paper', () => {
  const made = targetOf(input, r);
  if (!made.ok) throw new Error(made.problem.message);
  const { outline, centre, edges } = made.value;
  const box = boxOf(outline.flatMap((c) => flatten(c, 0.1)));
  const { mean: width } = r.sizes.width;

  it('is in true size: outline, bar, and the cross where the middle of the art is', async () => {
    const p = await pageOf(await targetSheet(input, r, 'Boat tags'));
    expect(mm(p.width)).toBeCloseTo(210, 0);
    const top = 30 + 14;
    // Below its upper edge there is its outline, and lines to that edge between.
    const at = runs(p, Math.round(px(top + 4)));
    const [left, right] = [at[0], at.at(-1)];
    expect(mm(right! - left!)).toBeCloseTo(r.sizes.length.mean, 1);
    expect(mm(left!)).toBeCloseTo((210 - r.sizes.length.mean) / 2, 1);
    // The stroke of the cross that goes up and down, where nothing else is near.
    const upper = runs(p, Math.round(px(top + box.maxY - centre.y - 9)));
    const stroke = upper.map((x) => mm(x - left!)).find((x) => Math.abs(x - (centre.x - box.minX)) < 0.3);
    expect(stroke).toBeDefined();
    const below = top + 14 + width + edges.length * 5 + 8;
    const ticks = runs(p, Math.round(px(below - 1.4)));
    expect(mm(ticks[1]! - ticks[0]!)).toBeCloseTo(100, 1);
  });

  it('says which edges it is measured from, and how far each is', async () => {
    const text = textOf(await targetSheet(input, r, 'Boat tags'));
    for (const [i, { label, drawn }] of edges.entries()) expect(text).toContain(`${i + 1} ${label}: ${drawn.toFixed(2)} mm`); // prettier-ignore
    expect(text).toContain(`${r.sizes.length.mean.toFixed(2)} × ${width.toFixed(2)} mm`);
  });

  it('of a piece larger than A4 is on a page as large as that needs', async () => {
    const shape = { kind: 'rectangle', length: 400, width: 320, cornerRadius: 0 } as const;
    const zone = { ...input.blank.zones[0]!, x: 0, y: 0, width: 380, height: 300, keepOuts: [] };
    const large: BatchInput = { ...input, quantity: 1, blank: { ...input.blank, shape, zones: [zone], holes: [], samples: { ...input.blank.samples, length: [], width: [] } } }; // prettier-ignore
    const p = await pageOf(await targetSheet(large, reckonBatch(large, options), 'Chart'));
    expect(mm(p.width)).toBeGreaterThan(400);
    const edgesOf = runs(p, Math.round(px(30 + 14 + 12)));
    expect(mm(edgesOf.at(-1)! - edgesOf[0]!)).toBeCloseTo(400, 0);
  });
});

describe('labels', () => {
  const facts: LabelFacts = { title: 'Boat tags', customer: 'Regatta office', dueAt: '4 December 2026', fixture: { name: 'TAG-24', revision: 2, address: `${PAGE}/fixture` }, address: PAGE }; // prettier-ignore

  it('stand three across and eight down, 70 × 37 mm, with codes that open the fixture and the batch', async () => {
    const p = await pageOf(await labelSheet(input, r, facts));
    // Inside a label; its code lies at its right.
    const codeAt = (n: number): [number, number] => [(n % 3) * 70 + 70 - 4 - 21, Math.floor(n / 3) * 37 + 8];
    expect(readCode(p, ...codeAt(0), 21)).toBe(`${PAGE}/fixture`);
    expect(readCode(p, ...codeAt(1), 21)).toBe(PAGE);
    // Dashed lines between labels where a sheet of stock is cut; a row that no letters reach.
    const lines = [1, 1.5, 2, 2.5, 3, 3.4].flatMap((y) => runs(p, Math.round(px(y))).map(mm));
    for (const x of [70, 140]) expect(Math.min(...lines.map((l) => Math.abs(l - x)))).toBeLessThan(0.2);
    const rows = [1, 1.5, 2, 2.5, 3, 3.4].flatMap((x) => down(p, Math.round(px(x))).map(mm));
    expect(Math.min(...rows.map((y) => Math.abs(y - 37)))).toBeLessThan(0.2);
  });

  it('name the fixture by its revision, and each box by its pieces, from whom to whom', async () => {
    const text = textOf(await labelSheet(input, r, facts));
    expect(text).toContain('TAG-24 r2');
    const each = r.board!.slots.length;
    expect(text).toContain(`pieces 1 to ${Math.min(each, input.quantity)} of ${input.quantity}`);
    expect(text).toContain(`box 1 of ${Math.ceil(input.quantity / each)}`);
    expect(text).toContain('due 4 December 2026');
    const first = Object.values(input.roster[0]!).filter(Boolean).join(' · ');
    expect(text.replace(/…/g, '')).toContain(first.slice(0, 8));
  });

  it('go on over as many sheets as they take; work that lies alone has a box a piece', async () => {
    const cups: BatchInput = { ...EXAMPLES.cradle, quantity: 30, roster: [] };
    const text = textOf(await labelSheet(cups, reckonBatch(cups, options), { ...facts, fixture: null }));
    const pages = text.split('\f').filter((page) => page.trim() !== '');
    expect(pages).toHaveLength(2);
    expect(text).toContain('piece 30 of 30');
    expect(text).toContain('box 30 of 30');
  });
});

describe('the setup sheet', () => {
  it('has a code that opens the batch, and none where nobody knows the address', async () => {
    const p = await pageOf(await setupSheet(input, r, 'Boat tags', PAGE));
    expect(readCode(p, 210 - 15 - 21, 7, 21)).toBe(PAGE);
    // The code stands beside the words, and takes no room from them.
    const text = textOf(await setupSheet(input, r, 'Boat tags', PAGE));
    expect(text).toMatch(/^\s*Boat tags\s*$/m);
    expect(text).toMatch(/24 pieces and \d+ spares? of Boat tag, on Bench A\./);
    const bare = await pageOf(await setupSheet(input, r, 'Boat tags'));
    expect(() => readCode(bare, 210 - 15 - 21, 7, 21)).toThrow();
  });
});

describe('the load card', () => {
  it('draws the board to one scale, its slots where they lie on it', async () => {
    const loaded = { ...input, pieces: loadedPieces([1, 2, 3]) };
    const at = reckonBatch(loaded, options);
    const p = await pageOf(await loadCard(loaded, at, 'Boat tags'));
    const board = at.board!;
    const scale = Math.min(180 / board.width, 120 / board.height);
    // The board's left edge, and its top: the first dark of a column in it.
    const left = down(p, Math.round(px(15 + 3 * scale))).map(mm).filter((y) => y > 26); // prettier-ignore
    expect(left[0]!).toBeCloseTo(29, 0);
    expect(left.find((y) => Math.abs(y - 29 - board.height * scale) < 0.5)).toBeDefined();
    const across = runs(p, Math.round(px(29 + 1.5))).map(mm);
    expect(across[0]!).toBeCloseTo(15, 0);
    expect(across.at(-1)! - across[0]!).toBeCloseTo(board.width * scale, 0);
  });
});

describe('the proof of round work', () => {
  const cup = { ...EXAMPLES.drive, quantity: 3, roster: [{ name: 'KESTREL', seat: 'LANE 1' }, { name: 'PUFFIN', seat: 'LANE 2' }, { name: 'OSPREY', seat: 'LANE 3' }] }; // prettier-ignore
  const at = reckonBatch(cup, options);
  const facts: ProofFacts = { title: 'Flasks', customer: 'Regatta office', on: '23 November 2026', every: true, artworks: [], columns: ['name'] }; // prettier-ignore

  it('shows every piece laid flat in true size: as wide at its widest as it is round', async () => {
    const pdf = await proofSheet(cup, at, facts);
    const text = textOf(pdf);
    for (const name of ['KESTREL', 'PUFFIN', 'OSPREY']) expect(text).toContain(name);
    expect(text).toContain('Laid flat, rim up');
    const { size, shapesOf } = lookOf(cup, at);
    // π d of its widest place; what is engraved ends short of the rim.
    const { shape } = at.own.round!;
    const round = Math.PI * Math.max(...shape.profile.map((p) => p.diameter));
    expect(Math.abs(size.length / round - 1)).toBeLessThan(0.03);
    // Different names, different art; the same name, the same.
    expect(JSON.stringify(shapesOf(1))).not.toBe(JSON.stringify(shapesOf(2)));
    expect(JSON.stringify(shapesOf(2))).toBe(JSON.stringify(shapesOf(2)));
    const p = await pageOf(pdf);
    expect(mm(p.width)).toBeCloseTo(210, 0);
  });

  it('pictures one of them at twice its size', async () => {
    const { size } = lookOf(cup, at);
    const { width, density } = await sharp(await piecePicture(cup, at, new Map())).metadata();
    const long = (width! / density!) * 25.4;
    // Up to the most dots that a picture has.
    expect(long).toBeGreaterThan(Math.min(2 * size.length, (6_000 / 300) * 25.4) * 0.98);
  });
});

describe('the proof of medals with two faces', () => {
  const front = { ...EXAMPLES.panel, quantity: 2, roster: EXAMPLES.panel.roster.slice(0, 2) };
  const turned = { ...front, ticks: [...front.ticks, TURNED] };
  const [at, back] = [front, turned].map((side) => reckonBatch(side, options)) as [BatchReckoning, BatchReckoning];
  const facts: ProofFacts = { title: 'Medals', customer: '', on: '', every: true, artworks: [], columns: [] };

  it('shows each piece from both sides, and says which', async () => {
    expect([at.face.side, back.face.side]).toEqual(['front', 'back']);
    const text = textOf(await proofSheet(front, at, facts, new Map(), { input: turned, reckoning: back }));
    expect(text.match(/, front/g)).toHaveLength(2);
    expect(text.match(/, back/g)).toHaveLength(2);
    expect(text).toContain('Both faces of each are shown.');
    const one = textOf(await proofSheet(front, at, facts));
    expect(one).not.toMatch(/front|back/);
  });

  it('tells kinds by both of them', () => {
    const kinds = kindsOf(at.art!, back.art);
    expect(kinds.flatMap((k) => k.pieces)).toEqual([1, 2]);
    expect(kindsOf(at.art!).length).toBeLessThanOrEqual(kinds.length);
  });
});

describe('the wrap template', () => {
  it('is as wide as the blank is round, and its bar is 100 mm long', async () => {
    const cup = EXAMPLES.drive;
    const at = reckonBatch(cup, options);
    const drawing = batchDrawing(cup, at, 'template');
    if (!drawing.ok) throw new Error(drawing.problem.message);
    const sheet = onSheet(drawing.value);
    const p = await pageOf(await templateSheet(sheet, 'Flasks'));
    const ticks = runs(p, Math.round(px(17 - 1.4))).map(mm);
    expect(ticks[1]! - ticks[0]!).toBeCloseTo(100, 1);
    const drawn = boxOf(sheet.passes.flatMap((pass) => pass.contours.flatMap((c) => flatten(c, 0.05))));
    const lines: number[] = [];
    for (let y = 28; y < 28 + sheet.height; y += 1) lines.push(...runs(p, Math.round(px(y))).map(mm));
    expect(Math.max(...lines) - Math.min(...lines)).toBeCloseTo(drawn.maxX - drawn.minX, 0);
    expect(unrolledPasses(at, 'meet').length).toBeGreaterThan(0);
  });
});
