import { rigid } from '../../geometry';
import type { BatchInput } from '../../setup';
import { loadedPieces } from '../../test-batch';
import { exactly, readAt, reckon, saved } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';

const square = { side: 580, along: 580.3, across: 579.6, rising: 820.4, falling: 820, rule: 0.25, measuredAt: '2026-11-19T08:00:00.000Z' }; // prettier-ignore
const measured = (input: BatchInput): BatchInput => ({ ...input, machine: { ...input.machine, square } });
const axes = (input: BatchInput) => reckon(input).budget.sources.find((s) => s.id === 'axes');
const cut = saved(exactly(EXAMPLES.pockets));
const on = (input: BatchInput, part: Partial<NonNullable<BatchInput['fixture']>['basis']['cutOn']>): BatchInput => ({ ...input, fixture: { ...input.fixture!, basis: { ...input.fixture!.basis, cutOn: { ...input.fixture!.basis.cutOn!, ...part } } } }); // prettier-ignore

describe('a machine’s own axes in a batch', () => {
  it('are felt over the art on a board that it cut itself, from the marks on one of another machine', () => {
    expect(cut.fixture!.basis.cutOn).toEqual({ machineId: cut.machine.id, square: null });
    const [here, there] = [axes(cut)!, axes(on(cut, { machineId: 'another' }))!];
    expect(there.u).toBeGreaterThan(2 * here.u);
    // Two machines that nobody measured: √2 times one.
    expect(there.working.substituted).toContain('scale ± 1.41, lean ± 1.41 mm a metre');
    expect(here.working.substituted).toContain('scale ± 1.00, lean ± 1.00 mm a metre');
    expect(here.halve).toContain('Burn a square');
    // A board that noted nothing counts as its own.
    expect(axes({ ...cut, fixture: { ...cut.fixture!, basis: { ...cut.fixture!.basis, cutOn: null } } })!.u).toBe(here.u); // prettier-ignore
  });
  it('measured after a board was cut make it a board of before', () => {
    const before = measured(cut);
    expect(axes(before)!.working.formula).toContain('from the marks');
    const after = saved(measured(exactly(EXAMPLES.pockets)));
    expect(axes(after)!).toMatchObject({ origin: 'measured', working: { basis: 'geometry' } });
    // ± 0.25 on 580 is 0.43 mm a metre.
    expect(axes(after)!.working.substituted).toContain('scale ± 0.43');
  });
  it('are nothing to sheets that are fitted to their marks, and to what is cut out where it is engraved', () => {
    for (const id of ['sheet', 'panel'] as const) expect([id, axes(EXAMPLES[id])]).toEqual([id, undefined]);
    expect(axes(EXAMPLES.marked)!.working.formula).toContain('from the marks');
  });
  it('are named where marks of other makers disagree by no more than they may be off', () => {
    const told = (input: BatchInput, by: number): string => {
      const read = readAt({ ...exactly(input), pieces: loadedPieces([1]) }, rigid(0, 120, 90));
      // The second mark of work 400 apart.
      const readings = read.readings.map((r) => (r.mark === 2 ? { ...r, x: r.x + by } : r));
      return reckon({ ...read, readings }).place.consistency!.message;
    };
    const long = (input: BatchInput): BatchInput => {
      const { held } = input.setup;
      if (held.way !== 'marked') throw new Error(held.way);
      const marks = [{ x: 10, y: 10 }, { x: 410, y: 10 }].map((m) => ({ ...m, look: { kind: 'ring' as const, size: 4 } })); // prettier-ignore
      return { ...input, blank: { ...input.blank, shape: { kind: 'rectangle', length: 420, width: 60, cornerRadius: 0 } }, setup: { ...input.setup, held: { ...held, choice: { ...held.choice, own: { marks, stretches: false } } } } }; // prettier-ignore
    };
    const work = long(EXAMPLES.marked);
    expect(told(work, 0.5)).toContain('Or it is the machine’s own axes, which nobody measured');
    expect(told(work, 2)).not.toContain('own axes');
    expect(told(work, 0)).not.toContain('own axes');
    expect(told(measured(work), 1.5)).not.toContain('own axes');
    // A board of its own stretches with it.
    expect(told(EXAMPLES.pockets, 0.3)).not.toContain('own axes');
  });
});
