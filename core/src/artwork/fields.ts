/** A text with fields: names of columns in braces, and `{serial}` for the piece’s own number. */
const FIELD = /\{([^{}]*)\}/g;

export const SERIAL_FIELD = 'serial';

/** Names of the fields of a text, each once. */
export const fieldsOf = (text: string): readonly string[] => [
  ...new Set([...text.matchAll(FIELD)].map((m) => m[1]!.trim())),
];

/**
 * Puts a piece’s own words in the place of a text’s fields.
 *
 * @returns the text, and which of its fields the piece has no word for
 * @example fillFields('BOAT {Boat}', { Boat: 'Tern' }) // { text: 'BOAT Tern', missing: [] }
 */
export const fillFields = (
  text: string,
  words: Readonly<Record<string, string | undefined>>,
): { readonly text: string; readonly missing: readonly string[] } => {
  const wordOf = (name: string): string => (Object.hasOwn(words, name) ? (words[name] ?? '').trim() : '');
  return {
    text: text.replace(FIELD, (_, name: string) => wordOf(name.trim())),
    missing: fieldsOf(text).filter((name) => wordOf(name) === ''),
  };
};
