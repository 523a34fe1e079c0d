import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from './api';
import { tell } from './notices';

const BACKUPS = ['backups'] as const;

/** What takes how much of the shop's disk; measured when it is asked for. */
export const useStorage = () =>
  useQuery({ queryKey: ['storage'], queryFn: api.storage, staleTime: 0 });

/** Archives of the shop; while one is written or compared it is asked for how far that is. */
export const useBackups = () =>
  useQuery({
    queryKey: BACKUPS,
    queryFn: api.backups,
    refetchInterval: ({ state }) =>
      state.data?.works.some((work) => work.state === 'running') ? 600 : 15_000,
  });

/** Begins to write or compare an archive, or ends that. */
export function useBackupActs() {
  const client = useQueryClient();
  const done = {
    onSuccess: (now: Awaited<ReturnType<typeof api.backups>>) => client.setQueryData(BACKUPS, now),
    onError: (error: Error) => {
      tell(error.message, 'trouble');
      return client.invalidateQueries({ queryKey: BACKUPS });
    },
  };
  return {
    begin: useMutation({ mutationFn: api.beginBackup, ...done }),
    cancel: useMutation({ mutationFn: api.cancelBackup, ...done }),
  };
}
