import { cleanup, screen, within } from '@testing-library/react';
import type { ArtworkDocument } from '@bistre/contract';
import type { Artwork, ArtworkContent, BatchInput } from '@bistre/core';
import { loadedPieces, testBatch } from '../../../../../core/src/test-batch';
import { EXAMPLES } from '../../../../../core/src/test-ways';
import { documentOf, idOf } from '../../../testing/batch';
import { enter, pick, press, tick } from '../../../testing/pick';
import { showContents } from '../../../testing/station';

// A crest of 20 × 10 mm with one line across it.
const square = [{ x: 0, y: 0 }, { x: 20, y: 0 }, { x: 20, y: 10 }, { x: 0, y: 10 }]; // prettier-ignore
const used: Artwork = { id: idOf('crest'), name: 'Regatta crest', revision: 1, roles: {}, unit: 'mm', shapes: [{ contours: [{ closed: true, vertices: square }], rule: 'nonzero', fill: '#000000', stroke: null, width: 0 }] }; // prettier-ignore
const listed = (id: string, name: string, revisions: number): ArtworkDocument => ({
  id, name, version: 1, spec: { customer: '', roles: {} }, usedBy: [],
  revisions: Array.from({ length: revisions }, (_, i) => ({ number: i + 1, fileName: 'a.svg', bytes: 9, sha256: 'x', width: 20, height: 10, unit: 'mm' as const, notes: [], styles: [], at: '2026-11-20T08:00:00.000Z', by: 'Odile' })),
}); // prettier-ignore
const artworks = [listed(idOf('anchor'), 'Anchor', 2), listed(used.id, used.name, 1)];
const from = testBatch();
const zone = from.blank.zones[0]!;
const content = (change: Partial<ArtworkContent> = {}): ArtworkContent => ({ kind: 'artwork', id: 'c1', zoneId: zone.id, artworkId: used.id, revision: 1, size: { kind: 'width', width: 8 }, turn: 0, mirrored: false, ...change }); // prettier-ignore
const carrying = (change: Partial<ArtworkContent> = {}): BatchInput => ({
  ...from,
  roster: [],
  pieces: loadedPieces([1]),
  artworks: [used],
  setup: { ...from.setup, lettering: { ...from.setup.lettering, lines: [] }, contents: [content(change)] },
});
const show = (input: BatchInput, known: object = { artworks }) => showContents(documentOf(input), known as never);
const sent = (page: Awaited<ReturnType<typeof show>>) => page.updates.filter((u) => u.section === 'contents').map((u) => u.value as ArtworkContent[]); // prettier-ignore

describe('art in the zones of flat pieces', () => {
  it('comes from the Shelf, as large as its zone takes it at first', async () => {
    const page = await show({ ...carrying(), setup: { ...from.setup, contents: null } });
    await press('art');
    expect(sent(page)).toEqual([[{ kind: 'artwork', id: expect.any(String) as string, zoneId: zone.id, artworkId: idOf('anchor'), revision: 2, size: { kind: 'fit' }, turn: 0, mirrored: false }]]); // prettier-ignore
  });
  it('says its size and the room that is left in figures', async () => {
    const page = await show(carrying());
    const row = screen.getByRole('group', { name: 'Regatta crest' });
    const [w, h] = [zone.width - 2 * zone.margin, zone.height - 2 * zone.margin];
    const one = (v: number): string => v.toFixed(1);
    const room = { left: (w - 8) / 2, front: (h - 4) / 2 };
    expect(page.shown.reckoning.zone).toMatchObject({ across: 'centre', down: 'middle' });
    expect(row.textContent).toContain(`8.0 × 4.0 mm, 0.400 times its file; room to the zone: ${one(room.left)} left, ${one(room.left)} right, ${one(room.front)} front, ${one(room.front)} back; to the edges of the piece: `); // prettier-ignore
    const { sizes } = page.shown.reckoning;
    const edge = (across: number, at: number, size: number): string => one(across / 2 + at - size / 2);
    expect(row.textContent).toContain(`of the piece: ${edge(sizes.length.mean, zone.x, 8)} left, ${edge(sizes.length.mean, -zone.x, 8)} right, ${edge(sizes.width.mean, zone.y, 4)} front, ${edge(sizes.width.mean, -zone.y, 4)} back.`); // prettier-ignore
    await press('working of where Regatta crest lies');
    expect(screen.getByRole('dialog').textContent).toContain('width said ÷ its file’s own= 8.00 mm ÷ 20.00 mmtyped');
    // No roster is waited for where pieces carry art alone.
    expect(page.container.textContent).toContain('Nothing of a list goes on the pieces: no roster is needed.');
  });
  it('is sized, turned, mirrored and anchored by what is chosen', async () => {
    const page = await show(carrying());
    await enter(screen.getByLabelText('Width'), '1/4"');
    await pick('Size', 'so high');
    await enter(screen.getByLabelText('Height'), '3');
    await pick('Turned', 'a quarter to the left');
    await pick('Across', 'left');
    await pick('Down', 'top');
    await tick('mirrored, to be seen from behind');
    const all = sent(page);
    expect(all[0]![0]!.size).toEqual({ kind: 'width', width: 6.35 });
    // It begins at the height that it has: what was reckoned stays as it was in this test.
    expect(all[1]![0]!.size).toEqual({ kind: 'height', height: 4 });
    expect(all.at(-1)).toEqual([content({ size: { kind: 'height', height: 3 }, turn: Math.PI / 2, across: 'left', down: 'top', mirrored: true })]); // prettier-ignore
    await press('Take Regatta crest out');
    expect(sent(page).at(-1)).toEqual([]);
  });
  it('reaches over the edge where that is on purpose, and says how far and what it asks for', async () => {
    const page = await show(carrying({ size: { kind: 'width', width: 70 } }));
    expect(page.container.textContent).toMatch(/Wrong:Regatta crest, 70\.0 × 35\.00 mm, leaves/);
    await tick('over the edge on purpose');
    expect(sent(page).at(-1)![0]).toMatchObject({ over: true });
    cleanup();
    const meant = await show(carrying({ size: { kind: 'width', width: 70 }, over: true }));
    expect(meant.container.textContent).not.toMatch(/leaves/);
    const [reach] = /It reaches [\d.]+ mm over the edge: lay a backing sheet under it\./.exec(
      meant.container.textContent!,
    )!;
    const { sizes } = meant.shown.reckoning;
    const over = Math.max(
      Math.abs(zone.x) + (70 - sizes.length.mean) / 2,
      Math.abs(zone.y) + (35 - sizes.width.mean) / 2,
    );
    expect(reach).toContain(`${over.toFixed(1)} mm`);
    await tick('over the edge on purpose');
    expect(sent(meant).at(-1)![0]!.over).toBeNull();
  });
  it('keeps its revision until the newer one is taken, and takes the newest of another', async () => {
    const page = await show(carrying(), { artworks: [listed(used.id, used.name, 3), artworks[0]!] });
    expect(screen.getByText(/There is a newer file: r3; this batch has r1/)).toBeTruthy();
    await press('Take r3');
    expect(sent(page).at(-1)![0]!.revision).toBe(3);
    await pick('Artwork', 'Anchor');
    expect(sent(page).at(-1)![0]).toMatchObject({ artworkId: idOf('anchor'), revision: 2 });
  });
  it('says what is wrong with it beside the run, and where its file goes while the Shelf has none', async () => {
    const wide = await show(carrying({ size: { kind: 'width', width: 400 } }));
    expect(wide.container.textContent).toMatch(/Wrong:Regatta crest, 400\.0 × 200\.00 mm, leaves/);
    cleanup();
    await show({ ...carrying(), artworks: [], setup: { ...from.setup, contents: null } }, { artworks: [] });
    const section = screen.getByRole('region', { name: 'In the zones beside lettering' });
    expect(within(section).getByRole('link').getAttribute('href')).toBe('/shelf/artworks/new');
  });
  it('is laid on work in segments as well; a blank without a zone is given one first', async () => {
    const page = await showContents(documentOf(EXAMPLES.long), { artworks } as never);
    expect(screen.getByRole('group', { name: 'a line' }).textContent).toContain('1980.0 × 0.0 mm');
    page.unmount();
    await showContents(documentOf({ ...EXAMPLES.long, blank: { ...EXAMPLES.long.blank, zones: [] } }), { artworks } as never); // prettier-ignore
    expect(screen.getByRole('link', { name: 'Give it one on the Shelf' }).getAttribute('href')).toBe(`/shelf/blanks/${documentOf(EXAMPLES.long).blank.id}`); // prettier-ignore
  });
});
