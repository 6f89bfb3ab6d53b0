import { reckonBatch } from '../batch';
import { OPTIONS } from '../test-reckon';
import { testBatch, testBlank, testMachine } from '../test-batch';
import { farthest, liesIn, type OpenPocket } from '../test-drop';
import { inWay } from '../test-held';
import { seeded } from './random';

// Small tags with round corners in loose pockets: what they turn by is most of what is left. Checked by dropping pieces into
// their pockets one by one, each turned and shifted as far as its rim allows, found by search and by no formula.
const TRIES = 20_000;

it.each([
  [30, 6],
  [25, 8],
  [40, 0],
])('a tag of %d mm, corners of %d: as many inside as are when they are dropped in', (side, r) => {
  const plain = testBatch();
  const readings = { length: [side, side + 0.01, side - 0.01], width: [side, side + 0.01, side - 0.01], thickness: [1.5, 1.5, 1.5] }; // prettier-ignore
  const half = side * 0.35;
  const input = inWay(
    testBatch({
      tolerance: 0.8,
      roster: [],
      blank: {
        ...testBlank,
        shape: { kind: 'rectangle', length: side, width: side, cornerRadius: r },
        samples: readings,
        holes: [],
        zones: [{ ...testBlank.zones[0]!, x: 0, y: 0, width: 2 * half, height: 2 * half, margin: 0 }],
      },
      setup: { ...plain.setup, lettering: { ...plain.setup.lettering, lines: [] } },
    }),
    'pockets',
    { clearance: { school: 'own', total: 1 } },
  );
  const { budget, pocket } = reckonBatch(input, { ...OPTIONS, simulatedPieces: TRIES });
  const rest = budget.sources.filter((s) => !['float', 'yaw', 'cut'].includes(s.id)).reduce((q, s) => q + s.u ** 2, 0);
  const random = seeded(4);
  let inside = 0;
  const within = (a: number): number => a * (2 * random.uniform() - 1);
  const room = (pocket.length - side) / 2;
  // The test machine's kerf was never measured: ± 0.1; it returns within ± 0.04.
  expect([testMachine.kerfMeasuredAt, testMachine.repeatability]).toEqual([null, 0.04]);
  for (let i = 0; i < TRIES; i += 1) {
    const kerf = within(0.1) / 2;
    const [left, right, front, back] = [within(0.04), within(0.04), within(0.04), within(0.04)];
    const open: OpenPocket = {
      x: pocket.length / 2 + kerf + (left + right) / 2,
      y: pocket.length / 2 + kerf + (front + back) / 2,
      corner: r + room + kerf,
    };
    const yaw = within(farthest((turn) => liesIn(side, side, r, open, { x: 0, y: 0, turn }), Math.PI / 4));
    const [alongX, alongY] = [farthest((d) => liesIn(side, side, r, open, { x: d, y: 0, turn: yaw }), 3), farthest((d) => liesIn(side, side, r, open, { x: 0, y: d, turn: yaw }), 3)]; // prettier-ignore
    const [dx, dy] = [(right - left) / 2 + within(alongX), (back - front) / 2 + within(alongY)];
    const [ex, ey] = [random.normal() * Math.sqrt(rest / 2), random.normal() * Math.sqrt(rest / 2)];
    const worst = Math.max(...[[1, 1], [-1, 1], [-1, -1], [1, -1]].map(([i, j]) => Math.hypot(ex - dx + yaw * j! * half, ey - dy - yaw * i! * half))); // prettier-ignore
    if (worst <= 0.8) inside += 1;
  }
  expect(Math.abs(budget.yield - inside / TRIES)).toBeLessThan(0.015);
});
