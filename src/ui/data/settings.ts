import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import type { Settings, ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { api } from './api';
import { author } from './author';
import { tell } from './notices';
import { keys } from './queries';

const KEY = ['settings'] as const;
const CHANGES = ['setting changes'] as const;

const query = { queryKey: KEY, queryFn: api.settings, staleTime: Infinity };

/** What the shop decided for all its jobs, and up to which change that is known. */
export const useShopSettings = () => useQuery(query);
export const useSettings = () => useQuery({ ...query, select: ({ settings }) => settings });

/** Changes of settings, newest first. */
export const useSettingChanges = () => useQuery({ queryKey: CHANGES, queryFn: api.settingChanges });

const changed = (client: QueryClient): void => {
  for (const queryKey of [CHANGES, keys.lists, keys.shop])
    void client.invalidateQueries({ queryKey });
};

/** Somebody changed settings, here or elsewhere. */
export function hearOfSettings(client: QueryClient, change: number): void {
  const known = client.getQueryData<ShopSettings>(KEY);
  if (!known || known.change >= change) return;
  void client.invalidateQueries({ queryKey: KEY });
  changed(client);
}

interface Changed {
  settings: Partial<Settings>;
  /** up to which change whoever asks knows them */
  known: number;
  /** what is said once they are kept */
  words: string;
}

/** Changes settings; what is said of it offers to take it back. */
export function useChangeSettings() {
  const client = useQueryClient();
  const mutation = useMutation({
    mutationFn: async ({ settings, known }: Changed) => {
      const before = client.getQueryData<ShopSettings>(KEY)?.settings;
      const now = await api.changeSettings({ settings, known, author: author() });
      return { now, before };
    },
    onSuccess: ({ now, before }, { settings, words }) => {
      client.setQueryData(KEY, now);
      changed(client);
      if (!before) return;
      const names = Object.keys(settings) as (keyof Settings)[];
      const back = Object.fromEntries(names.map((name) => [name, before[name]]));
      const undo = () =>
        mutation.mutate({ settings: back, known: now.change, words: say`Back as it was.` });
      tell(words, 'good', { words: say`Undo`, act: undo });
    },
    // Whoever clashed sees what the other one made of it.
    onError: () => client.invalidateQueries({ queryKey: KEY }),
  });
  return mutation;
}
