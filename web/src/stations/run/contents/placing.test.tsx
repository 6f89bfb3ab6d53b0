import { fireEvent, render, screen } from '@testing-library/react';
import type { ArtworkContent, BatchInput } from '@bistre/core';
import { loadedPieces, testBatch } from '../../../../../core/src/test-batch';
import { documentOf, idOf } from '../../../testing/batch';
import { enter, press } from '../../../testing/pick';
import { showContents } from '../../../testing/station';
import { PlacingDrawing } from './PlacingDrawing';

const from = testBatch();
const used = { id: idOf('crest'), name: 'Crest', revision: 1, roles: {}, unit: 'mm' as const, shapes: [{ contours: [{ closed: true, vertices: [{ x: 0, y: 0 }, { x: 20, y: 0 }, { x: 20, y: 10 }, { x: 0, y: 10 }] }], rule: 'nonzero' as const, fill: '#000000', stroke: null, width: 0 }] }; // prettier-ignore
const content: ArtworkContent = { kind: 'artwork', id: 'c1', zoneId: from.blank.zones[0]!.id, artworkId: used.id, revision: 1, size: { kind: 'width', width: 12 }, turn: 0, mirrored: false }; // prettier-ignore
const carrying = (change: Partial<ArtworkContent> = {}): BatchInput => ({ ...from, roster: [], pieces: loadedPieces([1]), artworks: [used], setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents: [{ ...content, ...change }] } }); // prettier-ignore

/** The drawing with what it changed; 640 × 480 dots for a tag of 60 × 25 mm: 500 across, as many as there is room for. */
const placing = async (input: BatchInput) => {
  const page = await showContents(documentOf(input), { artworks: [] } as never);
  const moved: unknown[] = [];
  let closed = 0;
  const handle = { batch: documentOf(input), update: (_: string, value: unknown) => moved.push(value) };
  render(<PlacingDrawing handle={handle as never} shown={page.shown} onClose={() => (closed += 1)} />);
  return { moved: () => (moved.at(-1) as ArtworkContent[] | undefined)?.[0]?.offset, closed: () => closed };
};
const hold = (): HTMLElement => screen.getByRole('button', { name: 'Move Crest: arrow keys, or drag' });

/** As the pointer does it; the simulated browser has none of its own. */
const point = (kind: string, clientX: number, clientY: number): void => void fireEvent(hold(), new MouseEvent(kind, { clientX, clientY, bubbles: true })); // prettier-ignore

describe('what lies in a zone, drawn large', () => {
  it('goes by the arrow keys, in the steps that are chosen', async () => {
    const page = await placing(carrying({ offset: { x: 1, y: -2 } }));
    fireEvent.keyDown(hold(), { key: 'ArrowRight' });
    expect(page.moved()).toEqual({ x: 2, y: -2 });
    fireEvent.click(screen.getByRole('radio', { name: '0.1' }));
    fireEvent.keyDown(hold(), { key: 'ArrowUp' });
    expect(page.moved()).toEqual({ x: 1, y: -1.9 });
    fireEvent.keyDown(hold(), { key: 'ArrowLeft' });
    expect(page.moved()).toEqual({ x: 0.9, y: -2 });
    fireEvent.keyDown(hold(), { key: 'Enter' });
    expect(page.moved()).toEqual({ x: 0.9, y: -2 });
    await press('back to the load');
    expect(page.closed()).toBe(1);
  });
  it('goes where it is dragged, to the next step, and not where it was let go of at once', async () => {
    const page = await placing(carrying());
    Object.assign(HTMLElement.prototype, { setPointerCapture: () => undefined });
    const k = Number(/scale\(([\d.]+)/.exec(document.querySelectorAll('svg[aria-label="The blank, to scale"] g')[0]!.getAttribute('transform')!)?.[1]); // prettier-ignore
    point('pointerdown', 100, 100);
    point('pointermove', 130, 90);
    point('pointerup', 100 + 3.2 * k, 100 + 1.9 * k);
    expect(page.moved()).toEqual({ x: 3, y: -2 });
    point('pointerdown', 100, 100);
    point('pointerup', 101, 100);
    expect(page.moved()).toEqual({ x: 3, y: -2 });
  });
  it('is hatched and named as far as it reaches over its zone', async () => {
    // A zone of 47 × 19 within its margins about 3.5: 12 wide from its right end, moved 4 on.
    await placing(carrying({ across: 'right', offset: { x: 4, y: 0 } }));
    expect(hold().textContent).toBe('over its zone: 4.0 mm at its right');
    expect(document.querySelectorAll('rect[fill="url(#hatch)"]')).toHaveLength(1);
  });
  it('is moved by figures as well', async () => {
    const page = await showContents(documentOf(carrying()), { artworks: [] } as never);
    await enter(screen.getByLabelText('Moved to the right'), '2.5');
    await enter(screen.getByLabelText('Moved to the back'), '-1/2"');
    const sent = page.updates.filter((u) => u.section === 'contents').map((u) => (u.value as ArtworkContent[])[0]!.offset); // prettier-ignore
    expect(sent).toEqual([{ x: 2.5, y: 0 }, { x: 2.5, y: -12.7 }]); // prettier-ignore
    await press('move them on one piece, drawn large');
  });
});
