import { createRequire } from 'node:module';
import { answerOf, burnTrial, hiddenMaterial, seenTrial } from '../bench-sim';
import { freshMachine, fluence, type Machine } from '../burn';
import { insidePolygon, flatten } from '../geometry';
import { readGcode } from '../output';
import { testAlphabets } from '../test-alphabets';
import { coolOrder, diffusivityOf, LONGEST_WAIT } from './order';
import { cellFor, gridSize, layTrial } from './lay';
import { energyOf, freePlace, levelText, liesOn, planNotes, planProblems, settingAt, spreadLevels, type TrialPlan } from './plan'; // prettier-ignore
import { cellShape, trialJob } from './program';

const gcodeParser = createRequire(__filename)('gcode-parser') as {
  parseStringSync: (text: string) => { words: [string, number][] }[];
};
const labels = testAlphabets['readability']!;
const machine: Machine = { ...freshMachine, id: 'a', name: 'Bench A', power: 60, bed: { width: 400, height: 300 }, rapidSpeed: 500, acceleration: 5000 }; // prettier-ignore
const plan = (part: Partial<TrialPlan> = {}): TrialPlan => ({
  material: 'slate',
  effect: 'mark',
  base: { power: 0.5, speed: 200, interval: 0.1, passes: 1 },
  label: { power: 0.3, speed: 100, interval: 0.1, passes: 1 },
  columns: { number: 'speed', levels: [100, 200, 400] },
  rows: { number: 'power', levels: [0.2, 0.4, 0.8] },
  cell: { width: 6, height: 6 },
  gap: 1.5,
  piece: { name: 'Offcut 3', width: 60, height: 50 },
  onPiece: { x: 2, y: 2 },
  onBed: { x: 60, y: 40 },
  ...part,
});

describe('numbers of a grid', () => {
  // Common practice: 36 W at 250 mm/s and 300 lines to the inch; half the power, half the speed.
  it('burn with the energy that the trade reckons with', () => {
    const setting = { power: 0.6, speed: 250, interval: 25.4 / 300, passes: 1 };
    expect(energyOf(60, 'mark', setting)).toBeCloseTo(1.701, 3);
    expect(energyOf(60, 'mark', { ...setting, power: 0.3, speed: 125 })).toBeCloseTo(1.701, 3);
    expect(energyOf(60, 'mark', { ...setting, passes: 3 })).toBeCloseTo(5.102, 3);
    expect(energyOf(60, 'cut', { power: 0.5, speed: 10, interval: 0.1, passes: 2 })).toBeCloseTo(6, 9);
  });

  it('go from end to end, each as much more than the one before', () => {
    expect(spreadLevels('speed', 100, 400, 3)).toEqual([100, 200, 400]);
    expect(spreadLevels('power', 0.8, 0.2, 3)).toEqual([0.2, 0.4, 0.8]);
    expect(spreadLevels('passes', 1, 3, 5)).toEqual([1, 2, 3]);
    expect(spreadLevels('interval', 0.05, 0.2, 3)).toEqual([0.05, 0.1, 0.2]);
    expect([levelText('power', 0.455), levelText('speed', 12.5), levelText('interval', 0.0635), levelText('passes', 2)]).toEqual(['45.5', '12.5', '0.064', '2']); // prettier-ignore
  });

  it.each([
    ['what is never burned', { material: 'PVC sheet' }, /^PVC sheet is never burned\. It holds chlorine/, 'material'],
    ['percent over 100', { rows: { number: 'power' as const, levels: [0.5, 1.2] } }, /120 % is outside what Bench A takes as power: 13 % to 100 %/, 'rows.levels.1'], // prettier-ignore
    ['too weak to fire', { rows: { number: 'power' as const, levels: [0.05, 0.5] } }, /does not fire below 13 %; 5 % would leave its cells empty/, 'rows.levels.0'], // prettier-ignore
    ['the same number twice', { rows: { number: 'speed' as const, levels: [10, 20] } }, /both go through the speed/, 'rows.number'], // prettier-ignore
    ['a level twice', { columns: { number: 'speed' as const, levels: [100, 100] } }, /100 mm\/s stands twice/, 'columns.levels.1'], // prettier-ignore
    ['more than an eye scores', { columns: { number: 'speed' as const, levels: spreadLevels('speed', 50, 400, 12) }, rows: { number: 'power' as const, levels: spreadLevels('power', 0.2, 1, 9) } }, /12 × 9 cells are more than 100/, 'columns.levels'], // prettier-ignore
  ])('%s is refused by its field', (_what, part, words, field) => {
    expect(planProblems(plan(part), machine)[0]).toMatchObject({ message: expect.stringMatching(words) as string, field }); // prettier-ignore
  });

  it('finer than the spot are allowed, and it is said what that does', () => {
    expect(planNotes(plan())).toEqual([]);
    expect(planNotes(plan({ columns: { number: 'interval', levels: [0.025, 0.1] } }))[0]).toMatch(/0\.025 mm apart .* burned 4\.0 times/); // prettier-ignore
    expect(planNotes(plan({ effect: 'cut', base: { ...plan().base, interval: 0.01 } }))).toEqual([]);
  });
});

describe('a grid on its piece', () => {
  it('has the largest cells that it has room for, and none where it has none', () => {
    const side = cellFor(plan(), plan().piece, labels, { least: 4, most: 40 })!;
    const size = gridSize(plan({ cell: { width: side, height: side } }), labels);
    const next = gridSize(plan({ cell: { width: side + 0.5, height: side + 0.5 } }), labels);
    expect(size.width <= 60 && size.height <= 50).toBe(true);
    expect(next.width > 60 || next.height > 50).toBe(true);
    expect(cellFor(plan(), { width: 30, height: 22 }, labels, { least: 4, most: 8 })).toBeNull();
  });

  it('has its cells apart, its lettering and marks beside them and inside its own size', () => {
    const laid = layTrial(plan(), 'Trial 3', labels);
    expect(laid.cells.map((c) => [c.setting.speed, c.setting.power])).toEqual([0.2, 0.4, 0.8].flatMap((p) => [100, 200, 400].map((s) => [s, p]))); // prettier-ignore
    for (const contour of laid.lettering)
      for (const p of flatten(contour, 0.05)) {
        expect(p.x > -0.01 && p.y > -0.8 && p.x < laid.width + 0.01 && p.y < laid.height + 0.01).toBe(true);
        const inCell = laid.cells.some((c) => insidePolygon(p, [{ x: c.x, y: c.y }, { x: c.x + 6, y: c.y }, { x: c.x + 6, y: c.y + 6 }, { x: c.x, y: c.y + 6 }])); // prettier-ignore
        expect(inCell).toBe(false);
      }
    expect(laid.marks).toHaveLength(4);
  });

  it('lies beside older ones of the piece, and says when there is no room', () => {
    const older = [{ name: 'Trial 1', taken: [0, 0, 30, 25] as const }];
    expect(liesOn([20, 10, 30, 25], older)?.name).toBe('Trial 1');
    expect(liesOn([30, 0, 30, 25], older)).toBeNull();
    const piece = plan().piece;
    expect(freePlace(piece, { width: 30, height: 25 }, [[0, 0, 30, 25]])).toEqual({ ok: true, value: { x: 30, y: 0 } });
    expect(freePlace(piece, { width: 40, height: 30 }, [[0, 0, 30, 25]])).toMatchObject({ problem: { message: expect.stringMatching(/Offcut 3 has no free place of 40\.0 × 30\.0/) as string } }); // prettier-ignore
    expect(freePlace(piece, { width: 70, height: 30 }, [])).toMatchObject({ problem: { message: expect.stringMatching(/takes 70\.0 × 30\.0 mm with its lettering; Offcut 3 has 60\.0 × 50\.0/) as string } }); // prettier-ignore
  });
});

describe('a lens below focus', () => {
  it('is refused where it would bring the nozzle to the piece, in whatever burn', () => {
    const low = (base: object, after?: TrialPlan['after']) => planProblems({ ...plan(), base: { ...plan().base, ...base }, after }, machine).map((p) => `${p.field} ${p.message}`); // prettier-ignore
    const gap = machine.nozzleGap;
    expect(low({ focus: 1.5 - gap })).toEqual([]);
    expect(low({ focus: 0.5 - gap })).toEqual([expect.stringMatching(/^base\.focus The lens .* mm below focus brings the nozzle of .* to 0\.5 mm over the work/)]); // prettier-ignore
    expect(low({}, [{ ...plan().base, focus: -gap }])).toEqual([expect.stringMatching(/to 0\.0 mm over the work/)]);
  });
});

describe('its file', () => {
  const job = trialJob(plan(), 'Trial 3', machine, labels);
  if (!job.ok) throw new Error(job.problem.message);
  const text = [...job.value.chunks()].join('');

  it('puts on every cell the energy of its numbers, and burns each once', () => {
    const { moves } = (readGcode(text, 1000) as { value: { moves: import('../burn').Moves } }).value;
    const got = job.value.laid.cells.map(() => 0);
    for (let i = 1; i < moves.count; i += 1) {
      if (moves.power[i]! === 0) continue;
      const x = (moves.x[i]! + moves.x[i - 1]!) / 2 - 62;
      const y = (moves.y[i]! + moves.y[i - 1]!) / 2 - 42;
      const cell = job.value.laid.cells.findIndex((c) => x > c.x && x < c.x + 6 && y >= c.y - 0.06 && y <= c.y + 6.06);
      if (cell >= 0) got[cell]! += (60 * moves.power[i]! * Math.hypot(moves.x[i]! - moves.x[i - 1]!, moves.y[i]! - moves.y[i - 1]!)) / moves.speed[i]!; // prettier-ignore
    }
    job.value.laid.cells.forEach((c, i) => expect(got[i]! / 36 / fluence(60, c.setting)).toBeCloseTo(1, 1));
  });

  it('is read by another reader of G-code: beam off in every rapid move and wait, and at the end', () => {
    const lines = gcodeParser.parseStringSync(text);
    let power = 0;
    let motion = -1;
    for (const { words } of lines) {
      for (const [letter, value] of words) if (letter === 'G' && value < 4) motion = value;
      for (const [letter, value] of words) if (letter === 'S') power = value;
      const waits = words.some(([l, v]) => l === 'G' && v === 4);
      if (waits || (motion === 0 && words.some(([l]) => l === 'X' || l === 'Y'))) expect(power).toBe(0);
    }
    expect(text.trimEnd().split('\n').slice(-4)[0]).toBe('S0');
    expect(text).toMatch(/^\(Trial Trial 3\)/);
  });

  it('walks its outline with the beam off', () => {
    const walk = [...job.value.walk()].join('');
    const { moves } = (readGcode(walk, 1000) as { value: { moves: import('../burn').Moves } }).value;
    expect([...moves.power.subarray(0, moves.count)].every((p) => p === 0)).toBe(true);
    expect(Math.max(...moves.x.subarray(0, moves.count))).toBeCloseTo(62 + job.value.laid.width, 2);
  });

  it('is refused where the head would leave the bed, run-ups included', () => {
    const off = trialJob(
      plan({ onBed: { x: 1, y: 40 }, columns: { number: 'speed', levels: [400, 200] } }),
      'Trial 3',
      machine,
      labels,
    );
    expect(off).toMatchObject({ problem: { code: 'off-travel', message: expect.stringMatching(/16\.0 mm of run-up/) as string, field: 'onBed' } }); // prettier-ignore
    expect(trialJob(plan({ onBed: { x: 60, y: 280 } }), 'Trial 3', machine, labels).ok).toBe(false);
  });

  it.each(['cut', 'score'] as const)('%ss as many shapes as there are cells', (effect) => {
    const p = plan({ effect, columns: { number: 'speed', levels: [8, 12, 16] } });
    const made = trialJob(p, 'Trial 4', machine, labels);
    expect(made.ok).toBe(true);
    const shapes = layTrial(p, '', labels).cells.map((c) => cellShape(p, c));
    expect(shapes).toHaveLength(9);
    expect(shapes.every((s) => s.vertices.length === (effect === 'cut' ? 2 : 6))).toBe(true);
  });
});

describe('the order of the cells', () => {
  const cells = Array.from({ length: 25 }, (_, index) => ({ index, x: (index % 5) * 8, y: Math.floor(index / 5) * 8, seconds: 6, energy: 30 })); // prettier-ignore

  it('never begins one while what is left of its neighbours is felt, unless nobody would wait that long', () => {
    const turns = coolOrder(cells, 7, diffusivityOf('slate'));
    expect(new Set(turns.map((t) => t.cell)).size).toBe(25);
    for (const t of turns) expect(t.warm <= 0.08 || t.wait === LONGEST_WAIT).toBe(true);
    // While there is a choice, never beside the last one.
    for (let i = 1; i < 15; i += 1) {
      const [p, q] = [cells[turns[i - 1]!.cell]!, cells[turns[i]!.cell]!];
      expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeGreaterThan(8);
    }
  });

  it('waits longer on wood than on steel, and less than row by row', () => {
    const waits = (alpha: number): number => coolOrder(cells, 7, alpha).reduce((s, t) => s + t.wait, 0);
    expect(waits(diffusivityOf('birch plywood'))).toBeGreaterThan(waits(diffusivityOf('stainless steel')));
  });

  // The heat equation by explicit differences on a plate, independently of the closed form.
  it('reckons what a neighbour leaves as heat spreads in a plate', () => {
    const [alpha, size, d, time] = [1, 7, 8, 12];
    const [turn] = coolOrder([{ index: 0, x: 0, y: 0, seconds: 0, energy: 1 }, { index: 1, x: d, y: 0, seconds: time, energy: 1 }, { index: 2, x: 0, y: d, seconds: 0, energy: 1 }], size, alpha).slice(-1); // prettier-ignore
    const n = 121;
    const h = 0.6;
    const dt = 0.05;
    let heat = new Float64Array(n * n);
    const at = (x: number, y: number): number => Math.round(y / h + (n - 1) / 2) * n + Math.round(x / h + (n - 1) / 2);
    const put = (x: number, y: number): void => {
      for (let j = 0; j < n; j += 1)
        for (let i = 0; i < n; i += 1) heat[j * n + i]! += Math.exp(-((((i - (n - 1) / 2) * h - x) ** 2 + ((j - (n - 1) / 2) * h - y) ** 2) / ((size * size) / 2))); // prettier-ignore
    };
    const order = coolOrder([{ index: 0, x: 0, y: 0, seconds: 0, energy: 1 }, { index: 1, x: d, y: 0, seconds: time, energy: 1 }, { index: 2, x: 0, y: d, seconds: 0, energy: 1 }], size, alpha); // prettier-ignore
    const where = [{ x: 0, y: 0 }, { x: d, y: 0 }, { x: 0, y: d }]; // prettier-ignore
    const run = (seconds: number): void => {
      for (let t = 0; t < seconds - 1e-9; t += dt) {
        const next = Float64Array.from(heat);
        for (let j = 1; j < n - 1; j += 1)
          for (let i = 1; i < n - 1; i += 1) {
            const k = j * n + i;
            next[k] = heat[k]! + ((alpha * dt) / (h * h)) * (heat[k - 1]! + heat[k + 1]! + heat[k - n]! + heat[k + n]! - 4 * heat[k]!); // prettier-ignore
          }
        heat = next;
      }
    };
    let felt = 0;
    for (const { cell, wait } of order) {
      run(wait);
      felt = heat[at(where[cell]!.x, where[cell]!.y)]!;
      run(cell === 1 ? time : 0);
      put(where[cell]!.x, where[cell]!.y);
    }
    expect(Math.abs(felt - turn!.warm)).toBeLessThan(0.02);
  });
});

describe('the hidden bench', () => {
  it('reads what each cell got off the file, not off the plan', () => {
    const job = trialJob(plan(), 'Trial 3', machine, labels);
    if (!job.ok) throw new Error(job.problem.message);
    const hidden = { ...hiddenMaterial(4, 'mark', 1.6), coating: 0, neighbours: 0 };
    const looks = burnTrial([...job.value.chunks()].join(''), plan(), job.value.laid, machine, (x, y) => ({ x: x - 62, y: y - 42 }), hidden, 1); // prettier-ignore
    if (!looks.ok) throw new Error(looks.problem.message);
    looks.value.forEach((look, cell) => {
      const direct = answerOf(hidden, 60, settingAt(plan(), cell % 3, Math.floor(cell / 3)));
      expect(Math.abs(look.grade - direct.grade)).toBeLessThan(0.8);
    });
    const seen = seenTrial(plan(), job.value.laid, looks.value, 2);
    expect(seen.data).toHaveLength(seen.width * seen.height * 3);
  });

  it('shows a strong cell darker or lighter than the bare piece beside it, and one below the threshold not at all', () => {
    const laid = layTrial(plan(), '', labels);
    const none = { done: 0, charred: 0, soft: 0, striped: 0, grade: 0, tell: 'weak' as const, cut: null };
    const looks = laid.cells.map((c) => (c.index === 8 ? { ...none, done: 1 } : none));
    const { data, width } = seenTrial(plan(), laid, looks, 1);
    const scale = width / laid.width;
    const at = ({ x, y }: { x: number; y: number }): number => data[(Math.round((laid.height - y - 3) * scale) * width + Math.round((x + 3) * scale)) * 3]!; // prettier-ignore
    expect(Math.abs(at(laid.cells[8]!) - at(laid.cells[0]!))).toBeGreaterThan(60);
    expect(Math.abs(at(laid.cells[1]!) - at(laid.cells[0]!))).toBeLessThan(12);
  });

  it.each([
    [0.2, 30, 'not through'],
    [1, 8, 'falls out'],
    [1, 0.6, 'burned back'],
  ] as const)('cut at %d and %d mm/s comes out %s', (power, speed, state) => {
    const hidden = { ...hiddenMaterial(1, 'cut', 4), saturation: 4, threshold: 2, char: 9, slowness: 0 };
    expect(answerOf(hidden, 60, { power, speed, interval: 0.1, passes: 1 }).cut).toBe(state);
  });
});
