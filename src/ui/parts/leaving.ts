/** What would be lost if the page was left just now. */
const unfinished = new Set<() => boolean>();

if (typeof window !== 'undefined') {
  addEventListener('beforeunload', (event) => {
    if ([...unfinished].some((is) => is())) event.preventDefault();
  });
}

/**
 * Has the browser ask before the page is left.
 * @param isUnfinished whether something is on its way that would be lost
 * @returns what ends that
 */
export function askBeforeLeaving(isUnfinished: () => boolean): () => void {
  unfinished.add(isUnfinished);
  return () => void unfinished.delete(isUnfinished);
}
