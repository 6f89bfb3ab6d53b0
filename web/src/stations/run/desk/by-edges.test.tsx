import { screen, within } from '@testing-library/react';
import { loadedPieces, testBatch } from '../../../../../core/src/test-batch';
import { EXAMPLES } from '../../../../../core/src/test-ways';
import { aimed } from '../../../testing/aim';
import { documentOf } from '../../../testing/batch';
import { enter, press } from '../../../testing/pick';
import { showStation } from '../../../testing/station';

const desk = (): HTMLElement => screen.getByRole('region', { name: 'Next at the desk' });
const open = async () => {
  const page = await showStation(documentOf(aimed(testBatch({ pieces: loadedPieces([1, 2]) }))), 'run');
  await press('by its edges', within(desk()));
  return { ...page, dialog: screen.getByRole('dialog', { name: /^Where the art lies on KESTREL/ }) };
};
/** The distances that are asked for, as drawn. */
const asked = (dialog: HTMLElement) =>
  within(dialog)
    .getAllByRole('listitem')
    .map((li) => ({ label: /^\d?(.*?) drawn/.exec(li.textContent)![1]!, drawn: Number(/drawn ([\d.]+)/.exec(li.textContent)![1]) })); // prettier-ignore

describe('where the art lies on a piece, by its edges', () => {
  it('asks for distances to all four edges, numbered in the drawing, and wants three', async () => {
    const { dialog } = await open();
    const distances = asked(dialog);
    for (const side of ['left', 'right', 'near', 'far']) expect(distances.some((d) => d.label.startsWith(side))).toBe(true); // prettier-ignore
    expect(within(dialog).getByRole('img').querySelectorAll('text')).toHaveLength(distances.length);
    expect(dialog.textContent).toContain('3 more to take.');
    await enter(within(dialog).getByLabelText(distances[0]!.label), String(distances[0]!.drawn));
    expect(dialog.textContent).toContain('2 more to take.');
    expect(within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Use it for this piece' }).disabled).toBe(true); // prettier-ignore
  });

  it('art 0.40 mm to the right and 0.20 towards the operator is found, and judged with', async () => {
    const { dialog, acts } = await open();
    const moved = { left: 0.4, right: -0.4, near: -0.2, far: 0.2 };
    for (const { label, drawn } of asked(dialog))
      await enter(within(dialog).getByLabelText(label), (drawn + moved[label.split(' ')[0] as keyof typeof moved]).toFixed(2)); // prettier-ignore
    expect(dialog.textContent).toMatch(/Off by 0\.(39|40|41) ± 0\.\d\d mm to the right and −0\.(19|20|21) ± 0\.\d\d mm away from you/); // prettier-ignore
    await press('Use it for this piece');
    expect(screen.queryByRole('dialog')).toBeNull();
    await press('Done', within(desk()));
    const { dx, dy } = (acts[0]!.input as { body: { pieces: { dx: number; dy: number }[] } }).body.pieces[0]!;
    expect(dx).toBeCloseTo(0.4, 1);
    expect(dy).toBeCloseTo(-0.2, 1);
  });

  it('on a printed sheet it is the cut that lies off, the other way', async () => {
    const sheet = aimed(EXAMPLES.sheet);
    const { acts } = await showStation(documentOf({ ...sheet, pieces: loadedPieces([1, 2]) }), 'run');
    await press('by its edges', within(desk()));
    const dialog = screen.getByRole('dialog', { name: /^Where the art lies/ });
    // The art lies 0.3 to the right on its piece: the rim is wide at the left.
    for (const { label, drawn } of asked(dialog))
      await enter(within(dialog).getByLabelText(label), (drawn + (/^left/.test(label) ? 0.3 : /^right/.test(label) ? -0.3 : 0)).toFixed(2)); // prettier-ignore
    expect(dialog.textContent).toContain('It was printed: the cut lies as far off the other way.');
    await press('Use it for this piece');
    await press('Done', within(desk()));
    const { dx } = (acts[0]!.input as { body: { pieces: { dx: number }[] } }).body.pieces[0]!;
    expect(dx).toBeCloseTo(-0.3, 1);
  });

  it('a distance at another’s number is asked about, and not judged with', async () => {
    const { dialog } = await open();
    const far = asked(dialog).filter((d) => /^(near|far|left)/.test(d.label));
    for (const { label, drawn } of far) await enter(within(dialog).getByLabelText(label), (drawn + (/right end/.test(label) ? 6 : 0)).toFixed(2)); // prettier-ignore
    expect(dialog.textContent).toContain('So far turned was it hardly burned.');
    expect(within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Use it for this piece' }).disabled).toBe(true); // prettier-ignore
  });

  it('is not offered round a blank, where a ring tells', async () => {
    await showStation(documentOf({ ...EXAMPLES.drive, pieces: loadedPieces([1]) }), 'run');
    expect(within(desk()).queryByRole('button', { name: 'by its edges' })).toBeNull();
  });
});
