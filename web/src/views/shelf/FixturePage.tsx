import { Suspense } from 'react';
import { Link } from 'react-router';
import type { FixtureDocument } from '@bistre/contract';
import { useBatch, useShown } from '../../data/use-batch';
import { FileLinks, GatesOf } from '../../parts/FileLinks';
import { useWayPages } from '../../ways';
import type { BatchProps } from '../../ways/pages';
import { onDate, Page } from './form';
import { Runs, useRuns } from './Runs';

const Drawn = ({ handle, shown }: BatchProps) => {
  const pages = useWayPages(handle.batch);
  const { board } = shown.reckoning;
  return (
    <>
      <div className="h-[420px] border border-hairline">
        <pages.Drawing handle={handle} shown={shown} station="hold" step={null} />
      </div>
      {board && (
        <p className="mt-1 text-soft">
          {board.name} r{board.revision}, as {handle.batch.name} has it.
        </p>
      )}
      <GatesOf value={shown.gates}>
        <FileLinks
          batchId={handle.batch.id}
          files={[
            ['board.svg', 'SVG'],
            ['board.dxf', 'DXF'],
            ['labels.pdf', 'Labels'],
          ]}
          label="Files"
        />
      </GatesOf>
    </>
  );
};

/** The drawing of a fixture, as the batch that used it last has it. */
const Drawing = ({ batch }: { batch: string }) => {
  const { handle } = useBatch(batch);
  const shown = useShown(handle?.batch ?? null);
  if (!handle || !shown) return <p>Drawing it …</p>;
  return (
    <Suspense fallback={<p>Drawing it …</p>}>
      <Drawn handle={handle} shown={shown} />
    </Suspense>
  );
};

/** A fixture: its drawing and files, its revisions, and the batches that it held. */
export const FixturePage = ({ fixture }: { fixture: FixtureDocument }) => {
  const { data: runs } = useRuns(fixture.id);
  const last = runs?.[0];
  return (
    <Page kind="fixtures" title={fixture.name} subject={fixture.id}>
      <p className="mb-3 text-lg">
        for{' '}
        <Link className="link" to={`/shelf/blanks/${fixture.blankId}`}>
          {fixture.blankName}
        </Link>
        {last && (
          <Link className="act act-main ml-4" to={`/batches/${last.id}/again`}>
            The same again
          </Link>
        )}
      </p>
      {last && <Drawing batch={last.id} />}
      {runs?.length === 0 && <p className="text-soft">No batch uses it: there is nothing to draw.</p>}
      <section aria-label="Revisions" className="mt-8">
        <h2 className="part-title mb-1">Revisions</h2>
        <ul>
          {[...fixture.revisions]
            .sort((a, b) => b.revision - a.revision)
            .map((r) => (
              <li key={r.id} className="border-t border-hairline py-2">
                <b>r{r.revision}</b>, saved {onDate(r.savedAt)} by {r.savedBy}: pockets{' '}
                {r.basis.pocketLength.toFixed(2)} × {r.basis.pocketWidth.toFixed(2)} mm for pieces of{' '}
                {r.basis.length.toFixed(2)} × {r.basis.width.toFixed(2)} mm
              </li>
            ))}
        </ul>
      </section>
      <Runs id={fixture.id} revisions />
    </Page>
  );
};
