import type { ReactNode } from 'react';
import { api } from '@bistre/contract';
import {
  besideBudget,
  capability,
  fixed,
  reckonCorrection,
  rimWords,
  type BesideBudget,
  type CorrectionReckoning,
  type ShownSource,
} from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { IndividualsChart } from '../../parts/IndividualsChart';
import { Moved } from '../../parts/Moved';
import { Finding } from '../../parts/Part';
import { Reading, Working } from '../../parts/Reading';
import type { BatchProps } from '../../ways/pages';
import { OffsetsDrawing } from './OffsetsDrawing';

/** A capability of fewer pieces than this is a guess, and says so [judgement]. */
const FEW = 8;

/** The move that is proposed, or why none is. */
const Proposed = ({ handle, of }: { handle: BatchHandle; of: CorrectionReckoning }) => {
  const { proposal, measured, expected } = of;
  const { pieces } = handle.batch;
  const on = pieces.some((p) => p.state === 'loaded');
  const working = <Working lines={proposal.working} title="what they have in common" />;
  if (proposal.kind === 'leave')
    return (
      <p>
        {proposal.words} {measured.length > 0 && working}
      </p>
    );
  const accept = (): void => {
    const { shift, turn, size, about } = proposal.move;
    void handle.act(api.correct, {
      body: { shift, turn, size, about, pieces: measured.length, chance: proposal.chance },
    });
  };
  return (
    <>
      <Finding tone="attention">
        {proposal.words} {working}
      </Finding>
      <button className="act act-main mt-2 min-h-11" disabled={on} onClick={accept}>
        Move the burn
      </button>
      <p className="mt-1 text-[13px] text-soft">
        {on
          ? 'Judge the load that is on first: its file was made as the burn lies now.'
          : `The next file is written with it, until the work is laid anew; it can be taken back. A piece was expected to scatter by ± ${fixed(2 * expected.piece)} mm.`}
      </p>
    </>
  );
};

/** What is said of the mean where the burn is not moved as a whole: it is set right at the machine, or left alone. */
const meanWords = (x: number | null, y: number | null): ReactNode => {
  const by = [x === null ? '' : `x by ${fixed(x)} mm`, y === null ? '' : `y by ${fixed(y)} mm`].filter(Boolean);
  return by.length > 0 ? (
    <b>The mean is shifted beyond noise: correct {by.join(', ')}.</b>
  ) : (
    'The mean may be noise: do not chase it.'
  );
};

const meanOf = (all: readonly { x: number; y: number }[]): { x: number; y: number } => ({
  x: all.reduce((sum, v) => sum + v.x, 0) / all.length,
  y: all.reduce((sum, v) => sum + v.y, 0) / all.length,
});

/** Sources of the budget beside what the pieces say of them, in the two ways in which they show. */
const Beside = ({ of: { sources, alike, apart } }: { of: BesideBudget }) => {
  const rows = (shows: ShownSource['shows']) =>
    sources.filter((s) => s.shows === shows && s.u >= 0.005).map((s) => `${s.name} ± ${fixed(2 * s.u)}`).join(', ') || 'nothing that counts'; // prettier-ignore
  const words = { 'as expected': 'as expected', more: 'more than expected', less: 'less than expected' } as const;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer py-3 text-blue">the budget beside what the pieces say</summary>
      <table className="w-full text-[15px]">
        <thead>
          <tr className="text-left text-[13px] text-soft">
            <th className="pr-3 font-normal">shows as</th>
            <th className="pr-3 font-normal">by the budget, mm either way (95 %)</th>
            <th className="font-normal">by the pieces</th>
          </tr>
        </thead>
        <tbody>
          <tr className="border-t border-hairline align-top">
            <td className="py-1.5 pr-3">shift of all</td>
            <td className="pr-3">{rows('all alike')}</td>
            <td>
              {fixed(alike.found)} mm off, up to {fixed(alike.most)} is{' '}
              <b>{words[alike.verdict] === 'as expected' ? 'as expected' : 'expected: it is more'}</b>
            </td>
          </tr>
          <tr className="border-t border-hairline align-top">
            <td className="py-1.5 pr-3">spread</td>
            <td className="pr-3">{rows('piece to piece')}</td>
            <td>
              {apart ? (
                <>
                  ± {fixed(2 * apart.found)} mm, surely between {fixed(2 * apart.low)} and {fixed(2 * apart.high)}; ±{' '}
                  {fixed(2 * apart.expected)} was expected: <b>{words[apart.verdict]}</b>
                </>
              ) : (
                'one piece has none'
              )}
            </td>
          </tr>
        </tbody>
      </table>
      {apart?.verdict === 'more' && (
        <p className="mt-1">
          Something scatters that the budget does not know, or knows as smaller: look first at{' '}
          {sources.find((s) => s.shows === 'piece to piece')?.name ?? 'how the pieces are seated'}.
        </p>
      )}
      {alike.verdict === 'more' && (
        <p className="mt-1">
          All pieces are off alike by more than marks and pointer explain: look first at{' '}
          {sources.find((s) => s.shows === 'all alike')?.name ?? 'the pointer'}.
        </p>
      )}
    </details>
  );
};

/** Offsets of the measured pieces: what they have in common, what scatters, and a move of the burn where it is no noise. */
export const Measured = ({ handle, shown }: BatchProps) => {
  const { batch } = handle;
  const pieces = batch.pieces.filter((p) => p.dx !== null && p.state !== 'loaded');
  const of = reckonCorrection(batch, shown.reckoning);
  if (pieces.length === 0)
    return (
      <>
        <p className="text-soft">
          Measured offsets of done pieces show here. One that is far off, or a few that agree, move the burn.
        </p>
        {of && <Moved {...of} />}
      </>
    );
  const t = batch.tolerance;
  const values = (key: 'dx' | 'dy') => pieces.map((p) => p[key] ?? 0);
  const x = capability(values('dx'), -t, t);
  const y = capability(values('dy'), -t, t);
  const rim = shown.reckoning.own.cutLine && of && of.measured.length > 0 ? rimWords(meanOf(of.measured.map((m) => m.off))) : null; // prettier-ignore
  const beside = besideBudget(shown.reckoning, values('dx'), values('dy'));
  const worse = x && y && (x.cpk < y.cpk ? x : y);
  const each = (key: 'dx' | 'dy') => pieces.map((p) => ({ ordinal: p.ordinal, value: p[key] ?? 0, scrapped: p.state === 'scrap' })); // prettier-ignore
  return (
    <>
      {x && y && worse && (
        <div className="readings">
          <Reading
            label={`mean of ${x.n}, x and y`}
            size="text-[19px]"
            value={`${fixed(x.mean)}, ${fixed(y.mean)}`}
            unit="mm"
            working={of ? of.proposal.working : [...x.working, ...y.working]}
          />
          <Reading
            label="spread, x and y"
            size="text-[19px]"
            value={`${fixed(x.s)}, ${fixed(y.s)}`}
            unit="mm"
            note={of ? `expected ${fixed(of.expected.piece)}` : undefined}
          />
          <Reading
            label="capability Cpk"
            size="text-[19px]"
            value={fixed(worse.cpk)}
            tone={worse.n < FEW ? 'plain' : worse.cpk >= 1.33 ? 'inside' : worse.cpk >= 1 ? 'attention' : 'out'}
            // What is said of the mean is said by the proposal, which knows that it was looked at before.
            working={of ? worse.working.slice(0, 1) : worse.working}
            note={`${worse.n < FEW ? `of ${worse.n} only; ` : ''}Cp ${fixed(worse.cp)}`}
          />
        </div>
      )}
      {of && (
        <div className="mt-2 flex flex-wrap gap-4">
          {of.measured.length > 0 && <OffsetsDrawing {...of} tolerance={t} />}
          <div className="min-w-60 flex-1">
            <Proposed handle={handle} of={of} />
            <Moved {...of} />
          </div>
        </div>
      )}
      {rim && <p className="mt-2">{rim}</p>}
      {!of && x && y && <p className="mt-1 text-[13px]">{meanWords(x.correction, y.correction)}</p>}
      {beside && <Beside of={beside} />}
      {pieces.length >= 2 && (
        <details className="mt-2">
          <summary className="cursor-pointer py-3 text-blue">piece by piece, with limits</summary>
          <IndividualsChart of={each('dx')} tolerance={t} label="right" />
          <IndividualsChart of={each('dy')} tolerance={t} label="away" />
        </details>
      )}
    </>
  );
};
