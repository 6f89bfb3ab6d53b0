import { Link } from 'react-router';
import type { LongSettings } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { Field, Fields, usePart } from '../../parts/fields';

/** How the work gets under the head: through a front door only lengthwise. */
const LoadingFields = () => {
  const [loading] = usePart<LongSettings['loading']>('loading');
  const [, putFeed] = usePart<LongSettings['feed']>('feed');
  return (
    <>
      <div className="col-span-2">
        <Field at="loading" open then={(chosen) => chosen === 'front' && putFeed('y')} />
      </div>
      {loading !== 'front' && <Field at="feed" open />}
    </>
  );
};

/** The settings of work that is longer than the bed; within the choice that has them. */
export const LongFields = ({
  handle: { batch },
  fed = false,
}: {
  handle: BatchHandle;
  /** On a feeder: how it gets under the head is settled. */
  fed?: boolean;
}) => {
  const names = batch.artworks.map((a) => a.name);
  const on = [...names, ...(batch.setup.lettering.lines.length > 0 ? ['lettering'] : [])];
  return (
    <>
      <p className="col-span-2">
        <span className="text-soft">On it: {on.length > 0 ? on.join(', ') : 'nothing yet'}.</span>{' '}
        <Link className="link" to={`/batches/${batch.id}/run`}>
          {on.length > 0 ? 'change what its zones carry' : 'put art or lettering in its zones'}
        </Link>
      </p>
      {!fed && <LoadingFields />}
      <Fields at="margin overlap markInset smallText" />
    </>
  );
};
