import type { Mm, Rad } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import type { Drive, Riser } from './drives';
import { featureName, featuresOf, type OtherFeature } from './features';
import { inTurn } from './one-turn';
import { diameterAt } from './profile';
import { type RoundShape } from './round';
import type { Seat } from './seat';
import type { TaperReckoning } from './taper';

/** Room under the head. Lengths mm. */
export interface HeadRoom {
  /** Nozzle to the bed at its lowest. */
  readonly bedLowest: Mm;
  /** Nozzle to the floor of the machine when the bed is taken out; null when it cannot be. */
  readonly withoutBed: Mm | null;
  readonly nozzleGap: Mm;
}

export interface HeightOption {
  readonly name: string;
  /** Room left over, mm; negative when it does not fit. */
  readonly left: Mm;
  readonly fits: boolean;
}

export interface HeightStack {
  /** Crest over the drive's feet. */
  readonly crest: Mm;
  readonly options: readonly HeightOption[];
  readonly working: readonly WorkedLine[];
}

/**
 * Highest point over the feet of a blank that leans about its contact circle: of every place of its
 * profile, radius × cos + distance along × sin.
 */
export const crestHeight = (shape: RoundShape, seat: Seat, lean: Pick<TaperReckoning, 'tilt' | 'raise'>): Mm => {
  const rise = Math.sin(lean.tilt) * (lean.raise === 'rim' ? -1 : 1);
  return Math.max(
    ...shape.profile.map(
      (p) => seat.axisHeight + (p.diameter / 2) * Math.cos(lean.tilt) + (p.at - seat.contactAt) * rise,
    ),
  );
};

/**
 * Drive, blank and focus gap against the room under the head; every way to stand it with what is
 * left over.
 */
export const heightStack = (
  shape: RoundShape,
  drive: Drive,
  seat: Seat,
  lean: Pick<TaperReckoning, 'tilt' | 'raise'>,
  head: HeadRoom,
): HeightStack => {
  const crest = crestHeight(shape, seat, lean);
  const need = crest + head.nozzleGap;
  const grounds: readonly { name: string; room: Mm }[] = [
    { name: 'on the bed', room: head.bedLowest },
    ...(head.withoutBed === null ? [] : [{ name: 'bed taken out', room: head.withoutBed }]),
  ];
  const feet: readonly Riser[] = [{ name: '', height: 0 }, ...drive.risers];
  return {
    crest,
    options: grounds.flatMap((ground) =>
      feet.map((riser) => {
        const left = ground.room - need - riser.height;
        return { name: riser.name === '' ? ground.name : `${ground.name}, on ${riser.name}`, left, fits: left >= 0 };
      }),
    ),
    working: [
      worked(
        'crest over the feet',
        'axis + radius × cos tilt, the highest place',
        `${fixed(seat.axisHeight)} + ${fixed(crest - seat.axisHeight)}`,
        mm(crest),
        'geometry',
      ),
      worked(
        'needed under the head',
        'crest + nozzle gap',
        `${fixed(crest)} + ${fixed(head.nozzleGap)}`,
        mm(need),
        'geometry',
      ),
      worked(
        'room',
        'nozzle to the bed at its lowest',
        mm(head.bedLowest),
        `${mm(head.bedLowest - need)} left`,
        'typed',
      ),
    ],
  };
};

/** A stretch of angles, rad. */
interface Arc {
  readonly from: Rad;
  readonly to: Rad;
}

export interface Sweep {
  /** Radius that the feature sweeps, mm; nought without one. */
  readonly radius: Mm;
  /** Angles from the feature that can come to the top; the whole turn when nothing is in the way. */
  readonly free: readonly Arc[];
  /** What it meets on the way round; at the top it meets the head, also where the feature is zeroed. */
  readonly findings: readonly { readonly at: 'ground' | 'rollers' | 'head'; readonly message: string }[];
}

const TURN = 2 * Math.PI;

/**
 * What handles and whatever else stands out meet while the blank turns: the bed below, the rollers, the head above.
 *
 * @param standHeight height of the drive's feet over the ground (risers), mm
 * @param rollersFrom stretch of the blank, from its rim, that lies on rollers; mm
 * @param headAlong stretch of the blank that the head passes over, mm
 */
export const handleSweep = (
  shape: RoundShape,
  drive: Drive,
  seat: Seat,
  standHeight: Mm,
  rollers: { readonly from: Mm; readonly to: Mm },
  headAlong: { readonly from: Mm; readonly to: Mm },
  nozzleGap: Mm,
): Sweep => {
  const out = featuresOf(shape).filter((f) => f.reach > 0);
  const met = out.map((f) => sweepOf(f, [shape, drive, seat, standHeight, rollers, headAlong, nozzleGap]));
  return {
    radius: Math.max(0, ...met.map((m) => m.radius)),
    free: freeArcs(met.flatMap((m) => m.blocked)),
    findings: met.flatMap((m) => m.findings),
  };
};

/** What one of them meets, and the angles that cannot be brought to the crest for it. */
const sweepOf = (
  feature: OtherFeature,
  [shape, drive, seat, standHeight, rollers, headAlong, nozzleGap]: Parameters<typeof handleSweep>,
): { readonly radius: Mm; readonly blocked: readonly Arc[]; readonly findings: Sweep['findings'] } => {
  const r = diameterAt(shape.profile, (feature.from + feature.to) / 2) / 2;
  const radius = r + feature.reach;
  const findings: Sweep['findings'][number][] = [];
  const word = featureName(feature);
  const blocked: Arc[] = [];
  const axis = seat.axisHeight + standHeight;
  if (axis < radius) {
    // Below the axis the feature reaches the ground between these angles from straight down.
    const half = Math.acos(axis / radius);
    blocked.push({ from: Math.PI - half, to: Math.PI + half });
    findings.push({
      at: 'ground',
      message: `The ${word} reaches ${mm(radius - axis)} below the ground: it cannot pass under. A riser of that height clears it.`,
    });
  }
  const overRollers = drive.kind !== 'chuck' && feature.from < rollers.to && feature.to > rollers.from;
  if (overRollers) {
    const half = seat.theta + Math.asin(Math.min(1, (seat.rollerRadius + 2) / (seat.rollerRadius + r)));
    blocked.push({ from: Math.PI - half, to: Math.PI + half });
    findings.push({
      at: 'rollers',
      message: `The ${word} cannot pass the rollers. Let it hang over their end, or keep the art away from the side opposite to it.`,
    });
  }
  const underHead = feature.from < headAlong.to && feature.to > headAlong.from;
  if (underHead && feature.reach > nozzleGap) {
    const half = Math.acos(Math.min(1, (r + nozzleGap) / radius));
    blocked.push({ from: TURN - half, to: TURN + half });
    findings.push({
      at: 'head',
      message: `The ${word} would hit the head at the top: art keeps ${((half * 180) / Math.PI).toFixed(0)}° away from it, and it cannot be zeroed there. Zero it on the side opposite, let it lie beyond the stretch that the head passes, or raise the head.`,
    });
  }
  // Its edges are met before its middle is; angles are counted from the main feature.
  const edge = (feature.width ?? 0) / 2 / r;
  const shifted = blocked.map((b) => ({ from: b.from + feature.angle - edge, to: b.to + feature.angle + edge }));
  return { radius, blocked: shifted, findings };
};

/**
 * How far the blank may be turned from where it is zeroed before its feature meets something: the free stretch that holds
 * that angle, the whole turn about it where nothing is in the way; null where it cannot be zeroed there.
 */
export const freeFrom = (
  { free }: Pick<Sweep, 'free'>,
  zeroAt: Rad,
): { readonly from: Rad; readonly to: Rad } | null => {
  if (free.length === 1 && free[0]!.from === 0 && free[0]!.to === TURN) return { from: zeroAt - TURN / 2, to: zeroAt + TURN / 2 }; // prettier-ignore
  const first = free.find((f) => f.from === 0);
  const last = free.find((f) => f.to === TURN);
  // Two that meet at nought are one.
  const joined = first && last && first !== last ? [{ from: last.from - TURN, to: first.to }] : [];
  const all = [...joined, ...free.filter((f) => joined.length === 0 || (f !== first && f !== last))];
  const at = all.flatMap((f) => [-TURN, 0, TURN].map((k) => ({ from: f.from + k, to: f.to + k }))).find((f) => f.from <= zeroAt + 1e-9 && f.to >= zeroAt - 1e-9); // prettier-ignore
  return at ?? null;
};

/** What is left of the turn between blocked stretches, from 0 on. */
const freeArcs = (blocked: readonly Arc[]): Arc[] => {
  const cut = blocked
    .map((b) => ({ from: inTurn(b.from, 0), to: inTurn(b.from, 0) + b.to - b.from }))
    .flatMap((b) =>
      b.to > TURN
        ? [
            { from: b.from, to: TURN },
            { from: 0, to: b.to - TURN },
          ]
        : [b],
    )
    .sort((a, b) => a.from - b.from);
  const free: Arc[] = [];
  let at = 0;
  for (const b of cut) {
    if (b.from > at) free.push({ from: at, to: b.from });
    at = Math.max(at, b.to);
  }
  if (at < TURN) free.push({ from: at, to: TURN });
  return free;
};

/** Whether a stretch of angles about a middle lies in one free stretch (or two that meet at nought). */
export const inReach = (sweep: Sweep, middle: Rad, half: Rad): boolean => {
  if (sweep.free.length === 1 && sweep.free[0]!.from === 0 && sweep.free[0]!.to === TURN) return true;
  const covers = (from: Rad, to: Rad): boolean => sweep.free.some((f) => f.from <= from + 1e-9 && f.to >= to - 1e-9);
  const from = (((middle - half) % TURN) + TURN) % TURN;
  const to = from + 2 * half;
  return to <= TURN ? covers(from, to) : covers(from, TURN) && covers(0, to - TURN);
};
