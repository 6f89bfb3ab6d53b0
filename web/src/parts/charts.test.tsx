import { render, screen } from '@testing-library/react';
import type { BatchInput } from '@bistre/core';
import { loadedPieces, testBatch } from '../../../core/src/test-batch';
import { documentOf } from '../testing/batch';
import { OffsetChart } from './OffsetChart';

const pieces = (offsets: readonly (readonly [number, number, ('done' | 'scrap')?])[]): BatchInput['pieces'] =>
  offsets.map(([dx, dy, state = 'done'], i) => ({ ...loadedPieces([i + 1])[0]!, state, dx, dy, yaw: 0 }));
const show = (offsets: Parameters<typeof pieces>[0], tolerance = 0.6) => {
  const { container } = render(<OffsetChart batch={documentOf(testBatch({ pieces: pieces(offsets), tolerance }))} />);
  return container;
};

describe('measured offsets in the order burned', () => {
  it('are drawn against the tolerance, to scale, scrapped ones by a cross', () => {
    const page = show([[0, 0.1], [0.6, -0.1], [-0.6, 0, 'scrap'], [0.3, 0.2]]); // prettier-ignore
    const [low, zero, high] = [...page.querySelectorAll('line')].map((l) => Number(l.getAttribute('y1')));
    expect(zero! - high!).toBeCloseTo(low! - zero!, 9);
    const dots = [...page.querySelectorAll('circle')].map((c) => Number(c.getAttribute('cy')));
    // At nought, at the tolerance, and half way to it.
    expect(dots).toEqual([zero, high, expect.closeTo((zero! + high!) / 2, 9)].map((y) => (typeof y === 'number' ? expect.closeTo(y, 9) : y))); // prettier-ignore
    const cross = page.querySelector('path.stroke-oxide')!.getAttribute('d')!;
    expect(Number(/^M\S+ (\S+)l/.exec(cross)![1]) + 5).toBeCloseTo(low!, 9);
    // Each in its place from the left, as far apart as the next.
    const across = [...page.querySelectorAll('circle')].map((c) => Number(c.getAttribute('cx')));
    expect(across[1]! - across[0]!).toBeCloseTo((across[2]! - across[1]!) / 2, 9);
    expect(screen.getByRole('img', { name: 'Offsets of 4 pieces' })).toBeTruthy();
  });

  it('say the worse of both capabilities', () => {
    // Mean 2, s 2 to the right within ± 6: (6 − 2) / 3 · 2 [NIST/SEMATECH e-Handbook 6.1.6, counted from its middle].
    show([[0, -1], [2, 0], [4, 1]], 6); // prettier-ignore
    expect(screen.getByText(/tolerance ± 6\.00 mm\. Cpk 0\.67\./)).toBeTruthy();
  });

  it('need two', () => {
    expect(show([[0.1, 0.1]]).innerHTML).toBe('');
  });
});
