import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { blankSpec, type BlankSpec } from '@bistre/contract';
import { DraftFields } from '../../parts/fields';
import { DOCUMENTS } from '../../testing/batch';
import { press } from '../../testing/pick';
import { pretend } from '../../testing/server';
import { OutlineFile } from './OutlineFile';

const hull = { closed: true, vertices: [{ x: -60, y: -20 }, { x: 60, y: 0 }, { x: -60, y: 20 }] }; // prettier-ignore
const READ = { contours: [hull], width: 120, height: 40, unit: 'px', notes: ['1 open line was left out.'] };

/** The field in a form of its own, and what the form has. */
const show = () => {
  const now: { shape: BlankSpec['shape'] } = { shape: DOCUMENTS.pockets.blank.spec.shape };
  const Form = () => {
    const form = useForm({ defaultValues: { spec: DOCUMENTS.pockets.blank.spec } });
    now.shape = form.watch('spec.shape');
    return (
      <DraftFields form={form as never} schema={z.object({ spec: blankSpec }) as never}>
        <OutlineFile />
      </DraftFields>
    );
  };
  render(<Form />);
  return now;
};
const give = (name: string, more: object): void =>
  void fireEvent.change(screen.getByLabelText(/with a closed outline$/), { target: { files: [Object.defineProperties(new File(['x'], name), Object.fromEntries(Object.entries(more).map(([k, value]) => [k, { value }])))] } }); // prettier-ignore

describe('the outline of a blank from a file', () => {
  it('is taken from a drawing as it is read, asked about where it states no unit, and scaled by the answer', async () => {
    const server = pretend(() => READ);
    const form = show();
    give('hull.svg', { text: () => Promise.resolve('<svg/>') });
    await waitFor(() => expect(form.shape).toEqual({ kind: 'outline', contours: [hull], source: 'hull.svg' }));
    expect(server.writes[0]).toMatchObject({ path: '/api/outlines', body: { name: 'hull.svg', text: '<svg/>' } });
    expect(screen.getByText(/^120\.00 × 40\.00 mm\. Is that the real size\? 1 open line was left out\./)).toBeTruthy();
    await press('it was inches');
    expect((form.shape as { contours: (typeof hull)[] }).contours[0]!.vertices[1]).toEqual({ x: 60 * 25.4, y: 0 });
    await press('it was millimetres read as inches');
    expect((form.shape as { contours: (typeof hull)[] }).contours[0]!.vertices[1]!.x).toBeCloseTo(60, 9);
  });
  it('is sent as bytes from a PDF or a picture; one that is refused or too large leaves the shape as it was', async () => {
    const server = pretend(() => ({ ...READ, unit: 'mm', notes: [] }));
    const form = show();
    const before = form.shape;
    const bytes = { arrayBuffer: () => Promise.resolve(new Uint8Array([37, 80, 68, 70]).buffer) };
    server.plan.push({ status: 422, code: 'locked-pdf', message: 'The PDF is locked by a password.' });
    give('hull.pdf', bytes);
    expect(await screen.findByText('The PDF is locked by a password.')).toBeTruthy();
    give('hull.png', { ...bytes, size: 4e6 });
    expect(await screen.findByText(/^hull\.png is 4\.0 MB; at most 3\.7 MB are read\./)).toBeTruthy();
    expect(form.shape).toBe(before);
    give('hull.pdf', bytes);
    await waitFor(() => expect(form.shape).toMatchObject({ kind: 'outline', source: 'hull.pdf' }));
    expect(server.writes.at(-1)!.body).toEqual({ name: 'hull.pdf', text: 'JVBERg==', base64: true });
    expect(screen.getByText(/^120\.00 × 40\.00 mm\./).textContent).not.toContain('real size');
  });
});
