import fc from 'fast-check';
import { reckonBatch } from '../batch';
import { testAlphabets } from '../test-alphabets';
import { testBatch } from '../test-batch';
import { kindsOf, layPages, OVERLAP, type Page } from '.';

/** A4 [ISO 216: 210 × 297 mm]. */
const A4: Page = { width: 210, height: 297, margin: 15, first: 76, top: 24 };

describe('pieces over pages', () => {
  const size = fc.record({ length: fc.double({ min: 8, max: 170, noNaN: true }), width: fc.double({ min: 8, max: 240, noNaN: true }) }); // prettier-ignore

  it('shows each once, within the margins, none over another', () =>
    fc.assert(
      fc.property(size, fc.integer({ min: 1, max: 120 }), (piece, count) => {
        const { laid, pages } = layPages(piece, count, A4);
        expect(laid.map((l) => l.piece)).toEqual(Array.from({ length: count }, (_, i) => i));
        expect(Math.max(...laid.map((l) => l.page))).toBe(pages - 1);
        for (const l of laid) {
          const [w, h] = l.turned ? [piece.width, piece.length] : [piece.length, piece.width];
          expect(l.x - w / 2).toBeGreaterThanOrEqual(A4.margin - 1e-9);
          expect(l.x + w / 2).toBeLessThanOrEqual(A4.width - A4.margin + 1e-9);
          expect(l.y - h / 2).toBeGreaterThanOrEqual((l.page === 0 ? A4.first : A4.top) - 1e-9);
          expect(l.y + h / 2).toBeLessThanOrEqual(A4.height - A4.margin + 1e-9);
        }
        for (const [i, a] of laid.entries())
          for (const b of laid.slice(i + 1).filter((o) => o.page === a.page)) {
            const [w, h] = a.turned ? [piece.width, piece.length] : [piece.length, piece.width];
            expect(Math.abs(a.x - b.x) >= w || Math.abs(a.y - b.y) >= h).toBe(true);
          }
      }),
      { numRuns: 60 },
    ));

  it('36 tags of 60 × 25 mm: two across, six under the head and eight on the other pages', () => {
    const { laid, pages } = layPages({ length: 60, width: 25 }, 36, A4);
    expect([0, 1, 2].map((p) => laid.filter((l) => l.page === p).length)).toEqual([12, 16, 8]);
    expect(pages).toBe(3);
  });

  it('a piece too tall for what is left of the first page begins on the next; one too wide is turned', () => {
    expect(layPages({ length: 100, width: 230 }, 1, A4).laid[0]).toMatchObject({ page: 1, turned: false });
    expect(layPages({ length: 230, width: 60 }, 1, A4).laid[0]!.turned).toBe(true);
  });

  it.each([[{ length: 2200, width: 400 }], [{ length: 400, width: 120 }], [{ length: 185, width: 260 }]])(
    '%j is covered by its sheets, which share 10 mm',
    (piece) => {
      const { laid } = layPages(piece, 1, A4);
      const [w, h] = laid[0]!.turned ? [piece.width, piece.length] : [piece.length, piece.width];
      // What each sheet shows of the piece, from its own left upper corner.
      const shown = laid.map(({ x, y, part }) => ({ ...part!, left: part!.left - (x - w / 2), top: part!.top - (y - h / 2) })); // prettier-ignore
      expect(new Set(laid.map((l) => l.page)).size).toBe(laid.length);
      for (const s of shown) {
        expect(s.left).toBeCloseTo(s.column * (180 - OVERLAP), 9);
        expect(s.top).toBeCloseTo(s.row * (258 - OVERLAP), 9);
      }
      const last = shown.at(-1)!;
      expect(last.left + last.width).toBeGreaterThanOrEqual(w - 1e-9);
      expect(last.top + last.height).toBeGreaterThanOrEqual(h - 1e-9);
      // And none for nothing.
      expect(last.left).toBeLessThan(w);
      expect(last.top).toBeLessThan(h);
    },
  );
});

describe('kinds of pieces', () => {
  const options = { now: new Date('2026-11-23T08:00:00Z'), alphabets: testAlphabets, labels: 'readability', simulatedPieces: 100 }; // prettier-ignore
  const kinds = (roster: readonly Record<string, string>[]) => kindsOf(reckonBatch({ ...testBatch(), quantity: roster.length, roster }, options).art!); // prettier-ignore

  it('pieces that differ in their words alone are one', () =>
    expect(kinds([{ name: 'KESTREL', seat: '1' }, { name: 'PUFFIN', seat: '2' }])).toEqual([{ first: 1, pieces: [1, 2] }])); // prettier-ignore

  it('one whose name had to give way is a kind of its own: the customer sees it', () => {
    const found = kinds([{ name: 'TERN', seat: '1' }, { name: 'GREATER BLACK-BACKED GULLS', seat: '2' }, { name: 'GULL', seat: '3' }]); // prettier-ignore
    expect(found.map((k) => k.pieces)).toEqual([[1, 3], [2]]);
  });
});
