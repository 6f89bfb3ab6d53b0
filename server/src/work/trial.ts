import { trialSpec, machineOf, type TrialDocument, type TrialFile } from '@bistre/contract';
import { planProblems, trialJob, type Machine } from '@bistre/core';
import { alphabet, LABELS } from '../alphabets';
import { loadMachine, loadTrial } from '../batches';
import { reading, type Db } from '../db/connect';
import { trialDrawing } from '../files/trial-drawing';
import { refused } from '../http/problem';
import { simulatedTrial } from '../simulated-trial';

const standing = (db: Db, id: string): Promise<{ trial: TrialDocument; machine: Machine }> =>
  reading(db, async (trx) => {
    const trial = await loadTrial(trx, id);
    return { trial, machine: machineOf(await loadMachine(trx, trial.machineId)) };
  });

/** Refuses what its machine or its material does not take as they are now, whatever they were when it was planned. */
const mustBurn = ({ heldBack, spec }: TrialDocument, machine: Machine): void => {
  if (heldBack) throw refused({ code: 'settings', message: heldBack });
  const [problem] = planProblems(spec, machine);
  if (problem) throw refused(problem);
};

/** What the simulated bench makes of a trial’s own file, as a picture: PNG. */
export const burnTrialOnBench = async (db: Db, id: string): Promise<Uint8Array> => {
  const { trial, machine } = await standing(db, id);
  mustBurn(trial, machine);
  return simulatedTrial(trial, machine, alphabet(LABELS)!);
};

/** A file of a trial, and the trial’s name. A drawing burns nothing: it is never held back. */
export const writeTrialFile = async (db: Db, { id, file }: { id: string; file: TrialFile }): Promise<{ name: string; text: string }> => {
  const { trial, machine } = await standing(db, id);
  if (file !== 'trial.svg') mustBurn(trial, machine);
  const job = trialJob(trialSpec.parse(trial.spec), trial.name, machine, alphabet(LABELS)!);
  if (!job.ok) throw refused(job.problem);
  const text = file === 'trial.svg' ? trialDrawing(trial.spec, job.value.laid) : [...(file === 'walk.gcode' ? job.value.walk() : job.value.chunks())].join('');
  return { name: trial.name, text };
}; // prettier-ignore
