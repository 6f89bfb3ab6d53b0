import { useNavigate } from 'react-router';
import { percent } from '@bistre/core';
import { FileLinks } from '../parts/FileLinks';
import { Part } from '../parts/Part';
import { PutAway } from '../parts/PutAway';
import { Reading } from '../parts/Reading';
import { Steps } from '../parts/Steps';
import type { StationProps } from '../ways/pages';
import { CloseBatch } from './close/CloseBatch';
import { Putbacks } from './close/Putbacks';

const Notes = ({ label, value, onChange }: { label: string; value: string; onChange: (v: string) => void }) => (
  <label className="block text-[13px] text-soft">
    {label}
    <textarea
      className="field !h-16 py-1.5"
      value={value}
      maxLength={4000}
      onChange={(e) => onChange(e.target.value)}
    />
  </label>
);

/** Close: everything put back, what was learned kept. */
export const CloseStation = ({ handle, shown }: StationProps) => {
  const { batch } = handle;
  const navigate = useNavigate();
  const { run } = shown.reckoning;
  const open = batch.putbacks.filter((p) => p.restoredAt === null).length;
  return (
    <>
      <Part name="Measure">
        <p className="text-soft">Machine settings changed for this batch, to be put back:</p>
        <Putbacks handle={handle} />
      </Part>
      <Part name="Reckon">
        <div className="readings">
          <Reading
            label="done"
            value={String(run.done)}
            unit={`of ${batch.quantity}`}
            tone={run.finished ? 'inside' : 'attention'}
          />
          <Reading
            label="yield"
            value={run.yield === null ? '–' : percent(run.yield)}
            note={`predicted ${percent(shown.reckoning.budget.yield)}`}
          />
          <Reading label="to put back" value={String(open)} tone={open > 0 ? 'out' : 'inside'} />
        </div>
      </Part>
      <Part name="Do">
        <Notes
          label="Notes for the log"
          value={batch.setup.close.notes}
          onChange={(notes) => handle.update('close', { ...batch.setup.close, notes })}
        />
        <Notes
          label="What to keep for the next time"
          value={batch.setup.close.keep}
          onChange={(keep) => handle.update('close', { ...batch.setup.close, keep })}
        />
        <FileLinks
          batchId={batch.id}
          files={[
            ['job.zip', 'One file of all'],
            ['roster.csv', 'List'],
            ['labels.pdf', 'Labels'],
          ]}
          label="To keep or send"
        />
        <Steps handle={handle} steps={shown.steps} station="close" part="do" />
      </Part>
      <Part name="Check">
        <Steps handle={handle} steps={shown.steps} station="close" part="check" />
        <CloseBatch handle={handle} shown={shown} />
        {run.done === 0 && !batch.awayAt && !batch.closedAt && (
          <p className="mt-3 text-[13px] text-soft">
            Begun by mistake?{' '}
            <PutAway
              kind="batches"
              id={batch.id}
              name={batch.name}
              words="put the batch away"
              className="link"
              after={() => void navigate('/')}
            />
          </p>
        )}
      </Part>
    </>
  );
};
