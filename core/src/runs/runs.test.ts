import { capability } from './capability';
import { decodeRoster, readRoster, safeCell } from './roster';
import { nextLoad, plannedLoads, plannedSheets, runSummary, type Piece, type RunState } from './loads';

const read = (text: string) => {
  const r = readRoster(text);
  if (!r.ok) throw new Error(r.problem.message);
  return r.value;
};

describe('roster', () => {
  it('reads quotes, semicolons, tabs and a byte-order mark', () => {
    expect(read('\uFEFFname;lane\n"O""NEILL; A";1\n').rows).toEqual([{ name: 'O"NEILL; A', lane: '1' }]);
    expect(read('name\tlane\nKESTREL\t1').rows[0]).toEqual({ name: 'KESTREL', lane: '1' });
    expect(read('name,lane\r\n"A\r\nB",2').rows[0]!.name).toBe('A\r\nB');
  });
  it('takes a list without headings', () =>
    expect(read('KESTREL,LANE 1\nKNOT,LANE 2').columns).toEqual(['column 1', 'column 2']));
  it('reads Windows-1252 when it is not UTF-8', () => {
    expect(decodeRoster(new Uint8Array([0x5a, 0x4f, 0xcb]))).toEqual({ text: 'ZOË', encoding: 'Windows-1252' });
    expect(decodeRoster(new TextEncoder().encode('ZOË')).encoding).toBe('UTF-8');
    // As spreadsheets save “Unicode text”: two bytes a letter, either half first, with and without a byte-order mark.
    const text = 'name\tlane\nZOË\t3\n';
    for (const order of ['le', 'be'] as const)
      for (const marked of [true, false]) {
        const bytes = Buffer.from((marked ? '\uFEFF' : '') + text, 'utf16le');
        if (order === 'be') bytes.swap16();
        expect(decodeRoster(new Uint8Array(bytes))).toEqual({ text, encoding: 'UTF-16' });
      }
    expect(decodeRoster(new Uint8Array())).toEqual({ text: '', encoding: 'UTF-8' });
  });
  it.each([
    ['name,lane\n"KESTREL,1', 'broken-quotes', 'Row'],
    ['', 'empty', 'empty'],
    ['name\n', 'empty', 'no rows'],
    ['name,lane\nA,1,2', 'too-many-cells', 'Row 2: 3 cells'],
    ['slot,name\n1,A\n1,B', 'duplicate-slot', 'Rows 2 and 3 both ask for slot 1'],
    [`name\n${'A\n'.repeat(20_001)}`, 'too-many-rows', '20001 rows'],
    [`name\n${'x'.repeat(300)}`, 'cell-too-long', 'Row 2, name'],
    ['slot,name\n0,A', 'bad-slot', 'not a slot number'],
  ])('refuses %j', (text, code, sentence) => {
    const r = readRoster(text);
    expect(!r.ok && r.problem.code).toBe(code);
    expect(!r.ok && r.problem.message).toContain(sentence);
  });
  it('takes 20,000 rows, emoji and right-to-left names as they are', () => {
    expect(read(`name\n${'A\n'.repeat(20_000)}`).rows).toHaveLength(20_000);
    expect(read('name,lane\n🚣 ANNA,1\nשלום,2').rows.map((r) => r.name)).toEqual(['🚣 ANNA', 'שלום']);
  });
  it('sorts by slot when slots are given', () =>
    expect(read('slot,name\n2,B\n1,A').rows.map((r) => r.name)).toEqual(['A', 'B']));
  it('guards spreadsheets against formulas', () =>
    expect(['=1+1', '+x', '@y', '-z', 'plain', 'a,"b'].map(safeCell)).toEqual([
      "'=1+1",
      "'+x",
      "'@y",
      "'-z",
      'plain',
      '"a,""b"',
    ]));
  it.each([
    ['numbers keep their sign', ['-2', '+3.5', '-0,75', '1e-3', '-2e+4'], ['-2', '+3.5', '"-0,75"', '1e-3', '-2e+4']],
    ['blanks before it do not help', [' =1', '\t=1', '\u00a0@x', '\t'], ["' =1", "'\t=1", "'\u00a0@x", "'\t"]],
    ['nor do full-width signs', ['＝1', '＋x', '－x', '＠y'], ["'＝1", "'＋x", "'－x", "'＠y"]],
    ['what only looks like a number is guarded', ['-2+cmd', '+', '-', '--1'], ["'-2+cmd", "'+", "'-", "'--1"]],
  ])('guards spreadsheets: %s', (_what, cells, safe) => expect(cells.map(safeCell)).toEqual(safe));
});

const piece = (ordinal: number, load: number, slot: number, state: Piece['state']): Piece => ({
  id: `${load}-${slot}`,
  ordinal,
  load,
  slot,
  state,
  cause: state === 'scrap' ? 'other' : null,
  dx: null,
  dy: null,
  yaw: null,
});
const run = (change: Partial<RunState>): RunState => ({
  quantity: 10,
  spares: 2,
  capacity: 4,
  firstApproved: true,
  pieces: [],
  ...change,
});

describe('the edges of a roster', () => {
  const cells = (n: number, text = 'A'): string => Array(n).fill(text).join(',');
  it.each([
    [`${cells(40)}\n${cells(40, 'B')}`, 40],
    [cells(41), 'The list has 41 columns; at most 40 are read.'],
    [`name\n${'x'.repeat(200)}`, 1],
    [`name\n${'x'.repeat(201)}`, 'Row 2, name: 201 characters; at most 200 are engraved.'],
    [`name\n${'x'.repeat(8_000_001)}`, 'The list is 8.0 MB; at most 8 MB are read.'],
  ])('%#', (text, expected) => {
    const r = readRoster(text);
    expect(r.ok ? r.value.columns.length : r.problem.message).toBe(expected);
  });
  it('take headings only where every cell is one and one is known, or where it is said', () => {
    const columns = (first: string) => read(`${first}\nA,B`).columns;
    expect(columns('name,boat')).toEqual(['name', 'boat']);
    expect(columns('name,')).toEqual(['column 1', 'column 2']);
    const said = (text: string, headings: boolean) => {
      const r = readRoster(text, 'text', headings);
      return r.ok ? [r.value.columns, r.value.rows.length, r.value.headings] : r.problem.code;
    };
    expect(said('boat,\nA,B', true)).toEqual([['boat', 'column 2'], 1, true]);
    expect(said('name,lane\nA,B', false)).toEqual([['column 1', 'column 2'], 2, false]);
    expect(said('name,lane', true)).toBe('empty');
    expect([read('name,lane\nA,B').headings, read('A,B').headings]).toEqual([true, false]);
    expect(columns('hull,oar')).toEqual(['column 1', 'column 2']);
    expect(read('KNOT,B\nname,lane').rows).toHaveLength(2);
  });
  it('of the same heading twice are told apart, and said', () => {
    const twice = read('name,Name,lane,name\nA,B,1,C');
    expect(twice.columns).toEqual(['name', 'Name 2', 'lane', 'name 3']);
    expect(twice.rows).toEqual([{ name: 'A', 'Name 2': 'B', lane: '1', 'name 3': 'C' }]);
    expect(twice.notes[0]).toBe('Two columns are called “Name”: the later one is “Name 2” here.');
    // A heading that is called as the second would be.
    expect(read('name,name 2,name\nA,B,C').columns).toEqual(['name', 'name 2', 'name 3']);
  });
  it('note rows that are short, five by name and the rest by number', () => {
    const short = (n: number) => read(`name,lane\n${'A\n'.repeat(n)}B,1`).notes;
    expect(short(0)).toEqual([]);
    expect(short(5)).toEqual([2, 3, 4, 5, 6].map((row) => `Row ${row} has 1 of 2 cells.`));
    expect(short(6)).toEqual([...short(5), 'and 1 more short rows.']);
    expect(short(8).at(-1)).toBe('and 3 more short rows.');
    expect(read('KNOT,B\nA').notes).toEqual(['Row 2 has 1 of 2 cells.']);
  });
  it('put rows without a slot behind those with one, in their order', () =>
    expect(read('slot,name\n,X\n10,J\n2,B\n,Y').rows.map((r) => r.name)).toEqual(['B', 'J', 'X', 'Y']));
});

describe('loads', () => {
  it('hold the rest until the first piece is approved', () => {
    expect(nextLoad(run({ firstApproved: false }))).toEqual([{ ordinal: 1, slot: 1 }]);
    expect(nextLoad(run({})).map((f) => f.ordinal)).toEqual([1, 2, 3, 4]);
  });
  it('put a scrapped name first in the next load and count the spare', () => {
    const state = run({
      pieces: [
        piece(1, 1, 1, 'done'),
        piece(2, 2, 1, 'done'),
        piece(3, 2, 2, 'scrap'),
        piece(4, 2, 3, 'done'),
        piece(5, 2, 4, 'done'),
      ],
    });
    expect(nextLoad(state).map((f) => f.ordinal)).toEqual([3, 6, 7, 8]);
    expect(runSummary(state)).toMatchObject({
      done: 4,
      scrapped: 1,
      sparesLeft: 1,
      loadsLeft: 2,
      openLoad: null,
      finished: false,
      yield: 0.8,
    });
  });
  it('go on at the same slot', () => {
    const state = run({ pieces: [piece(1, 1, 1, 'done'), piece(2, 1, 2, 'loaded'), piece(3, 1, 3, 'loaded')] });
    expect(runSummary(state)).toMatchObject({ openLoad: 1, nextSlot: 2 });
  });
  it('count what is left: the first piece alone, then full fixtures', () => {
    const left = (change: Partial<RunState>) => runSummary(run(change)).loadsLeft;
    // 10 pieces, 4 pockets: 1, then 9 in three; all approved: 10 in three.
    expect(left({ firstApproved: false })).toBe(4);
    expect(left({})).toBe(3);
    expect(left({ firstApproved: false, quantity: 9 })).toBe(3);
    expect(left({ firstApproved: false, pieces: [piece(1, 1, 1, 'loaded')] })).toBe(3);
    expect(left({ quantity: 0, firstApproved: false })).toBe(0);
    expect(left({ capacity: 0 })).toBe(0);
    expect(runSummary(run({})).yield).toBeNull();
    expect(runSummary(run({ quantity: 1, pieces: [piece(1, 1, 1, 'done')] }))).toMatchObject({ finished: true, waiting: [], openLoad: null }); // prettier-ignore
  });
  it('name the open one by the highest number, its next slot by the lowest', () =>
    expect(runSummary(run({ pieces: [piece(3, 2, 4, 'loaded'), piece(2, 2, 2, 'loaded')] }))).toMatchObject({ openLoad: 2, nextSlot: 2 })); // prettier-ignore
  it('of sheets begin full', () => {
    expect(plannedSheets(96, 48)).toEqual([48, 48]);
    expect(plannedSheets(97, 48)).toEqual([48, 48, 1]);
    expect(plannedSheets(5, 48)).toEqual([5]);
    expect(plannedSheets(5, 0)).toEqual([]);
  });
  it('end part-filled', () => {
    expect(plannedLoads(49, 48)).toEqual([1, 48]);
    expect(plannedLoads(0, 48)).toEqual([]);
    expect(plannedLoads(96, 48)).toEqual([1, 48, 47]);
    expect(plannedLoads(1, 48)).toEqual([1]);
    expect(plannedLoads(5, 0)).toEqual([]);
  });
  it('engrave each name once whatever is scrapped', () => {
    let state = run({ quantity: 23, capacity: 5, pieces: [] });
    let load = 0;
    while (!runSummary(state).finished && load < 40) {
      load += 1;
      const fill = nextLoad(state);
      state = {
        ...state,
        pieces: [
          ...state.pieces,
          ...fill.map((f) => piece(f.ordinal, load, f.slot, (f.ordinal * 7 + load) % 4 === 0 ? 'scrap' : 'done')),
        ],
      };
    }
    const good = state.pieces
      .filter((p) => p.state === 'done')
      .map((p) => p.ordinal)
      .sort((a, b) => a - b);
    expect(good).toEqual(Array.from({ length: 23 }, (_, i) => i + 1));
  });
});

describe('capability', () => {
  it('is that of the NIST/SEMATECH e-Handbook 6.1.6 example', () => {
    // USL 20, LSL 8, mean 16, s 2: Cp 1.0, Cpk 0.667 (from memory). Values with exactly that mean and s.
    const values = [14, 18, 16, 16 - Math.sqrt(8), 16 + Math.sqrt(8), 14, 18, 14, 18].slice(0, 9);
    const scale = 2 / capability(values, 8, 20)!.s;
    const c = capability(
      values.map((v) => 16 + (v - 16) * scale),
      8,
      20,
    )!;
    expect(c.s).toBeCloseTo(2, 9);
    expect(c.cp).toBeCloseTo(1, 9);
    expect(c.cpk).toBeCloseTo(0.667, 3);
  });
  it('says what it rests on: limits that are not about nought, a mean on either side', () => {
    // Mean 9, s = 1 (n = 3): Cp = 6 / 6, Cpk = min(12 − 9, 9 − 6) / 3; t(0.975, 2) = 4.303 (handbook table, from memory).
    const c = capability([8, 9, 10], 6, 12)!;
    expect([c.n, c.mean, c.s, c.cp, c.cpk, c.correction]).toEqual([3, 9, 1, 1, 1, null]);
    expect(c.working.map((w) => [w.label, w.substituted, w.result])).toEqual([
      ['capability', '(12.00 − 6.00) / (6 × 1.000)', '1.00'],
      ['mean shift', '9.000 ± 2.484', 'may be noise: leave it'],
    ]);
    const low = capability([6.9, 7, 7.1], 6, 12)!;
    expect(low.cpk).toBeCloseTo(1 / 0.3, 9);
    expect(low.correction).toBeCloseTo(2, 9);
    expect(low.working[1]!.result).toBe('correct by 2.000');
    // Noise is ± 0.248 here: a shift of 0.24 is left alone, one of 0.26 is not.
    expect(capability([9.14, 9.24, 9.34], 6, 12)!.correction).toBeNull();
    expect(capability([9.16, 9.26, 9.36], 6, 12)!.correction).toBeCloseTo(-0.26, 9);
  });
  it('does not chase noise, but corrects a shift', () => {
    expect(capability([0.1, -0.1, 0.12, -0.08, 0.02], -0.5, 0.5)!.correction).toBeNull();
    expect(capability([0.2, 0.21, 0.19, 0.2, 0.22], -0.5, 0.5)!.correction).toBeCloseTo(-0.204, 3);
    expect(capability([0.1], -1, 1)).toBeNull();
  });
});
