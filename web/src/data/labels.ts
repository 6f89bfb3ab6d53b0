import { useQuery } from '@tanstack/react-query';
import type { Alphabet } from '@bistre/core';

/** The alphabet that boards and trials are lettered with; undefined while it is fetched. */
export const useLabels = (): Alphabet | undefined =>
  useQuery({
    queryKey: ['alphabet', 'readability'],
    staleTime: Infinity,
    queryFn: async () => (await (await fetch('/api/alphabets/readability')).json()) as Alphabet,
  }).data;
