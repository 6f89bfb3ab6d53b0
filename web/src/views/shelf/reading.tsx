import { useEffect, useRef, useState } from 'react';
import type { ArtRead, ArtReading } from '@bistre/contract';
import { counted, fixed, proposedRole, type Style } from '@bistre/core';
import { CallFailed, messageOf, sendArt } from '../../data/api';
import { mustFit } from '../../data/art-file';
import { ArtDrawing } from '../../drawing/ArtDrawing';
import { Finding } from '../../parts/Part';
import { Swatch } from '../../parts/Swatch';

/** A file that was chosen: what it comes to, or why nothing can be made of it. */
export interface ChosenFile {
  readonly name: string;
  /** Nothing where it cannot be kept. */
  readonly file: File | null;
  /** Nothing where it was not read yet, since the server is away. */
  readonly art: ArtReading | null;
  readonly problem: string | null;
}

/** Reads files one after the other, until it is stopped; those that were read stay. */
export const useReading = () => {
  const stop = useRef<AbortController | null>(null);
  const [files, setFiles] = useState<readonly ChosenFile[]>([]);
  const [now, setNow] = useState<{ readonly name: string; readonly since: number } | null>(null);
  const giveUp = (): void => {
    stop.current?.abort();
    stop.current = null;
    setNow(null);
  };
  useEffect(() => () => stop.current?.abort(), []);
  const one = async (file: File, signal: AbortSignal): Promise<ChosenFile> => {
    try {
      mustFit(file);
      return { name: file.name, file, art: await sendArt(file, signal), problem: null };
    } catch (error) {
      // What the server cannot say now it says when it is kept.
      const away = error instanceof CallFailed && error.status === 0;
      return { name: file.name, file: away ? file : null, art: null, problem: away ? null : messageOf(error) };
    }
  };
  const read = async (chosen: readonly File[]): Promise<readonly ChosenFile[]> => {
    giveUp();
    const own = new AbortController();
    stop.current = own;
    const done: ChosenFile[] = [];
    setFiles([]);
    for (const file of chosen) {
      setNow({ name: file.name, since: Date.now() });
      const made = await one(file, own.signal);
      if (own.signal.aborted) break;
      done.push(made);
      setFiles([...done]);
    }
    if (stop.current === own) giveUp();
    return done;
  };
  return { files, setFiles, now, read, stop: giveUp };
};

/** Which file is read, for how long, and the way out. */
export const Reading = ({
  of,
  onStop,
}: {
  of: { readonly name: string; readonly since: number } | null;
  onStop: () => void;
}) => {
  const [seconds, setSeconds] = useState(0);
  const since = of?.since;
  useEffect(() => {
    if (since === undefined) return undefined;
    setSeconds(0);
    const timer = setInterval(() => setSeconds(Math.round((Date.now() - since) / 1000)), 500);
    return () => clearInterval(timer);
  }, [since]);
  if (!of) return null;
  return (
    <div className="mt-2 flex items-center gap-3">
      <p role="status">
        Reading {of.name}
        {seconds > 0 && `, ${seconds} s`} …
      </p>
      <button type="button" className="act" onClick={onStop}>
        Stop
      </button>
    </div>
  );
};

/** What a file comes to, in words. */
export const readWords = ({ width, height, unit, styles }: ArtRead): string =>
  `${fixed(width, 1)} × ${fixed(height, 1)} mm${unit === 'px' || unit === 'unstated' ? ' if its lengths are what they seem' : ''}, ${counted(styles.length, 'colour')}`;

/** How much a style draws, in words. */
const much = ({ of, shapes, area, length }: Style): string =>
  `${shapes} ${shapes === 1 ? 'shape' : 'shapes'}, ${of === 'fill' ? `${fixed(area / 100)} cm²` : `${fixed(length, 0)} mm of line`}`; // prettier-ignore

/** A colour of a file, and how much is drawn in it. */
export const StyleWords = ({ style }: { style: Style }) => (
  <>
    <span className="mr-2">
      <Swatch of={style.of} paint={style.paint} />
    </span>
    {style.of} {style.paint}
    <span className="block pl-9 text-[13px] text-soft">{much(style)}</span>
  </>
);

/** Colours that are listed before a file is kept. */
const LISTED = 6;

/** How a file looks and what is proposed of its colours, before any of it is kept. */
const Looks = ({ art: { drawn, styles } }: { art: ArtReading }) => (
  <div className="mt-1.5 grid grid-cols-[1fr_1.1fr] gap-5 max-[900px]:grid-cols-1">
    <div className="h-80 border border-hairline">
      <ArtDrawing art={drawn} />
    </div>
    <ul aria-label="Its colours">
      {styles.slice(0, LISTED).map((s) => (
        <li key={s.key} className="flex items-baseline justify-between gap-3 border-b border-hairline py-1.5">
          <span>
            <StyleWords style={s} />
          </span>
          <span>{proposedRole(s)}</span>
        </li>
      ))}
      {styles.length > LISTED && <li className="py-1.5 text-soft">and {counted(styles.length - LISTED, 'colour')} more</li>}
    </ul>
  </div>
); // prettier-ignore

/** The files that were chosen, each with what it comes to. */
export const Chosen = ({ files }: { files: readonly ChosenFile[] }) =>
  files.length === 0 ? null : (
    <ul aria-label="Chosen files" className="mt-2">
      {files.map((f) => (
        <li key={f.name} className="border-t border-hairline py-1.5">
          <b>{f.name}</b>
          {f.art && `: ${readWords(f.art)}`}
          {f.problem && <Finding tone="out">{f.problem}</Finding>}
          {f.art && files.length === 1 && <Looks art={f.art} />}
          {f.art?.notes.map((n) => (
            <Finding key={n} tone="attention">
              {n}
            </Finding>
          ))}
        </li>
      ))}
    </ul>
  ); // prettier-ignore
