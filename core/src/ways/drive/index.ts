import { freshDriveSettings, heldAs, untriedDrive, type BatchInput, type BatchReckoning } from '../../setup';
import { entered, notStarted, PROVED } from '../flat';
import {
  driveNeeds,
  letterGcode,
  letterIsOld,
  numberIn,
  numberStands,
  outlineNeeds,
  ringGcode,
  ROUND,
  tapeNeeds,
  turnedGcode,
  turnGcode,
  turnedNeeds,
  turnedWalk,
  wholeTurnNeeds,
} from '../round';
import type { State, Way } from '../way';

const state = (input: BatchInput, r: BatchReckoning): State => {
  const on = r.own.round?.on;
  const { found } = heldAs(input, 'drive');
  if (!input.drive) return notStarted('choose a drive, or let it lie still');
  if (!on) return entered(r.own.round?.problem?.message ?? 'the blank does not go on this drive');
  if (input.setup.faces.length === 0) return entered('say what goes where on the blank');
  const { control, throwing, rings } = on;
  const number = numberIn(input, control);
  if (control.value !== null && number === null)
    return entered(`type ${control.value} ${control.unit} into the machine`);
  if (on.mustSlow) return entered(`lower the axis to ${throwing.recommended.toFixed(0)} mm/s²`);
  if (rings.rings === 0) return entered('burn a witness ring and read it');
  if (control.value !== null && !numberStands(control, number))
    return { state: 'out of date', waits: `the ring corrects the number to ${control.value} ${control.unit}` };
  if (letterIsOld(input)) return entered('burn the F again: what is said of the drive has changed since');
  if (found.letter === null) return entered('burn the F and pick its picture');
  return input.ticks.includes('drive.walk') ? PROVED : entered('walk the outline slowly');
};

/** A round blank turned by rollers or jaws. */
export const drive: Way = {
  ...ROUND,
  id: 'drive',
  words: 'a drive that turns it',
  comes: ['round'],
  good: 'All the way round, or more than a hand’s width of it.',
  fresh: () => ({ way: 'drive', choice: freshDriveSettings, found: untriedDrive }),
  ready: (_, { own: { round } }) =>
    round?.on
      ? null
      : {
          code: 'no-drive',
          message: round?.problem?.message ?? 'Choose a drive first: the piece lies on it.',
          field: 'drive',
        },
  stations: { drive: state },
  files: {
    ...ROUND.files,
    programs: {
      ...ROUND.files.programs,
      load: (input, r, { title, pictures, progress }) => turnedGcode(input, r, title, pictures, progress),
      ring: ringGcode,
      turn: turnGcode,
      letter: letterGcode,
      walk: turnedWalk,
    },
    needs: {
      'load.gcode': turnedNeeds,
      'walk.gcode': (input, r) => [...driveNeeds(r), ...outlineNeeds(input)],
      'ring.gcode': tapeNeeds,
      'turn.gcode': wholeTurnNeeds,
      'letter.gcode': tapeNeeds,
    },
  },
  putAway: () => ({
    title: 'Drive back on its shelf',
    detail: 'Power off first, then the motor plugs back where they were; home the machine afterwards.',
  }),
};
