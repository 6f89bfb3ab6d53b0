import {
  CAUTIONS,
  focusStep,
  heldAs,
  type BatchInput,
  type PhotoReckoning,
  type BatchReckoning,
  homeStep,
  type Step,
} from '../../setup';

/** How the marks of a photograph come to be. */
const markSteps = (input: BatchInput, photo: PhotoReckoning): Step[] => {
  const { marksOn, sheet } = heldAs(input, 'photo').choice;
  if (marksOn === 'sheet')
    return [
      {
        id: 'hold.photo-print',
        station: 'hold',
        part: 'do',
        title: `Print the sheet of marks on ${sheet}, at 100 %`,
        detail:
          'No fitting to the page. Measure its bar: a millimetre off is a wrong setting, less is taken out by the marks.',
        figure: { value: '100.0', unit: 'mm', label: 'the printed bar' },
        files: [['marks.pdf', 'Sheet of marks, PDF']],
      },
      {
        id: 'hold.photo-sheet',
        station: 'hold',
        part: 'do',
        title: 'Tape the sheet flat on the bed',
        detail: 'Anywhere under the head, at any angle, no ripple. It stays there until the load is burned.',
      },
    ];
  if (marksOn === 'own')
    return [
      {
        id: 'hold.photo-own',
        station: 'hold',
        part: 'do',
        title: 'Keep the bed’s own marks in sight',
        detail: `${photo.marks.length} features at known places. In the picture they are aimed at by hand, with a loupe.`,
      },
    ];
  return [
    {
      id: 'hold.photo-marks',
      station: 'hold',
      part: 'do',
      title: 'Burn the camera’s marks on paper',
      detail:
        'Tape strips of white paper round the bed’s edge and let the machine burn the ten marks: it knows where they are, so nothing is aimed at. They serve as long as nothing moves.',
      caution: CAUTIONS.burn,
      files: [
        ['marks.gcode', 'Marks, G-code'],
        ['marks.svg', 'SVG'],
      ],
    },
  ];
};

/** Blanks lying anywhere: marks burned once, blanks laid, a photograph, its questions, then the burn. */
export const photoSteps = (
  input: BatchInput,
  r: BatchReckoning,
  photo: PhotoReckoning,
  aim: readonly Step[],
  recipe: readonly Step[],
  run: readonly Step[],
): Step[] => [
  { ...homeStep, id: 'hold.home', station: 'hold' },
  ...markSteps(input, photo),
  {
    id: 'hold.photo-lay',
    station: 'hold',
    part: 'do',
    title: photo.parts ? 'Lay the offcuts on the bed' : 'Lay the blanks on the bed',
    detail: photo.parts
      ? 'Anywhere between the marks, flat, grain along the bed, not touching. Mark with a dark pen what must not be used; holes and knots are seen.'
      : 'Anywhere between the marks, at any angle, face up, not touching. A plain sheet under them, darker than they are if you can: a shadow is then told from a blank. Light from all sides, no lamp low at one.',
  },
  {
    id: 'hold.photo-take',
    station: 'hold',
    part: 'do',
    title: photo.found === 0 ? 'Take a photograph of the whole bed' : 'The bed is photographed',
    detail:
      photo.found === 0
        ? `All marks in it, from straight above as well as you can, about ${heldAs(input, 'photo').choice.cameraHeight.toFixed(0)} mm over the bed.`
        : `${photo.found} ${photo.parts ? 'parts are laid into the offcuts' : 'blanks are found'}, ${photo.free} of them without a burn. Whoever moves one takes another photograph.`,
    takes: { kind: 'photo' },
    done: photo.free > 0 || r.run.openLoad !== null || r.run.finished,
  },
  ...(photo.asks > 0
    ? [
        {
          id: 'hold.photo-ask',
          station: 'hold' as const,
          part: 'check' as const,
          title: `Answer for ${photo.asks === 1 ? 'one blank' : `${photo.asks} blanks`}`,
          detail: 'Marked in the picture: take it as it is drawn, or leave it out. Nothing is burned before.',
          takes: { kind: 'photo' as const },
        },
      ]
    : []),
  {
    id: 'hold.material',
    station: 'hold',
    part: 'check',
    title: 'Is this material safe to burn?',
    detail: 'Read its safety sheet.',
    caution: CAUTIONS.material,
  },
  ...recipe,
  {
    ...focusStep(
      'hold',
      photo.parts ? 'an offcut' : 'a blank',
      `Not on the bed${photo.onSheet ? ' or the sheet of marks' : ''}: if you do, move the bed ${r.sizes.thickness.mean.toFixed(2)} mm down afterwards.`,
    ),
    figure: { value: r.sizes.thickness.mean.toFixed(2), unit: 'mm down', label: 'bed move from bed to blank' },
  },
  ...(photo.found === 0 ? [] : aim),
  ...(photo.found === 0
    ? []
    : [
        {
          id: photo.onSheet
            ? 'place.walk'
            : `place.photo-walk-${heldAs(input, 'photo').found.takenAt?.replace(/\D/g, '') ?? '0'}`,
          station: photo.onSheet ? ('place' as const) : ('hold' as const),
          part: 'check' as const,
          title: 'Walk the outlines with the beam off',
          detail: 'The dot stays on the blanks. If it does not, something moved since the photograph.',
          caution: CAUTIONS.head,
          files: [['walk.gcode', 'Walk file']] as const,
        },
      ]),
  ...(r.run.finished ? [] : run),
];
