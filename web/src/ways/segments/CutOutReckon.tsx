import { useQuery } from '@tanstack/react-query';
import type { BatchHandle } from '../../data/use-batch';
import { reckoner } from '../../data/worker';
import { Finding } from '../../parts/Part';

/** Most things that are named one by one. */
const NAMED = 6;

/** Words and shapes cut out of a board: whether they hang together, what falls out, and the thinnest neck. */
export const CutOutReckon = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const contents = batch.setup.contents ?? [];
  const { data } = useQuery({
    queryKey: ['cut-out', batch.id, contents, batch.artworks.map((a) => [a.id, a.revision, a.roles])],
    queryFn: () => reckoner().cutOut(batch),
    enabled: contents.some((c) => c.kind === 'artwork'),
    staleTime: Infinity,
  });
  if (!data) return null;
  const thick = batch.blank.spec.thickness;
  const unite = (): void =>
    handle.update(
      'contents',
      contents.map((c) => (c.kind === 'artwork' ? { ...c, united: true } : c)),
    );
  const counters = data.falls.filter((f) => f.kind === 'counter');
  const dots = data.falls.filter((f) => f.kind === 'dot');
  const where = (list: typeof dots): string =>
    `${list
      .slice(0, NAMED)
      .map(
        (f) =>
          `${f.width.toFixed(0)} × ${f.height.toFixed(0)} mm at ${f.at.x.toFixed(0)}, ${f.at.y.toFixed(0)} from the middle of the work`,
      )
      .join('; ')}${list.length > NAMED ? ` and ${list.length - NAMED} more` : ''}`;
  return (
    <div className="mt-2 flex flex-col gap-2">
      {data.before > data.pieces && (
        <Finding tone="attention">
          {data.before} cut shapes overlap into {data.pieces === 1 ? 'one piece' : `${data.pieces} pieces`}: cut as they
          are, their lines run through each other.{' '}
          <button className="link" onClick={unite}>
            Unite them
          </button>
        </Finding>
      )}
      {dots.length > 0 && (
        <Finding tone="attention">
          Nothing joins {dots.length === 1 ? 'one piece' : `${dots.length} pieces`} to the largest: {where(dots)}. They
          fall out by themselves.
        </Finding>
      )}
      {counters.length > 0 && (
        <Finding tone="attention">
          {counters.length === 1 ? 'A counter falls' : `${counters.length} counters fall`} out as slugs:{' '}
          {where(counters)}. Pick them out before the next stop.
        </Finding>
      )}
      {data.neck && (
        <Finding tone={data.neck.width < thick ? 'out' : 'inside'}>
          The thinnest neck is {data.neck.width.toFixed(2)} mm, at {data.neck.at.x.toFixed(0)},{' '}
          {data.neck.at.y.toFixed(0)} from the middle of the work;{' '}
          {data.neck.width < thick
            ? `less than the material’s ${thick} mm, it breaks easily [common practice]. Thicken it where it was drawn.`
            : `no less than the material’s ${thick} mm.`}
        </Finding>
      )}
    </div>
  );
};
