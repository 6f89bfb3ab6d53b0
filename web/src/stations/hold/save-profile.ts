import { toast } from 'sonner';
import { api, type MachineDocument, type MachineProfile } from '@bistre/contract';
import { messageOf } from '../../data/api';
import { KEPT, write } from '../../data/write';

/**
 * Keeps what was found of a machine in its profile; says so in `words`, or why not.
 * @returns whether it was kept
 */
export const saveProfile = async (
  machine: MachineDocument,
  found: Partial<MachineProfile>,
  words: string,
): Promise<boolean> => {
  try {
    const answer = await write({
      endpoint: api.saveMachine,
      params: { id: machine.id },
      body: { name: machine.name, profile: { ...machine.profile, ...found } },
      scope: machine.id,
      base: machine.version,
    });
    toast(answer.kept ? KEPT : words);
    return true;
  } catch (error) {
    toast.error(messageOf(error));
    return false;
  }
};
