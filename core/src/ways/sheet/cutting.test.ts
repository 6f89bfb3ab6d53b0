import { circle, roundedRectangle } from '../../geometry';
import { exactly, reckon } from '../../test-reckon';
import { inWay } from '../../test-held';
import { EXAMPLES } from '../../test-ways';
import { cutRemarks } from './cutting';

const slot = (number: number, x: number, y = 0) => ({ slot: number, row: 0, column: 0, angle: 0, centre: { x, y } });
const told = (...args: Parameters<typeof cutRemarks>): string[] => cutRemarks(...args).map((r) => r.message);

describe('lines that free pieces', () => {
  const plate = [roundedRectangle({ x: 0, y: 0 }, 20, 10, 0)];
  it('of neighbours that only touch are well; a tenth of a millimetre over each other they are not', () => {
    expect(told({ slots: [slot(1, 0), slot(2, 20)], cuts: [plate, plate] }, 0, [])).toEqual([]);
    expect(told({ slots: [slot(1, 0), slot(2, 19.9)], cuts: [plate, plate] }, -1, [])).toEqual(['Cuts overlap: 1 and 2 by 0.1 mm. Cut nearer to the print.']); // prettier-ignore
    // Boxes overlap, discs do not: their corners are empty.
    const disc = [circle({ x: 0, y: 0 }, 10)];
    expect(told({ slots: [slot(1, 0), slot(2, 16, 16)], cuts: [disc, disc] }, 0, [])).toEqual([]);
    expect(told({ slots: [slot(1, 0), slot(2, 13, 13)], cuts: [disc, disc] }, 0, [])[0]).toMatch(/^Cuts overlap: 1 and 2/); // prettier-ignore
  });
  it('are named pair by pair, the rest of many counted', () => {
    const row = Array.from({ length: 9 }, (_, i) => slot(i + 1, 15 * i));
    expect(told({ slots: row, cuts: row.map(() => plate) }, -4, [])[0]).toBe(
      'Cuts overlap: 1 and 2 by 5.0 mm, 2 and 3 by 5.0 mm, 3 and 4 by 5.0 mm, 4 and 5 by 5.0 mm, and 4 more pairs. Cut nearer to the print.',
    );
  });
  it('that are not there any more are said: a whole piece, or a hole of it', () => {
    expect(told({ slots: [slot(1, 0), slot(2, 30)], cuts: [plate, []] }, 6, [])).toEqual(['An inset of 6 mm leaves nothing of piece 2: nothing would be cut there.']); // prettier-ignore
    const holed = [circle({ x: 0, y: 0 }, 2), ...plate];
    expect(told({ slots: [slot(1, 0), slot(2, 30)], cuts: [holed, plate] }, 1, [1, 1])).toEqual(['A hole of piece 2 would close at an inset of 1 mm and not be cut.']); // prettier-ignore
  });
});

describe('a printed sheet', () => {
  const sheet = (inset: number) => reckon(inWay(exactly(EXAMPLES.sheet), 'sheet', { inset }));
  const zone = (inset: number) => sheet(inset).warnings.filter((w) => w.danger === 'zone').map((w) => w.message); // prettier-ignore
  it('whose cuts run outwards over their neighbours is held back: pieces lie 3 mm apart', () => {
    // A bleed of 1 each and a gap of 1: with a kerf of 0.15 they meet at 1.425 outwards.
    const { kerf } = EXAMPLES.sheet.machine;
    const meet = (3 - kerf) / 2;
    expect(zone(-(meet - 0.02))).toEqual([]);
    expect(zone(-(meet + 0.2))[0]).toMatch(/^Cuts overlap: 1 and 2 by 0\.4 mm|^Cuts overlap: \d+ and \d+ by 0\.4 mm/);
    // 8 mm outwards each way: 16 + kerf − 3 over each other.
    expect(zone(-8)[0]).toContain(`by ${(16 + kerf - 3).toFixed(1)} mm`);
  });
  it('of which an inset leaves nothing says so: 25 mm wide, 13 from each side', () => {
    expect(zone(12)).toEqual([]);
    expect(zone(13)).toEqual(['An inset of 13 mm leaves nothing of any piece: nothing would be cut there.']);
    expect(zone(19)).toHaveLength(1);
  });
});
