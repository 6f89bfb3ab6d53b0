import { fireEvent, screen, waitFor } from '@testing-library/react';
import { PICTURES, type BatchDocument, type CupRunView } from '@bistre/contract';
import { roundLength, type BatchInput } from '@bistre/core';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { inWay } from '../../../../core/src/test-held';
import { loadedPieces } from '../../../../core/src/test-batch';
import { documentOf, DOCUMENTS, idOf } from '../../testing/batch';
import { showPage } from '../../testing/page';
import { enter, pick, press, tick } from '../../testing/pick';
import { dotsOf, greyDots, pictureFile, unpackPictures } from '../../testing/pixels';
import { reckonShown, worker } from '../../testing/reckon';
import { pretend } from '../../testing/server';
import { serviceOf } from '../../testing/workers';
import { writePictures } from '../../data/picture-worker';
import { WrapDrawing } from '../../drawing/round/WrapDrawing';
import { asRun, CupResult } from './CupResult';
import { DriveDrawing } from './DriveDrawing';
import { FacesDialog } from './FacesDialog';

const PICTURE = idOf('picture');
const treatment = { kernel: 'half', densest: 1, gamma: 1, negative: false } as const;
const proved = inWay(EXAMPLES.drive, 'drive', {}, { letter: { quarters: 0, mirrored: false }, numberSet: 50.93 });
/** The cup with a picture in its zone, its number typed in and the F seen. */
const withPicture = (width: number, height: number): BatchInput => ({
  ...proved,
  pieces: loadedPieces([1]),
  setup: {
    ...proved.setup,
    faces: [
      {
        zoneId: 'face',
        content: { kind: 'picture', pictureId: PICTURE, name: 'boat.png', width, height, darkness: 0.4, treatment },
        reads: 'around',
        repeats: 1,
        wraps: false,
      },
    ],
  },
});

const dialog = async (batch: BatchDocument, known: object = {}) => {
  const { reckoning } = await reckonShown(batch, 100);
  const closed = jest.fn();
  const page = await showPage(batch, (handle) => <FacesDialog handle={handle} round={reckoning.own.round!} onClose={closed} />, known as never); // prettier-ignore
  return { ...page, closed, faces: () => page.batch().setup.faces };
};
const bare = { ...DOCUMENTS.drive, setup: { ...DOCUMENTS.drive.setup, faces: [] } };
const give = (file: File): void => {
  fireEvent.change(screen.getByLabelText(/^art \(SVG, DXF/), { target: { files: [file] } });
};
const textFile = (name: string, text: string): File => Object.assign(new File([text], name), { text: () => Promise.resolve(text) }); // prettier-ignore

beforeEach(unpackPictures);

describe('what goes where', () => {
  it('begins with names, once, in the first zone; and says so while nothing is on', async () => {
    const page = await dialog(bare);
    expect(screen.getByText('Nothing is engraved yet. Add a face.')).toBeTruthy();
    await press('Add a face');
    expect(page.faces()).toEqual([{ zoneId: 'face', content: { kind: 'lettering' }, reads: 'around', repeats: 1, wraps: false }]); // prettier-ignore
    await pick('Reads', 'down, rim to base');
    await tick('all the way round, meeting itself');
    await enter(screen.getByLabelText('Times round'), '3');
    expect(page.faces()[0]).toMatchObject({ reads: 'down', wraps: true, repeats: 3 });
    await press('Take out face 1');
    expect(page.faces()).toEqual([]);
    await press('Close');
    expect(page.closed).toHaveBeenCalled();
  });

  it('takes an artwork of the Shelf at its newest revision, says its size, and keeps that one until it is given another', async () => {
    const square = [{ x: 0, y: 0 }, { x: 20, y: 0 }, { x: 20, y: 10 }, { x: 0, y: 10 }]; // prettier-ignore
    const shape = { contours: [{ closed: true, vertices: square }], rule: 'nonzero' as const, fill: '#000000', stroke: null, width: 0 }; // prettier-ignore
    const [crest, anchor] = ['Crest', 'Anchor'].map((name, n) => ({ id: idOf(name), name, version: 1, spec: { customer: '', roles: {} }, usedBy: [], revisions: Array.from({ length: n + 2 }, (_, i) => ({ number: i + 1 })) })); // prettier-ignore
    const face = DOCUMENTS.drive.setup.faces[0]!;
    const carrying: BatchDocument = {
      ...DOCUMENTS.drive,
      artworks: [{ id: crest!.id, name: 'Crest', revision: 1, roles: {}, unit: 'mm', shapes: [shape] }],
      setup: { ...DOCUMENTS.drive.setup, faces: [{ ...face, content: { kind: 'artwork', artworkId: crest!.id, revision: 1, name: 'Crest', size: 'true' } }] }, // prettier-ignore
    };
    const page = await dialog(carrying, { artworks: [anchor, crest] });
    expect(screen.getByText('20.0 × 10.0 mm')).toBeTruthy();
    // Its shapes come with the server's answer, after the choice: what was drawn without them is not kept.
    const fillOf = async (artworks: BatchDocument['artworks']) => (await reckonShown({ ...carrying, artworks }, 100)).reckoning.own.round!.unrolled.fill; // prettier-ignore
    expect([await fillOf([]), (await fillOf(carrying.artworks)).length > 20]).toEqual(['', true]);
    expect(screen.getByText(/There is a newer file: r2; this face has r1/)).toBeTruthy();
    await press('Take r2');
    expect(page.faces()[0]!.content).toEqual({ kind: 'artwork', artworkId: crest!.id, revision: 2, name: 'Crest', size: 'true' }); // prettier-ignore
    await pick('Carries', 'Anchor');
    expect(page.faces()[0]!.content).toEqual({ kind: 'artwork', artworkId: anchor!.id, revision: 3, name: 'Anchor' });
    await pick('Carries', 'names, and what else its zone carries');
    expect(page.faces()[0]!.content).toEqual({ kind: 'lettering' });
  });

  it('puts a file on the Shelf and takes it from there, and leaves the face as it was where it cannot', async () => {
    const page = await dialog(DOCUMENTS.drive);
    const server = pretend(({ body }) => ({ id: body['id'] }));
    server.plan.push({ status: 422, code: 'nothing-seen', message: 'Nothing is seen in the file.' });
    give(textFile('boat.svg', '<svg/>'));
    expect(await screen.findByText('Nothing is seen in the file.')).toBeTruthy();
    expect(page.faces()[0]!.content).toEqual({ kind: 'lettering' });
    give(textFile('boat.svg', '<svg>…</svg>'));
    await waitFor(() => expect(page.faces()[0]!.content).toEqual({ kind: 'artwork', artworkId: expect.any(String) as string, revision: 1, name: 'boat' })); // prettier-ignore
    expect(server.writes.map((w) => [w.path, w.body['fileName'], w.body['text'], w.body['customer']])).toEqual(['<svg/>', '<svg>…</svg>'].map((text) => ['/api/artworks', 'boat.svg', text, DOCUMENTS.drive.customer])); // prettier-ignore
    expect(server.writes[1]!.body['id']).toBe((page.faces()[0]!.content as { artworkId: string }).artworkId);
    await pick('Carries', 'names, and what else its zone carries');
    expect(page.faces()[0]!.content).toEqual({ kind: 'lettering' });
  });

  it('refuses a file that is too large before it is sent', async () => {
    await dialog(DOCUMENTS.drive);
    const server = pretend(() => ({}));
    for (const [name, size, words] of [
      ['plan.dxf', 8_200_000, /^plan\.dxf is 8\.2 MB; at most 8 MB are read\./],
      ['boat.png', 900_000_000, /^boat\.png is 900 MB; at most \d+ MB are read\. Make it smaller first\.$/],
    ] as const) {
      const file = new File([''], name);
      Object.defineProperty(file, 'size', { value: size });
      give(file);
      expect(await screen.findByText(words)).toBeTruthy();
    }
    expect([...server.writes, ...server.asked]).toEqual([]);
  });

  it.each([
    ['steel', 1, false],
    ['glass', 0.7, true],
  ] as const)('begins a picture on %s with what is common there', async (material, densest, negative) => {
    const { drive } = DOCUMENTS;
    const shape = { ...drive.blank.spec.shape, material } as typeof drive.blank.spec.shape;
    const page = await dialog({ ...drive, blank: { ...drive.blank, spec: { ...drive.blank.spec, shape } } });
    globalThis.fetch = (() =>
      Promise.resolve({
        ok: true,
        json: () => Promise.resolve({ id: PICTURE, name: 'boat.png', width: 400, height: 300, darkness: 0.37 }),
      })) as unknown as typeof fetch;
    give(new File(['…'], 'boat.PNG'));
    await waitFor(() => expect(page.faces()[0]!.content.kind).toBe('picture'));
    expect(page.faces()[0]!.content).toMatchObject({ pictureId: PICTURE, treatment: { densest, negative, gamma: 1 } });
    expect(await screen.findByText('400 × 300 dots, 37 % dark')).toBeTruthy();
  });
});

describe('a picture’s treatment', () => {
  it('is changed in the words of the trade: densest share and middle tones as percent', async () => {
    const page = await dialog(documentOf(withPicture(40, 30)));
    const now = () => (page.faces()[0]!.content as { treatment: unknown }).treatment;
    await enter(screen.getByLabelText('Densest'), '70');
    // Middle tones twice as dark are a gamma of a half.
    await enter(screen.getByLabelText('Middle tones'), '200');
    await pick('Shades as dots', 'Stucki: even, crisper');
    await tick(/^burn the light parts/);
    expect(now()).toEqual({ kernel: 'stucki', densest: 0.7, gamma: 0.5, negative: true });
  });

  it('that cannot be seen any more says so', async () => {
    await worker();
    globalThis.fetch = (() => Promise.resolve({ ok: false })) as unknown as typeof fetch;
    await dialog(documentOf(withPicture(41, 31)));
    globalThis.fetch = (() => Promise.resolve({ ok: false })) as unknown as typeof fetch;
    await enter(screen.getByLabelText('Densest'), '60');
    expect(await screen.findByText('The picture cannot be shown: it is not kept any more.')).toBeTruthy();
  });
});

describe('the file of a piece with a picture', () => {
  // Left half dark, right half bare.
  const dots = greyDots(80, 60, (x) => (x < 40 ? 0 : 255));
  const serve = async (): Promise<void> => {
    await worker();
    const alphabets = globalThis.fetch;
    globalThis.fetch = ((url: string) =>
      url.startsWith(PICTURES)
        ? Promise.resolve({ ok: true, blob: () => Promise.resolve(pictureFile(dots)) })
        : alphabets(url)) as typeof fetch;
  };
  const textOf = (file: Blob): Promise<string> =>
    new Promise((done) => {
      const reader = new FileReader();
      reader.onload = () => done(reader.result as string);
      reader.readAsText(file);
    });

  it('burns the dark half alone, and tells how far it is', async () => {
    await serve();
    const shares: number[] = [];
    const batch = documentOf(withPicture(80, 60));
    const made = (await writePictures(batch, (s) => shares.push(s), new AbortController().signal))!; // prettier-ignore
    const text = await textOf(made.file);
    // One row of the dark half every five steps of π × 20 / 3200, at 35 % × 0.98175 of S 1000, each as long as the picture is high.
    const { width, height } = (await reckonShown(batch, 100)).reckoning.own.round!.faces[0]!.picture!;
    expect(width / height).toBeCloseTo(80 / 60, 9);
    const rows = [...text.matchAll(/^X(-?[\d.]+)F24000\nX(-?[\d.]+)S344$/gm)].map((m) => Math.abs(Number(m[2]) - Number(m[1]))); // prettier-ignore
    // The rollers move the surface at 92 mm; half the picture's width there, where it lies on the narrowest cone.
    const at = (along: number): number => 92 - (22 * along) / 130;
    const interval = (5 * Math.PI * 20) / 3200;
    const reach = (diameter: number): number => (width / 2 / diameter) * (92 / interval);
    expect(rows.length).toBe(Math.floor(reach(at(60 + height / 2))));
    // Its straight edge runs over the last of them, from the wide end on.
    rows.forEach((row, i) => {
      // Whole dots of the interval, so up to one of them is left at the ends.
      if (i < reach(at(60 - height / 2)) - 1) expect(row).toBeGreaterThan(height - 2 * interval);
      expect(row).toBeLessThanOrEqual(height + 0.01);
    });
    expect([...text.matchAll(/S(?!0\b|344\b)\d+/g)]).toEqual([]);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    expect(shares.at(-1)).toBeLessThanOrEqual(1);
    expect(made.seconds).toBeGreaterThanOrEqual(0);
  });

  it('that is stopped is none', async () => {
    await serve();
    const stop = new AbortController();
    const made = writePictures(documentOf(withPicture(80, 60)), () => undefined, stop.signal);
    stop.abort();
    expect(await made).toBeNull();
  });

  it('is refused in words when its picture is gone', async () => {
    await worker();
    const gone = documentOf(withPicture(82, 60));
    const other = JSON.parse(JSON.stringify(gone).replaceAll(PICTURE, idOf('gone'))) as BatchDocument;
    globalThis.fetch = (() => Promise.resolve({ ok: false })) as unknown as typeof fetch;
    await expect(writePictures(other, () => undefined, new AbortController().signal)).rejects.toThrow('A picture of this setup is not kept any more. Choose it again.'); // prettier-ignore
  });

  it('shows its middle as it will look: dark left, bare right', async () => {
    await serve();
    const service = await serviceOf('picture.worker.ts');
    const seen = await service.closeUp(PICTURE, 40, { width: 12, height: 8 }, 0.5, 0.1, treatment, { width: 120, height: 80 }); // prettier-ignore
    expect([seen.width, seen.height]).toEqual([120, expect.closeTo(80, -1)]);
    const shade = (from: number, to: number): number => {
      let sum = 0;
      for (let y = 0; y < seen.height; y += 1)
        for (let x = from; x < to; x += 1) sum += seen.pixels[y * seen.width + x]!;
      return sum / (seen.height * (to - from));
    };
    expect(shade(0, 50)).toBeLessThan(shade(70, 120) - 30);
    expect(shade(70, 120)).toBe(255);
    expect(dotsOf(new File([], 'other'))).toBeUndefined();
  });
});

describe('a blank that was burned', () => {
  const run = (part: Partial<CupRunView> = {}): CupRunView => ({
    ...{ thrown: false, strokes: [0, -60, 10, -60], overlap: null, dx: 0.3, dy: -0.4, lines: 12_345 },
    ...part,
  });
  it('is judged as one piece, by the distance its art is off', () => {
    const [piece, ...others] = asRun(run(), 0.6, 0.4).pieces;
    expect(others).toEqual([]);
    expect(piece).toMatchObject({ slot: 1, dx: 0.3, dy: -0.4, yaw: 0, worst: 0.5 });
    expect(asRun(run({ dx: null, dy: null }), 0.6, 0.4).pieces[0]).toMatchObject({ dx: null, yaw: null, worst: null });
  });

  it('shows where each stroke came, laid flat to scale', async () => {
    const { reckoning } = await reckonShown(DOCUMENTS.drive, 100);
    const round = reckoning.own.round!;
    const closed = jest.fn();
    const page = await showPage(DOCUMENTS.drive, () => <CupResult run={run()} round={round} onClose={closed} />);
    expect(page.container.textContent).toContain('art off by 0.30 mm around, -0.40 mm along; 12,345 lines of G-code');
    // The one stroke, 10 mm round the blank, is 10 mm long where it is laid flat without stretch.
    const drawn = [...page.container.querySelectorAll('path.stroke-ink')].map((p) => p.getAttribute('d')!).find((p) => /^M[-\d. ]+L[-\d. ]+$/.test(p))!; // prettier-ignore
    const [x0, y0, x1, y1] = drawn.match(/-?[\d.]+/g)!.map(Number) as [number, number, number, number];
    expect(Math.hypot(x1 - x0, y1 - y0)).toBeCloseTo(10, 1);
    fireEvent.click(screen.getByText('back to the drawing'));
    expect(closed).toHaveBeenCalled();
  });

  it('that left the rollers says where to look', async () => {
    const { reckoning } = await reckonShown(DOCUMENTS.drive, 100);
    await showPage(DOCUMENTS.drive, () => <CupResult run={run({ thrown: true })} round={reckoning.own.round!} onClose={() => undefined} />); // prettier-ignore
    expect(screen.getByText(/^The blank left the rollers|The blank left the rollers\./)).toBeTruthy();
  });
});

const flag = [{ x: 0, y: 0 }, { x: 15, y: 0 }, { x: 15, y: 10 }]; // prettier-ignore
const flagArt: BatchDocument['artworks'][number] = { id: idOf('flag'), name: 'flag', revision: 1, roles: {}, unit: 'mm', shapes: [{ contours: [{ closed: true, vertices: flag }], rule: 'nonzero', fill: '#000000', stroke: null, width: 0 }] }; // prettier-ignore
const withFlag: BatchDocument = { ...DOCUMENTS.drive, artworks: [flagArt], setup: { ...DOCUMENTS.drive.setup, faces: [{ zoneId: 'face', content: { kind: 'artwork', artworkId: flagArt.id, revision: 1, name: 'flag' }, reads: 'around', repeats: 1, wraps: false }] } }; // prettier-ignore

describe('art from a file', () => {
  it('says how large it comes out, and is true in size once that is chosen', async () => {
    const page = await dialog(withFlag);
    // A room of 30 round and 40 along: twice as large.
    expect(page.container.ownerDocument.body.textContent).toContain('comes out 30.0 × 20.0 mm, 200 % of its own size');
    await pick('Its size', 'true, as its file says');
    expect(page.faces()[0]!.content).toMatchObject({ kind: 'artwork', name: 'flag', size: 'true' });
    await tick('all the way round, meeting itself');
    expect(screen.queryByLabelText('Its size')).toBeNull();
  });
});

describe('the wrap', () => {
  it('shows what lies over ±180° at both of its ends, cut at the edge', async () => {
    const zones = DOCUMENTS.drive.blank.spec.zones.map((z) => ({ ...z, angle: Math.PI }));
    const at180 = { ...withFlag, blank: { ...withFlag.blank, spec: { ...withFlag.blank.spec, zones } } };
    const { reckoning } = await reckonShown(at180, 100);
    const page = await showPage(at180, () => <WrapDrawing round={reckoning.own.round!} />);
    const zonesDrawn = [...page.container.querySelectorAll('path.stroke-blue')];
    expect(zonesDrawn).toHaveLength(2);
    for (const p of [...zonesDrawn, page.container.querySelector('path.fill-ink')!]) expect(p.getAttribute('clip-path')).toBe('url(#laid-flat)'); // prettier-ignore
    // The flag, 20 mm high of a room of 30 round, once at either end.
    expect(page.container.querySelector('path.fill-ink')!.getAttribute('d')!.match(/M/g)).toHaveLength(2);
    expect(screen.getByText('−180°')).toBeTruthy();
  });

  it('is as wide at rim and base as the tape says, and turns or is turned by hand', async () => {
    const { reckoning } = await reckonShown(DOCUMENTS.drive, 100);
    await showPage(DOCUMENTS.drive, () => <WrapDrawing round={reckoning.own.round!} />);
    // π × 92 and π × 70
    expect(screen.getByText('289.0 mm round the rim, 219.9 at the base')).toBeTruthy();
    const hand = screen.getByLabelText<HTMLInputElement>('turn the blank by hand');
    expect(hand.disabled).toBe(true);
    fireEvent.click(screen.getByText('hold it still'));
    expect(hand.disabled).toBe(false);
    fireEvent.change(hand, { target: { value: '90' } });
    expect(hand.value).toBe('90');
  });
});

describe('the blank on its drive', () => {
  const drawn = async (overhang: number) => {
    const { reckoning } = await reckonShown(documentOf(proved), 100);
    const round = reckoning.own.round!;
    const { container } = await showPage(documentOf(proved), () => <DriveDrawing round={round} rimFaces="right" gap={6} stand={0} overhang={overhang} />); // prettier-ignore
    const side = container.querySelectorAll('svg > g')[1]!;
    const widths = [...side.querySelectorAll(':scope > g > rect')].map((r) => Number(r.getAttribute('width')));
    return { round, words: container.textContent, roller: widths[2]! };
  };

  it('lies on the whole length of the rollers, or hangs over their end by what was said', async () => {
    const whole = await drawn(0);
    const over = await drawn(40);
    expect(whole.roller).toBeCloseTo(roundLength(whole.round.shape) + 28, 6);
    expect(over.roller).toBeCloseTo(roundLength(over.round.shape) - 40 + 14, 6);
    expect(whole.words).not.toContain('over the end');
    expect(over.words).toContain('40 of it over the end');
  });
});
