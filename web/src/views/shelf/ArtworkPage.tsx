import { useState } from 'react';
import { useNavigate } from 'react-router';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import {
  api,
  artworkSpec,
  isPictureName,
  role,
  type ArtRead,
  type ArtRevision,
  type ArtworkDocument,
} from '@bistre/contract';
import { fixed, roleOf, sizeIsOpen, type Role, type Style } from '@bistre/core';
import { messageOf } from '../../data/api';
import { artName, sentArt, shelve } from '../../data/art-file';
import { reckoner } from '../../data/worker';
import { KEPT, write } from '../../data/write';
import { ArtDrawing } from '../../drawing/ArtDrawing';
import { DraftFields, Field, Select, useDraftForm } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Page } from './form';
import { Chosen, Reading, StyleWords, useReading, type ChosenFile } from './reading';

const ROLES = role.meta()!['options'] as readonly (readonly [Role, string])[];

const FileInput = ({
  label,
  several = false,
  onFiles,
}: {
  label: string;
  several?: boolean;
  onFiles: (files: readonly File[]) => void;
}) => (
  <label className="block text-[13px] text-soft">
    {label}
    <span className="mt-0.5 block">
      <span className="act w-fit focus-within:outline-2 focus-within:outline-blue">Choose the file …</span>
    </span>
    <input
      type="file"
      aria-label={label}
      accept=".svg,.dxf,.pdf,.png,.jpg,.jpeg,.webp"
      multiple={several}
      className="sr-only"
      onChange={(e) => {
        const files = [...(e.target.files ?? [])];
        if (files.length > 0) onFiles(files);
        e.target.value = '';
      }}
    />
  </label>
);

const newArtwork = api.createArtwork.body.pick({ name: true, customer: true });

/** Files that a customer brought, put on the Shelf: one under a name, several each under its own. */
export const NewArtwork = () => {
  const navigate = useNavigate();
  const form = useDraftForm(newArtwork, { name: '', customer: '' });
  const { files, setFiles, now, read, stop } = useReading();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const good = files.filter((f) => f.file);
  const several = files.length > 1;
  const take = async (chosen: readonly File[]): Promise<void> => {
    setProblem(null);
    // Several have each their own; the form wants one all the same.
    if (chosen.length > 1 || !form.getValues('name')) form.setValue('name', artName(chosen[0]!.name));
    await read(chosen);
  };
  const put = form.handleSubmit(async (typed) => {
    if (good.length === 0) return setProblem('Choose the file first: an SVG, a DXF, a PDF, or a picture in black and white.'); // prettier-ignore
    setBusy(true);
    setProblem(null);
    const left: ChosenFile[] = files.filter((f) => !f.file);
    let last: { id: string; kept: boolean } | null = null;
    for (const file of good)
      try {
        last = await shelve(file.file!, { ...typed, name: several ? artName(file.name) : typed.name });
      } catch (error) {
        left.push({ ...file, problem: messageOf(error) });
      }
    setBusy(false);
    // What was refused stays chosen; what is kept is not put there twice.
    const first = left.find((f) => f.file);
    if (several && first) form.setValue('name', artName(first.name));
    if (left.length > 0) return setFiles(left);
    toast(last?.kept ? KEPT : 'Kept.');
    await navigate(several || last?.kept ? '/shelf/artworks' : `/shelf/artworks/${last!.id}`);
  });
  return (
    <Page title="New artwork">
      <p className="mb-4 text-soft">
        A file that a customer brought, or several. It stays as it came; what is burned of it is said by its colours.
      </p>
      <DraftFields form={form} schema={newArtwork}>
        <div className="grid grid-cols-3 items-start gap-3">
          <FileInput
            label="SVG, DXF, PDF, or a picture in black and white"
            several
            onFiles={(chosen) => void take(chosen)}
          />
          {several ? <p className="pt-5">Each under the name of its file.</p> : <Field at="name" />}
          <Field at="customer" />
        </div>
      </DraftFields>
      <Reading of={now} onStop={stop} />
      <Chosen files={files} />
      {problem && (
        <div className="mt-2">
          <Finding tone="out">{problem}</Finding>
        </div>
      )}
      <p className="mt-4 flex justify-end">
        <button className="act act-main" disabled={busy || now !== null} onClick={() => void put()}>
          {busy ? 'Keeping …' : good.length > 1 ? `Put ${good.length} on the Shelf` : 'Put it on the Shelf'}
        </button>
      </p>
    </Page>
  );
};

/** The colours that a file uses, and what each is burned as. */
const Styles = ({ styles, roles, onRole }: { styles: readonly Style[]; roles: ArtworkDocument['spec']['roles']; onRole: (key: string, role: Role) => void }) => ( // prettier-ignore
  <table className="w-full">
    <thead>
      <tr className="text-left text-[13px] text-soft">
        <th className="py-1 font-normal">In the file, and what it draws</th>
        <th className="font-normal">burned as</th>
      </tr>
    </thead>
    <tbody>
      {styles.map((s) => (
        <tr key={s.key} className="border-t border-hairline">
          <td className="py-1.5 pr-3 whitespace-nowrap">
            <StyleWords style={s} />
          </td>
          <td className="w-56">
            <Select
              hideLabel
              label={`${s.key}, burned as`}
              value={roleOf(roles, s)}
              options={ROLES.filter(([r]) => s.of === 'fill' || r !== 'area')}
              onChange={(r) => onRole(s.key, r as Role)}
            />
          </td>
        </tr>
      ))}
    </tbody>
  </table>
); // prettier-ignore

/** What a new file changes: size and colours against the one before. */
const differs = (now: ArtRead, before: ArtRead | undefined): string => {
  if (!before) return '';
  const keys = (r: ArtRead): string[] => r.styles.map((s) => s.key);
  const came = keys(now).filter((k) => !keys(before).includes(k));
  const went = keys(before).filter((k) => !keys(now).includes(k));
  const size = Math.abs(now.width - before.width) + Math.abs(now.height - before.height) > 0.01;
  return [
    ...(size ? [`was ${fixed(before.width, 1)} × ${fixed(before.height, 1)} mm`] : []),
    ...(came.length > 0 ? [`new: ${came.join(', ')}`] : []),
    ...(went.length > 0 ? [`gone: ${went.join(', ')}`] : []),
  ].join('; ');
};

/** What a length of one in a file without a unit may have been, by what it was taken for. */
const MEANT: Readonly<Record<'svg' | 'dxf' | 'picture', readonly (readonly [number, string])[]>> = {
  svg: [
    [1, 'dots of 1/96 in'],
    [96 / 72, 'points of 1/72 in'],
    [96 / 25.4, 'millimetres'],
    [96, 'inches'],
  ],
  dxf: [
    [1, 'millimetres'],
    [25.4, 'inches'],
    [10, 'centimetres'],
    [1000, 'metres'],
  ],
  picture: [150, 300, 600, 1200].map((dots) => [96 / dots, `${dots} dots to the inch`] as const),
};

const kindOf = (fileName: string): keyof typeof MEANT =>
  /\.dxf$/i.test(fileName) ? 'dxf' : isPictureName(fileName) ? 'picture' : 'svg';

/** How large a file that states no unit really is: asked, until somebody says. */
const RealSize = ({
  revision,
  spec,
  onScale,
}: {
  revision: ArtRevision;
  spec: ArtworkDocument['spec'];
  onScale: (scale: number) => void;
}) => {
  const { unit, width, height, fileName } = revision;
  if (unit !== 'unstated' && unit !== 'px') return null;
  const open = sizeIsOpen({ unit, scale: spec.scale });
  return (
    <div className="mt-2">
      <Finding tone={open ? 'attention' : 'inside'}>
        {open ? 'The file states no unit. How large is it really?' : 'The file states no unit; its size was said here.'}
      </Finding>
      <p className="mt-1.5 flex flex-wrap gap-2">
        {MEANT[kindOf(fileName)].map(([k, words]) => (
          <button
            key={words}
            type="button"
            className={`act ${spec.scale === k ? 'act-main' : ''}`}
            aria-pressed={spec.scale === k}
            onClick={() => onScale(k)}
          >
            {fixed(k * width, 1)} × {fixed(k * height, 1)} mm: {words}
          </button>
        ))}
      </p>
    </div>
  );
};

/** One artwork: its files, its drawing to scale, and what its colours are burned as. */
export const ArtworkPage = ({ artwork }: { artwork: ArtworkDocument }) => {
  const { id, name, spec, version, revisions, usedBy } = artwork;
  const last = revisions[revisions.length - 1]!;
  const [problem, setProblem] = useState<string | null>(null);
  const { data } = useQuery({
    queryKey: ['artwork-paths', id, last.number, spec.roles],
    queryFn: () => reckoner().art(id, last.number, spec.roles),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const form = useDraftForm(artworkSpec.pick({ customer: true }), { customer: spec.customer });
  const said = async (change: () => Promise<{ kept: boolean }>): Promise<void> => {
    try {
      setProblem(null);
      const answer = await change();
      if (answer.kept) toast(KEPT);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  const save = (next: ArtworkDocument['spec']): Promise<void> =>
    said(() =>
      write({ endpoint: api.saveArtwork, params: { id }, body: { name, spec: next }, scope: id, base: version }),
    );
  const { files, setFiles, now, read, stop } = useReading();
  const [next] = files;
  const revise = async (file: File): Promise<void> => {
    await said(async () =>
      write({ endpoint: api.reviseArtwork, params: { id }, body: await sentArt(file), scope: id, base: version }),
    );
    setFiles([]);
  };
  return (
    <Page kind="artworks" title={name} subject={id}>
      <p className="mb-3 text-soft">
        {fixed((spec.scale ?? 1) * last.width, 1)} × {fixed((spec.scale ?? 1) * last.height, 1)} mm{' '}
        {sizeIsOpen({ unit: last.unit, scale: spec.scale }) ? 'as far as its file says' : 'in its file'}
        {spec.customer && `, for ${spec.customer}`};{' '}
        {usedBy.length === 0 ? 'not used yet' : `used by ${usedBy.join(', ')}`}
      </p>
      <div className="grid grid-cols-[1fr_1.1fr] gap-5 max-[900px]:grid-cols-1">
        <div className="h-96 border border-hairline">{data && <ArtDrawing art={data} />}</div>
        <div>
          <Styles
            styles={last.styles}
            roles={spec.roles}
            onRole={(key, r) => void save({ ...spec, roles: { ...spec.roles, [key]: r } })}
          />
          <RealSize revision={last} spec={spec} onScale={(scale) => void save({ ...spec, scale })} />
          {last.doubt && (
            <div className="mt-2">
              <Finding tone="attention">
                Traced from a picture: its outlines are known to ± {fixed(2 * (spec.scale ?? 1) * last.doubt)} mm at
                this size.
              </Finding>
            </div>
          )}
          {last.notes.map((n) => (
            <div key={n} className="mt-2">
              <Finding tone="attention">{n}</Finding>
            </div>
          ))}
          {problem && (
            <div className="mt-2">
              <Finding tone="out">{problem}</Finding>
            </div>
          )}
        </div>
      </div>
      <h2 className="part-title mt-5">Files</h2>
      <ol aria-label="Files">
        {[...revisions].reverse().map((r) => (
          <li
            key={r.number}
            className="grid grid-cols-[5rem_1.4fr_1.6fr_1fr] items-baseline gap-3 border-t border-hairline py-2"
          >
            <b>r{r.number}</b>
            <a className="link" href={`/api/artworks/${id}/revisions/${r.number}/file`} download>
              {r.fileName}
            </a>
            <span className="text-[13px] text-soft">
              {differs(
                r,
                revisions.find((x) => x.number === r.number - 1),
              )}
            </span>
            <span className="text-[13px] text-soft" title={`SHA-256 ${r.sha256}`}>
              {new Date(r.at).toLocaleDateString('en-GB')} by {r.by}, {r.sha256.slice(0, 8)}
            </span>
          </li>
        ))}
      </ol>
      <div className="mt-3 grid grid-cols-2 items-start gap-3">
        <div>
          <FileInput
            label="A new file for it (batches keep the one that they have)"
            onFiles={([file]) => void read([file!])}
          />
          <Reading of={now} onStop={stop} />
          <Chosen files={files} />
          {next?.file && (
            <div className="mt-1.5">
              {next.art && <p>{differs(next.art, last) || 'As large as the one before, in the same colours.'}</p>}
              <p className="mt-1 flex gap-3">
                <button type="button" className="act act-main" onClick={() => void revise(next.file!)}>
                  Take it as r{last.number + 1}
                </button>
                <button type="button" className="act" onClick={() => setFiles([])}>
                  Leave it
                </button>
              </p>
            </div>
          )}
        </div>
        <DraftFields form={form} schema={artworkSpec.pick({ customer: true })}>
          <Field at="customer" then={(customer) => void save({ ...spec, customer: customer as string })} />
        </DraftFields>
      </div>
    </Page>
  );
};
