import fc from 'fast-check';
import { api } from '@bistre/contract';
import { fire, shots, type Hit, type Shot } from '../testing/fuzz';
import { startProcess, type Running } from '../testing/process';
import { freshDatabase, withDatabase } from '../testing/shop';

/** How many requests; `npm run test:long` sends twenty times as many. */
const COUNT = Number(process.env.BISTRE_FUZZ ?? 500);
/** Requests under way at once. */
const AT_ONCE = 2;
const LONGEST_MS = 2_000;
/** What the process may hold more after the second half than after the first, bytes. */
const GROWTH = 120e6;

withDatabase('every call, whatever is sent', () => {
  let server: Running;
  let ids: string[];
  beforeAll(async () => {
    server = await startProcess(await freshDatabase('fuzz'));
    const list = async (path: string): Promise<{ id: string }[]> =>
      (await (await fetch(server.base + path)).json()) as { id: string }[];
    ids = (
      await Promise.all(
        [api.listBatches, api.listBlanks, api.listMachines, api.listRecipes, api.listDrives].map((e) => list(e.path)),
      )
    ).flatMap((rows) => rows.map((r) => r.id));
    // Threads that have just started are slower once: a shop's are warm.
    await Promise.all([0, 1].map(() => fetch(`${server.base}/api/batches/${ids[0]}/files/setup.pdf`)));
  });
  afterAll(() => server.stop());

  it(`${COUNT} requests: no bug, none that takes long, no memory that grows`, async () => {
    const seed = Number(process.env.BISTRE_SEED ?? 20_261_128);
    const all = fc.sample(shots(ids), { numRuns: COUNT, seed });
    const bad: { shot: Shot; hit: Hit }[] = [];
    const late: Shot[] = [];
    const held: (number | null)[] = [];
    const counts = new Map<string, number>();
    let next = 0;
    const gunner = async (): Promise<void> => {
      while (next < all.length) {
        const shot = all[next]!;
        next += 1;
        const hit = await fire(server, shot);
        const kind = `${Math.floor(hit.status / 100)}xx`;
        counts.set(kind, (counts.get(kind) ?? 0) + 1);
        if (hit.ms > LONGEST_MS) late.push(shot);
        if (hit.status >= 500) bad.push({ shot, hit });
        else if (hit.status >= 400 && !/"message":"(\\.|[^"\\]){12,}/.test(hit.text)) bad.push({ shot, hit });
        if (next % Math.floor(COUNT / 2) === 0) held.push(server.memory());
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, gunner));
    held.push(server.memory());
    // Other tests keep both cores busy meanwhile: a call that takes long does so by itself too.
    for (const shot of late) {
      const hit = await fire(server, shot);
      if (hit.ms > LONGEST_MS) bad.push({ shot, hit });
    }
    expect(server.bugs).toEqual([]);
    expect(
      bad.map(
        ({ shot, hit }) =>
          `${shot.name} ${shot.path.slice(0, 200)} ${JSON.stringify(shot.headers)} ${shot.body?.slice(0, 300)} → ${hit.status} in ${hit.ms.toFixed(0)} ms: ${hit.text}`,
      ),
    ).toEqual([]);

    // A good share of them must get past the door: what is refused at once proves little.
    expect(counts.get('2xx') ?? 0).toBeGreaterThan(COUNT / 10);
    const [half, end] = [held[0] ?? null, held.at(-1) ?? null];
    if (half !== null && end !== null) expect(end - half).toBeLessThan(GROWTH);
    expect((await fetch(`${server.base}/api/health`)).status).toBe(200);
  }, 1_800_000);
});
