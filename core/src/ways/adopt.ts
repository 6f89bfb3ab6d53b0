import type { BatchReckoning, Chosen, Comes, DriveFindings, FrozenBeside, Held, HeldSection, Beside } from '../setup';
import { WAYS } from './register';
import type { Way } from './way';

/** What boards and sheets have in common: it follows from one way to the other, where both know it as the same. */
const SHARED = ['name', 'boardThickness', 'wall', 'extent', 'turned', 'marks', 'order', 'slotNumbers'] as const;

const shared = (from: Held, to: Held): object =>
  Object.fromEntries(
    SHARED.flatMap((key) => {
      const [a, b] = [from.choice, to.choice] as Record<string, unknown>[];
      return b![key] !== undefined && typeof a![key] === typeof b![key] ? [[key, a![key]] as const] : [];
    }),
  );

/**
 * The same batch held in another way: as that way was left, or begun anew, with what it has in common with those it
 * was held in since. The way that is left keeps its draft, findings and all.
 */
export const adopt = (from: HeldSection, to: Way): HeldSection => {
  if (from.way === to.id) return from;
  const { left, ...now } = from;
  // In the order in which they were left; a way without boards between two that have some hides nothing.
  const tried = [...left.filter((h) => h.way !== now.way), now as Held];
  const at = tried.findIndex((h) => h.way === to.id);
  const draft = tried[at] ?? to.fresh('BOARD');
  return {
    ...draft,
    choice: Object.assign({ ...draft.choice }, ...tried.slice(at + 1).map((h) => shared(h, draft))) as Held['choice'],
    left: tried.filter((h) => h.way !== to.id),
  } as HeldSection;
};

const firstFor = (shape: { readonly kind: string }): Way => Object.values(WAYS).find((w) => w.suits(shape))!;

/** A way to begin with, with room for so many pieces. */
const begun = (held: Held, quantity: number): HeldSection => {
  const choice =
    'extent' in held.choice
      ? { ...held.choice, extent: { kind: 'count', count: Math.min(quantity, MOST_AT_FIRST) } }
      : held.choice;
  return { ...held, choice, left: [] } as HeldSection;
};

/** How a new batch is held: in the first way that suits its blank, with room for so many pieces. */
export const freshHeld = (name: string, shape: { readonly kind: string }, quantity: number): HeldSection =>
  begun(firstFor(shape).fresh(name), quantity);

/** The ways to begin in this way: one for each drive or feeder of the shop where it needs one, else one. */
export const beginIn = (
  way: Way,
  name: string,
  { quantity, comes, drives, feeders }: Begin,
): readonly HeldSection[] => {
  const held = begun(way.fresh(name, comes), quantity);
  const { choice } = held;
  const each = (key: 'driveId' | 'feederId', of: readonly { readonly id: string }[]): HeldSection[] =>
    of.map(({ id }) => ({ ...held, choice: { ...choice, [key]: id } }) as HeldSection);
  if ('driveId' in choice) return each('driveId', drives);
  return 'feederId' in choice ? each('feederId', feeders) : [held];
};

/** What a new batch is begun from. */
export interface Begin {
  readonly quantity: number;
  readonly comes: Comes;
  readonly drives: readonly { readonly id: string }[];
  readonly feeders: readonly { readonly id: string }[];
}

/** Most pockets that a board is begun with. */
const MOST_AT_FIRST = 60;

/**
 * A batch as its blank can be held, should the blank's form have changed: as it is, else in a way that was left,
 * else in the first that suits; a board that does not suit is not used.
 */
export const suited = <F extends { readonly held: Chosen } | null>(
  { held, fixture }: { readonly held: HeldSection; readonly fixture: F },
  shape: { readonly kind: string },
): { readonly held: HeldSection; readonly fixture: F | null } => {
  if (WAYS[held.way].suits(shape)) return { held, fixture };
  const left = held.left.map((h) => WAYS[h.way]).find((w) => w.suits(shape));
  return { held: adopt(held, left ?? firstFor(shape)), fixture: null };
};

/** How a batch is held once a board of the Shelf is used for it. */
export const thawed = (
  { held, beside }: { readonly held: HeldSection; readonly beside: Beside },
  kept: { readonly held: Chosen; readonly beside: FrozenBeside },
): { readonly held: HeldSection; readonly beside: Beside } => ({
  held: { ...adopt(held, WAYS[kept.held.way]), choice: kept.held.choice } as HeldSection,
  beside: { ...beside, ...kept.beside },
});

/** How a batch's board is held once it is cut as it was reckoned. */
export const asBuilt = (held: HeldSection, r: BatchReckoning): HeldSection => ({
  ...(WAYS[held.way].asBuilt?.(held, r) ?? held),
  left: held.left,
});

/** What is left of what was seen of a strip, once it has gone through. */
export const afterStrip = (held: HeldSection): HeldSection => ({
  ...(WAYS[held.way].forget?.(held) ?? held),
  left: held.left,
});

/**
 * A round blank on a drive, or lying still for null. What was found with this drive and blank before is where it
 * begins; nothing is set on the machine yet.
 */
export const chooseDrive = (from: HeldSection, driveId: string | null, known: Held | null): HeldSection => {
  if (driveId === null) return adopt(from, WAYS.cradle);
  const to = adopt(from, WAYS.drive);
  const begin =
    known?.way === 'drive' ? known : to.way === 'drive' ? { ...to, found: { ...to.found, letter: null } } : to;
  return {
    ...begin,
    choice: { ...begin.choice, driveId },
    found: { ...begin.found, numberSet: null, accelerationSet: null },
    left: to.left,
  } as HeldSection;
};

/** What was set or seen on the drive of a batch; nothing where there is none. */
export const setOnDrive = <H extends Held>(held: H, found: Partial<DriveFindings>): H =>
  held.way === 'drive' ? { ...held, found: { ...held.found, ...found } } : held;
