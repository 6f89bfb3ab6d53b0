import { writeCode, CODE_NAMES, QUIET } from '../codes';
import { polyline, type Box, type Contour } from '../geometry';
import type { Blank, Side } from '../holding';
import { inkExtent, missingGlyphs, setText, setWidth, type Alphabet } from '../lettering';
import { listed } from '../working';
import { lay, layArt, NO_ART, type Artwork, type ArtworkContent, type CodeContent, type ZoneDrawing, type LaidArt, type ListedContent, type PictureContent, type SerialContent, type Under, type ZoneContent } from './content'; // prettier-ignore
import { fieldsOf, fillFields, SERIAL_FIELD } from './fields';
import type { ArtProblem } from './pieces';

/** Numbers that were given to pieces, by roster line from the first on; nothing where none was yet. */
export interface SerialNumbers {
  /** Which content of a zone they are of. */
  readonly contentId: string;
  readonly numbers: readonly (number | null)[];
}

/** What is laid on, and out of what. */
export interface Carrying {
  readonly contents: readonly ZoneContent[];
  readonly blank: Blank;
  readonly side: Side;
  readonly outline: readonly Contour[];
  readonly artworks: readonly Artwork[];
  readonly roster: readonly Readonly<Record<string, string>>[];
  readonly serials: readonly SerialNumbers[];
  readonly alphabets: Readonly<Record<string, Alphabet>>;
  /** How many pieces there are. */
  readonly count: number;
}

/** What the zones of a face carry beside their lettering. */
export interface Carried {
  /** On every piece alike. */
  readonly each: readonly LaidArt[];
  /** On one piece alone, by its roster line from the first on; shorter where nothing differs. */
  readonly own: readonly (readonly LaidArt[])[];
  readonly problems: readonly ArtProblem[];
}

/** Whether a word of the roster is the one that is meant. */
export const sameWord = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Columns of the roster that something in a zone is filled from. */
export const columnsOf = (contents: readonly ZoneContent[]): readonly string[] => [
  ...new Set(
    contents.flatMap((c): readonly string[] => {
      switch (c.kind) {
        case 'artwork':
          return c.choice ? [c.choice.column] : [];
        case 'listed':
          return [c.column];
        case 'code':
          return fieldsOf(c.text).filter((f) => f !== SERIAL_FIELD);
        case 'serial':
        case 'picture':
          return [];
      }
    }),
  ),
];

/** Words that a column of the roster has, each once in the order they come, however they are capitalised. */
export const wordsIn = (roster: Carrying['roster'], column: string): readonly string[] => {
  const out = new Map<string, string>();
  for (const row of roster) {
    const word = (row[column] ?? '').trim();
    if (!out.has(word.toLowerCase())) out.set(word.toLowerCase(), word);
  }
  return [...out.values()];
};

/** A number as it is read on a piece. */
export const serialText = ({ prefix, digits }: Pick<SerialContent, 'prefix' | 'digits'>, number: number): string =>
  `${prefix}${String(number).padStart(digits, '0')}`;

const codeDrawing = (content: CodeContent, text: string): { drawing: ZoneDrawing } | { problem: string } => {
  const code = writeCode(content.symbology, text);
  if (!code.ok) return { problem: code.problem.message };
  const { modules, dark } = code.value;
  const quiet = QUIET[content.symbology];
  const frame: Box = { minX: -quiet, minY: -quiet, maxX: modules + quiet, maxY: modules + quiet };
  const { minX, minY, maxX, maxY } = frame;
  // The other way round than what is dark, so that both are the same by either rule.
  const page = polyline([{ x: minX, y: minY }, { x: minX, y: maxY }, { x: maxX, y: maxY }, { x: maxX, y: minY }], true); // prettier-ignore
  return {
    drawing: {
      name: `${CODE_NAMES[content.symbology]} “${text.length > 40 ? `${text.slice(0, 39)}…` : text}”`,
      text,
      burned: { ...NO_ART, areas: content.reversed ? [page, ...dark] : dark },
      frame,
    },
  };
};

const textDrawing = (content: SerialContent, alphabet: Alphabet, text: string): ZoneDrawing => {
  const lines = setText(alphabet, text, { x: 0, y: 0 }, content.capHeight).map((points) => polyline(points, alphabet.kind === 'outline')); // prettier-ignore
  const { bottom, top } = inkExtent(alphabet, text);
  return {
    name: text,
    text,
    burned: { ...NO_ART, [alphabet.kind === 'outline' ? 'areas' : 'lines']: lines },
    frame: {
      minX: 0,
      maxX: content.capHeight * setWidth(alphabet, text),
      minY: content.capHeight * bottom,
      maxY: content.capHeight * top,
    },
  };
};

/** What one piece carries of one content, or why not; nothing where it is to carry nothing. */
type Own = { readonly laid: LaidArt | null } | { readonly problem: string };

/** Lays contents that differ from piece to piece; what is the same is laid once. */
class EachPiece {
  private readonly laid = new Map<string, Own>();
  private readonly counted: SerialContent | undefined;

  constructor(
    private readonly from: Carrying,
    private readonly under: (content: ZoneContent) => Under | null,
  ) {
    this.counted = from.contents.find((c) => c.kind === 'serial');
  }

  private once(key: string, make: () => Own): Own {
    const found = this.laid.get(key);
    if (found) return found;
    const made = make();
    this.laid.set(key, made);
    return made;
  }

  private artworkOf(id: string, revision: number): Artwork | undefined {
    return this.from.artworks.find((a) => a.id === id && a.revision === revision);
  }

  private art(content: ArtworkContent | ListedContent, id: string, revision: number, hidden: readonly string[]): Own {
    return this.once(`${content.id} ${id} ${revision} ${hidden.join()}`, () => {
      const under = this.under(content);
      const artwork = this.artworkOf(id, revision);
      if (!under || !artwork) return { problem: 'its artwork is not on the Shelf.' };
      const laid = layArt(artwork, content, under, hidden);
      return laid ? { laid } : { problem: `all of ${artwork.name} is a guide: nothing of it would be burned.` };
    });
  }

  private chosen(content: ArtworkContent, row: Readonly<Record<string, string>>): Own {
    const { column, of } = content.choice!;
    const word = row[column] ?? '';
    const found = of.find((o) => sameWord(o.word, word));
    if (!found) return { problem: `the list says “${word}” in ${column}, which stands for none of its styles. Say which it means.` }; // prettier-ignore
    const named = new Set(of.flatMap((o) => o.styles));
    return this.art(
      content,
      content.artworkId,
      content.revision,
      [...named].filter((s) => !found.styles.includes(s)),
    );
  }

  private listed(content: ListedContent, row: Readonly<Record<string, string>>): Own {
    const word = row[content.column] ?? '';
    const found = content.of.find((o) => sameWord(o.word, word));
    if (!found) return { problem: word.trim() === '' ? `the list names no artwork for it in ${content.column}.` : `the list names “${word}” in ${content.column}, which is no artwork yet. Say which it is.` }; // prettier-ignore
    return found.artworkId === null ? { laid: null } : this.art(content, found.artworkId, found.revision, []);
  }

  private numberOf(content: SerialContent, ordinal: number): number | null {
    return this.from.serials.find((s) => s.contentId === content.id)?.numbers[ordinal - 1] ?? null;
  }

  /** The number that codes carry: that of the first serial. */
  private serialOf(ordinal: number): string | undefined {
    const number = this.counted ? this.numberOf(this.counted, ordinal) : null;
    return this.counted && number !== null ? serialText(this.counted, number) : undefined;
  }

  private code(content: CodeContent, row: Readonly<Record<string, string>>, ordinal: number): Own {
    const { text, missing } = fillFields(content.text, { ...row, [SERIAL_FIELD]: this.serialOf(ordinal) });
    const none = missing.map((m) => (m === SERIAL_FIELD ? 'its serial number' : `“${m}”`));
    if (none.length > 0) return { problem: `its code waits for ${listed(none)}.` };
    return this.once(`${content.id} ${text}`, () => {
      const under = this.under(content);
      const made = codeDrawing(content, text);
      if (!under || 'problem' in made) return { problem: 'problem' in made ? made.problem : 'its zone is not there.' };
      return { laid: lay(made.drawing, content, under) };
    });
  }

  private serial(content: SerialContent, ordinal: number): Own {
    const number = this.numberOf(content, ordinal);
    const alphabet = this.from.alphabets[content.alphabet];
    const under = this.under(content);
    if (!under) return { laid: null };
    if (!alphabet) return { problem: `its alphabet, ${content.alphabet}, is not there.` };
    if (number === null) return { problem: 'no serial number was given to it yet.' };
    const text = serialText(content, number);
    const without = missingGlyphs(alphabet, text);
    if (without.length > 0) return { problem: `its alphabet has no ${listed(without)}.` };
    return { laid: lay(textDrawing(content, alphabet, text), content, under) };
  }

  private picture(content: PictureContent): Own {
    return this.once(content.id, () => {
      const under = this.under(content);
      const { pictureId, treatment, width, height, name } = content;
      const frame = { minX: 0, minY: 0, maxX: width, maxY: height };
      return { laid: under && lay({ name, burned: NO_ART, frame, picture: { pictureId, treatment, width, height } }, content, under) }; // prettier-ignore
    });
  }

  /** What a piece carries of one content. */
  of(content: ZoneContent, ordinal: number): Own {
    if (!this.under(content)) return { laid: null };
    const row = this.from.roster[ordinal - 1] ?? {};
    switch (content.kind) {
      case 'artwork':
        return content.choice ? this.chosen(content, row) : this.art(content, content.artworkId, content.revision, []);
      case 'listed':
        return this.listed(content, row);
      case 'code':
        return this.code(content, row, ordinal);
      case 'serial':
        return this.serial(content, ordinal);
      case 'picture':
        return this.picture(content);
    }
  }
}

/** Whether every piece carries it alike. */
const isAlike = (c: ZoneContent): boolean =>
  c.kind === 'picture' || (c.kind === 'artwork' && !c.choice) || (c.kind === 'code' && fieldsOf(c.text).length === 0);

/**
 * Lays what the zones of a face carry: what is the same on every piece once, the rest piece by piece.
 *
 * @returns what is laid, and what is missing of single pieces, each named
 */
export const carriedBy = (from: Carrying): Carried => {
  const { contents, blank, side, outline, count } = from;
  const under = (content: ZoneContent): Under | null => {
    const zone = blank.zones.find((z) => z.id === content.zoneId && (z.side ?? 'front') === side);
    return zone ? { zone, blank, outline } : null;
  };
  const pieces = new EachPiece(from, under);
  const alike = contents.filter(isAlike);
  const differing = contents.filter((c) => !isAlike(c) && under(c));
  const problems: ArtProblem[] = [];
  const each = alike.flatMap((c) => {
    const own = pieces.of(c, 1);
    return 'laid' in own && own.laid ? [own.laid] : [];
  });
  const own =
    differing.length === 0
      ? []
      : Array.from({ length: count }, (_, i) =>
          differing.flatMap((c): LaidArt[] => {
            const made = pieces.of(c, i + 1);
            if ('problem' in made) problems.push({ piece: i + 1, message: `Piece ${i + 1}: ${made.problem}` });
            return 'laid' in made && made.laid ? [made.laid] : [];
          }),
        );
  return { each, own, problems };
};
