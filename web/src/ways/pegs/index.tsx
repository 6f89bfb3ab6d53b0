import { FileLinks } from '../../parts/FileLinks';
import { BoardFields } from '../flat/BoardFields';
import { BoardFiles } from '../flat/BoardFiles';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { KerfCheck } from '../../stations/hold/KerfCheck';
import type { BatchProps, DrawingProps, SettingsProps, WayPages } from '../pages';
import { CardCheck } from './CardCheck';
import { LinesFields, LinesReckon } from './PegFields';
import { SeatDrawing } from './SeatDrawing';

const Settings = ({ hold, update }: SettingsProps) => (
  <>
    <LinesFields hold={hold} update={update} />
    <BoardFields hold={hold} update={update} places="places" notches={false} />
  </>
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
  const seat = shown.reckoning.fixings.lines && (step ? /hold\.(card|fit|save)/.test(step.id) : station === 'hold');
  if (!seat) return <FlatDrawing {...props} />;
  const { batch, update } = handle;
  const { hold } = batch.setup;
  return (
    <SeatDrawing
      batch={batch}
      shown={shown}
      onContacts={
        step || batch.fixture
          ? undefined
          : (contacts) => update('hold', { ...hold, lines: { ...hold.lines, contacts } })
      }
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
      words: ({ lines, boardThickness }) => `Two ${lines.peg} mm pegs a place, ${boardThickness} mm board.`,
    },
    aids: true,
  },
  run: FLAT_RUN,
  Take: ({ handle, step }) => (step.takes?.kind === 'card' ? <CardCheck handle={handle} /> : null),
};
