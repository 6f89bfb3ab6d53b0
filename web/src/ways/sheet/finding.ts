import { useEffect, useRef, useState } from 'react';
import { api, isPictureName, LARGEST_PICTURE } from '@bistre/contract';
import {
  freshTrace,
  type PictureHead,
  type Result,
  type TraceChoices,
  type Traced,
  type TracedSheet,
} from '@bistre/core';
import { call, messageOf, sendPicture } from '../../data/api';
import { sentArt, type ArtSent } from '../../data/art-file';
import { Tracer } from './trace';

/** A file that a sheet is found in: the picture of one, or the drawing that it was printed from. */
export type SheetFile =
  (PictureHead & { readonly drawn: false; readonly name: string }) | { readonly drawn: true; readonly name: string };

const KEPT = ' The outlines found before are kept.';
/** What nobody could look at as it lies; told at a glance, the rest by looking. */
const isDrawing = (name: string): boolean => /\.(svg|pdf|dxf)$/i.test(name);

/** What is done while a file is looked through, and how it is given up. */
interface Work {
  readonly tracer: Tracer | null;
  readonly drawing: ArtSent | null;
  readonly stop: AbortController;
}

/**
 * Finds what is to be cut out of a sheet that somebody else printed.
 * @param put is told the sheet as it was found
 */
export const useFinding = (traced: TracedSheet | null, put: (sheet: TracedSheet) => void) => {
  const work = useRef<Work | null>(null);
  const picture = useRef<string | null>(null);
  const latest = useRef(traced);
  useEffect(() => {
    latest.current = traced;
  });
  const [head, setHead] = useState<SheetFile | null>(null);
  const [dpi, setDpi] = useState<number | null>(null);
  const [choices, setChoices] = useState<TraceChoices>(freshTrace);
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [seconds, setSeconds] = useState<number | null>(null);
  const [notes, setNotes] = useState<readonly string[]>([]);
  const giveUp = (): void => {
    work.current?.tracer?.end();
    work.current?.stop.abort();
    work.current = null;
  };
  useEffect(() => giveUp, []);
  /** Runs what may be given up; says what came of it unless it was. */
  const running = async (run: (now: Work | null) => Promise<void>): Promise<void> => {
    const now = work.current;
    setShare(0);
    setProblem(null);
    try {
      await run(now);
    } catch (error) {
      if (work.current === now) setProblem(messageOf(error));
    } finally {
      if (work.current === now) setShare(null);
    }
  };
  const refusedBy = (made: Result<unknown>): boolean => {
    if (made.ok) return false;
    setProblem(`${made.problem.message}${traced ? KEPT : ''}`);
    return true;
  };
  const found = ({ sheet, notes: said }: Traced): void => {
    setNotes(said);
    put(picture.current === null ? sheet : { ...sheet, pictureId: picture.current });
  };
  const inPicture = (perInch: number, how: TraceChoices, before = 0): Promise<void> =>
    running(async (now) => {
      const made = await now?.tracer?.trace(25.4 / perInch, how, setShare);
      if (!made) return;
      setSeconds(before + made.seconds);
      if (!refusedBy(made) && made.ok) found(made.value);
    });
  const inDrawing = (how: TraceChoices): Promise<void> =>
    running(async (now) => {
      if (!now?.drawing) return;
      const start = performance.now();
      const made = await call(api.readSheet, { body: { ...now.drawing, choices: how } }, now.stop.signal);
      setSeconds((performance.now() - start) / 1000);
      found(made);
    });
  /** The picture is kept meanwhile, to lie under its outlines; they do without it where it cannot be. */
  const keepPicture = async (file: File, now: Work | null): Promise<void> => {
    if (file.size > LARGEST_PICTURE) return;
    const id = await sendPicture(file).then((kept) => kept.id, () => null); // prettier-ignore
    if (id === null || work.current !== now) return;
    picture.current = id;
    // Outlines of this very file are there already: what was said of them since stays.
    if (latest.current?.name === file.name.slice(0, 120)) put({ ...latest.current, pictureId: id });
  };
  const takePicture = (file: File): Promise<void> =>
    running(async (now) => {
      const opened = await now?.tracer?.open(file, setShare);
      if (!opened || refusedBy(opened) || !opened.ok) return;
      void keepPicture(file, now);
      setHead({ ...opened.value, drawn: false, name: file.name });
      setDpi(opened.value.dotsPerInch);
      if (opened.value.dotsPerInch) await inPicture(opened.value.dotsPerInch, choices, opened.seconds);
    });
  const takeDrawing = (file: File): Promise<void> =>
    running(async () => {
      work.current = { tracer: null, drawing: await sentArt(file), stop: new AbortController() };
      setHead({ drawn: true, name: file.name });
      await inDrawing(choices);
    });
  const take = async (file: File): Promise<void> => {
    giveUp();
    picture.current = null;
    setNotes([]);
    setHead(null);
    const drawn = isDrawing(file.name) && !isPictureName(file.name);
    work.current = { tracer: drawn ? null : new Tracer(), drawing: null, stop: new AbortController() };
    await (drawn ? takeDrawing(file) : takePicture(file));
  };
  const stop = (): void => {
    giveUp();
    setHead(null);
    setShare(null);
  };
  const sayDots = (perInch: number): void => {
    setDpi(perInch);
    void inPicture(perInch, choices);
  };
  const change = (next: TraceChoices): void => {
    setChoices(next);
    if (head?.drawn) void inDrawing(next);
    else if (head && dpi) void inPicture(dpi, next);
  };
  return { head, dpi, choices, share, problem, seconds, notes, take, stop, sayDots, change };
};
