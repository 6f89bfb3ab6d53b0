import type { BatchInput } from './input';
import type { RunWords } from './run-steps';
import type { Step } from './step';

/** Putting back, putting away and looking over, when the run is done. */
export const closeSteps = (input: BatchInput, putAway: RunWords): Step[] => [
  {
    id: 'close.putback',
    station: 'close',
    part: 'check',
    title: 'Everything put back',
    detail:
      input.putbacks.length === 0
        ? 'No machine setting was changed for this batch.'
        : input.putbacks.map((p) => `${p.setting}: ${p.now} back to ${p.was}`).join('; '),
    takes: { kind: 'putback' },
  },
  { id: 'close.fixture', station: 'close', part: 'do', ...putAway },
  {
    id: 'close.finish',
    station: 'close',
    part: 'check',
    title: 'Finishing checks',
    detail: 'Blow off and wipe; rub one piece with a thumb. Eye and hearing protection for compressed air.',
  },
  {
    id: 'close.batch',
    station: 'close',
    part: 'do',
    title: 'Close the batch',
    detail: 'What was learned is written down with it; from then on it is only read.',
    takes: { kind: 'close' },
    ticked: false,
    done: input.closedAt !== null,
  },
];
