import { useCallback, useEffect, useRef, useState } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import {
  api,
  carriesVersion,
  draftsEarlier,
  type AnyEndpoint,
  type BatchDocument,
  type BodyOf,
  type ParamsOf,
  type SectionName,
  type Setup,
} from '@bistre/contract';
import { call, CallFailed, messageOf } from './api';
import { showReply } from './show';
import { takeBack } from './undo';
import { reckoner } from './worker';
import type { Shown } from './shown';

export type SaveState =
  | { readonly kind: 'saved'; readonly at: string }
  | { readonly kind: 'saving' }
  /** `contested`: the part that another changed meanwhile, where that is why. */
  | { readonly kind: 'unsaved'; readonly why: string; readonly contested?: SectionName };

const draftKey = (id: string): string => `bistre.unsaved.${id}`;
const readDrafts = (id: string): Partial<Setup> => {
  try {
    return JSON.parse(localStorage.getItem(draftKey(id)) ?? '{}') as Partial<Setup>;
  } catch {
    return {};
  }
};

export interface BatchHandle {
  readonly batch: BatchDocument;
  readonly save: SaveState;
  /** Changes a part of the setup: shown at once, saved shortly after, kept in the browser until it is. */
  readonly update: <K extends SectionName>(section: K, value: Setup[K]) => void;
  /** Any other write that answers with the batch. Resolves to whether it was taken. */
  readonly act: <E extends AnyEndpoint>(
    endpoint: E,
    input?: { params?: Partial<ParamsOf<E>>; body?: Unversioned<BodyOf<E>> },
  ) => Promise<boolean>;
  /** Takes the latest change back; asks first where something builds on it or another made it. */
  readonly undo: () => void;
  /** Answers a part that another changed meanwhile: save what was typed here all the same, or take theirs. */
  readonly settle: (section: SectionName, whose: 'mine' | 'theirs') => void;
}

/** A body without the version: that is the one the page shows when the write leaves. */
type Unversioned<B> = B extends { version: number } ? Omit<B, 'version'> : B;

/** A batch as it is being worked on: server state with what was typed since laid over it. */
export const useBatch = (id: string): { handle: BatchHandle | null; error: unknown } => {
  const client = useQueryClient();
  const key = ['batch', id];
  const query = useQuery({
    queryKey: key,
    queryFn: () => call(api.getBatch, { params: { id } }),
    refetchInterval: 20_000,
  });
  const [drafts, setDrafts] = useState<Partial<Setup>>(() => readDrafts(id));
  const [save, setSave] = useState<SaveState>({ kind: 'saved', at: '' });
  const draftsRef = useRef(drafts);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const busy = useRef(false);
  /** Parts that another changed while they were typed here: not sent again before somebody has chosen. */
  const contested = useRef(new Map<SectionName, string>());
  /** Writes leave one after the other, so that each knows the version the one before it made. */
  const line = useRef<Promise<unknown>>(Promise.resolve());

  const keep = useCallback(
    (next: Partial<Setup>) => {
      draftsRef.current = next;
      setDrafts(next);
      try {
        if (Object.keys(next).length === 0) localStorage.removeItem(draftKey(id));
        else localStorage.setItem(draftKey(id), JSON.stringify(next));
      } catch {
        // The browser's store is full (large art): the server takes it in half a second all the same.
      }
    },
    [id],
  );

  /** Shows what is stored now, where another was quicker. */
  const showNow = useCallback(
    async ({ problem }: CallFailed): Promise<void> => {
      if (problem.now) await showReply(client, ['batch', id], problem.now as BatchDocument);
      else void client.invalidateQueries({ queryKey: ['batch', id] });
    },
    [client, id],
  );

  /** How saving stands: not saved while a part is contested, else saved just now, or not for the reason given. */
  const standing = useCallback((why?: string): SaveState => {
    const [first] = contested.current;
    if (first) return { kind: 'unsaved', why: first[1], contested: first[0] };
    return why ? { kind: 'unsaved', why } : { kind: 'saved', at: new Date().toTimeString().slice(0, 5) };
  }, []);

  const flush = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    let section: SectionName | undefined;
    try {
      for (;;) {
        section = (Object.keys(draftsRef.current) as SectionName[]).find((s) => !contested.current.has(s));
        if (!section) break;
        const value = draftsRef.current[section];
        const known = client.getQueryData<BatchDocument>(key);
        if (!known) break;
        setSave({ kind: 'saving' });
        const reply = await call(api.saveSection, {
          params: { id },
          body: { section, value, version: known.version } as BodyOf<typeof api.saveSection>,
        });
        await showReply(client, key, reply);
        if (draftsRef.current[section] === value) {
          const { [section]: _saved, ...rest } = draftsRef.current;
          keep(rest);
        }
        setSave(standing());
      }
    } catch (error) {
      setSave({ kind: 'unsaved', why: messageOf(error) });
      if (error instanceof CallFailed && error.status === 409) {
        if (section && error.problem.code === 'stale') contested.current.set(section, error.message);
        setSave(standing(messageOf(error)));
        await showNow(error);
      } else if (error instanceof CallFailed && error.status === 0)
        timer.current = setTimeout(() => void flush(), 4_000);
    } finally {
      busy.current = false;
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key is made of the id
  }, [client, id, keep, showNow, standing]);

  useEffect(() => {
    if (query.data) {
      // A draft that an earlier page kept is laid over what is stored in the form of now.
      const { setup, blank } = query.data;
      const now = draftsEarlier(draftsRef.current, setup, blank.spec.shape.kind === 'round') as Partial<Setup>;
      if (now !== draftsRef.current) keep(now);
    }
    if (query.data && Object.keys(draftsRef.current).length > 0) timer.current = setTimeout(() => void flush(), 300);
    return () => clearTimeout(timer.current);
    // Only when the batch first arrives: later edits schedule their own saving.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [query.data === undefined, flush]);

  const sendWrite = async (endpoint: AnyEndpoint, input: { params?: object; body?: unknown }): Promise<true> => {
    const version = client.getQueryData<BatchDocument>(key)?.version;
    const reply = (await call(endpoint, {
      params: { id, ...input.params },
      body: carriesVersion(endpoint) ? { ...(input.body as object), version } : input.body,
    })) as BatchDocument;
    await showReply(client, key, reply);
    return true;
  };

  /** Runs a write after those before it; says how it went. */
  const write = (job: () => Promise<boolean>): Promise<boolean> => {
    const run = async (): Promise<boolean> => {
      try {
        clearTimeout(timer.current);
        await flush();
        setSave({ kind: 'saving' });
        const good = await job();
        setSave(standing());
        void client.invalidateQueries({ queryKey: ['batches'] });
        return good;
      } catch (error) {
        setSave({ kind: 'unsaved', why: messageOf(error) });
        toast.error(messageOf(error), { duration: 12_000 });
        if (error instanceof CallFailed && error.status === 409) await showNow(error);
        return false;
      }
    };
    const done = line.current.then(run);
    line.current = done;
    return done;
  };

  if (!query.data) return { handle: null, error: query.error };
  const batch: BatchDocument = { ...query.data, setup: { ...query.data.setup, ...drafts } };
  return {
    error: query.error,
    handle: {
      batch,
      save:
        save.kind === 'saved' && save.at === ''
          ? { kind: 'saved', at: new Date(batch.updatedAt).toTimeString().slice(0, 5) }
          : save,
      update: (section, value) => {
        keep({ ...draftsRef.current, [section]: value });
        setSave({ kind: 'saving' });
        clearTimeout(timer.current);
        timer.current = setTimeout(() => void flush(), 500);
      },
      settle: (section, whose) => {
        contested.current.delete(section);
        if (whose === 'theirs') {
          const { [section]: _mine, ...rest } = draftsRef.current;
          keep(rest);
        }
        setSave(standing());
        void flush();
      },
      act: (endpoint, input = {}) => write(() => sendWrite(endpoint, input)),
      undo: () => {
        const last = batch.canUndo;
        if (last) void write(() => takeBack(last, (body) => sendWrite(api.undo, { body })));
      },
    },
  };
};

const QUICK_PIECES = 3_000;
const FULL_PIECES = 20_000;

/** What follows from the batch, reckoned in the worker; the last answer stays while the next is on its way. */
export const useShown = (batch: BatchDocument | null): Shown | null => {
  const [shown, setShown] = useState<Shown | null>(null);
  const running = useRef(false);
  const waiting = useRef<BatchDocument | null>(null);
  const wake = useRef<() => void>(() => undefined);
  const content = JSON.stringify([
    batch?.version,
    batch?.setup,
    batch?.blank,
    batch?.machine.version,
    batch?.drive?.version,
    batch?.rings.length,
  ]);
  useEffect(() => {
    if (!batch) return;
    waiting.current = batch;
    if (running.current) {
      wake.current();
      return;
    }
    running.current = true;
    void (async () => {
      try {
        while (waiting.current) {
          const next = waiting.current;
          waiting.current = null;
          // A small simulation answers the keystroke; a full one follows when the typing pauses.
          setShown(await reckoner().reckon(next, QUICK_PIECES));
          await new Promise<void>((done) => {
            const timer = setTimeout(done, 250);
            wake.current = () => {
              clearTimeout(timer);
              done();
            };
          });
          if (!waiting.current) setShown(await reckoner().reckon(next, FULL_PIECES));
        }
      } catch (error) {
        toast.error(`The reckoning failed: ${messageOf(error)}`);
      } finally {
        running.current = false;
      }
    })();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a batch is compared by its content
  }, [content]);
  return shown;
};
