import { useEffect, useMemo, useRef, useState } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import {
  api,
  carriesId,
  draftsEarlier,
  type AnyEndpoint,
  type BatchDocument,
  type BodyOf,
  type ParamsOf,
  type SectionName,
  type Setup,
} from '@bistre/contract';
import { call, CallFailed, messageOf, newId, operatorName } from './api';
import { contested, laidOver, nameOf, outbox, useWaiting, wordsOf, type Kept, type Outcome } from './outbox';
import { takeBack } from './undo';
import type { Unversioned } from './write';
import { reckoner } from './worker';
import type { Shown } from './shown';

export type SaveState =
  | { readonly kind: 'saved'; readonly at: string }
  | { readonly kind: 'saving' }
  /** Kept in this browser: the server does not take it at the moment. The header says what waits. */
  | { readonly kind: 'waits' }
  /** A part that the server does not take as it is; contested where another changed it meanwhile. */
  | { readonly kind: 'unsaved'; readonly why: string; readonly section: SectionName; readonly contested: boolean };

export interface BatchHandle {
  readonly batch: BatchDocument;
  readonly save: SaveState;
  /** Changes a part of the setup: shown and kept at once, sent when typing rests. */
  readonly update: <K extends SectionName>(section: K, value: Setup[K]) => void;
  /**
   * Any other write that answers with the batch. Resolves to whether it was taken, or is kept to be sent when the
   * server is back.
   */
  readonly act: <E extends AnyEndpoint>(
    endpoint: E,
    input?: { params?: Partial<ParamsOf<E>>; body?: Unversioned<BodyOf<E>> },
  ) => Promise<boolean>;
  /** Takes the latest change back; asks first where something builds on it or another made it. */
  readonly undo: () => void;
  /** Answers a part that was not taken: send what was typed here again, over what is stored now, or let it go. */
  readonly settle: (section: SectionName, whose: 'mine' | 'theirs') => void;
}

const clock = (at: string): string => new Date(at).toTimeString().slice(0, 5);

const saveState = (waiting: readonly Kept[], away: string | null, typing: boolean, batch: BatchDocument): SaveState => {
  const stuck = waiting.find(contested) ?? waiting.find((k) => k.refused);
  if (stuck?.refused && stuck.section)
    return {
      kind: 'unsaved',
      why: stuck.refused.problem.message,
      section: stuck.section,
      contested: contested(stuck),
    };
  if (waiting.length === 0) return typing ? { kind: 'saving' } : { kind: 'saved', at: clock(batch.updatedAt) };
  return { kind: away === null ? 'saving' : 'waits' };
};

/** Takes what an earlier page kept in its own way into the outbox, in the form of now. */
const takeEarlier = (batch: BatchDocument): void => {
  const key = `bistre.unsaved.${batch.id}`;
  const stored = localStorage.getItem(key);
  if (stored === null) return;
  localStorage.removeItem(key);
  try {
    const drafts = JSON.parse(stored) as Record<string, unknown>;
    const now = draftsEarlier(drafts, batch.setup, batch.blank.spec.shape.kind === 'round') as Partial<Setup>;
    // Files that a batch kept for itself are of the Shelf now; nothing of such a draft can be sent.
    const { art: _art, ...known } = now as Partial<Setup> & { art?: unknown };
    for (const [section, value] of Object.entries(known)) void revise(batch, section as SectionName, value);
  } catch {
    // What is no JSON was nobody's draft.
  }
};

const revise = (batch: BatchDocument, section: SectionName, value: unknown): Promise<void> => {
  const body = { section, value };
  return outbox.revise({
    scope: batch.id,
    call: 'saveSection',
    section,
    params: { id: batch.id },
    body,
    base: batch.version,
    words: wordsOf('saveSection', body),
    by: operatorName(),
  });
};

const NOTHING_TYPED: Partial<Setup> = {};

/** A batch as it is being worked on: server state with what waits laid over it. */
export const useBatch = (id: string): { handle: BatchHandle | null; error: unknown } => {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ['batch', id],
    queryFn: () => call(api.getBatch, { params: { id } }),
    refetchInterval: 20_000,
  });
  const { kept, away } = useWaiting();
  /** What was typed in this very moment: shown before the outbox has it. */
  const [typed, setTyped] = useState(NOTHING_TYPED);
  const stored = query.data;
  const waiting = useMemo(() => kept.filter((k) => k.scope === id), [kept, id]);
  const batch = useMemo(() => {
    if (!stored) return null;
    const over = laidOver(stored, waiting);
    return typed === NOTHING_TYPED ? over : { ...over, setup: { ...over.setup, ...typed } };
  }, [stored, waiting, typed]);
  const arrived = stored !== undefined;
  useEffect(() => {
    if (stored) takeEarlier(stored);
    // Once, when the batch first arrives.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [arrived]);

  if (!batch || !stored) return { handle: null, error: query.error };
  /** As the page shows it now, though a render may be under way. */
  const known = (): BatchDocument => client.getQueryData<BatchDocument>(['batch', id]) ?? stored;
  const add = (endpoint: AnyEndpoint, input: { params?: object; body?: unknown }): Promise<Outcome> => {
    const name = nameOf(endpoint);
    // Named from birth: what is made can be taken out again before the server has it.
    const body = carriesId(endpoint) ? { id: newId(), ...(input.body as object) } : input.body;
    return outbox.add({
      scope: id,
      call: name,
      params: { id, ...input.params },
      body,
      base: known().version,
      words: wordsOf(name, input.body),
      by: operatorName(),
    });
  };
  const act: BatchHandle['act'] = async (endpoint, input = {}) => {
    const outcome = await add(endpoint, input);
    if (outcome.kind !== 'refused') return true;
    toast.error(outcome.refusal.problem.message, { duration: 12_000 });
    return false;
  };
  const undo = async (): Promise<void> => {
    if (!batch.canUndo) return;
    try {
      await takeBack(batch.canUndo, async (body) => {
        const outcome = await add(api.undo, { body });
        if (outcome.kind === 'refused') throw new CallFailed(outcome.refusal.status, outcome.refusal.problem);
      });
    } catch (error) {
      toast.error(messageOf(error), { duration: 12_000 });
    }
  };
  return {
    error: query.error,
    handle: {
      batch,
      save: saveState(waiting, away, typed !== NOTHING_TYPED, batch),
      update: (section, value) => {
        setTyped((old) => ({ ...old, [section]: value }));
        void revise(known(), section, value).then(() =>
          setTyped((old) => {
            if (old[section] !== value) return old;
            const { [section]: _kept, ...rest } = old;
            return Object.keys(rest).length === 0 ? NOTHING_TYPED : rest;
          }),
        );
      },
      settle: (section, whose) => void outbox.settle(id, section, whose, known().version),
      act,
      undo: () => void undo(),
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
    // What waits to be sent has no version yet.
    batch?.readings.map((r) => r.id),
    batch?.ticks.length,
    batch?.pieces.map((p) => p.state),
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
