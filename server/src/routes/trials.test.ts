import { sql } from 'kysely';
import sharp from 'sharp';
import { api, trialFilePath, type TrialDocument, type TrialSpec } from '@bistre/contract';
import { cellCount, judgeFamily, lookAtOf, readGcode } from '../testing/trial';
import { startShop, withDatabase, type TestShop } from '../testing/shop';

const NOBODY = '00000000-0000-4000-8000-000000000000';

withDatabase('a trial', () => {
  let shop: TestShop;
  let machineId: string;
  beforeAll(async () => {
    shop = await startShop('trial_routes');
    machineId = (await shop.call(api.listMachines)).find((m) => m.name === 'Bench A')!.id;
  });
  afterAll(() => shop.stop());

  const spec = (part: Partial<TrialSpec> = {}): TrialSpec => ({
    material: 'driftwood board',
    effect: 'mark',
    base: { power: 0.4, speed: 180, interval: 0.1, passes: 1 },
    label: { power: 0.3, speed: 100, interval: 0.1, passes: 1 },
    columns: { number: 'speed', levels: [60, 98, 159, 258, 420] },
    rows: { number: 'power', levels: [0.2, 0.29, 0.425, 0.62, 0.9] },
    cell: { width: 6, height: 6 },
    gap: 1.5,
    piece: { name: 'Driftwood 4', width: 120, height: 110 },
    onPiece: { x: 0, y: 0 },
    onBed: { x: 60, y: 60 },
    ...part,
  });
  const plan = async (name: string, part: Partial<TrialSpec> = {}, follows: string | null = null): Promise<string> =>
    (await shop.call(api.createTrial, { body: { name, machineId, spec: spec(part), follows } })).id;
  const trial = async (id: string): Promise<TrialDocument> =>
    (await shop.call(api.listTrials)).find((t) => t.id === id)!;
  const refusal = async (
    sent: Promise<Response>,
  ): Promise<{ status: number; message: string; field?: string; code: string }> => {
    const response = await sent;
    return {
      status: response.status,
      ...((await response.json()) as { message: string; field?: string; code: string }),
    };
  };

  it('is planned on a machine’s own numbers, and refused by its field where they are not', async () => {
    const id = await plan('Driftwood 1');
    expect(await trial(id)).toMatchObject({ name: 'Driftwood 1', burned: null, scores: [], proves: [], by: 'Imre' });
    const bad = (part: Partial<TrialSpec>) => refusal(shop.send(api.createTrial, { body: { name: 'X', machineId, spec: spec(part), follows: null } })); // prettier-ignore
    expect(await bad({ rows: { number: 'power', levels: [0.4, 1.1] } })).toMatchObject({ status: 422, field: 'spec.rows.levels.1', message: expect.stringMatching(/110 % is outside/) as string }); // prettier-ignore
    expect(await bad({ piece: { name: 'Chip', width: 40, height: 40 } })).toMatchObject({ status: 422, field: 'spec.piece.width', message: expect.stringMatching(/Chip has 40\.0 × 40\.0/) as string }); // prettier-ignore
    expect(await bad({ onPiece: { x: 100, y: 0 } })).toMatchObject({ status: 422, field: 'spec.onPiece.x', message: expect.stringMatching(/would leave Driftwood 4/) as string }); // prettier-ignore
    expect(await bad({ onBed: { x: 880, y: 60 } })).toMatchObject({ status: 422, field: 'spec.onBed.x', message: expect.stringMatching(/would leave the bed of Bench A/) as string }); // prettier-ignore
    expect((await refusal(shop.send(api.createTrial, { body: { name: 'Driftwood 1', machineId, spec: spec(), follows: null } }))).code).toBe('taken'); // prettier-ignore
  });

  it('has its files by themselves: what burns, what walks, what is drawn', async () => {
    const [{ id }] = (await shop.call(api.listTrials)) as [TrialDocument];
    const get = (file: Parameters<typeof trialFilePath>[1]) => fetch(shop.base + trialFilePath(id, file));
    const burns = readGcode(await (await get('trial.gcode')).text(), 1000);
    const walks = readGcode(await (await get('walk.gcode')).text(), 1000);
    if (!burns.ok || !walks.ok) throw new Error('not read');
    expect(burns.value.ignored).toEqual([]);
    expect([...walks.value.moves.power.subarray(0, walks.value.moves.count)].some((p) => p > 0)).toBe(false);
    expect(await (await get('trial.svg')).text()).toMatch(/<g id="speed 60 mm\/s, power 20 %"/);
    expect((await fetch(`${shop.base}/api/trials/${id}/files/else.txt`)).status).toBe(404);
    expect((await fetch(`${shop.base}${trialFilePath(NOBODY, 'trial.gcode')}`)).status).toBe(404);
    expect((await fetch(`${shop.base}${trialFilePath('x', 'trial.gcode')}`)).status).toBe(404);
  });

  it('gives out nothing that moves the machine while a batch left the bed’s axis in a drive’s steps', async () => {
    const [{ id }] = (await shop.call(api.listTrials)) as [TrialDocument];
    const get = (file: Parameters<typeof trialFilePath>[1]) => fetch(shop.base + trialFilePath(id, file));
    const { id: batchId, name } = await shop.batch('Boat tags');
    const { rows } = await sql<{ id: string }>`
      insert into putbacks (batch_id, machine_id, setting, was, now) values (${batchId}, ${machineId}, 'y axis, steps/mm', '80', '40') returning id`.execute(shop.db); // prettier-ignore
    const why = (await trial(id)).heldBack;
    expect(why).toMatch(new RegExp(`^${name} left y axis, steps/mm at 40 on Bench A: .*0\\.5.* times as long in y.*Put it back to 80`)); // prettier-ignore
    for (const file of ['trial.gcode', 'walk.gcode'] as const) expect(await refusal(get(file))).toMatchObject({ status: 422, message: why }); // prettier-ignore
    expect(await refusal(shop.send(api.simulateTrial, { params: { id } }))).toMatchObject({
      status: 422,
      message: why,
    });
    expect((await get('trial.svg')).status).toBe(200);
    await sql`update putbacks set restored_at = now() where id = ${rows[0]!.id}`.execute(shop.db);
    expect((await trial(id)).heldBack).toBeNull();
    expect((await get('trial.gcode')).status).toBe(200);
  });

  it('is burned once on the simulated bench, which shows it as a picture, and stays as it was planned then', async () => {
    const id = await plan('Driftwood 2');
    const early = await refusal(shop.send(api.scoreCell, { params: { id }, body: { cell: 0, grade: 5, tell: 'right' } })); // prettier-ignore
    expect([early.status, early.code]).toEqual([409, 'not-burned']);
    const burned = await shop.call(api.simulateTrial, { params: { id } });
    expect(burned.burned).toMatchObject({ by: 'Imre', simulated: true });
    const picture = Buffer.from(await (await fetch(`${shop.base}/api/photographs/${burned.photo!.id}`)).arrayBuffer());
    expect((await sharp(picture).stats()).entropy).toBeGreaterThan(2);
    expect((await refusal(shop.send(api.simulateTrial, { params: { id } }))).status).toBe(409);
    const change = await refusal(shop.send(api.saveTrial, { params: { id }, body: { name: 'Other', spec: spec(), version: burned.version } })); // prettier-ignore
    expect([change.status, change.code]).toEqual([409, 'burned']);
  });

  it('is changed while it is only planned', async () => {
    const id = await plan('Driftwood 3', { piece: { name: 'Driftwood 9', width: 120, height: 110 } });
    const saved = await shop.call(api.saveTrial, { params: { id }, body: { name: 'Driftwood 3', spec: spec({ gap: 2, piece: { name: 'Driftwood 9', width: 120, height: 110 } }), version: 1 } }); // prettier-ignore
    expect([saved.spec.gap, saved.version]).toEqual([2, 2]);
  });

  it('does not lie on an older one of the same piece: where there is room is said', async () => {
    const again = await refusal(shop.send(api.createTrial, { body: { name: 'Over it', machineId, spec: spec(), follows: null } })); // prettier-ignore
    expect(again).toMatchObject({ status: 422, code: 'burned-already', message: expect.stringMatching(/There Driftwood 2 was burned on Driftwood 4 already\. It has a free place at 48\.7, 0\.0 mm/) as string }); // prettier-ignore
    expect(await plan('Beside it', { onPiece: { x: 60, y: 0 } })).toMatch(/-/);
  });

  it('is scored by two people: both stand, one’s own is replaced, and both ways go back', async () => {
    const { id } = (await shop.call(api.listTrials)).find((t) => t.name === 'Driftwood 2')!;
    const say = (cell: number, grade: number, by: string) => shop.call(api.scoreCell, { params: { id }, body: { cell, grade, tell: 'right' }, by }); // prettier-ignore
    await say(3, 6, 'Imre');
    await say(3, 9, 'Odile');
    const now = await say(3, 8, 'Imre');
    expect(now.scores.map((s) => [s.by, s.grade]).sort()).toEqual([['Imre', 8], ['Odile', 9]]); // prettier-ignore
    const { change } = await shop.call(api.shelfUndoable, { params: { id } });
    await shop.call(api.undoShelf, { params: { id }, body: { event: change!.event }, by: 'Imre' });
    expect((await trial(id)).scores.map((s) => [s.by, s.grade]).sort()).toEqual([['Imre', 6], ['Odile', 9]]); // prettier-ignore
    const odile = (await trial(id)).scores.find((s) => s.by === 'Odile')!;
    expect((await shop.call(api.dropScore, { params: { id, score: odile.id } })).scores).toHaveLength(1);
    expect((await shop.send(api.dropScore, { params: { id, score: odile.id } })).status).toBe(404);
    const none = await refusal(shop.send(api.scoreCell, { params: { id }, body: { cell: 25, grade: 5, tell: 'right' } })); // prettier-ignore
    expect([none.status, none.field, none.message]).toEqual([422, 'cell', 'Driftwood 2 has 25 cells, from 1 to 25.']);
  });

  it('from an unknown material to a proved recipe in at most two grids', async () => {
    const on = { material: 'heartwood of a thwart', piece: { name: 'Thwart 1', width: 130, height: 120 } };
    let id = await plan('Thwart 1', on);
    const all: TrialDocument[] = [];
    for (let grid = 1; ; grid += 1) {
      await shop.call(api.simulateTrial, { params: { id } });
      for (const score of await lookAtOf(shop, id)) await shop.call(api.scoreCell, { params: { id }, body: score });
      const last = await trial(id);
      all.unshift(last);
      expect(last.scores).toHaveLength(cellCount(last.spec));
      const machine = (await shop.call(api.listMachines)).find((m) => m.id === machineId)!.profile;
      const { best, tried, next } = judgeFamily(all, machine)!;
      if (grid === 1 && 'a' in next) {
        id = await plan('Thwart 2', { ...on, columns: { number: 'speed', levels: [...next.a] }, rows: { number: 'power', levels: [...next.b] }, onPiece: { x: 60, y: 0 } }, id); // prettier-ignore
        continue;
      }
      expect(best.mean).toBeGreaterThan(7);
      const at = tried[best.index]!;
      const made = await shop.call(api.proveRecipe, { params: { id: at.trial }, body: { cell: at.cell, recipeId: null, name: 'Thwart, dark' } }); // prettier-ignore
      const recipe = (await shop.call(api.listRecipes)).find((r) => r.id === made.id)!;
      expect(recipe).toMatchObject({
        machineId,
        spec: { material: on.material, engrave: { speed: at.a, power: at.b } },
      });
      expect(recipe.proof).toMatchObject({ trialId: at.trial, cell: at.cell, by: 'Imre', stale: null });
      expect(recipe.proof!.grade).toBeCloseTo(best.mean, 1);
      expect((await trial(at.trial)).proves).toEqual([{ id: made.id, name: 'Thwart, dark', cell: at.cell }]);
      return;
    }
  });

  it('is offered the spoiled pieces of the shop, counted by their blank', async () => {
    const rows = await shop.call(api.listSpoiled);
    const { rows: scrapped } = await sql<{ n: number }>`select count(*)::int as n from pieces p
      join batches t on t.id = p.batch_id join blanks b on b.id = t.blank_id
      where p.state = 'scrap' and b.spec -> 'shape' ->> 'kind' <> 'round'`.execute(shop.db);
    expect(rows.reduce((n, r) => n + r.count, 0)).toBe(scrapped[0]!.n);
    expect(rows.length).toBeGreaterThan(0);
    for (const r of rows) expect([r.width > 5, r.materials.length > 0]).toEqual([true, true]);
  });

  it('proves nothing that nobody looked at, and no recipe of another machine', async () => {
    const { id } = (await shop.call(api.listTrials)).find((t) => t.name === 'Driftwood 2')!;
    const prove = (body: object) => refusal(shop.send(api.proveRecipe, { params: { id }, body }));
    expect(await prove({ cell: 20, recipeId: null, name: 'X' })).toMatchObject({ status: 422, code: 'not-scored' });
    const other = (await shop.call(api.listRecipes)).find((r) => r.machineId !== machineId)!;
    expect(await prove({ cell: 3, recipeId: other.id, name: '' })).toMatchObject({
      status: 422,
      code: 'other-machine',
    });
    expect(await prove({ cell: 3, recipeId: null, name: '' })).toMatchObject({ status: 422, field: 'name' });
  });

  it('keeps with a proof what was done to see whether it holds, and takes none of what comes off', async () => {
    const { id } = (await shop.call(api.listTrials)).find((t) => t.name === 'Driftwood 2')!;
    const rub = { kind: 'rub', times: 20, with: 'a cloth', holds: true } as const;
    const off = await refusal(shop.send(api.proveRecipe, { params: { id }, body: { cell: 3, recipeId: null, name: 'Rubbed', tests: [{ ...rub, holds: false }] } })); // prettier-ignore
    expect(off).toMatchObject({ status: 422, field: 'tests', message: 'Cell 4 was rubbed 20 times with a cloth: comes off. What comes off proves nothing.' }); // prettier-ignore
    const none = await refusal(shop.send(api.proveRecipe, { params: { id }, body: { cell: 3, recipeId: null, name: 'Rubbed', tests: [{ ...rub, times: 0 }] } })); // prettier-ignore
    expect(none).toMatchObject({ status: 400, field: 'tests.0.times' });
    const made = await shop.call(api.proveRecipe, { params: { id }, body: { cell: 3, recipeId: null, name: 'Rubbed', tests: [rub] } }); // prettier-ignore
    expect((await shop.call(api.listRecipes)).find((r) => r.id === made.id)!.proof).toMatchObject({ effect: 'mark', tests: [rub] }); // prettier-ignore
  });

  it('of a program proves all of it: what followed in its cells follows in the recipe, or the proof is none', async () => {
    const polish = { power: 0.3, speed: 300, interval: 0.1, passes: 1, angle: Math.PI / 2 };
    const id = await plan('Driftwood, polished', { after: [polish], piece: { name: 'Driftwood 9', width: 120, height: 110 } }); // prettier-ignore
    const text = await (await fetch(shop.base + trialFilePath(id, 'trial.gcode'))).text();
    const read = readGcode(text, 1000);
    if (!read.ok) throw new Error(read.problem.message);
    const { moves } = read.value;
    const upright = Array.from({ length: moves.count }, (_, i) => i).filter((i) => i > 0 && moves.power[i]! === 0.3 && moves.speed[i] === 300 && Math.abs(moves.x[i]! - moves.x[i - 1]!) < 1e-6); // prettier-ignore
    // 6 mm of lines a tenth apart, in each of 25 cells.
    expect(upright.length / 25).toBeCloseTo(60, -1);
    await shop.call(api.simulateTrial, { params: { id } });
    await shop.call(api.scoreCell, { params: { id }, body: { cell: 7, grade: 8, tell: 'right' } });
    const made = await shop.call(api.proveRecipe, { params: { id }, body: { cell: 7, recipeId: null, name: 'Driftwood, polished' } }); // prettier-ignore
    const recipe = async () => (await shop.call(api.listRecipes)).find((r) => r.id === made.id)!;
    const now = await recipe();
    expect([now.spec.after, now.proof!.after, now.proof!.stale]).toEqual([[polish], [polish], null]);
    const save = async (after: object[]) => {
      const { name, version, spec: was } = await recipe();
      await shop.call(api.saveRecipe, { params: { id: made.id }, body: { name, version, spec: { ...was, after: after as never } } }); // prettier-ignore
      return (await recipe()).proof!.stale;
    };
    expect(await save([])).toBe('the burns that follow it were changed since');
    expect(await save([{ ...polish, speed: 299 }])).toBe('the burns that follow it were changed since');
    expect(await save([{ ...polish, focus: null, air: null }])).toBeNull();
    const none = await refusal(shop.send(api.createTrial, { body: { name: 'Two', machineId, spec: spec({ after: [{ ...polish, source: 'second' }], piece: { name: 'Driftwood 10', width: 120, height: 110 } }), follows: null } })); // prettier-ignore
    expect(none).toMatchObject({ status: 422, field: 'spec.base.source', message: expect.stringMatching(/^Bench A has one source/) as string }); // prettier-ignore
  });

  it('stops proving when its numbers are changed or the lens is, says so in its batches, and comes back by undo', async () => {
    const batch = await shop.batch('Boat tags');
    const { recipe } = batch;
    expect(recipe!.proof).toMatchObject({ trialName: 'Trial 14', stale: null });
    const { id, name, spec: was, version } = recipe!;
    const changed = await shop.call(api.saveRecipe, { params: { id }, body: { name, version, spec: { ...was, engrave: { ...was.engrave, speed: was.engrave.speed + 10 } } } }); // prettier-ignore
    expect(changed.proof!.stale).toBe('its speed was changed since');
    expect((await shop.batch('Boat tags')).recipe!.proof!.stale).toBe('its speed was changed since');
    const { change } = await shop.call(api.shelfUndoable, { params: { id } });
    await shop.call(api.undoShelf, { params: { id }, body: { event: change!.event }, by: 'Imre' });
    expect((await shop.batch('Boat tags')).recipe!.proof!.stale).toBeNull();
    // A rule of the shop: here nothing is held for proved longer than a day.
    const rule = async (proofDays: number | null): Promise<void> => {
      const { id: of, name: called, version: at, profile } = (await shop.call(api.listMachines)).find((m) => m.id === machineId)!; // prettier-ignore
      await shop.call(api.saveMachine, { params: { id: of }, body: { name: called, version: at, profile: { ...profile, proofDays } } }); // prettier-ignore
    };
    await rule(1);
    expect((await shop.batch('Boat tags')).recipe!.proof!.stale).toMatch(
      /^it is \d+ days old; here a proof holds for 1$/,
    );
    await rule(null);
    expect((await shop.batch('Boat tags')).recipe!.proof!.stale).toBeNull();
    await shop.call(api.addMachineChange, { params: { id: batch.machine.id }, body: { what: 'belts', note: '', at: '2026-11-27T08:00:00.000Z' } }); // prettier-ignore
    expect((await shop.batch('Boat tags')).recipe!.proof!.stale).toBeNull();
    await shop.call(api.addMachineChange, { params: { id: batch.machine.id }, body: { what: 'lens', note: '', at: '2026-11-28T08:00:00.000Z' } }); // prettier-ignore
    expect((await shop.batch('Boat tags')).recipe!.proof!.stale).toBe('the lens was changed on 2026-11-28');
  });

  it('that proves a recipe is not put away; one that proves none is', async () => {
    const proves = (await shop.call(api.listTrials)).find((t) => t.proves.length > 0)!;
    const kept = await refusal(shop.send(api.setAway, { params: { kind: 'trials', id: proves.id }, body: { away: true } })); // prettier-ignore
    expect([kept.status, kept.message]).toEqual([409, expect.stringMatching(new RegExp(`^${proves.name} is used by recipe ${proves.proves[0]!.name}`))]); // prettier-ignore
    const spare = (await shop.call(api.listTrials)).find((t) => t.name === 'Beside it')!;
    await shop.call(api.setAway, { params: { kind: 'trials', id: spare.id }, body: { away: true } });
    expect((await shop.call(api.listTrials)).map((t) => t.id)).not.toContain(spare.id);
  });
});
