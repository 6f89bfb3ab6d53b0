import type { Made } from '../holding';
import { fixed } from '../working';
import { atPoints } from './at-points';
import { fromUniform } from './combine';
import type { AxesInput, BudgetInput, LaidInput } from './input';
import { sourceOf, type SourcePart } from './source';

type MadeInput = BudgetInput & { readonly made: Made };

const kerfWords = ({ kerf, kerfMeasured }: Made): string => `kerf ± ${fixed(kerf, 3)}${kerfMeasured ? '' : ', unmeasured'}`; // prettier-ignore

const halveCut = ({ kerfMeasured }: Made): string =>
  kerfMeasured
    ? 'Measure the machine’s return with a repeated dot, and cut slower.'
    : 'Cut a gauge strip and measure the kerf.';

/** Walls that stand elsewhere than drawn: both in a loose pocket, one in a corner. */
const wallsSource = ({ made, lies }: MadeInput): SourcePart => {
  const { kerf, place } = made;
  const loose = lies === 'loose';
  // A loose piece moves by half of what its walls’ middle does, and by half of the room that they gain.
  const square = loose ? kerf ** 2 / 36 + (2 * place ** 2) / 9 : kerf ** 2 / 12 + place ** 2 / 3;
  return sourceOf(
    {
      id: 'cut',
      name: 'walls as they are cut',
      u: Math.sqrt(2 * square),
      worst: Math.SQRT2 * (kerf / 2 + place),
      origin: made.kerfMeasured ? 'measured' : 'assumed',
      halve: halveCut(made),
    },
    [
      loose ? '√(2 (kerf²/36 + 2 return²/9)): two walls, and the room they gain' : '√(2 (kerf²/12 + return²/3))',
      `${kerfWords(made)}, return ± ${fixed(place, 3)}`,
      made.kerfMeasured ? 'geometry' : 'assumed',
    ],
  );
};

/** Contacts and lines that were made elsewhere than drawn. */
const pointsSource = ({ made, art }: MadeInput, { seat }: LaidInput): SourcePart =>
  sourceOf(
    {
      id: 'cut',
      name: 'contacts and lines as they are made',
      ...atPoints(seat, art, made.place),
      origin: 'profile',
      halve: halveCut({ ...made, kerfMeasured: true }),
    },
    ['response of the seat × return / √3, at the art’s worst corner', `± ${fixed(made.place, 3)}`, 'geometry'],
  );

const seatingSource = ({ made: { seating }, art }: MadeInput, laid: LaidInput | null | undefined): SourcePart =>
  sourceOf(
    {
      id: 'seating',
      name: 'pushed home',
      ...(laid
        ? atPoints(laid.seat, art, seating, 'contact')
        : { u: Math.SQRT2 * fromUniform(seating), worst: Math.SQRT2 * seating }),
      origin: 'assumed',
      halve: 'Brush the stops clean, and press each piece home with the same light push.',
    },
    [
      laid ? 'response of the contacts × ± / √3, at the art’s worst corner' : '√2 × ± / √3, at two walls',
      `± ${fixed(seating, 3)}`,
      'assumed',
    ],
  );

const lineSource = ({ made: { line }, art }: MadeInput, { seat }: LaidInput): SourcePart =>
  sourceOf(
    {
      id: 'line',
      name: 'width of a drawn line',
      ...atPoints(seat, art, line, 'line'),
      origin: 'profile',
      halve: 'Draw the lines finer: less power, the focus on the board.',
    },
    [
      'response of the seat × half a line / √3, at the art’s worst corner',
      `± ${fixed(line, 3)}: as wide as a cut`,
      'geometry',
    ],
  );

/** What comes of how truly a fixture is made, and of how pieces are pushed home in it. */
export const madeSources = (input: MadeInput): SourcePart[] => {
  const { laid, lies } = input;
  const points = laid?.seat.points ?? [];
  return [
    laid ? pointsSource(input, laid) : wallsSource(input),
    ...(laid && points.some((p) => p.by === 'line') ? [lineSource(input, laid)] : []),
    ...(lies === 'against' && (!laid || points.some((p) => p.by === 'contact')) ? [seatingSource(input, laid)] : []),
  ].filter((s) => s.u > 0);
};

/**
 * What the machine's own axes leave over a distance: both scales, and of the lean the half that no turn of the placement
 * takes out.
 */
export const axesSource = (
  { scale, lean, measured, from }: AxesInput,
  lever: { rms: number; most: number },
): SourcePart =>
  sourceOf(
    {
      id: 'axes',
      name: 'the machine’s own axes',
      u: Math.hypot(fromUniform(scale), fromUniform(lean) / 2) * lever.rms,
      worst: (scale + lean / 2) * lever.most,
      origin: measured ? 'measured' : 'assumed',
      halve: measured
        ? 'Measure the burned square again with a finer rule.'
        : 'Burn a square as large as the bed takes and measure it with a rule (Hold station).',
    },
    [
      `√((scale / √3)² + (lean / 2√3)²) × distance ${from === 'marks' ? 'from the marks, over the pieces' : 'to the art’s corner'}`,
      `scale ± ${fixed(1000 * scale, 2)}, lean ± ${fixed(1000 * lean, 2)} mm a metre, ${fixed(lever.rms, 0)}`,
      measured ? 'geometry' : 'assumed',
    ],
  );
