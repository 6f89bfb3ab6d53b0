import { fixed } from '../working';
import { CAUTIONS } from './cautions';
import { feedRunWords, feedSteps } from './feed-steps';
import { cardSteps, layStep, locatorSteps, lookStep, pinSteps, standSteps } from './fixing-steps';
import { effectiveHold } from './held';
import type { BatchInput } from './input';
import { longHoldSteps, longSteps } from './long-steps';
import type { LongReckoning } from './long';
import { photoSteps } from './photo-steps';
import { panelHoldSteps, panelPlaceSteps } from './panel-steps';
import { roundSteps } from './round/steps';
import { firstIsApproved } from './reckon';
import { liesByItself, type BatchReckoning } from './reckoned';
import { homeStep, saveStep, type Step } from './step';

/** A sheet is printed, measured and taped down; one that came printed is counted. */
const sheetSteps = (input: BatchInput, r: BatchReckoning): Step[] => [
  saveStep(input, 'Save the sheet to the Shelf', 'Its marks and places stay as they are printed.'),
  ...(effectiveHold(input).sheet.traced ? countSteps(r) : printSteps),
  materialStep(r),
  ...standSteps(r),
  ...pinSteps(input, r),
];

const materialStep = (r: BatchReckoning): Step => ({
  id: 'hold.material',
  station: 'hold',
  part: 'check',
  title: r.marked ? 'Is this material safe to burn?' : 'Is this film safe to burn?',
  detail: `${r.marked ? 'It is engraved' : `${r.board?.slots.length ?? 0} pieces are cut out of it`}. Read its safety sheet.`,
  caution: CAUTIONS.material,
});

/** What was found in a picture is compared with the sheet in hand. */
const countSteps = (r: BatchReckoning): Step[] => [
  {
    id: 'hold.count',
    station: 'hold',
    part: 'check',
    title: 'Count the pieces on the print',
    detail: `So many were found, and ${r.board?.marks.length ?? 0} marks. If the sheet has another number, look at the drawing for what was joined, split or left out.`,
    figure: { value: String(r.board?.slots.length ?? 0), unit: 'pieces', label: 'found in the picture' },
  },
];

const printSteps: readonly Step[] = [
  {
    id: 'hold.print',
    station: 'hold',
    part: 'do',
    title: 'Print the sheet at 100 %',
    detail: 'No fitting to the page, no scaling. The same printer and paper for all sheets.',
    figure: { value: '100.0', unit: 'mm', label: 'the printed bar' },
    files: [['print.pdf', 'Sheet to print, PDF']],
  },
  {
    id: 'hold.bar',
    station: 'hold',
    part: 'check',
    title: 'Measure the printed bar',
    detail: 'A millimetre off is a wrong print setting: print again. Less is paper and printer: the marks take it out.',
  },
];

const holdSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const { board } = r;
  if (!board) return [];
  if (r.cutLine) return sheetSteps(input, r);
  if (r.marked) return [materialStep(r), ...standSteps(r), ...pinSteps(input, r)];
  const kerf = input.machine.kerfMeasuredAt;
  return [
    ...(kerf
      ? []
      : [
          {
            id: 'hold.gauge',
            station: 'hold' as const,
            part: 'do' as const,
            title: 'Cut the gauge strip from the same board',
            detail: 'Its tongue shows the real kerf. Until then the machine’s kerf is assumed.',
            caution: CAUTIONS.material,
          },
        ]),
    ...(kerf
      ? []
      : [
          {
            id: 'hold.kerf',
            station: 'hold' as const,
            part: 'check' as const,
            title: 'Which is the narrowest slot the tongue enters?',
            detail: 'Type the number engraved under it.',
            takes: { kind: 'kerf' as const },
          },
        ]),
    ...cardSteps(input, r),
    saveStep(input, 'Save the board to the Shelf', 'Its file is cut from what is saved.'),
    {
      id: 'hold.cut',
      station: 'hold',
      part: 'do',
      title: `Cut the board ${board.name} r${board.revision}`,
      detail: `${board.slots.length} ${r.fixings.lines ? 'places with two pegs each' : 'pockets'} in ${fixed(input.setup.hold.boardThickness, 1)} mm board. Marks and ${r.fixings.lines ? 'lines' : 'labels'} first, ${r.fixings.lines ? 'holes for the pegs' : 'pockets'} next, outline last.`,
      figure: { value: `${board.width.toFixed(0)} × ${board.height.toFixed(0)}`, unit: 'mm', label: 'board' },
      files: [
        ['board.gcode', 'G-code'],
        ['board.svg', 'SVG'],
        ['board.dxf', 'DXF'],
      ],
      caution: CAUTIONS.burn,
    },
    r.fixings.lines
      ? layStep(r.fixings.lines)
      : {
          id: 'hold.fit',
          station: 'hold',
          part: 'check',
          title: 'Drop your largest piece into three pockets',
          detail:
            'It falls in and comes out by its notch without force. If it does not, measure it and the pocket, and add both to the samples.',
          caution: CAUTIONS.hot,
        },
    ...standSteps(r),
    ...pinSteps(input, r),
  ];
};

/** Aiming at one mark. */
const aimStep = (input: BatchInput, mark: number, check: boolean, done: boolean): Step => {
  const [coarse, fine, finest] = input.machine.jogSteps;
  return {
    id: `place.mark-${mark}`,
    station: 'place',
    part: check ? 'check' : 'do',
    title: check ? `Check with mark ${mark}` : `Aim at mark ${mark}`,
    detail: `Step ${coarse}, then ${fine}, last approach ${finest} mm. ${input.machine.pointerOffset ? 'The pointer offset is taken off.' : 'The pointer offset is unmeasured: ± 0.3 mm is carried.'}`,
    takes: { kind: 'reading', mark, purpose: 'place' },
    done,
  };
};

/** Aiming at every mark that the board or sheet carries. */
const aimSteps = (input: BatchInput, r: BatchReckoning): Step[] =>
  (r.board?.marks ?? []).map((m) =>
    aimStep(
      input,
      m.id,
      m.role === 'check',
      r.place.pairs.some((p) => p.id === m.id),
    ),
  );

const rereadStep = (r: BatchReckoning): Step => ({
  id: 'place.reread',
  station: 'place',
  part: 'check',
  title: 'Read mark 1 again',
  detail: `It must come back within ${Math.max(0.1, 2 * Math.SQRT2 * r.place.sigma).toFixed(2)} mm.`,
  takes: { kind: 'reading', mark: 1, purpose: 'reread' },
  done: r.place.rereadOk === true,
});

const placeSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const { board } = r;
  if (!board) return [];
  const move = r.heights.bedMove;
  return [
    homeStep,
    {
      id: 'place.lay',
      station: 'place',
      part: 'do',
      title: r.marked
        ? `Lay ${r.run.openLoad === null ? 'a piece' : `piece ${r.onTheBoard[0]?.ordinal ?? ''}`} on the bed`
        : `Lay ${r.cutLine ? 'sheet' : 'board'} ${board.name} r${board.revision} on the bed`,
      detail: liesByItself(r)
        ? 'Anywhere, at any angle, flat: tape its edges, off the marks.'
        : 'Arrow towards the machine’s zero. It need not be straight. Magnets or pins at the corners, off the marks.',
    },
    {
      id: 'place.focus',
      station: 'place',
      part: 'do',
      title: r.marked ? 'Focus on the piece' : r.cutLine ? 'Focus on the sheet' : 'Focus on a blank, not on the board',
      detail: liesByItself(r)
        ? 'On its middle, where it lies flat.'
        : Math.abs(move) < 0.05
          ? 'Blank and board stand equally high.'
          : `If you focus on the board, move the bed ${Math.abs(move).toFixed(2)} mm ${move > 0 ? 'down' : 'up'} afterwards.`,
      ...(liesByItself(r)
        ? {}
        : {
            figure: {
              value: Math.abs(move).toFixed(2),
              unit: `mm ${move >= 0 ? 'down' : 'up'}`,
              label: 'bed move from board to blank',
            },
          }),
    },
    ...aimSteps(input, r),
    ...(!liesByItself(r) && input.setup.place.school === 'work' && r.place.turn && !r.place.turn.good
      ? [
          {
            id: 'place.turn',
            station: 'place' as const,
            part: 'do' as const,
            title: 'Turn the work',
            detail: r.place.turn.words,
            figure: { value: r.place.turn.distance.toFixed(1), unit: 'mm', label: `move mark ${r.place.turn.move}` },
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
};

/** What is laid on next, or burned now, in words. */
const runWords = (input: BatchInput, r: BatchReckoning): { title: string; detail: string; figure?: Step['figure'] } => {
  const open = r.run.openLoad;
  const approved = firstIsApproved(input);
  const size = Math.min(r.run.waiting.length, r.board?.slots.length ?? 1);
  if (r.feed) return feedRunWords(input, r, r.feed);
  if (r.photo)
    return open === null
      ? r.run.done > 0 && !approved
        ? { title: 'Look at the first piece, then approve it', detail: 'Let the others lie as they are.' }
        : {
            title:
              r.photo.free === 0
                ? 'Take another photograph'
                : approved
                  ? `Take ${Math.min(r.photo.free, r.run.waiting.length)} ${r.photo.parts ? 'parts' : 'blanks'} of the photograph`
                  : `Take the first ${r.photo.parts ? 'part' : 'blank'} of the photograph`,
            detail: 'Names go to the blanks as the picture is read: row by row from the back, each from the left.',
          }
      : { title: `Burn load ${open}`, detail: 'Nobody touches the blanks between photograph and burn.' };
  if (r.round)
    return {
      title:
        open === null
          ? `Lay the ${approved ? 'next' : 'first'} piece on, zero it`
          : `Burn piece ${r.onTheBoard[0]?.ordinal ?? ''}`,
      detail: 'Feature to the crest, rim at its zero. The rest is held until the first is approved.',
    };
  if (r.long)
    return open === null
      ? { title: 'Take the next work', detail: 'Have it at hand, with room for its whole length.' }
      : { title: 'Look at the whole work', detail: 'At its seams above all.' };
  if (r.marked)
    return {
      title:
        open === null
          ? `Take the ${approved ? 'next' : 'first'} piece`
          : `Burn piece ${r.onTheBoard[0]?.ordinal ?? ''}`,
      detail: 'Its own marks were read on this very piece. The rest is held until the first is approved.',
    };
  if (r.cutLine || r.cutOut)
    return {
      title:
        open === null
          ? `Take the next sheet: ${size} pieces`
          : r.cutOut
            ? `Burn the second file: side two${r.board?.marks.length ? ' and the outlines' : ''}`
            : `Burn load ${open}`,
      detail: r.cutOut
        ? open === null
          ? 'Side one is burned first; the list says which name goes where.'
          : 'Look at both faces of the first piece that is free.'
        : 'Its marks were read on this very sheet. Look at the first cut before the rest.',
    };
  if (!approved)
    return {
      title: open === null ? 'Load the first piece in slot 1' : `Burn load ${open}`,
      detail: 'The rest is held until this one is approved.',
    };
  return {
    title: open === null ? `Load ${size} pieces` : `Burn load ${open}`,
    detail: r.fixings.locator
      ? `Front left corner of each at its intersection; frame back on its stops, zero at ${r.fixings.locator.zero.x}, ${r.fixings.locator.zero.y}.`
      : `Slot 1 is at the ${input.setup.hold.order.corner.replace('-', ' ')}.`,
  };
};

const runSteps = (input: BatchInput, r: BatchReckoning): Step[] =>
  r.run.finished || input.closedAt
    ? []
    : [
        ...lookStep(input, r),
        {
          id: `run.load-${r.run.openLoad ?? 'next'}`,
          station: 'run',
          part: 'do',
          figure: { value: `${r.run.done} / ${input.quantity}`, unit: '', label: 'done' },
          ...runWords(input, r),
          caution: CAUTIONS.burn,
          takes: { kind: 'run' },
          ...(r.run.openLoad === null || r.round || r.long ? {} : { files: [['load.gcode', 'G-code']] as const }),
        },
      ];

/** A panel is taken, burned, turned and aimed at before its run comes to the second file. */
const panelSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const run = runSteps(input, r);
  const taken = r.run.openLoad !== null;
  return [
    ...panelHoldSteps(input, r),
    ...recipeSteps(input, r),
    ...(taken ? [] : run),
    ...panelPlaceSteps(input, r, [...aimSteps(input, r), rereadStep(r)]),
    ...(taken ? run : []),
  ];
};

/** A piece with marks of its own is taken, laid and aimed at, then burned; so is the next. */
const markedSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const run = runSteps(input, r);
  const taken = r.run.openLoad !== null;
  return [
    ...holdSteps(input, r),
    ...recipeSteps(input, r),
    ...(taken ? [] : run),
    ...placeSteps(input, r),
    ...(taken ? run : []),
  ];
};

/** A long piece is taken, then laid, aimed at and burned segment by segment, then judged. */
const segmentSteps = (input: BatchInput, r: BatchReckoning, long: LongReckoning): Step[] => {
  const run = runSteps(input, r);
  const taken = r.run.openLoad !== null;
  return [
    ...longHoldSteps(r, long),
    ...recipeSteps(input, r),
    ...(taken ? [] : run),
    ...longSteps(input, r, long, (mark) =>
      aimStep(
        input,
        mark,
        false,
        input.readings.some((m) => m.mark === mark && m.purpose === 'place'),
      ),
    ),
    ...(taken ? run : []),
  ];
};

/** The Do and Check steps of all stations as one sequence, with this setup's own numbers. */
export const benchSteps = (input: BatchInput, r: BatchReckoning): Step[] => [
  ...(r.photo
    ? photoSteps(
        input,
        r,
        r.photo,
        r.photo.onSheet ? [...aimSteps(input, r), rereadStep(r)] : [],
        recipeSteps(input, r),
        runSteps(input, r),
      )
    : r.feed
      ? feedSteps(input, r, r.feed, recipeSteps(input, r), runSteps(input, r))
      : r.long
        ? segmentSteps(input, r, r.long)
        : r.cutOut
          ? panelSteps(input, r)
          : r.marked
            ? markedSteps(input, r)
            : r.fixings.locator
              ? locatorSteps(input, r.fixings.locator, recipeSteps(input, r), runSteps(input, r))
              : [...setupSteps(input, r), ...recipeSteps(input, r), ...runSteps(input, r)]),
  ...closeSteps(input, r),
];

const setupSteps = (input: BatchInput, r: BatchReckoning): Step[] =>
  r.round
    ? roundSteps(input, r.round)
    : r.cutLine
      ? [...holdSteps(input, r), ...placeSteps(input, r)]
      : [
          {
            id: 'blank.measure',
            station: 'blank' as const,
            part: 'do' as const,
            title: 'Measure at least ten pieces',
            detail: 'Length, width and thickness at the blank’s middle. Take them from different boxes.',
            figure: { value: String(input.blank.samples.length.length), unit: 'pieces', label: 'measured' },
          },
          ...holdSteps(input, r),
          ...placeSteps(input, r),
        ];

const recipeSteps = (input: BatchInput, r: BatchReckoning): Step[] =>
  input.recipe
    ? [
        {
          id: 'burn.set',
          station: 'burn' as const,
          part: 'do' as const,
          title: `Recipe ${input.recipe.name}`,
          detail: r.cutLine
            ? `Cutting: ${(input.recipe.cut.power * 100).toFixed(0)} % at ${input.recipe.cut.speed} mm/s, ${input.recipe.cut.passes} ${input.recipe.cut.passes === 1 ? 'pass' : 'passes'}. The file carries it.`
            : `${(input.recipe.engrave.power * 100).toFixed(0)} % at ${input.recipe.engrave.speed} mm/s, ${input.recipe.engrave.interval} mm between lines. The file carries it.`,
          caution: CAUTIONS.material,
        },
      ]
    : [];

const closeSteps = (input: BatchInput, r: BatchReckoning): Step[] => [
  {
    id: 'close.putback',
    station: 'close',
    part: 'check',
    title: 'Everything put back',
    detail:
      input.putbacks.length === 0
        ? 'No machine setting was changed for this batch.'
        : input.putbacks.map((p) => `${p.setting}: ${p.now} back to ${p.was}`).join('; '),
  },
  r.round
    ? {
        id: 'close.fixture',
        station: 'close',
        part: 'do',
        title: 'Drive back on its shelf',
        detail: 'Power off first, then the motor plugs back where they were; home the machine afterwards.',
      }
    : {
        id: 'close.fixture',
        station: 'close',
        part: 'do',
        title: r.feed ? 'Feeder and bed clean' : liesByItself(r) ? 'Bed clean' : 'Board back on its shelf',
        detail: r.feed
          ? 'Waste off rollers and bars; rails off when the next work is short.'
          : liesByItself(r)
            ? 'Tape and waste off the bed; nothing glowing left under it.'
            : `Labelled ${r.board?.name ?? ''} r${r.board?.revision ?? 1}.`,
      },
  {
    id: 'close.finish',
    station: 'close',
    part: 'check',
    title: 'Finishing checks',
    detail: 'Blow off and wipe; rub one piece with a thumb. Eye and hearing protection for compressed air.',
  },
];
