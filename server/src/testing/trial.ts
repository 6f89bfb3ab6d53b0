import { api, machineOf, type BodyOf } from '@bistre/contract';
import { seeded } from '@bistre/core';
import { lookAt } from '@bistre/core/bench-sim';
import { alphabet, LABELS } from '../alphabets';
import { simulatedLooks } from '../simulated-trial';
import type { TestShop } from './shop';

export { cellCount, judgeFamily, readGcode } from '@bistre/core';

/** What an eye says of every cell of a trial that was burned on the simulated bench. */
export const lookAtOf = async (shop: TestShop, id: string): Promise<BodyOf<typeof api.scoreCell>[]> => {
  const trial = (await shop.call(api.listTrials)).find((t) => t.id === id)!;
  const machine = machineOf((await shop.call(api.listMachines)).find((m) => m.id === trial.machineId)!);
  const r = seeded(17);
  return simulatedLooks(trial, machine, alphabet(LABELS)!).map((look, i) => {
    const { cell, grade, tell } = lookAt(look, i, r);
    return { cell, grade, tell };
  });
};
