import { aimingOf, type Axes, type Machine } from '../burn';
import { aimingError } from '../marks';
import { CREEP, EYE, BUBBLE, seeded } from '../budget';
import {
  bodyOf,
  diameterAt,
  downAxis,
  grownProfile,
  layDown,
  pictureToFile,
  reckonSeat,
  RING_REPEAT,
  stepsForOneUnit,
  stepsPerDriveTurn,
  throwLimit,
  UPRIGHT,
  type Drive,
  type RoundShape,
} from '../drive';
import { apply, invert } from '../geometry';
import { readGcode } from '../output';
import { fail, ok, type Result } from '../result';
import type { Mm, MmPerS2, Rad } from '../units';

/** What the simulated drive hides: how it differs from what is said of it. */
export interface HiddenDrive {
  readonly seed: number;
  /** True roller diameter over the one on the Shelf. */
  readonly rollerScale: number;
  /** True friction over the one on the Shelf. */
  readonly frictionScale: number;
  /** Travel lost to slip, as a share, at the acceleration limit; less below it. */
  readonly slip: number;
  /** The turning axis runs the other way than is said. */
  readonly turnFlipped: boolean;
  /** The head's axis runs the other way than is said. */
  readonly headFlipped: boolean;
  /** Spread of the blanks' diameters, mm, standard. */
  readonly spread: Mm;
  readonly runOut: Mm;
  /** Hands and eyes err as they do: zero at the rim, feature at the crest, drive laid straight, side levelled, creep, repeat of a turn. */
  readonly hands?: boolean | undefined;
  /** What the machine’s axes really go; just as it shows when absent. */
  readonly axes?: Axes | undefined;
}

/** A drive with faults drawn from a seed. */
export const hideDrive = (seed: number): HiddenDrive => {
  const r = seeded(seed);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  return {
    seed,
    rollerScale: 1 + spread(0.012),
    frictionScale: 1 + spread(0.12),
    slip: 0.0015 * r.uniform(),
    turnFlipped: r.uniform() < 0.4,
    headFlipped: r.uniform() < 0.25,
    spread: 0.05,
    runOut: 0.3 * r.uniform(),
    hands: true,
  };
};

/** What stands in the simulated machine's settings. */
export interface DrivePanel {
  /** The number of the drive's control chain. */
  readonly value: number;
  readonly acceleration: MmPerS2;
}

export const panelAtFirst = (drive: Drive): DrivePanel => ({
  value: drive.control.kind === 'scale-art' ? 0 : drive.control.was,
  acceleration: drive.axisAcceleration,
});

export interface BurnedCup {
  /** The blank left its rollers. */
  readonly thrown: boolean;
  /** Burned strokes on the standing blank, rim up: around to the right of the feature and up from the rim, x0 y0 x1 y1 …, mm. */
  readonly strokes: readonly number[];
  /** How far the last burned point lies beyond one turn from the first, mm of surface there: an overlap; negative for a gap. */
  readonly closing: Mm;
  /** How far the surface went from the first burned point to the last, mm. */
  readonly length: Mm;
  readonly lines: number;
  /** True diameter of this piece where it was measured, mm. */
  readonly diameter: Mm;
}

/** Turning moves shorter than this never get up to speed, mm. */
const SHORT: Mm = 2;
/** Turns of the blank in one move after which anybody would stop the machine. */
const MOST_TURNS = 50;

/** How one piece was laid and one turn went, of the size that the budget states. */
const laidBy = (
  { seed, hands }: HiddenDrive,
  {
    machine,
    piece,
    room,
    chuck,
  }: { readonly machine: Machine; readonly piece: number; readonly room: Mm; readonly chuck: boolean },
  burn: number,
) => {
  const none = { rim: 0, crest: 0, straight: 0, level: 0, creep: 0, repeat: 0 };
  if (!hands) return none;
  const either = (a: number, r: { uniform: () => number }): number => a * (2 * r.uniform() - 1);
  // The drive is set up once for the batch, a piece laid once, and no two turns are alike.
  const [set, laid, turn] = [seeded(seed * 53 + 7), seeded(seed * 67 + piece * 977 + 5), seeded(seed * 71 + piece * 31 + burn)]; // prettier-ignore
  // A measured offset is as good as its own aims.
  const aims = aimingError(aimingOf(machine)).sigma;
  const pointer = machine.pointerOffset ? () => aims * set.normal() : () => either(0.3, set);
  const [px, py] = [pointer(), pointer()];
  return {
    rim: either(EYE, laid) + either(machine.repeatability, laid) + px,
    crest: either(EYE, laid) + py,
    straight: either(EYE / room, set),
    level: either(BUBBLE, set),
    creep: chuck ? 0 : either(CREEP, set),
    repeat: RING_REPEAT * turn.normal(),
  };
};

/**
 * Runs a file on the simulated drive with a blank on it, as the machine would: it reads the file's
 * words, sends the steps its settings say, and the blank follows the rollers it really lies on.
 *
 * @param piece number of the blank, for its own diameter
 */
export const runOnDrive = (
  gcode: string,
  hidden: HiddenDrive,
  drive: Drive,
  shape: RoundShape,
  setup: {
    readonly machine: Machine;
    readonly panel: DrivePanel;
    readonly rimFaces: 'left' | 'right';
    readonly contactAt: Mm | null;
    /** Half-angle of the stretch that was levelled, positive where it widens to the rim; radians. */
    readonly lean: Rad;
    readonly piece: number;
    /** Angle from the feature that lies on the crest where zero was set. */
    readonly zeroAt?: Rad | null | undefined;
  },
): Result<BurnedCup> => {
  const program = readGcode(gcode, setup.machine.dialect.powerMax, drive.axis.letter);
  if (!program.ok) return program;
  const r = seeded(hidden.seed * 31 + setup.piece * 977);
  const own = hidden.spread * r.normal();
  const believed = reckonSeat(shape, drive, setup.contactAt);
  const truth: RoundShape = { ...shape, profile: grownProfile(shape.profile, own) };
  const lies = reckonSeat(truth, drive, setup.contactAt);
  if (!lies.ok || !believed.ok) return fail('falls', 'The blank does not lie on this drive.', 'drive');
  const contact = lies.value.contactDiameter;
  const limit = throwLimit(
    drive.kind === 'chuck' ? drive : { ...drive, friction: drive.friction * hidden.frictionScale },
    lies.value,
    bodyOf(truth),
    contact / 2,
  ).limit;
  const perUnit = stepsForOneUnit(drive, setup.panel.value, believed.value.contactDiameter);
  const follow = 1 - hidden.slip * Math.min(1, setup.panel.acceleration / Math.max(1, limit));
  // Angle of the blank for one unit of the file's turning word.
  const turnsPerUnit = perUnit / stepsPerDriveTurn(drive);
  const anglePerUnit =
    drive.kind === 'chuck'
      ? turnsPerUnit * 2 * Math.PI
      : ((turnsPerUnit * Math.PI * drive.rollerDiameter * hidden.rollerScale * follow) / contact) * 2;
  const hands = laidBy(hidden, { ...setup, room: drive.room, chuck: drive.kind === 'chuck' }, gcode.length);
  const side = layDown(truth.profile, setup.lean + hands.level);
  const repeat = drive.kind === 'chuck' ? 1 : 1 + hands.repeat / (Math.PI * contact);
  const toPicture = invert(
    pictureToFile(setup.rimFaces, (drive.topMoves === 'toward') === hidden.turnFlipped ? 'away' : 'toward', UPRIGHT),
  );
  const zeroAt = shape.feature ? (setup.zeroAt ?? 0) : 0;
  const { moves } = program.value;
  const strokes: number[] = [];
  let [x, y] = [0, 0];
  // The blank hangs behind by the play: it was zeroed on a growing value.
  const play = Math.abs((drive.backlash * Math.PI) / 180 / anglePerUnit);
  let hangs = 0;
  const drawn = (to: number): number => (hangs = Math.min(Math.max(hangs, to), to + play));
  let first: number | null = null;
  let last = 0;
  let thrown = false;
  const onBlank = (fx: number, fy: number): { x: number; y: number } => {
    const turned = fy * anglePerUnit * repeat;
    const wobble = drive.kind === 'chuck' ? (hidden.runOut / contact) * Math.sin(turned) : 0;
    const p = apply(toPicture, { x: (hidden.headFlipped ? -fx : fx) * (hidden.axes?.x ?? 1), y: turned + wobble });
    // The head goes along the side as it was levelled, from where the zero was set; askew it goes round a little too.
    const along = downAxis(-p.y + hands.rim + (hands.creep * turned * contact) / 2, side);
    const crest = shape.feature === null ? 0 : hands.crest;
    // The quarter turn leaves the angle in x; it becomes an arc at the place's own diameter.
    return {
      x: ((p.x + zeroAt) * diameterAt(truth.profile, Math.max(0, along))) / 2 + crest + hands.straight * -p.y,
      y: -along,
    };
  };
  for (let i = 0; i < moves.count; i += 1) {
    const [nx, ny] = [moves.x[i]!, moves.y[i]!];
    const surface = (Math.abs(ny - y) * anglePerUnit * contact) / 2;
    if (surface > SHORT && drive.kind !== 'chuck' && setup.panel.acceleration > limit) thrown = true;
    if (thrown) break;
    if (surface > MOST_TURNS * Math.PI * contact)
      return fail(
        'runs-on',
        `With ${setup.panel.value} set in the machine one move turns the blank ${Math.round(surface / (Math.PI * contact))} times. It was stopped; look at the number.`,
        'drive',
      );
    if (moves.power[i]! > 0) {
      // A long turn is drawn in parts, so that it lies on the surface.
      const parts = Math.max(1, Math.ceil(surface / 4));
      let from = onBlank(x, drawn(y));
      first ??= y;
      for (let k = 1; k <= parts; k += 1) {
        const to = onBlank(x + ((nx - x) * k) / parts, drawn(y + ((ny - y) * k) / parts));
        strokes.push(from.x, from.y, to.x, to.y);
        from = to;
      }
      last = ny;
    }
    [x, y] = [nx, ny];
    drawn(y);
  }
  const at = strokes.length > 0 ? Math.max(0, -strokes[strokes.length - 1]!) : 0;
  const there = diameterAt(truth.profile, at);
  const length = (Math.abs(last - (first ?? 0)) * anglePerUnit * repeat * there) / 2;
  return ok({
    thrown,
    strokes,
    closing: length - Math.PI * there,
    length,
    lines: program.value.lines,
    diameter: contact,
  });
};
