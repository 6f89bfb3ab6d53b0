/** Where a rule or a number comes from. Shown beside every reading. */
export type Basis =
  'geometry' | 'statistics' | 'common practice' | 'assumed' | 'typed' | `measured ${string}` | `published: ${string}`;

/** One line of working: the rule, the rule with its values put in, and what came out. */
export interface WorkedLine {
  readonly label: string;
  readonly formula: string;
  readonly substituted: string;
  readonly result: string;
  readonly basis: Basis;
}

/**
 * A line of working, as the interface, the setup sheet and the tests read it.
 * @example worked('turn', 'π × D', 'π × 19.66 mm', '61.76 mm', 'geometry')
 */
export const worked = (
  label: string,
  formula: string,
  substituted: string,
  result: string,
  basis: Basis,
): WorkedLine => ({ label, formula, substituted, result, basis });

/** Without the noughts that end its decimals; those of a whole number stay. */
const trimZeros = (text: string): string => (text.includes('.') ? text.replace(/\.?0+$/, '') : text);

/** Fixed-point number for a working line, never `-0`. */
export const fixed = (value: number, digits = 2): string => {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? (0).toFixed(digits) : text.replace('-', '−');
};

/** Millimetres for a working line. @example mm(61.764) // '61.76 mm' */
export const mm = (value: number, digits = 2): string => `${fixed(value, digits)} mm`;

/** Things as a sentence lists them. @example listed(['1', '2', '3']) // '1, 2 and 3' */
export const listed = (words: readonly (string | number)[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** A size without the noughts that end it, mm. */
export const sizeInWords = ({ width, height }: { readonly width: number; readonly height: number }): string =>
  `${Number(width.toFixed(1))} × ${Number(height.toFixed(1))} mm`;

/** Things as a sentence counts them. @example counted(1, 'spare') // '1 spare' */
export const counted = (n: number, word: string): string => `${n} ${n === 1 ? word : `${word}s`}`;

/** Pieces as a sentence counts them. @example pieceCount(1) // '1 piece' */
export const pieceCount = (n: number): string => `${n} ${n === 1 ? 'piece' : 'pieces'}`;

/** Degrees for a working line, from radians. */
export const degrees = (radians: number, digits = 3): string => `${fixed((radians * 180) / Math.PI, digits)}°`;

/** A share as per cent, without claiming certainty: 0.99996 is shown as `over 99.99 %`. */
export const percent = (share: number, digits = 1): string => {
  if (share > 0.9999 && share < 1) return 'over 99.99 %';
  if (share < 0.0001 && share > 0) return 'under 0.01 %';
  return `${trimZeros((share * 100).toFixed(digits))} %`;
};
