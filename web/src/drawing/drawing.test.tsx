import { render, screen } from '@testing-library/react';
import fc from 'fast-check';
import type { BlankSpec } from '@bistre/contract';
import { apply, bedToFile } from '@bistre/core';
import { DOCUMENTS } from '../testing/batch';
import { scalesOf } from '../testing/looks';
import { reckonShown } from '../testing/reckon';
import { BedRulers, Head } from './bed';
import { Marks } from './board';
import { BlankDrawing, nominalPath } from './BlankDrawing';
import { fitView, matrix, ScaleBar } from './scale';

const PAD = { left: 80, right: 60, top: 60, bottom: 96 };
const size = fc.record({ width: fc.integer({ min: 300, max: 2000 }), height: fc.integer({ min: 250, max: 1500 }) });
const extent = fc.record({
  x: fc.double({ min: -3000, max: 3000, noNaN: true }),
  y: fc.double({ min: -3000, max: 3000, noNaN: true }),
  width: fc.double({ min: 1, max: 5000, noNaN: true }),
  height: fc.double({ min: 1, max: 5000, noNaN: true }),
});

describe('a view of millimetres', () => {
  it('holds all of its extent within its margins, as large as goes, y up', () =>
    fc.assert(
      fc.property(size, extent, (pixels, mm) => {
        const view = fitView(pixels, mm, PAD);
        const low = view.at(mm.x, mm.y);
        const high = view.at(mm.x + mm.width, mm.y + mm.height);
        expect(low.y).toBeGreaterThan(high.y);
        // A narrow one has its bar over its legend.
        const bottom = PAD.bottom + (pixels.width < 480 ? 24 : 0);
        const room = { x: pixels.width - PAD.left - PAD.right, y: pixels.height - PAD.top - bottom };
        const [w, h] = [high.x - low.x, low.y - high.y];
        expect(low.x).toBeGreaterThanOrEqual(PAD.left - 1e-6);
        expect(high.x).toBeLessThanOrEqual(pixels.width - PAD.right + 1e-6);
        expect(high.y).toBeGreaterThanOrEqual(PAD.top - 1e-6);
        expect(low.y).toBeLessThanOrEqual(pixels.height - bottom + 1e-6);
        expect(Math.max(w / room.x, h / room.y)).toBeCloseTo(1, 6);
        // Square stays square.
        expect(w / mm.width).toBeCloseTo(h / mm.height, 6);
        // What is drawn in its group lies where single points are put.
        const [, ox, oy, k] = /translate\((\S+) (\S+)\) scale\((\S+) /.exec(view.group)!.map(Number) as [
          number,
          number,
          number,
          number,
        ];
        expect(ox + mm.x * k).toBeCloseTo(low.x, 6);
        expect(oy - mm.y * k).toBeCloseTo(low.y, 6);
      }),
    ));

  it('has a bar of a whole length, no wider than a thumb and no narrower than a fifth of it', () =>
    fc.assert(
      fc.property(size, extent, (pixels, mm) => {
        const view = fitView(pixels, mm, PAD);
        const { container, unmount } = render(
          <svg>
            <ScaleBar view={view} />
          </svg>,
        );
        const { bar } = scalesOf(container.querySelector('svg')!)!;
        const length = Number.parseFloat(container.querySelector('text')!.textContent);
        unmount();
        expect(bar).toBeCloseTo(view.k, 6);
        expect(length * view.k).toBeLessThanOrEqual(110 + 1e-6);
        expect(length * view.k).toBeGreaterThanOrEqual(22);
        const digit = length / 10 ** Math.floor(Math.log10(length) + 1e-9);
        expect([1, 2, 5].some((d) => Math.abs(digit - d) < 1e-6)).toBe(true);
      }),
      { numRuns: 60 },
    ));

  it('writes a transform as SVG reads it: a b c d e f', () => {
    expect(matrix({ a: 1, b: 2, c: 3, d: 4, e: 5, f: 6 })).toBe('matrix(1 2 3 4 5 6)');
  });
});

describe('the bed', () => {
  const { machine } = DOCUMENTS.pockets;
  const view = fitView(
    { width: 900, height: 600 },
    { x: 0, y: 0, width: 900, height: 600 },
    { left: 40, right: 0, top: 0, bottom: 30 },
  );
  it('is ruled in the machine’s own coordinates', () => {
    // Its zero is back left and y runs towards the operator: 600 stands at the front, 0 at the back.
    const { container } = render(
      <svg>
        <BedRulers view={view} machine={machine} />
      </svg>,
    );
    const texts = [...container.querySelectorAll('text')];
    const left = texts.filter((t) => t.getAttribute('text-anchor') === 'end');
    const lowest = left.reduce((a, b) => (Number(a.getAttribute('y')) > Number(b.getAttribute('y')) ? a : b));
    expect(lowest.textContent).toBe('600');
    expect(left.map((t) => Number(t.textContent)).sort((a, b) => a - b)).toEqual([0, 100, 200, 300, 400, 500, 600]);
    const below = texts.filter((t) => t.getAttribute('text-anchor') === 'middle').map((t) => Number(t.textContent));
    expect(below).toEqual([0, 100, 200, 300, 400, 500, 600, 700, 800, 900]);
  });
  it('shows the head as large as it is, and what the display says there', () => {
    const at = { x: 250, y: 150 };
    const { container } = render(
      <svg>
        <Head view={view} at={at} machine={machine} />
      </svg>,
    );
    const circle = container.querySelector('circle')!;
    const middle = view.at(at.x, at.y);
    expect([Number(circle.getAttribute('cx')), Number(circle.getAttribute('cy'))]).toEqual([middle.x, middle.y]);
    expect(Number(circle.getAttribute('r'))).toBeCloseTo(Math.max(9, machine.profile.headRadius * view.k), 6);
    const shown = apply(bedToFile(machine.profile), at);
    expect(container.querySelector('text')!.textContent).toBe(`head ${shown.x.toFixed(1)}, ${shown.y.toFixed(1)}`);
  });
});

describe('a blank', () => {
  const spec: BlankSpec = {
    shape: { kind: 'rectangle', length: 70, width: 30, cornerRadius: 4 },
    thickness: 1.6,
    catalogueTolerance: 0.3,
    holes: [{ x: -30, y: 0, diameter: 5 }],
    direction: { kind: 'hole' },
    zones: [],
  };
  it('is drawn to scale with its sizes written beside, hole and all', () => {
    const { container } = render(<BlankDrawing spec={spec} path={nominalPath(spec)} />);
    const svg = screen.getByRole('img', { name: 'The blank, to scale' });
    const words = [...svg.querySelectorAll('text')].map((t) => t.textContent);
    expect(words).toEqual(expect.arrayContaining(['70.00 mm', '30.00 mm']));
    expect(container.querySelector('figcaption')!.textContent).toContain('Thickness 1.60 mm');
    // 640 × 480 pixels less the margins: 70 mm fill the width of 500.
    const { bar, drawn } = scalesOf(svg)!;
    expect(bar).toBeCloseTo(500 / 70, 6);
    expect(drawn.every((k) => Math.abs(k - bar) < 1e-9)).toBe(true);
  });
});

describe('registration marks', () => {
  const marks = async (aim: number | null) => {
    const shown = await reckonShown(DOCUMENTS.pockets, 100);
    const view = fitView({ width: 800, height: 600 }, { x: 0, y: 0, width: 400, height: 300 }, PAD);
    const { container } = render(<svg><Marks view={view} shown={shown} aim={aim} /></svg>); // prettier-ignore
    return [...container.querySelectorAll('g')].map((g) => ({
      r: Number(g.querySelector('circle')!.getAttribute('r')),
      line: g.querySelector('circle')!.getAttribute('stroke-width'),
      words: g.textContent.trim(),
    }));
  };

  it('say what each of them is for; the one that is aimed at stands out, and the others say their number alone', async () => {
    const plain = await marks(null);
    const aimed = await marks(2);
    expect(plain.every((m) => m.r === plain[0]!.r)).toBe(true);
    const others = aimed.filter((_, i) => i !== 1);
    expect(aimed[1]).toEqual({ r: plain[1]!.r + 6, line: '5', words: '2 aim here' });
    for (const m of others) expect(m.words).toMatch(/^\d+( read)?$/);
  });
});
