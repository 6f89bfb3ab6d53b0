import { toast } from 'sonner';
import type { ApiProblem, FileName } from '@bistre/contract';
import { operatorName } from '../data/api';
import { manyWords, outbox } from '../data/outbox';

/** Saves bytes as the browser saves files. */
export const handToBrowser = (blob: Blob, name: string): void => {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
};

/** How long a file waits for what was typed just before, ms. */
const PATIENCE = 3_000;

/** What of a batch is shown here but not stored, so that no file would have it; null when all is stored. */
const unstored = async (batchId: string): Promise<string | null> => {
  await Promise.race([outbox.flush(batchId), new Promise((done) => setTimeout(done, PATIENCE))]);
  const waiting = outbox.get().kept.filter((k) => k.scope === batchId);
  return waiting.length === 0 ? null : manyWords(waiting);
};

/** Fetches a file and hands it to the browser; a refusal is said in words instead of a broken page. */
const save = async (batchId: string, file: FileName): Promise<void> => {
  const missing = await unstored(batchId);
  if (missing !== null) {
    toast.error(`Not saved yet: ${missing}. The file would be made without it.`, { duration: 10_000 });
    return;
  }
  const response = await fetch(`/api/batches/${batchId}/files/${file}`, {
    headers: { 'bistre-operator': encodeURIComponent(operatorName()) },
  }).catch(() => null);
  if (!response) {
    toast.error('The server does not answer. Try again in a moment.');
    return;
  }
  if (!response.ok) {
    toast.error(((await response.json()) as ApiProblem).message, { duration: 10_000 });
    return;
  }
  const name = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? file;
  handToBrowser(await response.blob(), name);
};

/** One file within a sentence. */
export const FileLink = ({ batchId, file, word }: { batchId: string; file: FileName; word: string }) => (
  <button className="link" onClick={() => void save(batchId, file)}>
    {word}
  </button>
);

export const FileLinks = ({
  batchId,
  files,
  label,
}: {
  batchId: string;
  files: readonly (readonly [FileName, string])[];
  label: string;
}) => (
  <p className="my-1.5 flex flex-wrap items-center gap-2">
    <span className="mr-1">{label}:</span>
    {files.map(([file, word]) => (
      <button key={file} className="act !min-h-8 !px-2.5" onClick={() => void save(batchId, file)}>
        {word}
      </button>
    ))}
  </p>
);
