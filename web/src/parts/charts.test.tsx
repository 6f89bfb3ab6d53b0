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
  it('are drawn against the tolerance, to scale, scrapped ones by a cross, in both directions', () => {
    const page = show([[0, 0.1], [0.6, -0.1], [-0.6, 0, 'scrap'], [0.3, 0.2]]); // prettier-ignore
    const right = screen.getByRole('img', { name: 'Each piece, right' });
    const [high, low] = [...right.querySelectorAll('line.stroke-oxide')].map((l) => Number(l.getAttribute('y1')));
    const zero = (high! + low!) / 2;
    const dots = [...right.querySelectorAll('circle.fill-ink')].map((c) => Number(c.getAttribute('cy')));
    // At nought, at the tolerance, and half way to it.
    expect(dots).toEqual([zero, high!, (zero + high!) / 2].map((y) => expect.closeTo(y, 9) as number));
    const cross = right.querySelector('path.stroke-oxide')!.getAttribute('d')!;
    expect(Number(/^M\S+ (\S+)l/.exec(cross)![1]) + 5).toBeCloseTo(low!, 9);
    // Each in its place from the left, as far apart as the next.
    const across = [...right.querySelectorAll('circle.fill-ink')].map((c) => Number(c.getAttribute('cx')));
    expect(across[1]! - across[0]!).toBeCloseTo((across[2]! - across[1]!) / 2, 9);
    expect(screen.getByRole('img', { name: 'Each piece, away' })).toBeTruthy();
    expect(page.textContent).toContain('Measured offsets of 4 pieces in the order burned');
  });

  it('have the limits of the handbook’s flow rates [NIST/SEMATECH e-Handbook 6.3.2.2: 50.81 ± 4.99; from memory]', () => {
    const rates = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];
    show(rates.map((v) => [v - 50, 0]), 6); // prettier-ignore
    const right = screen.getByRole('img', { name: 'Each piece, right' });
    const limits = [...right.querySelectorAll('[data-limit]')].map((l) => Number(l.getAttribute('data-limit')!.replace('−', '-'))); // prettier-ignore
    expect(limits[0]!).toBeCloseTo(5.804, 2);
    expect(limits[1]!).toBeCloseTo(-4.184, 2);
    expect(screen.getByText(/To the right: steady, ± 4\.99 about 0\.81\./)).toBeTruthy();
  });

  it('a level that moved is told from scatter, and what shows it is marked', () => {
    const stepped = [0, 0.1, -0.1, 0.05, -0.05, 0.1, 0, -0.1, 0.05, 0].flatMap((v, i, all) => (i < 9 ? [v] : [v, ...all.map((w) => w + 1)])); // prettier-ignore
    show(stepped.map((v) => [v, 0]));
    const right = screen.getByRole('img', { name: 'Each piece, right' });
    expect(right.querySelectorAll('circle.fill-none').length).toBeGreaterThan(0);
    expect(right.querySelectorAll('rect.fill-ochre').length).toBeGreaterThan(0);
    expect(screen.getByText(/To the right: \d+ outside ± /)).toBeTruthy();
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
