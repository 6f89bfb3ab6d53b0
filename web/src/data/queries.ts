import { QueryClient, useQuery, type UseQueryResult } from '@tanstack/react-query';
import {
  api,
  type ArtworkDocument,
  type BatchRow,
  type BlankDocument,
  type DriveDocument,
  type FeederDocument,
  type FixtureDocument,
  type MachineDocument,
  type OffcutDocument,
  type RecipeDocument,
  type ShopStepDocument,
  type SpoiledRow,
  type TrialDocument,
} from '@bistre/contract';
import { call } from './api';

export const queryClient = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, retry: 1, refetchOnWindowFocus: true } },
});

export const useBatches = (closed = false): UseQueryResult<BatchRow[]> =>
  useQuery({
    queryKey: ['batches', closed],
    queryFn: () => call(api.listBatches, { query: { closed: closed ? 'yes' : 'no' } }),
  });
export const useBlanks = (): UseQueryResult<BlankDocument[]> =>
  useQuery({ queryKey: ['blanks'], queryFn: () => call(api.listBlanks) });
export const useMachines = (): UseQueryResult<MachineDocument[]> =>
  useQuery({ queryKey: ['machines'], queryFn: () => call(api.listMachines) });
export const useRecipes = (): UseQueryResult<RecipeDocument[]> =>
  useQuery({ queryKey: ['recipes'], queryFn: () => call(api.listRecipes) });
export const useDrives = (): UseQueryResult<DriveDocument[]> =>
  useQuery({ queryKey: ['drives'], queryFn: () => call(api.listDrives) });
export const useFeeders = (): UseQueryResult<FeederDocument[]> =>
  useQuery({ queryKey: ['feeders'], queryFn: () => call(api.listFeeders) });
export const useSteps = (): UseQueryResult<ShopStepDocument[]> =>
  useQuery({ queryKey: ['steps'], queryFn: () => call(api.listSteps) });
export const useSpoiled = (): UseQueryResult<SpoiledRow[]> =>
  useQuery({ queryKey: ['spoiled'], queryFn: () => call(api.listSpoiled) });
export const useTrials = (): UseQueryResult<TrialDocument[]> =>
  useQuery({ queryKey: ['trials'], queryFn: () => call(api.listTrials) });
export const useFixtures = (): UseQueryResult<FixtureDocument[]> =>
  useQuery({ queryKey: ['fixtures'], queryFn: () => call(api.listFixtures) });

export interface AlphabetEntry {
  readonly id: string;
  readonly name: string;
  readonly kind: 'outline' | 'stroke';
  readonly licence: string;
}
export const useAlphabets = (): UseQueryResult<AlphabetEntry[]> =>
  useQuery({
    queryKey: ['alphabets'],
    staleTime: Infinity,
    queryFn: async () => (await (await fetch('/api/alphabets')).json()) as AlphabetEntry[],
  });

export const useArtworks = (): UseQueryResult<ArtworkDocument[]> =>
  useQuery({ queryKey: ['artworks'], queryFn: () => call(api.listArtworks) });
export const useOffcuts = (): UseQueryResult<OffcutDocument[]> =>
  useQuery({ queryKey: ['offcuts'], queryFn: () => call(api.listOffcuts) });
