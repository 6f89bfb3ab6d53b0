import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type AwayKind, type AwayRow } from '@bistre/contract';
import { call, messageOf } from './api';
import { KEPT, write } from './write';

/** What was put away and can be brought back. */
export const useAway = (): UseQueryResult<AwayRow[]> =>
  useQuery({ queryKey: ['away'], queryFn: () => call(api.listAway) });

/** Puts a batch or a thing of the Shelf away, or brings it back; says how it went. */
export const setAway = async (kind: AwayKind, id: string, name: string, away: boolean): Promise<boolean> => {
  try {
    const answer = await write({ endpoint: api.setAway, params: { kind, id }, body: { away }, scope: id });
    if (answer.kept) toast(KEPT);
    else toast(away ? `${name} is put away; it can be brought back.` : `${name} is back.`);
    return true;
  } catch (error) {
    toast.error(messageOf(error), { duration: 12_000 });
    return false;
  }
};
