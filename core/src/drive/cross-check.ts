import type { Question } from '../samples';
import type { Mm } from '../units';
import { fixed, mm, percent, worked, type WorkedLine } from '../working';
import { outsideVolume, type RoundShape } from './round';

/** Diameter from a tape laid round, C / π, mm. @example diameterFromTape(276.225) // 87.925 */
export const diameterFromTape = (circumference: Mm): Mm => circumference / Math.PI;

/** A caliper and a tape that disagree by more than this share are both questioned. */
const AGREEMENT = 0.01;
/** What a tape read to the millimetre, laid by hand, may be off by round a blank, either way [assumed], mm. */
const TAPE_ERROR: Mm = 1;
/** What a caliper may be off by across a round blank, either way [assumed], mm. */
export const CALIPER_ERROR: Mm = 0.1;

/**
 * Diameter by caliper against circumference by tape. The commonest wrong entry is the diameter
 * [common practice], so whatever is more than both tools may be off by is shown, and beyond a hundredth asked about;
 * nothing is refused.
 */
export const tapeCheck = (
  caliper: Mm,
  tape: Mm | null,
): { readonly question: Question | null; readonly working: WorkedLine[] } => {
  if (tape === null) return { question: null, working: [] };
  const fromTape = diameterFromTape(tape);
  const off = fromTape / caliper - 1;
  const working = [
    worked('diameter by tape', 'C / π', `${fixed(tape)} / π`, mm(fromTape, 3), 'geometry'),
    worked(
      'tape against caliper',
      'C / (π × D) − 1',
      `${fixed(fromTape, 3)} / ${fixed(caliper, 3)} − 1`,
      percent(off, 2),
      'geometry',
    ),
  ];
  const apart = Math.abs(fromTape - caliper);
  if (apart <= TAPE_ERROR / Math.PI + CALIPER_ERROR) return { question: null, working };
  if (Math.abs(off) <= AGREEMENT)
    return {
      working,
      question: {
        field: 'diameter',
        message: `Caliper says ${mm(caliper)}, the tape ${mm(fromTape)} (${tape.toFixed(1)} mm round): ${mm(apart)} apart, more than a tape (± ${TAPE_ERROR} mm round) and a caliper (± ${CALIPER_ERROR} mm) are off by. The caliper’s is used: was the tape laid at the same place?`,
      },
    };
  const asRadius = Math.abs(fromTape / (2 * caliper) - 1) < AGREEMENT;
  return {
    working,
    question: {
      field: 'diameter',
      message: asRadius
        ? `The tape says ${mm(fromTape)} across, twice the ${mm(caliper)} typed. Was a radius typed?`
        : `Caliper says ${mm(caliper)}, the tape says ${mm(fromTape)} (${tape.toFixed(1)} mm round): ${percent(Math.abs(off))} apart. Measure both again at the same place.`,
    },
  };
};

/** Litres to a mm³. */
const LITRES = 1e-6;

/** A vessel cannot hold more than its outside volume. */
export const capacityCheck = (shape: RoundShape): Question | null => {
  if (shape.capacity === null) return null;
  const outside = outsideVolume(shape.profile) * LITRES;
  return shape.capacity > outside
    ? {
        field: 'capacity',
        message: `${fixed(shape.capacity, 3)} l do not go into a vessel of ${fixed(outside, 3)} l outside. A diameter or a length is wrong.`,
      }
    : null;
};
