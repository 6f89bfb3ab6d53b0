import type { QueryClient } from '@tanstack/react-query';

/**
 * Shows what a write answered. A reading that left before the write and has not come back yet is let
 * go: it would bring what was before, and show that.
 *
 * @example await showReply(client, ['batch', id], await call(api.reopenBatch, …))
 */
export const showReply = async <T>(client: QueryClient, queryKey: readonly unknown[], reply: T): Promise<void> => {
  await client.cancelQueries({ queryKey, exact: true });
  client.setQueryData<T>(queryKey, reply);
};
