import type { Locator } from '../../holding';
import { CAUTIONS, focusStep, type BatchInput, saveStep, type Step, heldAs } from '../../setup';

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
    focusStep(
      'hold',
      'a blank laid on the grid',
      'It stays so for all of them. The pointer reads the grid below it; that is reckoned with.',
    ),
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
      done: heldAs(input, 'locator').found.back.length >= 3,
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
