import { create, type StoreApi, type UseBoundStore } from 'zustand';

/** What one store knows of one picture. */
interface Slice {
  leave(): object;
  enter(kept: object | undefined): void;
  /** what belongs to a job, whichever of its pictures lies there */
  leaveJob(): object;
  /** as on another job */
  enterJob(kept: object | undefined): void;
}

const slices: Slice[] = [];

/**
 * A small store of how the bench is looked at; nothing of it belongs to the job. What belongs to a picture is
 * kept while another one lies there, and means nothing on that one.
 * @param ofPicture which of it belongs to a picture
 * @param ofJob which of it is found again on coming back to a job
 */
export function benchStore<S extends object>(
  beginning: S,
  ofPicture: readonly (keyof S)[],
  ofJob: readonly (keyof S)[] = [],
): UseBoundStore<StoreApi<S>> {
  const store = create<S>(() => beginning);
  const part = (state: S, keys: readonly (keyof S)[]) =>
    Object.fromEntries(keys.map((key) => [key, state[key]])) as unknown as Partial<S>;
  slices.push({
    leave: () => part(store.getState(), ofPicture),
    enter: (kept) => store.setState((kept as Partial<S> | undefined) ?? part(beginning, ofPicture)),
    leaveJob: () => part(store.getState(), ofJob),
    enterJob: (kept) => store.setState({ ...beginning, ...kept }),
  });
  return store;
}

/** The picture on the bench, and its job. */
export const useEntered = create<{ job: number | null; picture: string | null }>(() => ({
  job: null,
  picture: null,
}));

/** How pictures were looked at that lay on the bench before, and jobs; those that were left last. */
const left = new Map<string, object[]>();
const MOST_LEFT = 60;

function leave(key: string, kept: object[]): void {
  left.delete(key);
  left.set(key, kept);
  if (left.size > MOST_LEFT) left.delete(left.keys().next().value!);
}

/**
 * Puts a picture on the bench, as it was looked at when it last lay there; another job begins anew, or as it was left.
 * @param picture what it is called among the job's
 */
export function enterPicture(job: number, picture: string): void {
  const now = useEntered.getState();
  if (now.job === job && now.picture === picture) return;
  if (now.picture !== null) {
    leave(
      `${now.job} ${now.picture}`,
      slices.map((slice) => slice.leave()),
    );
    leave(
      `${now.job}`,
      slices.map((slice) => slice.leaveJob()),
    );
  }
  if (now.job !== job) {
    const kept = left.get(`${job}`);
    slices.forEach((slice, i) => slice.enterJob(kept?.[i]));
  }
  const kept = left.get(`${job} ${picture}`);
  if (kept || now.job === job) slices.forEach((slice, i) => slice.enter(kept?.[i]));
  useEntered.setState({ job, picture });
}
