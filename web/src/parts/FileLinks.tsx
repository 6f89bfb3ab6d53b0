import { createContext, useContext } from 'react';
import { Link, useLocation } from 'react-router';
import { toast } from 'sonner';
import { skipToken, useQuery } from '@tanstack/react-query';
import type { ApiProblem, BatchDocument, FileName } from '@bistre/contract';
import { STATION_NAMES, type Reason, type StationId } from '@bistre/core';
import type { Shown } from '../data/shown';
import { operatorName } from '../data/api';
import { queryClient } from '../data/queries';
import { unstored } from '../data/unstored';

/** Saves bytes as the browser saves files. */
export const handToBrowser = (blob: Blob, name: string): void => {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
};

/** Fetches a file and hands it to the browser; a refusal is said in words instead of a broken page. */
const save = async (batchId: string, file: FileName): Promise<void> => {
  const missing = await unstored(batchId);
  if (missing !== null) {
    toast.error(`Not saved yet: ${missing}. The file would be made without it.`, { duration: 10_000 });
    return;
  }
  const stop = new AbortController();
  const says = sayWriting(file, () => stop.abort());
  try {
    await fetched(batchId, file, stop.signal);
  } finally {
    says();
  }
};

/** How long a file may take before the page says that it is being written, ms. */
const SOON = 700;

/** Says that a file is being written, how long it took so far, and how it is stopped; nothing of a quick one. @returns ends it */
const sayWriting = (file: FileName, stop: () => void): (() => void) => {
  const begun = Date.now();
  const id = `writing ${file}`;
  const say = (): void => {
    const seconds = Math.round((Date.now() - begun) / 1000);
    toast.loading(`Writing ${file}, ${seconds} s …`, {
      id,
      duration: Infinity,
      action: { label: 'Stop', onClick: stop },
    });
  };
  let every: ReturnType<typeof setInterval> | undefined;
  const first = setTimeout(() => {
    say();
    every = setInterval(say, 1000);
  }, SOON);
  return () => {
    clearTimeout(first);
    clearInterval(every);
    toast.dismiss(id);
  };
};

/** Takes a file from the server and hands it to the browser; one that was stopped leaves nothing. */
const fetched = async (batchId: string, file: FileName, signal: AbortSignal): Promise<void> => {
  const response = await fetch(`/api/batches/${batchId}/files/${file}`, {
    headers: { 'bistre-operator': encodeURIComponent(operatorName()) },
    signal,
  }).catch(() => null);
  if (signal.aborted) return;
  if (!response) {
    toast.error('The server does not answer. Try again in a moment.');
    return;
  }
  if (!response.ok) {
    const { message, reasons = [] } = (await response.json()) as ApiProblem;
    toast.error(message, {
      duration: 10_000,
      ...(reasons.length > 1
        ? {
            description: reasons
              .slice(1)
              .map((r) => r.message)
              .join(' '),
          }
        : {}),
    });
    return;
  }
  const name = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? file;
  const blob = await response.blob().catch(() => null);
  if (blob) {
    handToBrowser(blob, name);
    void queryClient.invalidateQueries({ queryKey: ['batch', batchId] });
  } else if (!signal.aborted) toast.error('The server went while it wrote the file. Take it again.');
};

/** One file within a sentence. */
export const FileLink = ({ batchId, file, word }: { batchId: string; file: FileName; word: string }) => (
  <button className="link" onClick={() => void save(batchId, file)}>
    {word}
  </button>
);

const Gates = createContext<Shown['gates']>({});
/** What stands against files on the page below. */
export const GatesOf = Gates.Provider;

/** What stands against a file on this page. */
export const useAgainst = (): ((file: FileName) => readonly Reason[]) => {
  const gates = useContext(Gates);
  return (file) => {
    const [stem, ending] = file.split('.');
    const against = gates[(ending === 'gcode' ? file : stem) as keyof typeof gates] ?? [];
    // A picture is of the work itself, wherever that lies.
    return ending === 'png' ? against.filter((r) => !r.waits) : against;
  };
};

/** What holds files back and is mended at a station, each reason once; nothing that only waits to be done. */
export const useHeldAt = (station: StationId): readonly Reason[] => {
  const all = Object.values(useContext(Gates)).flat();
  const here = all.filter((r) => !r.waits && r.field?.split('.')[0] === station);
  return [...new Map(here.map((r) => [r.message, r])).values()];
};

/** Why files are held back, or what they wait for; each with the way to where it is mended or done. */
export const Held = ({ batchId, reasons }: { batchId: string; reasons: readonly Reason[] }) => {
  const { pathname } = useLocation();
  const wrong = reasons.some((r) => !r.waits);
  return (
    <ul
      aria-label={wrong ? 'Held back' : 'First'}
      className={`mb-1.5 border-l-4 bg-sheet px-3 py-1 ${wrong ? 'border-oxide' : 'border-ochre'}`}
    >
      {reasons.slice(0, 6).map(({ message, waits, field = '' }) => {
        const station = field.split('.')[0]!;
        return (
          <li key={message} className="py-0.5">
            <b className={`mr-2 ${waits ? 'text-ochre' : 'text-oxide'}`}>{waits ? 'First:' : 'Held back:'}</b>
            {message}{' '}
            {station in STATION_NAMES && !pathname.endsWith(`/${station}`) && (
              <Link className="link whitespace-nowrap" to={`/batches/${batchId}/${station}`}>
                to {STATION_NAMES[station as StationId]}
              </Link>
            )}
          </li>
        );
      })}
      {reasons.length > 6 && <li className="text-oxide">and {reasons.length - 6} more reasons.</li>}
    </ul>
  );
};

/** Files that somebody has who would burn or read what is not so any more: each with what happened since. */
const OutOfDate = ({ batchId, files }: { batchId: string; files: readonly (readonly [FileName, string])[] }) => {
  const { data } = useQuery<BatchDocument>({ queryKey: ['batch', batchId], queryFn: skipToken }, queryClient);
  const old = files.flatMap(([file, word]) => {
    const one = data?.handedOut.find((h) => h.file === file && h.since !== null);
    return one ? [{ ...one, word }] : [];
  });
  if (old.length === 0) return null;
  return (
    <ul aria-label="Out of date" className="mb-1.5 border-l-4 border-ochre bg-sheet px-3 py-1">
      {old.map(({ file, word, at, by, since }) => (
        <li key={file} className="py-0.5">
          <b className="mr-2 text-ochre">Out of date:</b>
          {word} of {new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}, taken by {by}.
          Since then: {since}. Take it again.
        </li>
      ))}
    </ul>
  );
};

export const FileLinks = ({
  batchId,
  files,
  label,
}: {
  batchId: string;
  files: readonly (readonly [FileName, string])[];
  label: string;
}) => {
  const against = useAgainst();
  const reasons = [...new Map(files.flatMap(([file]) => against(file)).map((p) => [p.message, p])).values()];
  return (
    <>
      <p className="my-1.5 flex flex-wrap items-center gap-2">
        <span className="mr-1">{label}:</span>
        {files.map(([file, word]) => (
          <button
            key={file}
            className="act min-w-11 justify-center !px-2.5"
            disabled={against(file).length > 0}
            onClick={() => void save(batchId, file)}
          >
            {word}
          </button>
        ))}
      </p>
      <OutOfDate batchId={batchId} files={files} />
      {reasons.length > 0 && <Held batchId={batchId} reasons={reasons} />}
    </>
  );
};
