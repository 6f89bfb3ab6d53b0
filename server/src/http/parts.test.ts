import { api, HAVE, PARTS, readMarks, writeMarks, type BatchDocument } from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';
import { onlyNew } from './parts';

const long = (word: string): string[] => Array.from({ length: 60 }, (_, i) => `${word} ${i}`);
const whole = JSON.stringify({ id: 'b', version: 3, roster: long('PUFFIN'), setup: { notes: long('wipe') } });

describe('an answer in parts', () => {
  it('is whole for whoever has nothing, with the marks of what is worth naming', () => {
    const { body, parts } = onlyNew(whole, undefined);
    expect(JSON.parse(body)).toEqual(JSON.parse(whole));
    expect(Object.keys(readMarks(parts))).toEqual(['roster', 'setup']);
  });

  it('leaves out what is there already, and only that', () => {
    const { roster, setup } = readMarks(onlyNew(whole, undefined).parts);
    const named = (marks: Record<string, string>) => JSON.parse(onlyNew(whole, writeMarks(marks)).body) as object;
    expect(Object.keys(named({ roster: roster! }))).toEqual(['id', 'version', 'setup']);
    expect(Object.keys(named({ roster: roster!, setup: setup! }))).toEqual(['id', 'version']);
    // A mark of another value, or of another part, leaves nothing out.
    expect(Object.keys(named({ roster: setup!, version: '3' }))).toEqual(['id', 'version', 'roster', 'setup']);
  });

  it.each(['', 'roster', 'roster=', '=x', 'a=b=c', 'roster=../..', `${'x'.repeat(50)}=1`])(
    'understands nothing in “%s”, and sends all',
    (have) => {
      expect(JSON.parse(onlyNew(whole, have).body)).toEqual(JSON.parse(whole));
    },
  );
});

withDatabase('a batch in parts', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await startShop('parts');
  });
  afterAll(() => shop.stop());

  it('a tick on a batch of names is answered by its ticks', async () => {
    const { id, version } = await shop.batch('Lane medals');
    const rows = Array.from({ length: 36 }, (_, i) => ({ name: `CREW ${i} ${'of the second boat '.repeat(8)}` }));
    await shop.call(api.saveRoster, { params: { id }, body: { columns: ['name'], rows, version } as never });
    const first = await shop.send(api.getBatch, { params: { id } });
    const all = await first.text();
    const ticked = await shop.send(api.tick, {
      params: { id, step: 'place.home' },
      body: { done: true },
      headers: { [HAVE]: first.headers.get(PARTS)! },
    });
    const text = await ticked.text();
    const answer = JSON.parse(text) as Partial<BatchDocument>;
    expect(answer.ticks!.map((t) => t.step)).toEqual(['place.home']);
    expect([answer.roster, answer.setup, answer.blank]).toEqual([undefined, undefined, undefined]);
    expect(text.length).toBeLessThan(all.length / 10);
    // Put together it is what whoever has nothing is sent.
    const together = { ...(JSON.parse(all) as object), ...answer };
    expect(together).toEqual(await shop.call(api.getBatch, { params: { id } }));
    expect(Object.keys(readMarks(ticked.headers.get(PARTS)))).toEqual(
      expect.arrayContaining(['roster', 'setup', 'blank', 'machine']),
    );
  });
});
