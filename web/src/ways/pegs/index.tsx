import { heldAs } from '@bistre/core';
import { WarpField } from '../../stations/hold/WarpField';
import { ChoiceFields } from '../fields';
import { heldIn } from '../held';
import { FileLinks } from '../../parts/FileLinks';
import { BoardFields } from '../flat/BoardFields';
import { BoardFiles } from '../flat/BoardFiles';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { KerfCheck } from '../../stations/hold/KerfCheck';
import type { BatchProps, DrawingProps, WayPages } from '../pages';
import { CardCheck } from './CardCheck';
import { LinesFields, LinesReckon } from './PegFields';
import { SeatDrawing } from './SeatDrawing';

const Settings = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="pegs">
    <LinesFields />
    <BoardFields places="places" notches={false} warp={<WarpField handle={handle} of="board" />} />
  </ChoiceFields>
);

const Files = (props: BatchProps) => (
  <>
    <BoardFiles {...props} />
    <FileLinks
      batchId={props.handle.batch.id}
      files={[
        ['card.svg', 'SVG'],
        ['card.gcode', 'G-code'],
      ]}
      label="Trial in card"
    />
  </>
);

const Check = ({ handle }: BatchProps) => (
  <>
    <KerfCheck handle={handle} />
    <CardCheck handle={handle} />
  </>
);

/** The seat of a piece while it is chosen, tried in card and kept; the bed for everything else. */
const Drawing = (props: DrawingProps) => {
  const { handle, shown, station, step } = props;
  const seat = shown.reckoning.own.lines && (step ? /hold\.(card|fit|save)/.test(step.id) : station === 'hold');
  if (!seat) return <FlatDrawing {...props} />;
  const { batch } = handle;
  const { put } = heldIn(handle, 'pegs');
  return (
    <SeatDrawing
      batch={batch}
      shown={shown}
      onContacts={step || batch.fixture ? undefined : (contacts) => put({ contacts })}
    />
  );
};

export const pegs: WayPages = {
  Drawing,
  hold: {
    Settings,
    Reckon: LinesReckon,
    Files,
    Check,
    kept: {
      noun: 'board',
      words: (batch) => {
        const { peg, boardThickness } = heldAs(batch, 'pegs').choice;
        return `Two ${peg} mm pegs a place, ${boardThickness} mm board.`;
      },
    },
    aids: true,
  },
  run: FLAT_RUN,
  Take: ({ handle, step }) => (step.takes?.kind === 'card' ? <CardCheck handle={handle} /> : null),
};
