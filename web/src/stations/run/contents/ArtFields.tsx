import type { ArtworkDocument } from '@bistre/contract';
import { isFor, roleOf, sameWord, wordsIn } from '@bistre/core';
import { useArtworks, useRecipes } from '../../../data/queries';
import { Select, Tick } from '../../../parts/fields';
import { NewerFile } from '../../../parts/NewerFile';
import { Swatch } from '../../../parts/Swatch';
import { columnNames, type Change, type Known, type Of } from './parts';

/** Words of a list that are shown one by one. */
const SHOWN = 40;

const More = ({ of }: { of: number }) =>
  of > SHOWN ? <p className="text-[13px] text-soft">and {of - SHOWN} more words of the list.</p> : null;

const wordsHere = ({ handle }: Known, column: string, of: readonly { readonly word: string }[]): readonly string[] => {
  const here = wordsIn(handle.batch.roster, column);
  return [...here, ...of.map((o) => o.word).filter((w) => !here.some((h) => sameWord(h, w)))];
};

const inWords = (word: string): string => (word === '' ? '(empty)' : word);

/** Which styles of a file are burned where the list says so. */
const Choices = ({ content, onChange, known, styles }: Change<Of<'artwork'>> & { styles: ArtworkDocument['revisions'][number]['styles'] }) => {
  const choice = content.choice!;
  const words = wordsHere(known, choice.column, choice.of);
  const chosen = (word: string): readonly string[] => choice.of.find((o) => sameWord(o.word, word))?.styles ?? [];
  const put = (word: string, key: string, on: boolean): void => {
    const next = words.map((w) => ({ word: w, styles: [...chosen(w)] }));
    const at = next.find((o) => sameWord(o.word, word))!;
    at.styles = on ? [...at.styles, key] : at.styles.filter((s) => s !== key);
    onChange({ ...content, choice: { ...choice, of: next } });
  };
  return (
    <>
      <p className="mt-1 text-[13px] text-soft">A colour that is ticked for some is burned on those pieces alone.</p>
      <table className="mt-1">
        <tbody>
          {words.slice(0, SHOWN).map((word) => (
            <tr key={word} className="border-t border-hairline">
              <td className="pr-4">{inWords(word)}</td>
              {styles.map((s) => (
                <td key={s.key} className="pr-3">
                  <Tick
                    label={<Swatch of={s.of} paint={s.paint} name={`${s.key} on ${inWords(word)}`} />}
                    checked={chosen(word).includes(s.key)}
                    onChange={(on) => put(word, s.key, on)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <More of={words.length} />
    </>
  );
}; // prettier-ignore

/** Colours that are burned by a recipe of their own: a line darker than the rest, a score beside an engraving. */
const StyleRecipes = ({ content, onChange, known, styles }: Change<Of<'artwork'>> & { styles: ArtworkDocument['revisions'][number]['styles'] }) => {
  const { data: recipes = [] } = useRecipes();
  const { machine, recipe, blank } = known.handle.batch;
  const own = content.recipes ?? [];
  const here = recipes.filter((r) => r.machineId === machine.id && r.id !== recipe?.id && isFor({ material: r.spec.material }, blank.spec.material));
  const offered = [...here, ...recipes.filter((r) => !here.includes(r) && own.some((o) => o.recipeId === r.id))];
  if (styles.length === 0 || offered.length === 0) return null;
  const put = (style: string, recipeId: string): void => {
    const rest = own.filter((o) => o.style !== style);
    const next = recipeId === '' ? rest : [...rest, { style, recipeId }];
    onChange({ ...content, recipes: next.length > 0 ? next : null });
  };
  return (
    <table className="mt-1.5">
      <tbody>
        {styles.map((s) => (
          <tr key={s.key} className="border-t border-hairline">
            <td className="pr-3">
              <Swatch of={s.of} paint={s.paint} /> <span className="text-[13px]">burned by</span>
            </td>
            <td className="w-64 py-0.5">
              <Select
                hideLabel
                label={`${s.key} is burned by`}
                value={own.find((o) => o.style === s.key)?.recipeId ?? ''}
                options={[['', recipe ? recipe.name : 'the batch’s recipe'], ...offered.map((r) => [r.id, r.name] as const)]}
                onChange={(id) => put(s.key, id)}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}; // prettier-ignore

/** The same art on every piece, or some of its colours by the list. */
export const ArtworkFields = ({ content, onChange, known }: Change<Of<'artwork'>>) => {
  const { data: artworks = [] } = useArtworks();
  const document = artworks.find((a) => a.id === content.artworkId);
  const styles = (document?.revisions.find((r) => r.number === content.revision)?.styles ?? []).filter((s) => roleOf(document!.spec.roles, s) !== 'guide'); // prettier-ignore
  const { columns } = known.handle.batch;
  const column = content.choice?.column ?? '';
  const begin = (to: string): Of<'artwork'>['choice'] =>
    to === '' ? null : { column: to, of: wordsIn(known.handle.batch.roster, to).map((word) => ({ word, styles: [] })) };
  return (
    <>
      {styles.length > 1 && (columns.length > 0 || column !== '') && (
        <div className="mt-1.5 max-w-80">
          <Select
            label="Its colours"
            value={column}
            options={[['', 'all on every piece'], ...columnNames(columns, column).map(([c]) => [c, `some by “${c}” of the list`] as const)]} // prettier-ignore
            onChange={(to) => onChange({ ...content, choice: begin(to) })}
          />
        </div>
      )}
      {!known.round && <StyleRecipes content={content} onChange={onChange} known={known} styles={styles} />}
      {content.choice && <Choices content={content} onChange={onChange} known={known} styles={styles} />}
      <NewerFile
        what="this batch"
        have={content.revision}
        newest={known.newestOf(content.artworkId)}
        onTake={(revision) => onChange({ ...content, revision })}
      />
    </>
  );
};

/** What each word of a column stands for: the artwork of that name, where there is one. */
export const byName = (words: readonly string[], { artworks, newestOf }: Pick<Known, 'artworks' | 'newestOf'>): Of<'listed'>['of'] =>
  words.flatMap((word) => {
    const found = word === '' ? undefined : artworks.find(([, name]) => sameWord(name, word));
    return found ? [{ word, artworkId: found[0], revision: newestOf(found[0]) ?? 1 }] : [];
  }); // prettier-ignore

/** Art that the list names. */
export const ListedFields = ({ content, onChange, known }: Change<Of<'listed'>>) => {
  const words = wordsHere(known, content.column, content.of);
  const chosen = (word: string) => content.of.find((o) => sameWord(o.word, word));
  const put = (word: string, artworkId: string): void => {
    const rest = content.of.filter((o) => !sameWord(o.word, word));
    const next = artworkId === 'none' ? { word, artworkId: null, revision: 1 } : { word, artworkId, revision: known.newestOf(artworkId) ?? 1 }; // prettier-ignore
    onChange({ ...content, of: artworkId === '' ? rest : [...rest, next] });
  };
  const newer = content.of.filter((o) => o.artworkId !== null && (known.newestOf(o.artworkId) ?? 0) > o.revision);
  return (
    <>
      <div className="mt-1.5 max-w-80">
        <Select
          label="Named in"
          value={content.column}
          options={columnNames(known.handle.batch.columns, content.column)}
          onChange={(column) => onChange({ ...content, column, of: byName(wordsIn(known.handle.batch.roster, column), known) })} // prettier-ignore
        />
      </div>
      <table className="mt-1.5">
        <tbody>
          {words.slice(0, SHOWN).map((word) => {
            const so = chosen(word);
            return (
              <tr key={word} className="border-t border-hairline">
                <td className={`pr-4 ${so ? '' : 'font-bold text-ochre'}`}>{inWords(word)}</td>
                <td className="w-64 py-0.5">
                  <Select
                    hideLabel
                    label={`${inWords(word)} stands for`}
                    value={so ? (so.artworkId ?? 'none') : ''}
                    options={[['', 'not said yet'], ['none', 'no art'], ...known.artworks]}
                    onChange={(id) => put(word, id)}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <More of={words.length} />
      {newer.length > 0 && (
        <button
          type="button"
          className="link"
          onClick={() => onChange({ ...content, of: content.of.map((o) => (o.artworkId === null ? o : { ...o, revision: known.newestOf(o.artworkId) ?? o.revision })) })} // prettier-ignore
        >
          take the newest files of {newer.map((o) => o.word).join(', ')}
        </button>
      )}
    </>
  );
};
