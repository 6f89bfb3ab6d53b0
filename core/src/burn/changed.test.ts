import { overtakenOf, outlived, overtakenWords, type MachineChange, type Measurements } from './changed';

const at = (day: number): string => `2026-11-${String(day).padStart(2, '0')}T08:00:00.000Z`;
const measured: Measurements = { pointerOffset: { measuredAt: at(5) }, kerfMeasuredAt: at(8), square: { measuredAt: at(3) } }; // prettier-ignore
const change = (what: MachineChange['what'], day: number): MachineChange => ({ what, note: '', at: at(day) });
const found = (changes: readonly MachineChange[], of = measured): string[] =>
  overtakenOf(of, changes).map((o) => `${o.what} ${o.change.at.slice(8, 10)}`);

describe('calibrations that were measured before something was changed', () => {
  it('are none while nothing was changed since, or nothing was measured', () => {
    expect(found([])).toEqual([]);
    expect(found([change('lens', 1), change('belts', 2)])).toEqual([]);
    expect(found([change('lens', 20)], { pointerOffset: null, kerfMeasuredAt: null, square: null })).toEqual([]);
  });

  it.each([
    ['lens', ['pointer offset 20', 'kerf 20']],
    ['tube', ['pointer offset 20', 'kerf 20']],
    ['mirrors', ['pointer offset 20', 'kerf 20']],
    ['belts', ['own axes 20']],
    ['bed', []],
    ['other', []],
  ] as const)('%s: what goes by it and nothing else', (what, wanted) => {
    expect(found([change(what, 20)])).toEqual(wanted);
  });

  it('are told by the first change after them, whatever order changes were kept in', () => {
    // The lens of the 6th came after the pointer, before the kerf.
    expect(found([change('mirrors', 21), change('lens', 6)])).toEqual(['pointer offset 06', 'kerf 21']);
  });

  it('are said in a sentence that names what and when', () => {
    expect(overtakenOf(measured, [change('lens', 20), change('belts', 9)]).map(overtakenWords)).toEqual([
      'The pointer offset was measured before the lens was changed on 2026-11-20: measure it again.',
      'The kerf was measured before the lens was changed on 2026-11-20: measure it again.',
      'The own axes were measured before the belts were changed or tightened on 2026-11-09: measure them again.',
    ]);
  });
});

describe('a proof and the shop’s own rule of how long it holds', () => {
  const at = '2026-08-01T10:00:00.000Z';
  const days = (n: number): Date => new Date(Date.parse(at) + n * 86_400_000);
  it.each([
    [null, 4_000, null],
    [90, 89.9, null],
    [90, 90, 'it is 90 days old; here a proof holds for 90'],
    [1, 3.5, 'it is 3 days old; here a proof holds for 1'],
  ])('of %p days, after %p', (proofDays, n, said) => expect(outlived(at, days(n), { proofDays })).toBe(said));
});
