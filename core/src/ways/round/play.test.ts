import { hideDrive, runOnDrive } from '../../bench-sim';
import { leanOf } from '../../drive';
import { readGcode } from '../../output';
import { heldAs, type BatchInput } from '../../setup';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { reckon } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';
import { turnedGcode } from './output';
import { roundSteps } from './steps';

// A drive whose turn has play: the blank hangs behind by it, so that what is come to on a falling value lies a degree off.
const square = [{ closed: true, vertices: [{ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 10, y: 10 }, { x: 0, y: 10 }] }]; // prettier-ignore
/** Goes round the blank one way, along it, and back. */
const hook = [{ closed: false, vertices: [{ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 10, y: 10 }, { x: 0, y: 10 }] }]; // prettier-ignore
const cup = (backlash: number, contours: readonly unknown[] = square): BatchInput => {
  const plain = EXAMPLES.drive;
  const profile = [0, 130].map((at) => ({ at, diameter: 80 }));
  return {
    ...inWay(plain, 'drive', {}, { letter: { quarters: 0, mirrored: false } }),
    drive: { ...plain.drive!, backlash },
    pieces: loadedPieces([1]),
    blank: {
      ...plain.blank,
      shape: { ...plain.blank.shape, profile } as never,
      zones: [{ ...plain.blank.zones[0]!, x: 60, width: 30, height: 30, margin: 0, angle: 1 }],
    },
    setup: {
      ...inWay(plain, 'drive', {}, { letter: { quarters: 0, mirrored: false } }).setup,
      faces: [{ zoneId: 'face', content: { kind: 'art', name: 'art', contours }, reads: 'around', repeats: 1, wraps: false }] as never, // prettier-ignore
    },
  };
};
const fileOf = (input: BatchInput): string => {
  const made = turnedGcode(input, reckon(input), 'piece');
  if (!made.ok) throw new Error(made.problem.message);
  return [...made.value].join('');
};
/** What was burned, around, on a drive that is just what is said of it but for its play. */
const burned = (input: BatchInput, gcode: string): number[] => {
  const { on, shape } = reckon(input).own.round!;
  const hidden = { ...hideDrive(3), rollerScale: 1, slip: 0, spread: 0, runOut: 0, turnFlipped: false, headFlipped: false, frictionScale: 9, hands: false }; // prettier-ignore
  const run = runOnDrive(gcode, hidden, input.drive!, shape, {
    machine: input.machine,
    panel: { value: on!.control.value!, acceleration: 1 },
    ...heldAs(input, 'drive').choice,
    lean: leanOf(on!.taper),
    piece: 0,
  });
  if (!run.ok) throw new Error(run.problem.message);
  return run.value.strokes.filter((_, i) => i % 2 === 0);
};
const beginsAt = (input: BatchInput, gcode: string): number => burned(input, gcode)[0]!;

describe('play of a drive', () => {
  it('is taken up before all is burned: filled art lands where it lands without', () => {
    const [none, some] = [cup(0), cup(1.5)];
    const file = fileOf(some);
    // 1.5° of Ø 80 is 1.047 mm: by so much the first line hangs behind in the file of a drive without play.
    expect(Math.abs(beginsAt(some, fileOf(none)) - beginsAt(none, fileOf(none)))).toBeCloseTo((1.5 * Math.PI * 40) / 180, 2); // prettier-ignore
    expect(beginsAt(some, file)).toBeCloseTo(beginsAt(none, fileOf(none)), 3);
    const read = readGcode(file, some.machine.dialect.powerMax, some.drive!.axis.letter);
    if (!read.ok) throw new Error(read.problem.message);
    const { y, power, count } = read.value.moves;
    const lit = Array.from({ length: count }, (_, i) => i).filter((i) => power[i]! > 0);
    expect(Math.min(...lit.map((i) => y[i]!)) - Math.min(...y.slice(0, lit[0]))).toBeGreaterThan(1.047);
    // From there on the turn never reverses.
    for (let i = lit[0]!; i < lit.at(-1)!; i += 1) expect(y[i + 1]!).toBeGreaterThanOrEqual(y[i]!);
  });

  it('is carried where strokes turn to and fro: what is burned on the way back lies all of it behind', () => {
    const source = (input: BatchInput) => reckon(input).budget.sources.find((s) => s.id === 'backlash');
    expect(source(cup(1.5))).toBeUndefined();
    expect(source(cup(0, hook))).toBeUndefined();
    // The simulated drive hangs behind by its own mechanics: place by place against one without play.
    const [none, some] = [cup(0, hook), cup(1.5, hook)];
    const [right, behind] = [burned(none, fileOf(none)), burned(some, fileOf(some))];
    const off = right.map((x, i) => behind[i]! - x);
    expect(behind).toHaveLength(right.length);
    expect([Math.min(...off.map(Math.abs)), Math.max(...off.map(Math.abs))]).toEqual([expect.closeTo(0, 6), expect.closeTo((1.5 * Math.PI * 40) / 180, 3)]); // prettier-ignore
    expect(source(some)!.worst).toBeCloseTo(Math.max(...off.map(Math.abs)), 3);
    // It is there on every piece: whatever else adds to it, the promise is no less.
    expect(reckon(some).budget.predicted).toBeGreaterThan(Math.max(...off.map(Math.abs)));
  });

  it('is told where the zero is set', () => {
    const zero = (input: BatchInput): string => roundSteps(input, reckon(input).own.round!, []).find((s) => s.id === 'drive.zero')!.detail ?? ''; // prettier-ignore
    expect(zero(cup(1.5))).toMatch(/so that its value grows/);
    expect(zero(cup(0))).not.toMatch(/grows/);
  });
});
