import { Dialog } from 'radix-ui';
import { percent, type Budget, type Source } from '@bistre/core';

/** Fills of the sources, the largest first; then patterns, so that no two are alike. */
const FILLS = ['var(--ink)', 'var(--soft)', 'var(--rim)', 'var(--copper)', 'var(--blue)', 'var(--ochre)'];
const PATTERNS = ['M0 4L4 0', 'M0 2H4', 'M2 0V4', 'M0 0L4 4', 'M0 2H4M2 0V4', 'M1 2H3'];
const fillOf = (i: number): string => FILLS[i] ?? `url(#budget-${(i - FILLS.length) % PATTERNS.length})`;

const Patterns = () => (
  <defs>
    {PATTERNS.map((d, i) => (
      <pattern key={d} id={`budget-${i}`} width="4" height="4" patternUnits="userSpaceOnUse">
        <rect width="4" height="4" fill="var(--sheet)" />
        <path d={d} stroke="var(--ink)" strokeWidth="1.2" fill="none" />
      </pattern>
    ))}
  </defs>
);
const TONE = { inside: 'text-verdigris', near: 'text-ochre', over: 'text-oxide' } as const;
const WORD = { inside: 'inside', near: 'close to the limit', over: 'over' } as const;

/** How wide a letter of a name is, px. */
const LETTER = 6.6;

/** Sources as one bar: their shares of the predicted error, against the tolerance. */
const Bar = ({
  budget,
  height,
  wide,
}: {
  budget: Budget;
  height: number;
  /** How wide it is at least, px: names that do not fit are left to the table. */ wide: number;
}) => {
  // prettier-ignore
  const most = Math.max(budget.tolerance, budget.predicted) * 1.06;
  const x = (v: number): number => (v / most) * 1000;
  let from = 0;
  const parts = budget.sources.map((s, i) => {
    const width = x(budget.predicted * s.share);
    const part = { source: s, from, width, fill: fillOf(i) };
    from += width;
    return part;
  });
  return (
    <div className="relative w-full" style={{ height: height + 16 }}>
      {parts
        .filter((p) => (p.width * wide) / 1000 > LETTER * p.source.name.length)
        .map((p) => (
          <span
            key={p.source.id}
            className="absolute top-0 text-[11px] leading-4 whitespace-nowrap text-soft"
            style={{ left: `${p.from / 10}%` }}
          >
            {p.source.name}
          </span>
        ))}
      <svg
        className="absolute bottom-0 w-full"
        height={height}
        viewBox="0 0 1000 20"
        preserveAspectRatio="none"
        role="img"
        aria-label={`Predicted ${budget.predicted.toFixed(2)} of ${budget.tolerance.toFixed(2)} mm`}
      >
        <Patterns />
        <rect
          x={0}
          y={2}
          width={x(budget.tolerance)}
          height={16}
          className="fill-sheet stroke-rim"
          vectorEffect="non-scaling-stroke"
        />
        {parts.map((p) => (
          <rect key={p.source.id} x={p.from} y={2} width={Math.max(0, p.width - 1.2)} height={16} fill={p.fill} />
        ))}
        <line
          x1={x(budget.tolerance)}
          x2={x(budget.tolerance)}
          y1={0}
          y2={20}
          className="stroke-oxide"
          strokeWidth={2.5}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
    </div>
  );
};

const SourceRow = ({ source, fill }: { source: Source; fill: string }) => (
  <tr className="border-t border-hairline align-top">
    <td className="py-1.5 pr-2">
      <svg viewBox="0 0 10 10" className="mr-2 inline size-3">
        <Patterns />
        <rect width="10" height="10" fill={fill} />
      </svg>
      {source.name}
    </td>
    <td className="py-1.5 pr-3 text-right font-bold">{source.u.toFixed(3)}</td>
    <td className="py-1.5 pr-3 text-right">{source.worst.toFixed(2)}</td>
    <td className="py-1.5 pr-3 text-right whitespace-nowrap">{percent(source.share, 0)}</td>
    <td className="py-1.5 pr-3">{source.origin}</td>
    <td className="py-1.5 pr-3 text-[13px] text-soft">
      {source.working.formula} = {source.working.substituted}
      <span className="block italic">{source.working.basis}</span>
    </td>
    <td className="py-1.5 text-[13px]">{source.halve}</td>
  </tr>
);

/** The placement budget: always in sight, opens into the whole table. */
export const BudgetLine = ({ budget }: { budget: Budget }) => (
  <Dialog.Root>
    <footer
      className="flex min-h-14 shrink-0 flex-wrap items-center gap-x-5 border-t border-ink bg-sheet px-5"
      aria-label="Placement budget"
    >
      <b className="shrink-0">Placement budget</b>
      <div className="max-w-md min-w-24 flex-1 max-[900px]:hidden">
        <Bar budget={budget} height={18} wide={280} />
      </div>
      <p className={`shrink-0 text-[21px] font-bold ${TONE[budget.verdict]}`}>
        {budget.predicted.toFixed(2)} <span className="text-[15px]">of {budget.tolerance.toFixed(2)} mm</span>
      </p>
      <p className="min-w-0 flex-1 basis-40 text-[15px] leading-tight">
        <span className={TONE[budget.verdict]}>{WORD[budget.verdict]}</span>, {percent(budget.yield)} of pieces inside;{' '}
        halve {budget.largest.name}: <b>{budget.ifHalved.toFixed(2)}</b>
      </p>
      <Dialog.Trigger className="min-h-11 min-w-11 shrink-0 font-bold text-blue">open ▴</Dialog.Trigger>
    </footer>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
      <Dialog.Content
        aria-describedby={undefined}
        className="fixed inset-x-0 bottom-0 z-50 max-h-[86dvh] overflow-auto border-t-2 border-ink bg-sheet p-6"
      >
        <div className="flex items-baseline justify-between">
          <Dialog.Title className="text-lg font-bold">Placement budget</Dialog.Title>
          <Dialog.Close className="act">close ▾</Dialog.Close>
        </div>
        <p className="mt-1 text-soft">
          How far any point of the art may lie from where it belongs on its piece. 95 of 100 pieces stay below the
          predicted error.
        </p>
        <div className="mt-3 grid grid-cols-2 gap-x-8 gap-y-2 md:grid-cols-5">
          <p>
            <span className="block text-[13px] text-soft">predicted, 95 %</span>
            <b className={`text-2xl ${TONE[budget.verdict]}`}>{budget.predicted.toFixed(2)} mm</b>
          </p>
          <p>
            <span className="block text-[13px] text-soft">allowed</span>
            <b className="text-2xl">{budget.tolerance.toFixed(2)} mm</b>
          </p>
          <p>
            <span className="block text-[13px] text-soft">predicted yield</span>
            <b className="text-2xl">{percent(budget.yield)}</b>
          </p>
          <p>
            <span className="block text-[13px] text-soft">95 % by root sum of squares</span>
            <b className="text-2xl">{budget.expanded.toFixed(2)} mm</b>
          </p>
          <p>
            <span className="block text-[13px] text-soft">worst case, all at once</span>
            <b className="text-2xl">{budget.worst.toFixed(2)} mm</b>
          </p>
        </div>
        <div className="mt-3">
          <Bar budget={budget} height={34} wide={900} />
        </div>
        <p className="mt-3 text-base">
          Improve <b>{budget.largest.name}</b> next: halved, the prediction is <b>{budget.ifHalved.toFixed(2)} mm</b>.{' '}
          {budget.largest.halve}
        </p>
        {budget.assumptions.length > 0 && (
          <p className="mt-1 text-ochre">Rests on assumptions: {budget.assumptions.join(', ')}.</p>
        )}
        <div className="mt-3 overflow-x-auto">
          <table className="w-full min-w-[54rem]">
            <thead>
              <tr className="text-left text-[13px] text-soft">
                <th className="font-normal">source</th>
                <th className="pr-3 text-right font-normal">standard, mm</th>
                <th className="pr-3 text-right font-normal">worst, mm</th>
                <th className="pr-3 text-right font-normal">share</th>
                <th className="font-normal">from</th>
                <th className="font-normal">working</th>
                <th className="font-normal">what would halve it</th>
              </tr>
            </thead>
            <tbody>
              {budget.sources.map((s, i) => (
                <SourceRow key={s.id} source={s} fill={fillOf(i)} />
              ))}
            </tbody>
          </table>
        </div>
        <ol className="mt-4 grid gap-x-10 gap-y-1 text-[13px] md:grid-cols-2">
          {budget.working.slice(budget.sources.length).map((w) => (
            <li key={w.label}>
              <b>
                {w.label}: {w.result}
              </b>{' '}
              <span className="text-soft">
                = {w.substituted} ({w.formula}; {w.basis})
              </span>
            </li>
          ))}
        </ol>
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
