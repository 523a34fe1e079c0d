import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { HouseChange, HouseDraft, HouseRecipe } from '@/core/house/house-recipe';
import { api } from './api';
import { tell } from './notices';
import { say } from '@/core/words/say';

const KEY = ['house'] as const;

/** The shop's house recipes, with what became of pictures that were treated by them. */
export const useHouse = () => useQuery({ queryKey: KEY, queryFn: api.house });

/** All versions of one, the newest first. */
export const useHouseVersions = ({ id, version }: Pick<HouseRecipe, 'id' | 'version'>) =>
  useQuery({ queryKey: [...KEY, id, version], queryFn: () => api.houseVersions(id) });

/** The recipe of a name, in any letters. */
export const recipeNamed = <T extends HouseRecipe>(
  recipes: readonly T[],
  name: string,
): T | undefined => {
  const wanted = name.trim().toLowerCase();
  return recipes.find((one) => one.name.toLowerCase() === wanted);
};

/** Keeps recipes, changes and deletes them. */
export function useHouseActs() {
  const client = useQueryClient();
  const changed = () => client.invalidateQueries({ queryKey: KEY });
  const trouble = (error: Error) => {
    tell(error.message, 'trouble');
    return changed();
  };
  const add = useMutation({
    mutationFn: (draft: HouseDraft) => api.addHouse(draft),
    onSuccess: ({ name }) => {
      tell(say`“${name}” is a house recipe now.`, 'good');
      return changed();
    },
    onError: trouble,
  });
  const change = useMutation({
    mutationFn: ({ id, ...rest }: { id: number } & HouseChange) => api.changeHouse(id, rest),
    onSuccess: ({ name, version }) => {
      tell(say`“${name}” is at version ${version}.`, 'good');
      return changed();
    },
    onError: trouble,
  });
  const restore = useMutation({
    mutationFn: (id: number) => api.restoreHouse(id),
    onSuccess: changed,
    onError: trouble,
  });
  const remove = useMutation({
    mutationFn: ({ id }: Pick<HouseRecipe, 'id' | 'name'>) => api.deleteHouse(id),
    onSuccess: (_, { id, name }) => {
      tell(say`“${name}” is off the list. Trials keep what they had of it.`, 'note', {
        words: say`Put it back`,
        act: () => restore.mutate(id),
      });
      return changed();
    },
    onError: trouble,
  });
  /** Keeps a recipe under its name: a new one, or the next version of the one that has that name. */
  const keep = (
    draft: HouseDraft,
    recipes: readonly HouseRecipe[],
    onKept: (kept: HouseRecipe) => void,
  ) => {
    const same = recipeNamed(recipes, draft.name);
    const done = { onSuccess: onKept };
    if (same) change.mutate({ id: same.id, version: same.version, ...draft }, done);
    else add.mutate(draft, done);
  };
  return { keep, keeping: add.isPending || change.isPending, change, remove };
}
