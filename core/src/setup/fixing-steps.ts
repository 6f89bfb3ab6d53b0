import type { LineSeat, Locator } from '../holding';
import { CAUTIONS } from './cautions';
import { looksAtPieces } from './fixings';
import type { BatchInput } from './input';
import { firstIsApproved } from './reckon';
import type { BatchReckoning } from './reckoned';
import { saveStep, type Step } from './step';

/** A trial of the outline in card comes before the board is cut. */
export const cardSteps = (input: BatchInput, r: BatchReckoning): Step[] =>
  r.fixings.lines
    ? [
        {
          id: 'hold.card',
          station: 'hold',
          part: 'do',
          title: 'Cut the outline in card first',
          detail: 'Thin card, one piece. A sheet of card is cheaper than a board that does not fit.',
          files: [
            ['card.gcode', 'Card, G-code'],
            ['card.svg', 'SVG'],
          ],
          caution: CAUTIONS.burn,
        },
        {
          id: 'hold.card-gap',
          station: 'hold',
          part: 'check',
          title: 'Lay a blank on the card: where is the widest gap?',
          detail: 'All the way round, on both sides of the edge. Over 1 mm, scan or draw the outline again.',
          takes: { kind: 'card' },
          done: input.setup.hold.lines.card !== null,
        },
      ]
    : [];

/** How a piece goes against its pegs and lines. */
export const layStep = (lines: LineSeat): Step => ({
  id: 'hold.fit',
  station: 'hold',
  part: 'check',
  title: 'Lay a blank against its pegs and lines',
  detail: `Push where the arrow is, until both pegs bear; then slide it until the gap to both lines is even. Done twice, it must lie the same: what your eye leaves moves the art by ± ${(1.96 * lines.spread).toFixed(2)} mm.`,
  caution: CAUTIONS.hot,
});

/** A stand, from a board whose fit was tried. */
export const standSteps = ({ fixings: { stand, fit } }: BatchReckoning): Step[] =>
  stand && fit
    ? [
        {
          id: 'hold.fit-gauge',
          station: 'hold',
          part: 'check',
          title: 'Which slot of the fit gauge holds an offcut?',
          detail: 'The narrowest that it goes into by hand, and stays. Dots count them.',
          files: [['fit-gauge.svg', 'Fit gauge']],
          takes: { kind: 'fit' },
        },
        {
          id: 'hold.stand',
          station: 'hold',
          part: 'do',
          title: `Cut and push together the stand: ${stand.along} + ${stand.across} strips`,
          detail: `Slots ${fit.slot.toFixed(2)} mm for this board. Strips with slots up first, the others down onto them.`,
          files: [['stand.svg', 'Stand']],
          caution: CAUTIONS.burn,
        },
      ]
    : [];

/** Pins that hold the work down: gauge, a dozen on scrap, then where they go. */
export const pinSteps = (input: BatchInput, r: BatchReckoning): Step[] => {
  const { pins } = r.fixings;
  if (!pins) return [];
  return [
    ...(input.setup.hold.pins?.shank === null
      ? [
          {
            id: 'hold.pin-gauge',
            station: 'hold' as const,
            part: 'check' as const,
            title: 'Which shank of the pin gauge goes in by hand?',
            detail: 'The widest that goes into a cell and stays when you shake the strip. Dots count them.',
            files: [['pin-gauge.svg', 'Pin gauge']] as const,
            takes: { kind: 'shank' as const },
          },
        ]
      : []),
    {
      id: 'hold.pins',
      station: 'hold',
      part: 'do',
      title: `Cut ${Math.min(12, pins.onScrap)} pins on scrap`,
      detail: `Shank ${pins.shank.toFixed(2)} mm, ${pins.length.toFixed(1)} mm under the head.`,
      figure: { value: String(pins.places.length), unit: 'pins', label: 'are pushed in' },
      files: [
        ['pins.gcode', 'Pins, G-code'],
        ['pins.svg', 'SVG'],
      ],
      caution: CAUTIONS.burn,
    },
    {
      id: 'hold.pins-in',
      station: 'hold',
      part: 'do',
      title: 'Push the pins in where they are drawn',
      detail: `Into the nearest cell, hooks over the edge, heads flat. They stand ${pins.top.toFixed(1)} mm over the bed.`,
      caution: CAUTIONS.head,
    },
  ];
};

/** Which face is the better one, and what to keep clear of; asked before a load is laid. */
export const lookStep = (input: BatchInput, r: BatchReckoning): Step[] =>
  looksAtPieces(input) &&
  r.run.openLoad === null &&
  (r.run.done === 0 || firstIsApproved(input)) &&
  (r.fixings.lines !== null || input.setup.looks.pieces.length > 0)
    ? [
        {
          id: `run.look-${r.run.done}`,
          station: 'run',
          part: 'check',
          title: 'Look at the pieces: which face, any defects?',
          detail:
            'The better face goes up. Touch the picture where a knot or a dark streak lies: the art keeps clear of it.',
          takes: { kind: 'look' },
        },
      ]
    : [];

/** A locator board: sawn and glued, its grid burned, zero set, the frame lifted and put back. */
export const locatorSteps = (
  input: BatchInput,
  locator: Locator,
  recipe: readonly Step[],
  run: readonly Step[],
): Step[] => {
  const { board, zero, repeat, stops } = locator;
  const at = (i: number): string => {
    const s = stops[i]!;
    return `${(s.block.minX - board.minX).toFixed(0)} mm from the left edge, ${(s.block.minY - board.minY).toFixed(0)} mm from the front`;
  };
  return [
    saveStep(input, 'Save the locator board to the Shelf', 'Its size and grid stay as they are built.'),
    {
      id: 'hold.saw',
      station: 'hold',
      part: 'do',
      title: 'Saw the board and three stops',
      detail: 'Flat board, square corners, one straight long edge on each stop. The list says how large.',
      figure: {
        value: `${(board.maxX - board.minX).toFixed(0)} × ${(board.maxY - board.minY).toFixed(0)}`,
        unit: 'mm',
        label: 'board',
      },
      files: [
        ['locator.csv', 'Cut list'],
        ['locator.svg', 'Drawing'],
      ],
      caution: 'Saw and dust: eye protection, a mask, hands off the blade; local rules come first.',
    },
    {
      id: 'hold.glue-front',
      station: 'hold',
      part: 'do',
      title: 'Glue the two front stops along a straight edge',
      detail: `Left: ${at(0)}. Right: ${at(1)}. Their back edges in one line.`,
    },
    {
      id: 'hold.glue-side',
      station: 'hold',
      part: 'do',
      title: 'Stand the frame on it, against the front stops; glue the third',
      detail: `Left side of the back left foot: ${at(2)}. No fourth: it would bear on that one or this one, and the frame would rock.`,
    },
    ...recipe,
    {
      id: 'hold.grid',
      station: 'hold',
      part: 'do',
      title: 'Let the frame burn its grid',
      detail: `${locator.xs.length} × ${locator.ys.length} lines, faint, on the board it stands on. What the machine drew runs as the machine does.`,
      files: [
        ['grid.gcode', 'Grid, G-code'],
        ['grid.svg', 'SVG'],
        ['grid.dxf', 'DXF'],
      ],
      caution: CAUTIONS.burn,
    },
    {
      id: 'hold.zero',
      station: 'hold',
      part: 'do',
      title: `Set zero over the grid’s ${zero.x}, ${zero.y}`,
      detail: `Pointer on the intersection, then set the machine’s zero there. ${input.machine.pointerOffset ? 'The pointer offset is in the file.' : 'The pointer offset is unmeasured: ± 0.3 mm is carried.'}`,
      figure: { value: `${zero.x}, ${zero.y}`, unit: '', label: 'intersection for zero' },
      caution: CAUTIONS.head,
    },
    {
      id: 'hold.back',
      station: 'hold',
      part: 'check',
      title: `Burn a dot at ${repeat.x}, ${repeat.y}; lift the frame off and on; burn it again`,
      detail: `On card, three times: one try says little. With a loupe, how far apart are the two dots? A turn of a tenth of a degree shows there as ${((Math.hypot(repeat.x - zero.x, repeat.y - zero.y) * Math.PI) / 1800).toFixed(1)} mm.`,
      takes: { kind: 'back' },
      done: input.setup.hold.locator.back.length >= 3,
      caution: CAUTIONS.burn,
    },
    {
      id: 'hold.locator-walk',
      station: 'hold',
      part: 'check',
      title: 'Walk the true outline with the beam off',
      detail: 'Pieces on their lines. The dot stays on them all the way round.',
      files: [['walk.gcode', 'Walk file']],
      caution: CAUTIONS.head,
    },
    ...run,
  ];
};
