import type { Setup } from '@bistre/contract';
import { heldAs, type Beside, type WayId, type Ways } from '@bistre/core';
import type { BatchHandle } from '../data/use-batch';

/** How a batch is held, with what changes it: what is decided, and what was seen at the bench. */
export interface HeldHere<K extends WayId> {
  readonly choice: Ways[K]['choice'];
  readonly found: Ways[K]['found'];
  readonly put: (part: Partial<Ways[K]['choice']>) => void;
  readonly note: (part: Partial<Ways[K]['found']>) => void;
  /** Both at once: what is decided anew makes void what was seen. */
  readonly renew: (choice: Partial<Ways[K]['choice']>, found: Partial<Ways[K]['found']>) => void;
}

/** A batch that is held in this way; parts that change are laid over what is set on screen. */
export const heldIn = <K extends WayId>({ batch, update }: BatchHandle, way: K): HeldHere<K> => {
  const now: Pick<HeldHere<K>, 'choice' | 'found'> = heldAs(batch, way);
  const { held } = batch.setup;
  const renew: HeldHere<K>['renew'] = (choice, found) =>
    update('held', {
      ...held,
      choice: { ...held.choice, ...choice },
      found: { ...held.found, ...found },
    } as Setup['held']);
  return {
    choice: now.choice,
    found: now.found,
    put: (part) => renew(part, {}),
    note: (part) => renew({}, part),
    renew,
  };
};

/** What stands beside the work, as it is set on screen, with what changes it. */
export const besideOf = ({
  batch,
  update,
}: BatchHandle): { readonly beside: Beside; readonly put: (part: Partial<Beside>) => void } => {
  const { beside } = batch.setup;
  return { beside, put: (part) => update('beside', { ...beside, ...part } as Setup['beside']) };
};
