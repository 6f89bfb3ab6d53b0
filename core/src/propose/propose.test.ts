import type { Blank } from '../holding';
import { OPTIONS } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { WAYS } from '../ways';
import { COMES, type Comes } from '../setup';
import { better, bestOfEach, proposals, whyFirst, type Asked, type Proposal } from '.';

const { blank, machine, recipe } = EXAMPLES.pockets;
const flat = (length: number, width: number, more: Partial<Blank> = {}): Blank =>
  ({ ...blank, shape: { kind: 'rectangle', length, width, cornerRadius: 0 }, samples: { length: [], width: [], thickness: [] }, material: 'birch ply', ...more }) as Blank; // prettier-ignore
const asked = (more: Partial<Asked> = {}): Asked => ({
  name: 'Boat tags',
  quantity: 24,
  tolerance: 0.6,
  blank,
  comes: 'loose',
  machines: [machine],
  recipes: [recipe!],
  drives: [EXAMPLES.drive.drive!],
  feeders: [EXAMPLES.feed.feeder!],
  ...more,
});
const propose = (more: Partial<Asked> = {}): Proposal[] => [...proposals(asked(more), OPTIONS)];
const of = (all: readonly Proposal[], way: string): Proposal => all.find((p) => p.way === way)!;

describe('ways that are proposed', () => {
  it.each(Object.keys(COMES) as Comes[])(
    'there are some for work that comes so: %s; each suits it, and says what it is good for',
    (comes) => {
      const all = propose({ comes, blank: comes === 'round' ? EXAMPLES.drive.blank : blank });
      expect(all.length).toBeGreaterThan(0);
      for (const p of all) {
        expect(WAYS[p.way].comes).toContain(comes);
        expect(p.good).toMatch(/^[A-Z].*\.$/);
        expect(p.held.way).toBe(p.way);
        for (const n of [p.setup, p.handling, p.predicted, p.pieces, p.loads]) expect(Number.isFinite(n)).toBe(true);
        expect(`${p.problem ?? ''} ${p.needs.join(' ')}`).not.toMatch(/undefined|NaN|null/);
      }
    },
  );

  it('every way is proposed for something', () =>
    expect(Object.values(WAYS).filter((w) => w.comes.length === 0)).toEqual([]));

  it('24 tags go on one board, 240 on more; the loads make up the quantity', () => {
    const few = of(propose(), 'pockets');
    expect([few.pieces, few.loads]).toEqual([24, 1]);
    const many = of(propose({ quantity: 240 }), 'pockets');
    expect(many.pieces * many.loads).toBeGreaterThanOrEqual(240);
    expect((many.loads - 1) * many.pieces).toBeLessThan(240);
    // Each piece is laid on once, and each load by itself.
    expect(many.handling - few.handling).toBeCloseTo(216 / 6 + (many.loads - few.loads), 6);
  });

  it('cutting a board is counted by its cuts: a larger one takes longer, where nothing is cut there is none', () => {
    const setup = (quantity: number, way = 'pockets'): number => of(propose({ quantity }), way).setup;
    expect(setup(40)).toBeGreaterThan(setup(10) + 1);
    expect(setup(40, 'photo')).toBeCloseTo(setup(10, 'photo'), 9);
  });

  it('a photograph that is not taken yet stands in nobody’s way: half of the bed is covered by what lies on it', () => {
    const each = (machine.bed.width * machine.bed.height) / 2 / (300 * 200);
    const p = of(propose({ blank: flat(300, 200), quantity: 7 }), 'photo');
    expect([p.problem, p.loads]).toEqual([null, Math.ceil(7 / Math.floor(each))]);
    expect(p.needs).toContain('a photograph from above');
  });

  it('needs what is not there: a board, a drive by its name, a recipe for the material', () => {
    expect(of(propose(), 'pockets').needs.join()).toMatch(/^a board of \d+.* that is cut/);
    expect(of(propose({ recipes: [] }), 'pockets').needs.join()).toContain(`a recipe for ${blank.material ?? 'this material'} on ${machine.name}`); // prettier-ignore
    expect(of(propose({ comes: 'round', blank: EXAMPLES.drive.blank }), 'drive').needs).toContain(EXAMPLES.drive.drive!.name); // prettier-ignore
    const known = propose({ blank: flat(60, 25, { material: recipe!.material }) });
    expect(of(known, 'pockets').needs.join()).not.toContain('a recipe');
  });

  it('a way that needs a drive or a feeder is not proposed to a shop that has none', () => {
    const all = propose({ comes: 'round', blank: EXAMPLES.drive.blank, drives: [] });
    expect(all.map((p) => p.way)).toEqual(['cradle']);
    expect(propose({ feeders: [] }).map((p) => p.way)).not.toContain('feed');
  });

  it('what does not go on the bed is said to be impossible there, and stands last', () => {
    const all = propose({ blank: flat(2 * machine.bed.width, 80), quantity: 2 });
    expect(of(all, 'pockets').problem).toMatch(/\w/);
    const sorted = bestOfEach(all);
    const firstBad = sorted.findIndex((p) => p.problem);
    expect(sorted.slice(firstBad).every((p) => p.problem)).toBe(true);
  });
});

describe('which is best', () => {
  const [one] = propose();
  const p = (more: Partial<Proposal>): Proposal => ({ ...one!, problem: null, inside: true, setup: 30, handling: 10, ...more }); // prettier-ignore
  it.each<[string, Proposal[], string]>([
    ['less work', [p({ id: 'fence', way: 'fence', setup: 50 }), p({})], 'It keeps the tolerance with 20 min less work of hands than the next.'],
    ['what keeps the tolerance, whatever it takes', [p({ id: 'fence', way: 'fence', inside: false }), p({ setup: 300 })], 'It is the only one that keeps the tolerance.'],
    ['what can be done', [p({ id: 'fence', way: 'fence', problem: 'no' }), p({ inside: false })], 'It comes closest: none keeps the tolerance yet.'],
    ['the only one', [p({ id: 'fence', way: 'fence', problem: 'no' }), p({})], 'It is the only one that can be done.'],
    ['one as good', [p({}), p({ id: 'fence', way: 'fence', handling: 10.2 })], 'It keeps the tolerance with no more work than the next.'],
  ])('%s', (_what, all, why) => {
    const sorted = bestOfEach(all);
    expect(sorted[0]!.way).toBe('pockets');
    expect(whyFirst(sorted)).toBe(why);
  }); // prettier-ignore
  it('none at all', () => {
    expect(whyFirst([p({ problem: 'no' })])).toBe('None of them can be done as it is described.');
    expect(whyFirst([])).toBe('');
  });
  it('a way on two drives is two', () => {
    const two = [EXAMPLES.drive.drive!, { ...EXAMPLES.drive.drive!, id: 'other', name: 'Wheels' }];
    const all = bestOfEach(propose({ comes: 'round', blank: EXAMPLES.drive.blank, drives: two }));
    expect(all.filter((q) => q.way === 'drive').map((q) => q.words).sort()).toEqual([EXAMPLES.drive.drive!.name, 'Wheels'].map((n) => `a drive that turns it: ${n}`).sort()); // prettier-ignore
  });
  it('of several machines the one that does a way best', () => {
    const all = [p({ machineId: 'a', setup: 40 }), p({ machineId: 'b' }), p({ machineId: 'c', problem: 'no' })];
    expect(bestOfEach(all).map((q) => q.machineId)).toEqual(['b']);
    expect(better(all[0]!, all[1]!)).toBeGreaterThan(0);
  });
});
