import type { DrawingProps } from '../pages';
import { RoundDrawing } from './RoundDrawing';

/** The blank on its drive while that is set up, else unrolled. */
export const RoundPages = ({ handle, shown, station, step }: DrawingProps) => {
  const { round } = shown.reckoning.own;
  return round ? (
    <RoundDrawing
      key={step ? station : 'sheet'}
      handle={handle}
      round={round}
      first={station === 'drive' ? 'drive' : 'wrap'}
    />
  ) : null;
};
