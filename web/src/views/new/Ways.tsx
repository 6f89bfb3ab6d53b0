import { useEffect, useState } from 'react';
import type { BlankDocument, DriveDocument, FeederDocument, MachineDocument, RecipeDocument } from '@bistre/contract';
import { blankOf, driveOf, feederOf, machineOf, recipeOf } from '@bistre/contract';
import { counted, percent, roughly, whyFirst, type Asked, type Proposal } from '@bistre/core';
import { reckoner } from '../../data/worker';

/** What of the shop can hold and burn. */
export interface Tools {
  readonly machines: readonly MachineDocument[];
  readonly recipes: readonly RecipeDocument[];
  readonly drives: readonly DriveDocument[];
  readonly feeders: readonly FeederDocument[];
}

/** A pause in the typing, ms: nothing is reckoned for half a number. */
const PAUSE = 300;

/**
 * Ways to hold what was asked, best first; null while they are reckoned or too little is known.
 * @param piece null while too little of it is typed
 */
export const useProposals = (
  piece: Pick<BlankDocument, 'id' | 'name' | 'spec' | 'samples'> | null,
  what: Pick<Asked, 'name' | 'quantity' | 'tolerance' | 'comes'>,
  tools: Tools,
): readonly Proposal[] | null => {
  const [found, setFound] = useState<{ readonly key: string; readonly all: readonly Proposal[] } | null>(null);
  // Fetched again behind the page they are the same until somebody changed one.
  const own = Object.values(tools).flatMap((of: readonly { id: string; version: number }[]) => of.map((t) => `${t.id} ${t.version}`)); // prettier-ignore
  const key = JSON.stringify([piece, what, own]);
  useEffect(() => {
    if (!piece || !(what.quantity >= 1) || !(what.tolerance > 0)) return;
    let live = true;
    const asked: Asked = {
      ...what,
      blank: blankOf(piece),
      machines: tools.machines.map(machineOf),
      recipes: tools.recipes.map(recipeOf),
      drives: tools.drives.map(driveOf),
      feeders: tools.feeders.map(feederOf),
    };
    const timer = setTimeout(
      () =>
        void reckoner()
          .propose(asked)
          .catch((): Proposal[] => [])
          .then((all) => {
            if (live) setFound({ key, all });
          }),
      PAUSE,
    );
    return () => {
      live = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key holds what is asked
  }, [key]);
  return piece && found?.key === key ? found.all : null;
};

const One = ({
  of,
  first,
  tolerance,
  chosen,
  onChoose,
}: {
  of: Proposal;
  first: string | null;
  tolerance: number;
  chosen: boolean;
  onChoose: () => void;
}) => (
  <li className="border-t border-hairline first:border-t-0">
    <label className={`flex gap-3 px-3 py-2.5 ${of.problem ? '' : 'cursor-pointer'} ${chosen ? 'bg-wash' : ''}`}>
      <input
        type="radio"
        name="way"
        className="mt-0.5 size-6 shrink-0 accent-(--blue)"
        checked={chosen}
        disabled={of.problem !== null}
        onChange={onChoose}
      />
      <span className="min-w-0">
        <b className="text-[17px]">{of.words}</b> <span className="text-soft">on {of.machineName}</span>
        {first && <span className="block font-bold text-verdigris">Proposed: {first}</span>}
        {of.problem ? (
          <span className="block text-oxide">{of.problem}</span>
        ) : (
          <>
            <span className="flex flex-wrap gap-x-5">
              <span>
                <b>{roughly(of.setup)}</b> to set up, <b>{roughly(of.handling)}</b> of laying on
              </span>
              <span>
                {of.loads === 1 ? `all ${of.pieces} at once` : `${counted(of.loads, 'load')} of ${of.pieces}`}
              </span>
              <span className={`tone ${of.inside ? 'tone-inside text-verdigris' : 'tone-out text-oxide'}`}>
                <b>± {of.predicted.toFixed(2)}</b> of {tolerance.toFixed(2)} mm, {percent(of.yield)} inside
              </span>
            </span>
            <span className="block text-[13px] text-soft">
              {of.good} {of.needs.length > 0 && `Needs ${of.needs.join('; ')}.`}
            </span>
          </>
        )}
      </span>
    </label>
  </li>
);

/** The ways that were found, to choose from; the best is chosen until somebody chooses another. */
export const Ways = ({
  all,
  tolerance,
  chosen,
  onChoose,
}: {
  all: readonly Proposal[];
  tolerance: number;
  chosen: Proposal | null;
  onChoose: (way: Proposal) => void;
}) =>
  all.length === 0 ? (
    <p className="text-soft">No way could be reckoned for it. Begin, and choose how it is held at the next station.</p>
  ) : (
    <ul className="border border-rim bg-sheet">
      {all.map((p, i) => (
        <One
          key={p.id}
          of={p}
          first={i === 0 ? whyFirst(all) : null}
          tolerance={tolerance}
          chosen={chosen?.id === p.id}
          onChoose={() => onChoose(p)}
        />
      ))}
    </ul>
  );
