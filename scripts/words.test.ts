import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** Every word of the list with what is never said for it. */
const words = readFileSync(join(ROOT, 'docs/words.md'), 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('| ') && !/^\| (word|---)/.test(line))
  .map((line) => line.split('|').map((cell) => cell.trim()))
  .map(([, word, , never]) => ({ word: word!, never: never!.split(', ') }));

const filesIn = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.|\.d\.ts$|testing\/|test-|db\//.test(file))
    .map((file) => join(folder, file));

/** Texts of a file that a person reads: words with spaces between, no names of classes or of files that are needed. */
const textsOf = (file: string): string[] => {
  const source = ts.createSourceFile(file, readFileSync(join(ROOT, file), 'utf8'), ts.ScriptTarget.Latest, true, file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS); // prettier-ignore
  const out: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || (ts.isJsxAttribute(node) && /^(className|d|transform)$/.test(node.name.getText()))) return; // prettier-ignore
    if (ts.isStringLiteralLike(node) || ts.isTemplateHead(node) || ts.isTemplateMiddle(node) || ts.isTemplateTail(node) || ts.isJsxText(node)) out.push(node.text.replace(/\s+/g, ' ').trim()); // prettier-ignore
    ts.forEachChild(node, visit);
  };
  visit(source);
  // Names within the program are one small word.
  return out.filter((text) => / |^[A-Z]/.test(text));
};

/** What is called so by others: a machine's own settings, and the sheet that comes with a substance (GHS, part 1.5). */
const OTHERS_WORDS = /^rotary(,| axis)|safety data sheet/;
const found = (texts: readonly string[], never: string): string[] => {
  const pattern = new RegExp(`(?<![\\w-])${never.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\w-])`, 'i');
  return texts.filter((text) => pattern.test(text) && !OTHERS_WORDS.test(text));
};

describe('one word for one thing', () => {
  const texts = ['web/src', 'core/src', 'contract/src', 'server/src'].flatMap(filesIn).flatMap(textsOf);

  it('is a list of words with what is never said for them', () => {
    expect(words.map((w) => w.word)).toEqual(expect.arrayContaining(['batch', 'slot', 'board', 'drive', 'roster', 'load'])); // prettier-ignore
    expect(texts.length).toBeGreaterThan(3_000);
  });

  it.each(words.flatMap(({ word, never }) => never.map((n) => [word, n] as const)))(
    '%s, and not “%s”',
    (_word, never) => expect(found(texts, never)).toEqual([]),
  );

  it('finds what it looks for: a word by itself, whatever its case, not a part of another', () => {
    expect(found(['Put it in the Jig.', 'jiggle', 'rotary axis, steps/mm'], 'jig')).toEqual(['Put it in the Jig.']);
    expect(found(['rotary axis, steps/mm', 'the rotary turns'], 'rotary')).toEqual(['the rotary turns']);
    expect(found(['a safety data sheet', 'your data sheet'], 'data sheet')).toEqual(['your data sheet']);
  });
});
