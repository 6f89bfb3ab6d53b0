import { api, type BatchDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

withDatabase('files that were handed out', () => {
  let shop: TestShop;
  let id: string;
  beforeAll(async () => {
    shop = await startShop('handed_out');
    ({ id } = await shop.batch('Boat tags'));
  });
  afterAll(() => shop.stop());

  const take = async (file: string): Promise<string> => {
    const response = await fetch(`${shop.base}/api/batches/${id}/files/${file}`);
    expect(response.status).toBe(200);
    await response.arrayBuffer();
    return response.headers.get('content-disposition')!;
  };
  const tags = (): Promise<BatchDocument> => shop.call(api.getBatch, { params: { id } });
  const since = async (file: string): Promise<string | null | undefined> =>
    (await tags()).handedOut.find((h) => h.file === file)?.since;
  const save = async (section: 'close' | 'lettering' | 'beside', change: object): Promise<void> => {
    const { setup, version } = await tags();
    await shop.call(api.saveSection, { params: { id }, body: { section, value: { ...setup[section], ...change }, version } as never }); // prettier-ignore
  };

  it('are called so that the newest stands last, and are kept with who took them and when', async () => {
    expect(await take('board.svg')).toMatch(/filename="boat-tags-board-\d{8}-\d{4}\.svg"/);
    await take('load-card.pdf');
    await take('setup.pdf');
    const { handedOut } = await tags();
    expect(handedOut.map((h) => h.file).sort()).toEqual(['board.svg', 'load-card.pdf', 'setup.pdf']);
    expect(handedOut.every((h) => h.since === null && Date.now() - Date.parse(h.at) < 60_000)).toBe(true);
  });

  it('stay as they are while nothing that they say is changed', async () => {
    await save('close', { notes: 'Lay them rim to the left.' });
    for (const file of ['board.svg', 'load-card.pdf', 'setup.pdf']) expect(await since(file)).toBeNull();
  });

  it('that burn pieces are out of date with their letters, the board is not', async () => {
    const { setup } = await tags();
    await save('lettering', { gap: setup.lettering.gap + 0.5 });
    expect(await since('load-card.pdf')).toBe('Lettering changed');
    expect(await since('setup.pdf')).toBe('Lettering changed');
    expect(await since('board.svg')).toBeNull();
  });

  it('are new when they are taken again, and a change that is taken back is none', async () => {
    await take('load-card.pdf');
    expect(await since('load-card.pdf')).toBeNull();
    const { canUndo } = await tags();
    await take('setup.pdf');
    await shop.call(api.undo, { params: { id }, body: { event: canUndo!.event } });
    // What it says came before the change was taken back: it says the change.
    expect(await since('setup.pdf')).toMatch(/Lettering changed|Taken back/i);
  });

  it('of all kinds are out of date when the blank is measured again, and those of a load when the next one is on', async () => {
    await take('board.svg');
    await take('load-card.pdf');
    await shop.call(api.startLoad, { params: { id } });
    expect(await since('load-card.pdf')).toMatch(/^Load 1 filled/);
    expect(await since('board.svg')).toBeNull();
    const { blank } = await tags();
    await shop.call(api.addSample, { params: { id: blank.id }, body: { dimension: 'length', value: 60.1 } });
    expect(await since('board.svg')).toMatch(/60\.1/);
  });
});
