import type { Shown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { CutOutReckon } from './CutOutReckon';

/** What follows for work in segments: how many, through what the seams go, and how errors add up. */
export const LongReckon = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => {
  const { budget } = shown.reckoning;
  const long = shown.reckoning.own.long;
  if (!long?.plan) return null;
  const { plan, errors } = long;
  const { room } = plan;
  const lines = plan.seams.reduce((s, x) => s + x.lines, 0);
  const filled = plan.seams.reduce((s, x) => s + x.filled, 0);
  const out = [
    ['in front', room.front],
    ['behind', room.back],
    ['left', room.left],
    ['right', room.right],
  ] as const;
  return (
    <>
      <div className="readings">
        <Reading
          label="segments"
          size={ROW_SIZE}
          value={String(plan.segments.length)}
          unit={`of at most ${plan.window.toFixed(0)} mm`}
          note={
            plan.segments.length > plan.fewest
              ? `${plan.fewest} would reach; more spare the lettering`
              : 'as few as the travel allows'
          }
        />
        <Reading
          label="seams go through"
          size={ROW_SIZE}
          value={String(lines)}
          unit={lines === 1 ? 'line' : 'lines'}
          tone={plan.seams.some((s) => s.words > 0) ? 'out' : 'plain'}
          note={`and ${filled.toFixed(1)} mm of filled shapes`}
        />
        <Reading
          label="far end, at 95 %"
          size={ROW_SIZE}
          value={`± ${budget.predicted.toFixed(2)}`}
          unit="mm"
          working={budget.working}
          note="against the first segment"
        />
      </div>
      <table className="mt-3 w-full text-[14px]">
        <thead className="text-left text-[13px] text-soft">
          <tr>
            <th className="font-normal">segment</th>
            <th className="font-normal">from – to, mm</th>
            <th className="font-normal">step at its seam</th>
            <th className="font-normal">from the start</th>
          </tr>
        </thead>
        <tbody>
          {plan.segments.map((s, i) => (
            <tr key={s.index} className="border-t border-hairline">
              <td className={s.index === long.current && !long.burned ? 'font-bold text-blue' : ''}>
                {s.index}
                {s.index < long.current || long.burned ? ' burned' : s.index === long.current ? ' next' : ''}
              </td>
              <td>
                {s.from.toFixed(1)} – {s.to.toFixed(1)}
              </td>
              <td>{errors[i]?.step == null ? '–' : `± ${errors[i].step.toFixed(2)}`}</td>
              <td>± {errors[i]?.fromStart.toFixed(2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-[13px] text-soft">
        Stands out of the bed at most:{' '}
        {out
          .filter(([, mm]) => mm > 0.5)
          .map(([where, mm]) => `${(mm / 10).toFixed(0)} cm ${where}`)
          .join(', ') || 'nowhere'}
        .
      </p>
      <CutOutReckon handle={handle} />
    </>
  );
};
