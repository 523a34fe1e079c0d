import { create, type StoreApi, type UseBoundStore } from 'zustand';

/** What one store knows of one picture. */
interface Slice {
  leave(): object;
  enter(kept: object | undefined): void;
  /** as on another job */
  reset(): void;
}

const slices: Slice[] = [];

/**
 * A small store of how the bench is looked at; nothing of it belongs to the job. What belongs to a picture is
 * kept while another one lies there, and means nothing on that one.
 * @param ofPicture which of it belongs to a picture
 */
export function benchStore<S extends object>(
  beginning: S,
  ofPicture: readonly (keyof S)[],
): UseBoundStore<StoreApi<S>> {
  const store = create<S>(() => beginning);
  const own = (state: S) =>
    Object.fromEntries(ofPicture.map((key) => [key, state[key]])) as unknown as Partial<S>;
  slices.push({
    leave: () => own(store.getState()),
    enter: (kept) => store.setState((kept as Partial<S> | undefined) ?? own(beginning)),
    reset: () => store.setState(beginning),
  });
  return store;
}

/** The picture on the bench, and its job. */
export const useEntered = create<{ job: number | null; picture: string | null }>(() => ({
  job: null,
  picture: null,
}));

/** How pictures of the job were looked at that lay on the bench before. */
const left = new Map<string, object[]>();

/**
 * Puts a picture on the bench, as it was looked at when it last lay there; another job begins anew.
 * @param picture what it is called among the job's
 */
export function enterPicture(job: number, picture: string): void {
  const now = useEntered.getState();
  if (now.job === job && now.picture === picture) return;
  if (now.job !== job) {
    left.clear();
    slices.forEach((slice) => slice.reset());
  } else {
    if (now.picture !== null) {
      left.set(
        now.picture,
        slices.map((slice) => slice.leave()),
      );
    }
    const kept = left.get(picture);
    slices.forEach((slice, i) => slice.enter(kept?.[i]));
  }
  useEntered.setState({ job, picture });
}
