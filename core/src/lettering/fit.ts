import type { Mm, Share } from '../units';
import type { Problem } from '../result';
import { fixed, mm, worked, type WorkedLine } from '../working';
import type { Vec } from '../geometry';
import { inkExtent, missingGlyphs, setText, setWidth, type Alphabet } from './alphabet';

/** One line of text of a zone. */
export interface LineStyle {
  /** Roster column that fills it. */
  readonly column: string;
  readonly alphabet: Alphabet;
  /** Wanted height of a capital, mm. */
  readonly capHeight: Mm;
}

export interface FitRules {
  /** Clear space inside the zone's margins, mm. */
  readonly width: Mm;
  readonly height: Mm;
  /** Clear distance between the ink of two lines, mm. */
  readonly gap: Mm;
  /** Narrowest setting allowed before the height gives way, as a share of the natural width. */
  readonly narrowest: Share;
  /** Smallest capital that is still engraved, mm. */
  readonly smallest: Mm;
  readonly across: 'left' | 'centre' | 'right';
  readonly down: 'top' | 'middle' | 'bottom';
}

/** One line as set on one piece. Positions are in the zone's frame, origin at its centre. */
export interface SetLine {
  /** Index of the line's style. */
  readonly line: number;
  readonly text: string;
  readonly origin: Vec;
  readonly capHeight: Mm;
  readonly squeeze: Share;
  /** Bounds of the setting: advance widths across, ink up and down; mm. */
  readonly width: Mm;
  readonly top: Mm;
  readonly bottom: Mm;
}

export interface PieceLettering {
  readonly lines: readonly SetLine[];
}

/** A piece that could not be set like the rest. */
export interface FitException {
  readonly piece: number;
  readonly line: number;
  readonly text: string;
  readonly kind: 'narrower' | 'smaller' | 'does-not-fit' | 'missing-glyph';
  readonly message: string;
}

export interface Lettering {
  readonly pieces: readonly PieceLettering[];
  readonly capHeights: readonly Mm[];
  readonly exceptions: readonly FitException[];
  readonly problem: Problem | null;
  readonly working: readonly WorkedLine[];
}

interface LinePlan {
  readonly capHeight: number;
  /** Baseline, mm above the zone's centre. */
  readonly baseline: number;
}

/** Cap heights and baselines shared by the whole batch, so that no ink leaves the zone's height. */
const planLines = (
  styles: readonly LineStyle[],
  texts: readonly (readonly string[])[],
  rules: FitRules,
): { plans: LinePlan[]; shrink: number } => {
  const extents = styles.map((style, i) => {
    let top = 1;
    let bottom = 0;
    for (const piece of texts) {
      const ink = inkExtent(style.alphabet, piece[i] ?? '');
      top = Math.max(top, ink.top);
      bottom = Math.min(bottom, ink.bottom);
    }
    return { top, bottom };
  });
  const ink = styles.reduce((sum, s, i) => sum + s.capHeight * (extents[i]!.top - extents[i]!.bottom), 0);
  const gaps = rules.gap * (styles.length - 1);
  const shrink = ink + gaps <= rules.height ? 1 : Math.max(0, (rules.height - gaps) / ink);
  const total = ink * shrink + gaps;
  let y = rules.down === 'top' ? rules.height / 2 : rules.down === 'middle' ? total / 2 : total - rules.height / 2;
  const plans = styles.map((style, i) => {
    const capHeight = style.capHeight * shrink;
    const baseline = y - extents[i]!.top * capHeight;
    y = baseline + extents[i]!.bottom * capHeight - rules.gap;
    return { capHeight, baseline };
  });
  return { plans, shrink };
};

/**
 * Sets names into a zone. One cap height for the whole batch; a text too wide for the zone is set
 * narrower down to a limit, then smaller; every exception is listed by piece.
 *
 * @param texts per piece, one text per line
 * @example fitLettering([style], [['KESTREL'], ['PUFFIN']], rules).pieces[0].lines[0].capHeight
 */
export const fitLettering = (
  styles: readonly LineStyle[],
  texts: readonly (readonly string[])[],
  rules: FitRules,
): Lettering => {
  const exceptions: FitException[] = [];
  const { plans, shrink } = planLines(styles, texts, rules);
  const pieces = texts.map((piece, index): PieceLettering => ({
    lines: styles.flatMap((style, i): SetLine[] => {
      const text = piece[i] ?? '';
      if (text.trim() === '') return [];
      const plan = plans[i]!;
      const note = (kind: FitException['kind'], message: string): void => {
        exceptions.push({ piece: index + 1, line: i + 1, text, kind, message });
      };
      const missing = missingGlyphs(style.alphabet, text);
      if (missing.length > 0) {
        note(
          'missing-glyph',
          `Piece ${index + 1}, “${text}”: ${style.alphabet.name} has no ${missing.map((c) => `“${c}”`).join(', ')}.`,
        );
        return [];
      }
      const natural = setWidth(style.alphabet, text) * plan.capHeight;
      const room = rules.width / natural;
      let { capHeight } = plan;
      let squeeze = 1;
      if (room < 1) {
        squeeze = Math.max(room, rules.narrowest);
        if (room < rules.narrowest) capHeight *= room / rules.narrowest;
        if (capHeight < rules.smallest) {
          note(
            'does-not-fit',
            `Piece ${index + 1}, “${text}” would need capitals of ${mm(capHeight)}; the smallest allowed is ${mm(rules.smallest)}.`,
          );
          return [];
        }
        if (capHeight < plan.capHeight)
          note(
            'smaller',
            `Piece ${index + 1}, “${text}” is set at ${mm(capHeight)} instead of ${mm(plan.capHeight)}, ${Math.round(squeeze * 100)} % wide.`,
          );
        else note('narrower', `Piece ${index + 1}, “${text}” is set ${Math.round(squeeze * 100)} % wide.`);
      }
      const width = setWidth(style.alphabet, text) * capHeight * squeeze;
      const x =
        rules.across === 'left' ? -rules.width / 2 : rules.across === 'right' ? rules.width / 2 - width : -width / 2;
      const ink = inkExtent(style.alphabet, text);
      return [
        {
          line: i,
          text,
          origin: { x, y: plan.baseline },
          capHeight,
          squeeze,
          width,
          top: plan.baseline + ink.top * capHeight,
          bottom: plan.baseline + ink.bottom * capHeight,
        },
      ];
    }),
  }));
  const tooSmall = plans.findIndex((p) => p.capHeight < rules.smallest);
  return {
    pieces,
    capHeights: plans.map((p) => p.capHeight),
    exceptions,
    problem:
      tooSmall < 0
        ? null
        : {
            code: 'zone-too-low',
            field: 'lettering',
            message: `The zone is ${mm(rules.height)} high inside its margins: ${styles.length} lines would need capitals of ${mm(plans[tooSmall]!.capHeight)}, below the smallest allowed (${mm(rules.smallest)}). Use fewer lines, a smaller gap or a larger zone.`,
          },
    working: plans.map((p, i) =>
      worked(
        `cap height, line ${i + 1}`,
        shrink < 1 ? 'wanted × (zone height − gaps) / ink height' : 'wanted height, it fits',
        `${fixed(styles[i]!.capHeight)} × ${fixed(shrink, 3)}`,
        mm(p.capHeight),
        'geometry',
      ),
    ),
  };
};

/** The polylines of a set piece, in the zone's frame; closed and filled for outline alphabets. */
export const letteringLines = (
  styles: readonly LineStyle[],
  piece: PieceLettering,
): { points: Vec[]; filled: boolean }[] =>
  piece.lines.flatMap((line) => {
    const { alphabet } = styles[line.line]!;
    return setText(alphabet, line.text, line.origin, line.capHeight, line.squeeze).map((points) => ({
      points,
      filled: alphabet.kind === 'outline',
    }));
  });
