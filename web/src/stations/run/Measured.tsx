import { capability, fixed } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { Reading } from '../../parts/Reading';

/** Offsets of the measured pieces: capability, and a correction only when it is not noise. */
export const Measured = ({ handle }: { handle: BatchHandle }) => {
  const pieces = handle.batch.pieces.filter((p) => p.dx !== null && p.state !== 'loaded');
  const t = handle.batch.tolerance;
  const x = capability(
    pieces.map((p) => p.dx!),
    -t,
    t,
  );
  const y = capability(
    pieces.map((p) => p.dy ?? 0),
    -t,
    t,
  );
  if (!x || !y)
    return <p className="text-soft">Measured offsets of done pieces show here; two or more give a spread.</p>;
  const worse = x.cpk < y.cpk ? x : y;
  const sentence = [
    x.correction === null ? null : `x by ${fixed(x.correction)} mm`,
    y.correction === null ? null : `y by ${fixed(y.correction)} mm`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <>
      <div className="readings">
        <Reading
          label={`mean of ${x.n}, x and y`}
          size="text-[19px]"
          value={`${fixed(x.mean)}, ${fixed(y.mean)}`}
          unit="mm"
          working={[...x.working, ...y.working]}
        />
        <Reading label="spread, x and y" size="text-[19px]" value={`${fixed(x.s)}, ${fixed(y.s)}`} unit="mm" />
        <Reading
          label="capability Cpk"
          size="text-[19px]"
          value={fixed(worse.cpk)}
          tone={worse.cpk >= 1.33 ? 'inside' : worse.cpk >= 1 ? 'attention' : 'out'}
          working={worse.working}
          note={`Cp ${fixed(worse.cp)}`}
        />
      </div>
      <p className="mt-1 text-[13px]">
        {sentence ? (
          <b>The mean is shifted beyond noise: correct {sentence}.</b>
        ) : (
          'The mean may be noise: do not chase it.'
        )}
      </p>
    </>
  );
};
