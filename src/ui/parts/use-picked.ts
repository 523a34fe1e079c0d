import type { StoreApi, UseBoundStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';

/** Some fields of a store: what reads them renders again when one of them changes, and for nothing else. */
export const usePicked = <S extends object, K extends keyof S>(
  store: UseBoundStore<StoreApi<S>>,
  ...keys: K[]
): Pick<S, K> =>
  store(
    useShallow((state) => Object.fromEntries(keys.map((key) => [key, state[key]])) as Pick<S, K>),
  );
