import { BlankDrawing } from '../../drawing/BlankDrawing';
import type { SideShown } from '../../data/shown';
import type { DrawingProps } from '../pages';
import { BedDrawing } from './BedDrawing';

/** Flat work: the blank itself at its station, else the bed from above, as near as the step needs it. */
export const FlatDrawing = ({
  handle: { batch },
  shown,
  station,
  step,
  head,
  states,
  noun,
  lies,
}: DrawingProps & { noun?: string; lies?: (shown: SideShown, other: boolean) => string }) => {
  const { reckoning } = shown;
  if (station === 'blank' && !step)
    return (
      <BlankDrawing
        spec={batch.blank.spec}
        sizes={reckoning.sizes}
        path={shown.blankPath}
        art={reckoning.art?.paths[reckoning.onTheBoard[0]?.ordinal ?? -1]}
      />
    );
  const near = step ? station === 'hold' : station !== 'place' && station !== 'run';
  return (
    <BedDrawing
      key={station}
      machine={batch.machine}
      shown={shown}
      fit={near ? 'board' : 'bed'}
      states={states}
      head={head}
      showOutline={step ? /walk/.test(step.id) : station === 'place'}
      aim={step?.takes?.kind === 'reading' ? step.takes.mark : null}
      noun={noun}
      lies={lies}
    />
  );
};
