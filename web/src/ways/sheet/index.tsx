import type { BatchDocument } from '@bistre/contract';
import { heldIn } from '../held';
import { heldAs, screenPath, tracedOutline, tracedPieces, tracedSize } from '@bistre/core';
import { AimedPlace } from '../../stations/PlaceStation';
import { FileLinks } from '../../parts/FileLinks';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN, FlatSimulated } from '../flat/FlatRun';
import type { BatchProps, DrawingProps, StationProps, WayPages } from '../pages';
import { SheetDrawing } from './SheetDrawing';
import { SheetFields } from './SheetFields';
import { SheetReckon } from './SheetReckon';

const Files = ({ handle }: BatchProps) =>
  heldAs(handle.batch, 'sheet').choice.traced ? null : (
    <FileLinks batchId={handle.batch.id} files={[['print.pdf', 'Sheet, PDF']]} label="To print, true size" />
  );

/** Somebody else's sheet while its shapes are sorted; the bed for everything else. */
const Drawing = (props: DrawingProps) => {
  const { choice, put } = heldIn(props.handle, 'sheet');
  if (!choice.traced || props.station !== 'hold' || props.step) return <FlatDrawing {...props} noun="Sheet" />;
  return (
    <SheetDrawing
      sheet={choice.traced}
      inner={choice.inner}
      onChange={props.handle.batch.fixture ? undefined : (traced) => put({ traced })}
    />
  );
};

/** The pieces as they were cut, with what was printed on each. */
const Simulated = (props: StationProps) => {
  const { reckoning } = props.shown;
  const { traced } = heldAs(props.handle.batch, 'sheet').choice;
  return (
    <FlatSimulated
      {...props}
      pieces={
        traced
          ? {
              ...tracedSize(traced),
              printed: new Map(
                tracedPieces(traced).map(
                  (p, i) => [i + 1, { fill: '', line: screenPath(tracedOutline(p)[0]!) }] as const,
                ),
              ),
              bare: true,
            }
          : {
              length: reckoning.sizes.length.mean,
              width: reckoning.sizes.width.mean,
              printed: new Map(
                reckoning.onTheBoard.flatMap(({ slot, ordinal }) => {
                  const path = reckoning.art?.paths[ordinal];
                  return path ? [[slot.slot, path] as const] : [];
                }),
              ),
              bare: false,
            }
      }
    />
  );
};

const Place = (props: StationProps) => <AimedPlace {...props} work="sheet" />;

/** How a kept sheet is laid out. */
const words = (batch: BatchDocument): string => {
  const { paper, bleed } = heldAs(batch, 'sheet').choice;
  return `${paper}, bleed ${bleed} mm.`;
};

export const sheet: WayPages = {
  Drawing,
  stations: { place: Place },
  hold: {
    Settings: SheetFields,
    Reckon: SheetReckon,
    Files,
    kept: { noun: 'sheet', words },
    aids: true,
  },
  run: {
    ...FLAT_RUN,
    noNames: () => ({ words: 'The pieces are printed already', bring: false }),
    dots: () => false,
    Simulated,
  },
};
