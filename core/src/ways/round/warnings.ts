import { accelerationIn } from './in-machine';
import {
  besideFor,
  diameterAt,
  featureName,
  featuresOf,
  featuresUnder,
  inReach,
  roundLength,
  takeUpAt,
  usableHalfWidth,
  type Drive,
  type RoundShape,
  type Spacings,
} from '../../drive';
import { degrees, fixed, listed, mm } from '../../working';
import type { BatchInput, Danger, OnDrive, PlacedFace, Remark } from '../../setup';

/** A ring over less of a turn tells too little of the drive. */
export const LEAST_RING = 0.2;

/** What stands out of a blank, as what is in a way. */
const inTheWay = (shape: RoundShape): string => {
  const out = featuresOf(shape).filter((f) => f.reach > 0);
  return out.length === 1 ? `the ${featureName(out[0]!)} is` : `${listed(out.map((f) => `the ${featureName(f)}`))} are`;
};

/** Art over what is on the blank already: a weld takes it otherwise, a logo or a handle not at all. */
const overFeatures = (face: PlacedFace, shape: RoundShape): readonly (readonly [string, Danger?])[] => {
  const { zone, along, places, half } = face;
  const [from, to] = [zone.x - along / 2, zone.x + along / 2];
  const met = places
    .filter((p) => !p.closes)
    .flatMap(({ angle }) => featuresUnder(featuresOf(shape), { from, to, angle, half }, shape.profile));
  return [...new Set(met)].map((f) =>
    f.kind === 'seam weld'
      ? [`${zone.name} crosses the ${featureName(f)}, which takes the beam otherwise than the rest. Turn it aside, or try it on a spoiled piece.`] // prettier-ignore
      : [`${zone.name} runs over the ${featureName(f)}. Turn it aside, move it along, or make it smaller.`, 'zone'],
  );
};

/** What will not go as it is set up, each with a way on. */
export const warningsOf = (
  input: BatchInput,
  faces: readonly PlacedFace[],
  shape: RoundShape,
  on: OnDrive | null,
): Remark[] => {
  const out: Remark[] = [];
  const drive = (message: string, danger?: Danger): void => {
    out.push({ station: 'drive', message, ...(danger ? { danger } : {}) });
  };
  for (const face of faces) {
    const { zone, choice } = face;
    const diameter = diameterAt(shape.profile, zone.x);
    const around = choice.wraps ? Math.PI * diameter : zone.height;
    if (around > Math.PI * diameter + 0.01)
      drive(
        `${zone.name} is ${mm(around)} wide; one turn there is ${mm(Math.PI * diameter)}. Make it narrower, or wrap it.`,
        'zone',
      );
    if (!choice.wraps && choice.repeats * zone.height > Math.PI * diameter + 0.01)
      drive(
        `${choice.repeats} times ${zone.name} do not go round: ${mm(choice.repeats * zone.height)} of ${mm(Math.PI * diameter)}.`,
        'zone',
      );
    if (face.art && !choice.wraps) {
      const [w, h] = choice.reads === 'around' ? [face.around, face.along] : [face.along, face.around];
      const { width, height } = face.art.size;
      if (width > w + 0.01 || height > h + 0.01)
        drive(
          `${choice.content.kind === 'art' ? choice.content.name : zone.name} is ${fixed(width, 1)} × ${mm(height, 1)} in its true size; ${zone.name} takes ${fixed(w, 1)} × ${mm(h, 1)}. Let it be as large as its zone takes it, or make the zone larger.`,
          'zone',
        );
    }
    for (const remark of overFeatures(face, shape)) drive(...remark);
    if (zone.x - zone.width / 2 < -0.01 || zone.x + zone.width / 2 > roundLength(shape) + 0.01)
      drive(`${zone.name} runs over the end of the blank.`, 'zone');
    if (!input.drive && !choice.wraps) {
      const half = usableHalfWidth(diameter / 2, input.machine.focusRange / 2);
      if (besideFor(diameter / 2, face.around / 2) > half)
        drive(
          `${zone.name} reaches ${mm(besideFor(diameter / 2, face.around / 2))} beside the crest; lying still, ${mm(half)} are in focus. Make it narrower, or use a drive.`,
          'focus',
        );
    }
    if (face.picture) {
      const { content, width, height } = face.picture;
      const dot = Math.max(width / content.width, height / content.height);
      // Three lines to a dot of the picture, and its dots begin to show as squares.
      if (on?.interval && dot > 3 * on.interval.used)
        drive(
          `${content.name} has a dot every ${mm(dot)}, lines are ${mm(on.interval.used)} apart: its dots will show. A picture of ${Math.round(width / on.interval.used)} × ${Math.round(height / on.interval.used)} dots would be as fine as the lines.`,
        );
      if (!input.drive)
        drive(
          `${content.name} is a picture: it is engraved on a drive, not on a piece lying still. Choose a drive, or carry art made of lines.`,
          'zone',
        );
    }
    if (!input.drive && (choice.wraps || face.places.some((p) => Math.abs(p.angle) > 1e-6)))
      drive(`${zone.name} does not lie at the crest: without a drive only what is at 0° can be engraved.`, 'zone');
    if (on)
      for (const place of face.places)
        if (!inReach(on.sweep, ((place.angle % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI), around / diameter))
          drive(
            `${zone.name} at ${degrees(Math.atan2(Math.sin(place.angle), Math.cos(place.angle)), 0)} cannot come to the top: ${inTheWay(shape)} in the way.`,
            'collision',
          );
  }
  const word = shape.feature?.kind ?? 'handle';
  if (on) {
    if (on.standing.left < 0) {
      const fits = on.heights.options.find((o) => o.fits);
      drive(
        `${mm(-on.standing.left)} too tall ${on.standing.name}. ${fits ? `It fits ${fits.name}, with ${mm(fits.left)} left.` : 'It does not fit under this head at all.'}`,
        'collision',
      );
    }
    if (!on.focusFall.ok)
      drive(
        `The surface leaves the focus by ${mm(on.focusFall.fall)}; ${mm(input.machine.focusRange / 2)} either way is in it. Engrave a shorter stretch, or level that stretch.`,
        'focus',
      );
    // Zeroed at the crest it would meet the head at once; anything else it meets on a whole turn only.
    for (const { at, message } of on.sweep.findings) {
      const part = on.reach !== null && on.ring.part >= LEAST_RING;
      // Zeroed aside from it, only how far the art keeps away is left to say.
      const words = at === 'head' && on.reach ? message.replace(/, and it cannot be zeroed.*$/, '.') : message;
      drive(words, at === 'head' && !on.reach ? 'collision' : part ? undefined : 'turn');
    }
    // Before it burns it is turned back by its play.
    const back = (2 * takeUpAt(on.drive, on.seat.contactDiameter)) / on.seat.contactDiameter;
    for (const face of faces)
      for (const { angle, closes } of face.places)
        if (
          on.reach &&
          on.sweep.radius > 0 &&
          (closes || angle - face.half - back < on.reach.from - 1e-9 || angle + face.half + back > on.reach.to + 1e-9)
        )
          // prettier-ignore
          drive(
            `From where it is zeroed, ${degrees(on.unrolling.zeroAt, 0)} right of the ${word}, ${face.zone.name} comes to the top only by turning the ${word} through what is in its way. Zero it on the side of the art.`,
            'collision',
          );
    if (on.throwing.limit === 0)
      drive('The handle alone turns this blank over: rollers cannot hold it. Use a chuck, or bands.', 'grip');
    if (on.mustSlow)
      drive(
        `The turning axis is set to ${fixed(accelerationIn(input, on.drive), 0)} mm/s²; this blank follows up to ${fixed(on.throwing.recommended, 0)} safely. Lower it for this job.`,
        'grip',
      );
  }
  return out;
};

/** Rollers that could stand better for this blank. */
export const spacingWarnings = (spacings: Spacings | null, drive: Drive | null): Remark[] => {
  if (!spacings?.best || !drive || drive.kind === 'chuck' || spacings.best.apart === drive.centreDistance) return [];
  const { best, all } = spacings;
  const now = all.find((s) => s.apart === drive.centreDistance);
  return [
    {
      station: 'drive',
      message: `Its rollers stand ${mm(drive.centreDistance, 0)} apart. ${mm(best.apart, 0)} apart they carry this blank better: it follows up to ${fixed(best.limit, 0)} mm/s²${now && now.limit > 0 ? `, not ${fixed(now.limit, 0)}` : ''}.`,
    },
  ];
};
