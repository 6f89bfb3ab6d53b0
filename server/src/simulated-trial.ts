import sharp from 'sharp';
import type { TrialDocument } from '@bistre/contract';
import {
  countedToFile,
  energyOf,
  invert,
  apply,
  trialJob,
  type Alphabet,
  type Machine,
  type TrialJob,
} from '@bistre/core';
import { burnTrial, hiddenMaterial, seenTrial, type CellLook } from '@bistre/core/bench-sim';
import { refused } from './http/problem';

/** A number of a text, the same every time. */
const seedOf = (text: string): number => {
  let h = 2166136261;
  for (const c of text) h = Math.imul(h ^ c.codePointAt(0)!, 16777619);
  return (h >>> 0) % 100_000;
};

/**
 * What the simulated bench makes of a trial's own file. A material on a machine is the same hidden one every time; it is
 * made up about the middle of the first grid, so that trials of an unknown one neither all fail nor all succeed.
 */
export const simulatedLooks = (
  trial: Pick<TrialDocument, 'name' | 'spec'>,
  machine: Machine,
  alphabet: Alphabet,
  seed = 1,
): CellLook[] => looksOf(trial.spec, jobOf(trial, machine, alphabet), machine, seed);

const jobOf = (
  { spec, name }: Pick<TrialDocument, 'name' | 'spec'>,
  machine: Machine,
  alphabet: Alphabet,
): TrialJob => {
  const job = trialJob(spec, name, machine, alphabet);
  if (!job.ok) throw refused(job.problem);
  return job.value;
};

const looksOf = (spec: TrialDocument['spec'], job: TrialJob, machine: Machine, seed: number): CellLook[] => {
  const hidden = hiddenMaterial(seedOf(`${spec.material.trim().toLowerCase()} ${spec.effect} ${machine.name}`), spec.effect, middleOf(machine, spec.effect)); // prettier-ignore
  const back = invert(countedToFile(machine));
  const off = { x: spec.onBed.x + spec.onPiece.x, y: spec.onBed.y + spec.onPiece.y };
  const toGrid = (x: number, y: number) => {
    const p = apply(back, { x, y });
    return { x: p.x - off.x, y: p.y - off.y };
  };
  const looks = burnTrial([...job.chunks()].join(''), spec, job.laid, machine, toGrid, hidden, seed);
  if (!looks.ok) throw refused(looks.problem);
  return looks.value;
};

/** The energy that a source of its kind works with, as common practice has it: half power at an easy speed. */
const middleOf = (machine: Machine, effect: TrialDocument['spec']['effect']): number => {
  const easy = effect === 'cut' ? { power: 0.7, speed: 12 } : effect === 'score' ? { power: 0.2, speed: 60 } : { power: 0.45, speed: machine.source === 'fibre' ? 500 : Math.min(180, machine.rapidSpeed / 2) }; // prettier-ignore
  return energyOf(machine.power, effect, { ...easy, interval: 0.1, passes: 1 });
};

/** The burned grid as an eye sees it, PNG. */
export const simulatedTrial = async (
  trial: Pick<TrialDocument, 'name' | 'spec'>,
  machine: Machine,
  alphabet: Alphabet,
): Promise<Buffer> => {
  const job = jobOf(trial, machine, alphabet);
  const looks = looksOf(trial.spec, job, machine, seedOf(trial.name));
  const { width, height, data } = seenTrial(trial.spec, job.laid, looks, seedOf(trial.name));
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
};
