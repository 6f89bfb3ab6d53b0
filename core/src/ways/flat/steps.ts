import {
  aimSteps,
  CAUTIONS,
  homeStep,
  pinSteps,
  recipeSteps,
  rereadStep,
  runSteps,
  saveStep,
  standSteps,
  type BatchInput,
  type BatchReckoning,
  type RunWords,
  type Step,
} from '../../setup';
import type { FillOrder } from '../../holding';
import { MANY_SAMPLES } from '../../samples';
import { fixed, pieceCount } from '../../working';

/** Pieces of one batch differ: that is measured before a fixture is made for them. */
export const measureStep = (input: BatchInput): Step => ({
  id: 'blank.measure',
  station: 'blank',
  part: 'do',
  title: 'Measure at least ten pieces',
  detail: 'Length, width and thickness at the blank’s middle. Take them from different boxes.',
  figure: { value: String(input.blank.samples.length.length), unit: 'pieces', label: 'measured' },
  takes: { kind: 'samples' },
  done: input.blank.samples.length.length >= MANY_SAMPLES,
});

export const materialStep = (title: string, detail: string): Step => ({
  id: 'hold.material',
  station: 'hold',
  part: 'check',
  title,
  detail: `${detail}. Read its safety sheet.`,
  caution: CAUTIONS.material,
});

/** The board's real kerf, while it is not known. */
const kerfSteps = (input: BatchInput): Step[] =>
  input.machine.kerfMeasuredAt
    ? []
    : [
        {
          id: 'hold.gauge',
          station: 'hold',
          part: 'do',
          title: 'Cut the gauge strip from the same board',
          detail: 'Its tongue shows the real kerf. Until then the machine’s kerf is assumed.',
          caution: CAUTIONS.material,
        },
        {
          id: 'hold.kerf',
          station: 'hold',
          part: 'check',
          title: 'Which is the narrowest slot the tongue enters?',
          detail: 'Type the number engraved under it.',
          takes: { kind: 'kerf' },
        },
      ];

/** What a board is like: its places, what is engraved on it and what is cut out, in words. */
export interface BoardWords {
  readonly places: string;
  readonly engraved: string;
  readonly cut: string;
  /** The corner that slot 1 is at. */
  readonly corner: FillOrder['corner'];
  /** What is tried before the board is saved. */
  readonly trial: readonly Step[];
  /** How a piece is seen to fit. */
  readonly fit: Step;
}

/** A board is tried, saved, cut, and a piece put into it. */
export const boardSteps = (input: BatchInput, r: BatchReckoning, words: BoardWords): Step[] => {
  const { board } = r;
  if (!board) return [];
  return [
    ...kerfSteps(input),
    ...words.trial,
    saveStep(input, 'Save the board to the Shelf', 'Its file is cut from what is saved.'),
    {
      id: 'hold.cut',
      station: 'hold',
      part: 'do',
      title: `Cut the board ${board.name} r${board.revision}`,
      detail: `${board.slots.length} ${words.places} in ${fixed(board.thickness, 1)} mm board. Marks and ${words.engraved} first, ${words.cut} next, outline last.`,
      figure: { value: `${board.width.toFixed(0)} × ${board.height.toFixed(0)}`, unit: 'mm', label: 'board' },
      files: [
        ['board.gcode', 'G-code'],
        ['board.svg', 'SVG'],
        ['board.dxf', 'DXF'],
      ],
      caution: CAUTIONS.burn,
    },
    words.fit,
    ...standSteps(r),
    ...pinSteps(input, r),
  ];
};

/** Laying, focusing, aiming and walking: what differs between a board and what lies on the bed by itself. */
export interface PlaceWords {
  readonly lay: RunWords;
  readonly focus: RunWords;
  /** Whether it may be turned to the machine, instead of the file to it. */
  readonly turns: boolean;
}

/** Work on the bed, aimed at by its marks. */
export const placeSteps = (input: BatchInput, r: BatchReckoning, { lay, focus, turns }: PlaceWords): Step[] =>
  !r.board
    ? []
    : [
        homeStep,
        { id: 'place.lay', station: 'place', part: 'do', ...lay },
        { id: 'place.focus', station: 'place', part: 'do', ...focus },
        ...aimSteps(input, r),
        ...(turns && input.setup.place.school === 'work' && r.place.turn && !r.place.turn.good
          ? [
              {
                id: 'place.turn',
                station: 'place' as const,
                part: 'do' as const,
                title: 'Turn the work',
                detail: r.place.turn.words,
                figure: {
                  value: r.place.turn.distance.toFixed(1),
                  unit: 'mm',
                  label: `move mark ${r.place.turn.move}`,
                },
              },
            ]
          : []),
        rereadStep(r),
        {
          id: 'place.walk',
          station: 'place',
          part: 'check',
          title: 'Walk the true outline with the beam off',
          detail: 'Run the walk file. The dot stays on the pieces all the way round.',
          caution: CAUTIONS.head,
          files: [['walk.gcode', 'Walk file']],
        },
      ];

/** What lies on the bed by itself is taped, and is in focus where it lies flat. */
export const lyingFlat = (lay: string, focus: string): PlaceWords => ({
  lay: { title: lay, detail: 'Anywhere, at any angle, flat: tape its edges, off the marks.' },
  focus: { title: focus, detail: 'On its middle, where it lies flat.' },
  turns: false,
});

/** A board is laid with its arrow to zero, and focused on a blank. */
export const boardPlaceSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const move = r.heights.bedMove ?? 0;
  const way = `${Math.abs(move).toFixed(2)} mm`;
  return placeSteps(input, r, {
    lay: {
      title: `Lay board ${r.board?.name} r${r.board?.revision} on the bed`,
      detail:
        'Arrow towards the machine’s zero. It need not be straight. Magnets or pins at the corners, off the marks.',
    },
    focus: {
      title: 'Focus on a blank, not on the board',
      detail:
        Math.abs(move) < 0.05
          ? 'Blank and board stand equally high.'
          : `If you focus on the board, move the bed ${way} ${move > 0 ? 'down' : 'up'} afterwards.`,
      figure: {
        value: Math.abs(move).toFixed(2),
        unit: `mm ${move >= 0 ? 'down' : 'up'}`,
        label: 'bed move from board to blank',
      },
    },
    turns: true,
  });
};

/** Filling a board: the first piece alone, then as many as it holds; `where` says where they go. */
export const fillWords = (input: BatchInput, r: BatchReckoning, where: string): RunWords => {
  const open = r.run.openLoad;
  const burn = `Burn load ${open}`;
  if (!input.firstApproved)
    return {
      title: open === null ? 'Lay the first piece in slot 1' : burn,
      detail: 'The rest is held until this one is approved.',
    };
  const size = Math.min(r.run.waiting.length, r.board?.slots.length ?? 1);
  return { title: open === null ? `Lay in ${pieceCount(size)}` : burn, detail: where };
};

/** The steps of a batch on a board that is laid on the bed by its marks. */
export const onBoard = (input: BatchInput, r: BatchReckoning, words: BoardWords): Step[] => [
  measureStep(input),
  ...boardSteps(input, r, words),
  ...boardPlaceSteps(input, r),
  ...recipeSteps(input),
  ...runSteps(input, r, fillWords(input, r, `Slot 1 is at the ${words.corner.replace('-', ' ')}.`), {
    looks: true,
  }),
];

/** What is taken first and placed then: placing stands before the run as long as nothing is taken, after it else. */
export const takenThenPlaced = (r: BatchReckoning, run: readonly Step[], place: readonly Step[]): Step[] =>
  r.run.openLoad === null ? [...run, ...place] : [...place, ...run];

export const POCKETS: Pick<BoardWords, 'places' | 'engraved' | 'cut'> = {
  places: 'pockets',
  engraved: 'labels',
  cut: 'pockets',
};

export const dropIn: Step = {
  id: 'hold.fit',
  station: 'hold',
  part: 'check',
  title: 'Drop your largest piece into three pockets',
  detail:
    'It falls in and comes out by its notch without force. If it does not, measure it and the pocket, and add both to the samples.',
  caution: CAUTIONS.hot,
};
