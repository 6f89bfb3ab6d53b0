import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { healthy, postgresOf, scratch, serverOf, Start, started } from './testing/start';

/** Kills of each kind; the job goes on all the while. */
const KILLS = Number(process.env.BISTRE_KILLS ?? 30);

/** What the job was told is kept: samples of a blank, in the order in which they were acknowledged. */
interface Told {
  readonly acknowledged: number[];
  sent: number;
}

interface Blank {
  readonly id: string;
  readonly samples: { readonly value: number }[];
}

/** Sends samples of ever other values, each until it is answered, as the pages do: again under the same key. */
const job = async (address: string, id: string, told: Told, going: () => boolean): Promise<void> => {
  while (going()) {
    told.sent += 1;
    const value = Number((10 + told.sent / 1_000).toFixed(3));
    const key = `sample-${told.sent}`;
    for (let answered = false; !answered;) {
      const response = await fetch(`${address}/api/blanks/${id}/samples`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': key },
        body: JSON.stringify({ dimension: ['length', 'width', 'thickness'][told.sent % 3], value }),
        signal: AbortSignal.timeout(15_000),
      }).catch(() => null);
      answered = response?.status === 200;
      // 422 after 500 readings of one dimension is an answer too.
      if (response?.status === 422) return;
      if (!answered) await new Promise((done) => setTimeout(done, 100));
    }
    told.acknowledged.push(value);
    await new Promise((done) => setTimeout(done, 300));
  }
};

describe(`${KILLS} kills of the server and ${KILLS} of PostgreSQL during a job`, () => {
  const data = join(scratch(), 'data');
  afterAll(() => {
    for (const child of started) if (child.exitCode === null) child.kill('SIGKILL');
    rmSync(join(data, '..'), { recursive: true, force: true });
  });

  it('lose nothing that was acknowledged, write nothing twice, and leave it running at one address', async () => {
    const start = new Start(data, [], { BISTRE_LONGEST_PAUSE: '1500' });
    const address = await start.ready();
    const blanks = async (): Promise<Blank[]> => (await (await fetch(`${address}/api/blanks`)).json()) as Blank[];
    const { id } = (await blanks()).find((b) => b.samples.length === 0)!;
    const told: Told = { acknowledged: [], sent: 0 };
    let going = true;
    const working = job(address, id, told, () => going);
    for (let i = 0; i < 2 * KILLS; i += 1) {
      await healthy(address);
      const before = told.acknowledged.length;
      for (let k = 0; k < 400 && told.acknowledged.length < before + 3; k += 1)
        await new Promise((done) => setTimeout(done, 25));
      process.kill(i % 2 === 0 ? serverOf(start) : postgresOf(data), 'SIGKILL');
      await new Promise((done) => setTimeout(done, 300));
    }
    await healthy(address);
    going = false;
    await working;
    const kept = (await blanks()).find((b) => b.id === id)!.samples.map((s) => s.value);
    expect(told.acknowledged.length).toBeGreaterThan(2 * KILLS);
    expect([...kept].sort((a, b) => a - b)).toEqual(told.acknowledged);
    await start.stop();
  }, 3_600_000);
});
