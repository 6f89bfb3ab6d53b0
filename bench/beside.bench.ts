import sharp from 'sharp';
import { SHORT, table, type Row } from './table';

/** How quick the server stays for others beside the heaviest request of each kind. Reference: the same calls with nobody else. */
const base = process.env.BISTRE_URL!;
const LIMITS = { health: 100, batch: 400 } as const;
/** Each kind is kept going for so long, with two of it at once, ms. */
const LASTING = SHORT ? 100 : 4_000;

const json = async (method: string, path: string, body?: unknown): Promise<Response> =>
  fetch(base + path, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
const read = async <T>(path: string): Promise<T> => (await (await fetch(base + path)).json()) as T;
const drained = async (response: Response | Promise<Response>): Promise<void> => {
  await (await response).arrayBuffer();
};

interface Batch {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly machineId: string;
}
const batches = await read<Batch[]>('/api/batches');
const named = (name: string): Batch => batches.find((b) => b.name.startsWith(name))!;
const { id: ordinary } = named('Boat tags');
const { id: large, version } = named('Lane medals');
const rows = Array.from({ length: 20_000 }, (_, i) => ({ name: `CREW ${i}`, lane: String(i % 6) }));
await json('PUT', `/api/batches/${large}`, {
  name: 'Lane medals',
  customer: '',
  quantity: 20_000,
  spares: 0,
  tolerance: 0.6,
  dueAt: null,
  version,
});
const roster = async (): Promise<void> => {
  const { version: now } = await read<{ version: number }>(`/api/batches/${large}`);
  await drained(json('PUT', `/api/batches/${large}/roster`, { columns: ['name', 'lane'], rows, version: now }));
};
await roster();
const machine = (
  await read<{ id: string; name: string; version: number; profile: { kerf: number } }[]>('/api/machines')
)[0]!;
const touchMachine = async (): Promise<void> => {
  const now = (await read<(typeof machine)[]>('/api/machines')).find((m) => m.id === machine.id)!;
  await drained(
    json('PUT', `/api/machines/${machine.id}`, { name: now.name, profile: now.profile, version: now.version }),
  );
  await drained(fetch(`${base}/api/batches`));
};
const noise = Buffer.from(Uint8Array.from({ length: 6_000 * 4_000 }, (_, i) => (i * 2_654_435_761) >>> 24));
const picture = await sharp(noise, { raw: { width: 6_000, height: 4_000, channels: 1 } })
  .png({ compressionLevel: 1 })
  .toBuffer();
let shot = 0;
const outline = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path d="M0 0${'c9 0 0 9 1 1'.repeat(380_000)}"/></svg>`;
const file = (batch: string, name: string) => (): Promise<void> =>
  drained(fetch(`${base}/api/batches/${batch}/files/${name}`));

const kinds: readonly (readonly [string, () => Promise<void>])[] = [
  ['nobody else', () => new Promise((done) => setTimeout(done, 500))],
  ['setup sheet of 20,000 names', file(large, 'setup.pdf')],
  ['customer’s proof of 20,000 names', file(large, 'proof.pdf')],
  ['list of 20,000 names as CSV', file(large, 'roster.csv')],
  ['drawing of a load', file(ordinary, 'load.svg')],
  ['picture of a load', file(ordinary, 'load.png')],
  ['board as G-code', file(ordinary, 'board.gcode')],
  ['the Board, all reckoned anew', touchMachine],
  ['a load filled from 20,000', () => drained(json('POST', `/api/batches/${large}/loads`))],
  ['a batch of 20,000 names read', () => drained(fetch(`${base}/api/batches/${large}`))],
  ['20,000 names brought in', roster],
  ['an outline of 5 MB', () => drained(json('POST', '/api/outlines', { name: 'a.svg', text: outline }))],
  [
    'a picture of 24 million dots taken in',
    async () => {
      // Another file each time, so that it is not known already.
      shot += 1;
      await drained(
        fetch(`${base}/api/pictures?name=p${shot}`, {
          method: 'POST',
          headers: { 'content-type': 'image/png' },
          body: Buffer.concat([picture, Buffer.from(String(shot))]),
        }),
      );
    },
  ],
  ['a photograph by the simulated camera', () => drained(fetch(`${base}/api/batches/${named('Gulls').id}/photo.png`))],
  [
    'a ring on the simulated drive',
    () => drained(json('POST', `/api/batches/${named('Umpire').id}/cup/burn`, { what: 'ring' })),
  ],
];

const percentile = (times: readonly number[], share: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.ceil(share * times.length) - 1)]!;

/** Times of a call that is made again and again, with pauses, while something goes on. */
const pulse = async (path: string, pause: number, going: () => boolean): Promise<number[]> => {
  const times: number[] = [];
  while (going()) {
    const start = performance.now();
    const response = await fetch(base + path);
    if (!response.ok) throw new Error(`${path}: ${response.status}`);
    await response.arrayBuffer();
    times.push(performance.now() - start);
    await new Promise((done) => setTimeout(done, pause));
  }
  return times;
};

const out: Row[] = [];
for (const [what, job] of kinds) {
  if (!SHORT) await job();
  const start = performance.now();
  let going = true;
  let count = 0;
  let longest = 0;
  const load = Promise.all(
    [0, 1].map(async () => {
      while (performance.now() - start < LASTING) {
        const begun = performance.now();
        await job();
        count += 1;
        longest = Math.max(longest, performance.now() - begun);
      }
    }),
  ).finally(() => (going = false));
  const [health, batch] = await Promise.all([
    pulse('/api/health', 10, () => going),
    pulse(`/api/batches/${ordinary}`, 40, () => going),
    load,
  ]);
  const [h, b] = [percentile(health, 0.99), percentile(batch, 0.99)];
  out.push({
    what: `beside ${what}`,
    measured: `health ${h.toFixed(0)} ms, a batch ${b.toFixed(0)} ms`,
    against: `99 of 100 within ${LIMITS.health} and ${LIMITS.batch} ms; ${health.length} and ${batch.length} calls, ${count} of the heavy ones, the longest ${longest.toFixed(0)} ms`,
    good: h < LIMITS.health && b < LIMITS.batch,
  });
}
table(out);
