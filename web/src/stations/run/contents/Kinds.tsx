import { useRef, useState } from 'react';
import { codeContent, LARGEST_PICTURE, serialContent, type ArtworkDocument } from '@bistre/contract';
import { burnsLight, FRESH_TREATMENT, isFor, roleOf, sameWord, SERIAL_FIELD, serialText, wordsIn } from '@bistre/core';
import { useAlphabets, useArtworks, useRecipes } from '../../../data/queries';
import { DraftFields, Field, LiveFields, Select, Tick, useDraftForm } from '../../../parts/fields';
import { NewerFile } from '../../../parts/NewerFile';
import { Finding } from '../../../parts/Part';
import { PictureFields } from '../../../parts/PictureFields';
import { messageOf, sendPicture } from '../../../data/api';
import type { BatchProps } from '../../../ways/pages';
import { Swatch } from '../../../parts/Swatch';
import { columnNames, type Known, type Laid, type Of } from './parts';

type Change<C> = { readonly content: C; readonly onChange: (next: C) => void; readonly known: Known };

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
      <StyleRecipes content={content} onChange={onChange} known={known} styles={styles} />
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

/** Modules that a telephone still reads from a hand’s breadth, mm [common practice]. */
const LEAST_MODULE = 0.4;

/** A code: what it says, and whether it is burned dark or light. */
export const CodeFields = ({ content, onChange, known, module }: Change<Of<'code'>> & { module: number | undefined }) => {
  const { columns, setup } = known.handle.batch;
  const counted = (setup.contents ?? []).some((c) => c.kind === 'serial');
  const fields = [...columns, ...(counted ? [SERIAL_FIELD] : [])];
  return (
    <LiveFields schema={codeContent} value={content} onChange={onChange}>
      <div className="mt-1.5 grid grid-cols-[10rem_1fr] items-end gap-2">
        <Field at="symbology" />
        <Field at="text" />
      </div>
      {fields.length > 0 && (
        <p className="mt-1 text-[13px] text-soft">
          Put in:{' '}
          {fields.map((f) => (
            <button
              key={f}
              type="button"
              className="link mr-3"
              onClick={() => onChange({ ...content, text: `${content.text}{${f}}` })}
            >
              {`{${f}}`}
            </button>
          ))}
        </p>
      )}
      <Field at="reversed" />
      {module !== undefined && module < LEAST_MODULE && (
        <p className="text-[13px] font-bold text-ochre">
          Modules under {LEAST_MODULE} mm are hard to read with a telephone: make it wider, or its text shorter.
        </p>
      )}
    </LiveFields>
  );
}; // prettier-ignore

const counting = serialContent.pick({ prefix: true, digits: true, step: true, first: true });

/** The numbers of a serial, which are given when they are asked for and not while they are typed. */
export const GiveNumbers = ({ of, count, onGive, onLeave }: { of: Pick<Of<'serial'>, 'prefix' | 'digits' | 'step' | 'first'>; count: number; onGive: (so: Pick<Of<'serial'>, 'prefix' | 'digits' | 'step' | 'first'>) => void; onLeave: () => void }) => {
  const form = useDraftForm(counting, { prefix: of.prefix, digits: of.digits, step: of.step, first: of.first ?? null });
  const { prefix, digits, first } = form.watch();
  return (
    <form
      className="mt-1.5 border border-rim p-2"
      onSubmit={(event) => {
        event.stopPropagation();
        void form.handleSubmit(onGive)(event);
      }}
    >
      <DraftFields form={form} schema={counting}>
        <div className="grid grid-cols-4 items-start gap-2">
          <Field at="prefix" />
          <Field at="digits" />
          <Field at="first" placeholder="after the last" />
          <Field at="step" />
        </div>
      </DraftFields>
      <p className="mt-1 text-[13px] text-soft">
        They read {serialText({ prefix, digits: Number(digits) || 1 }, first ?? 1)}
        {first === null ? ' or whatever comes after the last that was given' : ''}. A number is given once in the shop: a
        scrapped blank takes its own with it.
      </p>
      <p className="mt-1 flex gap-3">
        <button className="act act-main">Give {count} numbers</button>
        <button type="button" className="link" onClick={onLeave}>
          leave it
        </button>
      </p>
    </form>
  );
}; // prettier-ignore

/** A serial number: how it is set, and which are given. */
export const SerialFields = ({ content, onChange, known }: Change<Of<'serial'>>) => {
  const { data: alphabets = [] } = useAlphabets();
  const given = known.handle.batch.serials.find((s) => s.contentId === content.id)?.numbers.filter((n) => n !== null) ?? []; // prettier-ignore
  return (
    <LiveFields schema={serialContent} value={content} onChange={onChange}>
      <p className="mt-1">
        {given.length === 0 ? (
          'No number is given yet.'
        ) : (
          <>
            <b>
              {serialText(content, Math.min(...given))} to {serialText(content, Math.max(...given))}
            </b>
            , {given.length} given.
          </>
        )}
      </p>
      <div className="mt-1.5 grid grid-cols-2 items-end gap-2">
        <Field at="alphabet" of={alphabets.map((a) => [a.id, a.name] as const)} />
        <Field at="capHeight" />
      </div>
    </LiveFields>
  );
};

/** How a picture's shades are burned, as close up as they will look. */
export const ShadesFields = ({
  content,
  onChange,
  known,
  laid,
}: Change<Of<'picture'>> & { laid: Laid | undefined }) => {
  const { recipe, machine } = known.handle.batch;
  return (
    <PictureFields
      content={content}
      across={laid ? laid.scale * content.width : 50}
      interval={recipe?.spec.engrave.interval ?? 0.1}
      spot={machine.profile.kerf}
      narrow
      onChange={onChange}
    />
  );
};

type Taken = Pick<Of<'picture'>, 'kind' | 'pictureId' | 'name' | 'width' | 'height' | 'darkness' | 'treatment'>;

/** Takes a picture in from a file. */
export const TakePicture = ({ batch, onTake }: { batch: BatchProps['handle']['batch']; onTake: (taken: Taken) => void }) => {
  const [problem, setProblem] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      if (file.size > LARGEST_PICTURE)
        throw new Error(`${file.name} is ${(file.size / 1e6).toFixed(0)} MB; at most ${LARGEST_PICTURE / 1e6} MB are read. Make it smaller first.`);
      const { id, name, width, height, darkness } = await sendPicture(file);
      const light = burnsLight(batch.blank.spec.material ?? '');
      onTake({ kind: 'picture', pictureId: id, name: name.replace(/\.[a-z]+$/i, '') || name, width, height, darkness, treatment: { ...FRESH_TREATMENT, negative: light } });
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <>
      <button type="button" className="link" onClick={() => input.current?.click()}>
        a picture
      </button>
      <input
        ref={input}
        type="file"
        aria-label="Picture in a zone"
        accept="image/png,image/jpeg,image/webp"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          void take(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      {problem && (
        <div className="w-full">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
    </>
  );
}; // prettier-ignore
