import { numberIn } from './in-machine';
import { driveOf } from './settings';
import { correctionWords, roundLength, type ControlNumber } from '../../drive';
import {
  CAUTIONS,
  heldNow,
  type BatchInput,
  type DriveFindings,
  type Step,
  type OnDrive,
  type RoundReckoning,
} from '../../setup';
import { MANY_SAMPLES } from '../../samples';
import { degrees, fixed } from '../../working';

const step = (part: Step['part'], id: string, title: string, detail: string, more: Partial<Step> = {}): Step => ({
  id: `drive.${id}`,
  station: 'drive',
  part,
  title,
  detail,
  ...more,
});

/** What is brought to the crest where zero is set. */
const zeroWords = (input: BatchInput, { feature }: RoundReckoning['shape']): string => {
  if (!feature) return '';
  const at = driveOf(input).zeroAt ?? 0;
  if (Math.abs(at) < 1e-6) return `, ${feature.kind} up`;
  const to = Math.abs(at) > Math.PI - 1e-3 ? 'opposite' : `${degrees(Math.abs(at), 0)} ${at > 0 ? 'right' : 'left'} of`;
  return `, with what lies ${to} the ${feature.kind} up`;
};

/** Which diameter is typed beside the number, where the machine asks for one. */
export const diameterWords = ({ diameter }: Pick<ControlNumber, 'diameter'>): string =>
  diameter ? ` Where it asks for a diameter, type ${fixed(diameter.value)} mm: ${diameter.words}.` : '';

/** Bringing the drive in: the order matters, and each of these has been learned the hard way. */
const mountSteps = (input: BatchInput, on: OnDrive): Step[] => {
  const { drive, control } = on;
  const replaces = drive.axis.letter === 'Y';
  return [
    step(
      'do',
      'home',
      'Home the machine first',
      'Before the drive goes in: with its motor swapped the axis would home with the drive.',
      {
        caution: CAUTIONS.head,
      },
    ),
    step(
      'do',
      'switches',
      'Move 5 mm off the home switches',
      'So that the turning axis does not trip one. No homing from here until the drive is out again.',
    ),
    ...(replaces
      ? [
          step(
            'do',
            'plug',
            'Power off, then swap the motor plug',
            `The plug of the y motor goes to ${drive.name}. Plugs are moved with the power off only.`,
            {
              caution: CAUTIONS.power,
            },
          ),
        ]
      : []),
    step(
      'do',
      'stand',
      `Stand ${drive.name} ${on.standing.name}${drive.kind !== 'chuck' && drive.spacings?.length ? `, its rollers ${drive.centreDistance} mm apart` : ''}`,
      `Motor to the ${drive.motorSide}, its axis along x. ${Math.max(0, on.standing.left).toFixed(0)} mm are left under the head.`,
      {
        figure: { value: on.heights.crest.toFixed(0), unit: 'mm', label: 'crest over its feet' },
        caution: CAUTIONS.rollers,
      },
    ),
    ...(replaces
      ? [
          step(
            'do',
            'power-on',
            'Power on again; it must not home',
            'Should it home all the same, stop it at once: the turning axis has no switch to reach and would run on. Then switch homing at start off in the machine, with the old setting on the putback list.',
            { caution: CAUTIONS.rollers },
          ),
          step(
            'do',
            'unlock',
            'Unlock the machine where it stands',
            'A machine that was not homed waits locked. It has lost its place with the power; that does no harm, zero is set on the blank.',
          ),
        ]
      : []),
    ...(control.value === null
      ? []
      : [
          step(
            'do',
            'number',
            `Type it into the machine: ${control.where}`,
            `It stands at ${control.was}; Bistre keeps that on the putback list.${diameterWords(control)}`,
            {
              figure: { value: String(control.value), unit: control.unit, label: control.where },
              takes: { kind: 'number' },
              done: numberIn(input, control) === control.value,
            },
          ),
        ]),
    ...(on.throwing.recommended < drive.axisAcceleration - 0.5
      ? [
          step(
            'do',
            'slow',
            'Lower the turning axis’s acceleration',
            `From ${drive.axisAcceleration.toFixed(0)}: beyond twice this the blank ${on.throwing.cause}. It goes on the putback list.`,
            {
              figure: { value: on.throwing.recommended.toFixed(0), unit: 'mm/s²', label: 'at most' },
              takes: { kind: 'slow' },
              done: !on.mustSlow,
            },
          ),
        ]
      : []),
  ];
};

const laySteps = (input: BatchInput, r: RoundReckoning, on: OnDrive): Step[] => {
  const { shape } = r;
  const { drive, level, seat } = on;
  return [
    ...(shape.lid
      ? [
          step('do', 'lid', 'Lid off', 'It is heavier on one side, and a closed vessel must not be heated.', {
            caution: CAUTIONS.vessel,
          }),
        ]
      : []),
    step(
      'do',
      'lay',
      `Lay it with its rim to the ${driveOf(input).rimFaces}`,
      drive.kind === 'chuck'
        ? `In the jaws, straight; turn it by hand once and watch.`
        : `Contact circle ${on.seat.contactAt.toFixed(0)} mm from the rim, ${on.seat.contactDiameter.toFixed(1)} mm across${drive.kind === 'roller' && drive.bandThickness > 0 ? ', over the band' : ''}.`,
      { caution: shape.material === 'glass' ? CAUTIONS.vessel : CAUTIONS.rollers },
    ),
    ...(level.raise
      ? [
          step(
            'do',
            'tilt',
            `Raise the ${level.raise} until the engraved line is level`,
            drive.kind === 'chuck'
              ? 'A spirit level on the stretch that is engraved shows it.'
              : `From how it rests; a spirit level on the stretch that is engraved shows it. It then turns on the circle ${level.turnsOn.toFixed(0)} mm from the rim alone, ${seat.contactDiameter.toFixed(1)} mm across: let the raised end run on a ball or a roller.`,
            {
              figure: {
                value: level.lift.toFixed(1),
                unit: 'mm',
                label: `lift of the ${level.raise} over the blank’s ${roundLength(shape).toFixed(0)} mm`,
              },
            },
          ),
        ]
      : []),
    step(
      'do',
      'zero',
      `Zero at the rim, on the crest${zeroWords(input, shape)}`,
      `Pointer on the edge of the rim at the highest line; set the job’s zero there, on both axes.${on.drive.backlash > 0 ? ' Turn the last bit so that its value grows: the play is taken up as it is when it burns.' : ''}`,
    ),
    step(
      'do',
      'focus',
      'Focus on the crest, at the middle of the art',
      `${((r.artFrom + r.artTo) / 2).toFixed(0)} mm from the rim.`,
    ),
  ];
};

const letterStep = ({ letter }: DriveFindings): Step =>
  step(
    'check',
    'letter',
    'Burn the F on tape and pick its picture',
    letter ? correctionWords(letter) : 'Stand the blank on its base, rim up, and look at the F from outside.',
    {
      takes: { kind: 'letter' },
      files: [['letter.gcode', 'F, G-code']],
      done: letter !== null,
      caution: CAUTIONS.burn,
    },
  );

const proofSteps = (input: BatchInput, on: OnDrive): Step[] => [
  ...(on.drive.kind === 'chuck'
    ? [
        step(
          'check',
          'runout',
          'Put a dial to it and turn once',
          'Total reading, lowest to highest. Half of it moves the focus; the whole makes a wave of one turn.',
          {
            takes: { kind: 'run-out' },
            done: driveOf(input).runOut !== null,
          },
        ),
      ]
    : []),
  step(
    'check',
    'ring',
    on.ring.part === 1
      ? 'Burn one ring on masking tape'
      : `Burn ${degrees(2 * Math.PI * on.ring.part, 0)} of a ring on masking tape`,
    on.ring.part === 1
      ? 'Does the line run over its start, or stop short? Measure along the surface between the two ticks. Or draw a pen dot under the pointer and let it turn once with the beam off: the dot must be back under it.'
      : 'More of it would turn the feature into what is in its way. Measure the line along the surface, from tick to tick.',
    {
      takes: { kind: 'ring' },
      files: [
        ['ring.gcode', 'Ring, G-code'],
        ['turn.gcode', 'One turn, beam off'],
      ],
      done: on.rings.rings > 0,
      caution: CAUTIONS.burn,
    },
  ),
  ...(on.rings.rings > 0 && on.control.value !== null
    ? [
        step(
          'do',
          'number-again',
          `Type the corrected number: ${on.control.where}`,
          `The ring says by how much the drive really turns. The next ring proves it, if you like.${diameterWords(on.control)}`,
          {
            figure: { value: String(on.control.value), unit: on.control.unit, label: on.control.where },
            takes: { kind: 'number' },
            done: numberIn(input, on.control) === on.control.value,
          },
        ),
      ]
    : []),
  letterStep(driveOf(input)),
  step(
    'check',
    'walk',
    'Walk the true outline slowly, beam off',
    `At ${on.throwing.walkSpeed.toFixed(0)} mm/s. Nothing touches, nothing creeps, the dot stays on the zone.`,
    {
      caution: CAUTIONS.rollers,
      files: [['walk.gcode', 'Walk file']],
    },
  ),
];

/** A blank that lies still: its cradle, zero and focus. */
const cradleSteps = (input: BatchInput): Step[] => [
  step(
    'do',
    'cradle',
    'Cut the cradle and put it together',
    'Saddles across, rails along; slots are cut to the board as it was measured.',
    {
      caution: CAUTIONS.burn,
      files: [['cradle.svg', 'Cradle, SVG']],
    },
  ),
  step(
    'do',
    'zero',
    `Lay the piece in it, rim to the ${driveOf(input).rimFaces}; zero at the rim on the crest`,
    'It is not turned: only what lies there is engraved.',
  ),
  step('do', 'focus', 'Focus on the crest', 'At the middle of the art. Beside it the surface falls away.'),
  step(
    'check',
    'walk',
    'Walk the true outline with the beam off',
    'The dot stays on the piece all the way round, and on its crest from end to end.',
    { caution: CAUTIONS.head, files: [['walk.gcode', 'Walk file']] },
  ),
];

/** Which drive turns it; while none does, or this one cannot. */
const chooseStep = (input: BatchInput, { problem }: RoundReckoning): Step =>
  step(
    'do',
    'choose',
    input.drive ? `It does not go on ${input.drive.name}` : 'Choose the drive that turns it',
    problem?.message ?? 'What is typed into the machine, and what the blank weighs on it, follow from the drive.',
    { takes: { kind: 'drive' }, ticked: false },
  );

/** The steps of a round blank up to the run, with this setup's own numbers. */
export const roundSteps = (input: BatchInput, r: RoundReckoning, recipe: readonly Step[]): Step[] => [
  {
    id: 'blank.measure',
    station: 'blank',
    part: 'do',
    title: 'Measure the diameter of at least ten pieces',
    detail: 'Caliper at the widest place, two ways across; a tape round one of them checks the caliper.',
    figure: { value: String(input.blank.samples.diameter?.length ?? 0), unit: 'pieces', label: 'measured' },
    takes: { kind: 'samples' },
    done: (input.blank.samples.diameter?.length ?? 0) >= MANY_SAMPLES,
  },
  ...(heldNow(input).way === 'cradle'
    ? [...cradleSteps(input), ...recipe]
    : r.on
      ? [...mountSteps(input, r.on), ...laySteps(input, r, r.on), ...recipe, ...proofSteps(input, r.on)]
      : [chooseStep(input, r), ...recipe]),
];
