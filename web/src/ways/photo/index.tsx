import { heldIn } from '../held';
import { heldAs, markDefect, type PhotoSettings } from '@bistre/core';
import { FileLinks } from '../../parts/FileLinks';
import { AimedPlace } from '../../stations/PlaceStation';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import type { BatchProps, DrawingProps, Files as FileList, StationProps, WayPages } from '../pages';
import { PhotoDrawing } from './PhotoDrawing';
import { PhotoFields, PhotoReckon } from './PhotoFields';
import { PhotoAsks, PhotoTake } from './PhotoTake';

const MARKS: Readonly<Record<PhotoSettings['marksOn'], FileList>> = {
  bed: [
    ['marks.gcode', 'G-code'],
    ['marks.svg', 'SVG'],
  ],
  sheet: [['marks.pdf', 'Sheet of marks, PDF']],
  own: [],
};

const Files = ({ handle }: BatchProps) => (
  <FileLinks
    batchId={handle.batch.id}
    files={[...MARKS[heldAs(handle.batch, 'photo').choice.marksOn], ['walk.gcode', 'Walk file']]}
    label="Camera’s marks, and the outlines"
  />
);

/** The bed as the photograph shows it; the sheet of marks where it is aimed at. */
const Drawing = (props: DrawingProps) => {
  const { handle, shown, station, step } = props;
  const { run } = shown.reckoning;
  const { photo } = shown.reckoning.own;
  const aimed = photo?.onSheet && (station === 'place' || (station === 'run' && !step));
  if (!photo || aimed || (!step && (station === 'blank' || station === 'close')))
    return <FlatDrawing {...props} noun="Sheet" />;
  const { found, note } = heldIn(handle, 'photo');
  return (
    <PhotoDrawing
      batch={handle.batch}
      shown={shown}
      onDefect={
        !step && station === 'hold' && run.openLoad === null
          ? (at) => note({ offcuts: markDefect(found.offcuts, at) })
          : undefined
      }
    />
  );
};

const Place = (props: StationProps) => <AimedPlace {...props} work="sheet" />;

export const photo: WayPages = {
  Drawing,
  stations: { place: Place },
  hold: { Settings: PhotoFields, Reckon: PhotoReckon, Files, kept: null, aids: false, saysProblem: true },
  run: {
    ...FLAT_RUN,
    dots: ({ reckoning }) => !reckoning.own.cutOut,
    ready: ({ reckoning }) => reckoning.own.photo?.free !== 0,
  },
  Take: ({ handle, step }) =>
    step.takes?.kind === 'photo' ? (
      <>
        {step.part === 'do' && <PhotoTake handle={handle} large />}
        <PhotoAsks handle={handle} large />
      </>
    ) : null,
};
