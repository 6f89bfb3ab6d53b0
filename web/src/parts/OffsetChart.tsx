import type { BatchDocument } from '@bistre/contract';
import { capability, fixed, pieceCount } from '@bistre/core';
import { IndividualsChart, levelWords } from './IndividualsChart';

/** Measured offsets piece by piece in the order they were burned: individuals and moving ranges of both directions. */
export const OffsetChart = ({ batch }: { batch: BatchDocument }) => {
  const pieces = batch.pieces.filter((p) => p.dx !== null);
  if (pieces.length < 2) return null;
  const t = batch.tolerance;
  const of = (key: 'dx' | 'dy') => pieces.map((p) => ({ ordinal: p.ordinal, value: p[key] ?? 0, scrapped: p.state === 'scrap' })); // prettier-ignore
  const cx = capability(of('dx').map((p) => p.value), -t, t); // prettier-ignore
  const cy = capability(of('dy').map((p) => p.value), -t, t); // prettier-ignore
  return (
    <figure className="mb-5 border border-hairline bg-sheet p-3">
      <figcaption className="mb-1 text-[13px] text-soft">
        Measured offsets of {pieceCount(pieces.length)} in the order burned; tolerance ± {t.toFixed(2)} mm.{' '}
        {cx && cy ? `Cpk ${fixed(Math.min(cx.cpk, cy.cpk))}.` : ''} To the right:{' '}
        {levelWords(of('dx').map((p) => p.value))}. Away from you: {levelWords(of('dy').map((p) => p.value))}. Dotted:
        limits of three standard deviations from piece to piece. Crosses: scrapped.
      </figcaption>
      <IndividualsChart of={of('dx')} tolerance={t} label="right" />
      <IndividualsChart of={of('dy')} tolerance={t} label="away" />
    </figure>
  );
};
