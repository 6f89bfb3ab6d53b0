import { useEffect, useMemo, useState } from 'react';
import { api } from '@bistre/contract';
import {
  byCustomer,
  corrected,
  countWords,
  guessMapping,
  mapped,
  type Fix,
  type Mapping,
  type Result,
  type Roster,
} from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { reckoner } from '../../data/worker';
import { Select, Tick } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Modal } from '../../parts/Modal';
import { RosterTable } from './RosterTable';

type List = Pick<Roster, 'columns' | 'rows'>;

/** Where a list comes from: text that was pasted, a file's bytes, or the one that the batch has. */
type Source = { readonly text: string } | { readonly bytes: Uint8Array } | null;

const readFrom = (source: Source, headings: boolean | null): Promise<Result<Roster>> | null =>
  source === null
    ? null
    : 'bytes' in source
      ? reckoner().rosterFile(source.bytes, headings)
      : source.text.trim() === ''
        ? null
        : reckoner().roster(source.text, headings);

const counted = (n: number, word: string): string => `${n} ${n === 1 ? word : `${word}s`}`;

const tooLarge = ({ name, size }: File): Result<Roster> => ({
  ok: false,
  problem: { code: 'too-large', message: `${name} is ${(size / 1e6).toFixed(1)} MB; at most 8 MB are read.` },
});

/** Which column stands for each that the lettering takes, where the list calls them otherwise. */
const MappingFields = ({
  wanted,
  columns,
  mapping,
  onChange,
}: {
  wanted: readonly string[];
  columns: readonly string[];
  mapping: Mapping;
  onChange: (mapping: Mapping) => void;
}) => (
  <div className="my-2 border-l-4 border-ochre pl-3">
    <p className="text-[13px]">The list calls its columns otherwise than the lettering. Which stands for which?</p>
    <div className="mt-1 grid grid-cols-3 gap-3">
      {wanted.map((w) => (
        <Select
          key={w}
          label={`for “${w}”`}
          value={mapping[w] ?? ''}
          options={[['', 'none'] as const, ...columns.map((c) => [c, c] as const)]}
          onChange={(from) => onChange({ ...mapping, [w]: from === '' ? null : from })}
        />
      ))}
    </div>
  </div>
);

/**
 * Names: a CSV file, rows pasted from a spreadsheet, or the list there is, put right cell by cell. Nothing is kept until
 * it reads well.
 *
 * @param now whether the list that the batch has is put right, instead of another brought in
 */
export const RosterDialog = ({
  handle,
  now = false,
  onClose,
}: {
  handle: BatchHandle;
  now?: boolean;
  onClose: () => void;
}) => {
  const { batch } = handle;
  const draft = `bistre.roster.${batch.id}`;
  const [source, setSource] = useState<Source>(() => (now ? null : { text: sessionStorage.getItem(draft) ?? '' }));
  const [read, setRead] = useState<Result<Roster> | null>(null);
  const [customers, setCustomers] = useState(false);
  const [chosen, setChosen] = useState<Mapping>({});
  const [fixes, setFixes] = useState<readonly Fix[]>([]);

  const look = async (from: Source, headings: boolean | null = null): Promise<void> => {
    setSource(from);
    setFixes([]);
    const found = await readFrom(from, headings);
    setRead(found);
    if (headings === null) {
      setChosen({});
      setCustomers(false);
    }
  };
  // What was left half pasted is read at once.
  useEffect(() => {
    if (source) void look(source);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when it is opened
  }, []);
  const paste = (text: string): void => {
    sessionStorage.setItem(draft, text.length < 500_000 ? text : '');
    void look({ text });
  };
  const file = async (chosenFile: File | undefined): Promise<void> => {
    if (!chosenFile) return;
    if (chosenFile.size > 8_000_000) setRead(tooLarge(chosenFile));
    else await look({ bytes: new Uint8Array(await chosenFile.arrayBuffer()) });
  };

  const roster = read?.ok ? read.value : null;
  const { lettering, back } = batch.setup;
  const wanted = [...new Set([...lettering.lines, ...back.lines].map((l) => l.column))];
  const begun = useMemo((): List | null => (now ? { columns: batch.columns, rows: batch.roster } : roster), [now, batch.columns, batch.roster, roster]); // prettier-ignore
  const laid = useMemo(() => (begun && customers ? byCustomer(begun) : begun), [begun, customers]);
  const differs = laid !== null && wanted.length > 0 && wanted.some((w) => !laid.columns.includes(w));
  const mapping = laid && differs ? { ...guessMapping(wanted, laid.columns), ...chosen } : null;
  const list = useMemo(
    () => laid && corrected(mapping ? mapped(laid, mapping) : laid, fixes),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the mapping is what it says
    [laid, JSON.stringify(mapping), fixes],
  );
  const count = list && countWords(list.rows.length, batch.quantity);

  const keep = async (kept: List): Promise<void> => {
    const good = await handle.act(api.saveRoster, {
      body: { columns: [...kept.columns], rows: kept.rows.map((r) => ({ ...r })) },
    });
    if (!good) return;
    if (!now) sessionStorage.removeItem(draft);
    onClose();
  };
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title={now ? 'The roster' : 'Bring in the roster'}
      note={
        now
          ? 'Put right what is wrong where it stands. Nothing changes until you keep it.'
          : `One row for each of the ${batch.quantity} pieces, in the order the slots are filled.`
      }
    >
      {!now && (
        <>
          <label className="block text-[13px] text-soft" htmlFor="roster-file">
            CSV file
          </label>
          <input
            id="roster-file"
            type="file"
            accept=".csv,.txt,.tsv,text/csv"
            className="mb-3"
            onChange={(e) => void file(e.target.files?.[0])}
          />
          <label className="block text-[13px] text-soft" htmlFor="roster-text">
            or paste the rows here
          </label>
          <textarea
            id="roster-text"
            className="field !h-24 py-2"
            value={source && 'text' in source ? source.text : ''}
            onChange={(e) => paste(e.target.value)}
            placeholder={'name,lane\nKESTREL,LANE 1'}
          />
        </>
      )}
      {read && !read.ok && <Finding tone="out">{read.problem.message}</Finding>}
      {roster && (
        <div className="flex flex-wrap gap-x-6">
          <Tick
            label="the first row is headings"
            checked={roster.headings}
            onChange={(headings) => void look(source, headings)}
          />
          <Tick
            label="each column is one customer’s pieces"
            checked={customers}
            onChange={(on) => {
              setCustomers(on);
              setFixes([]);
              setChosen({});
            }}
          />
        </div>
      )}
      {list && (
        <>
          <p className="my-1">
            <b>{counted(list.rows.length, 'row')}</b>, {counted(list.columns.length, 'column')}
            {roster && roster.encoding !== 'text' ? `, ${roster.encoding}` : ''}.
            {count && <span className="text-ochre"> {count}</span>} {roster?.notes.join(' ')}
          </p>
          {mapping && laid && (
            <MappingFields wanted={wanted} columns={laid.columns} mapping={mapping} onChange={setChosen} />
          )}
          <RosterTable
            list={list}
            onFix={(fix) =>
              setFixes((old) => [...old.filter((f) => f.row !== fix.row || f.column !== fix.column), fix])
            }
          />{' '}
          {/* prettier-ignore */}
        </>
      )}
      <p className="mt-4 flex justify-end gap-3">
        <button className="act" onClick={onClose}>
          Leave it
        </button>
        <button
          className="act act-main"
          disabled={!list || list.rows.length === 0 || (now && fixes.length === 0 && !mapping)}
          onClick={() => list && void keep(list)}
        >
          {now ? 'Keep it so' : `Use ${list?.rows.length === 1 ? 'this row' : `these ${list?.rows.length ?? ''} rows`}`}
        </button>
      </p>
    </Modal>
  );
};
