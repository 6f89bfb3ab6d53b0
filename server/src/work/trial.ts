import { machineOf, type TrialDocument, type TrialFile } from '@bistre/contract';
import { layTrial, trialJob, type Machine } from '@bistre/core';
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

/** Refuses what would come out otherwise by how its machine stands; what the plan itself has against it says its job. */
const mustStand = ({ heldBack }: TrialDocument): void => {
  if (heldBack) throw refused({ code: 'settings', message: heldBack });
};

/** What the simulated bench makes of a trial’s own file, as a picture: PNG. */
export const burnTrialOnBench = async (db: Db, id: string): Promise<Uint8Array> => {
  const { trial, machine } = await standing(db, id);
  mustStand(trial);
  return simulatedTrial(trial, machine, alphabet(LABELS)!);
};

/** A file of a trial, and the trial’s name. A drawing burns nothing: it is never held back. */
export const writeTrialFile = async (
  db: Db,
  { id, file }: { id: string; file: TrialFile },
): Promise<{ name: string; text: string }> => {
  const { trial, machine } = await standing(db, id);
  const { name, spec } = trial;
  const labels = alphabet(LABELS)!;
  if (file === 'trial.svg') return { name, text: trialDrawing(spec, layTrial(spec, name, labels)) };
  mustStand(trial);
  const job = trialJob(spec, name, machine, labels);
  if (!job.ok) throw refused(job.problem);
  return { name, text: [...(file === 'walk.gcode' ? job.value.walk() : job.value.chunks())].join('') };
};
