import { LRUCache } from 'lru-cache';
import { useEffect, useState } from 'react';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import { useRested } from '../../../parts/use-rested';
import type { Layer } from './layers';
import { joined, type Painted } from './painted';

/** How long the work must stand before it is made small, in milliseconds. */
const REST = 2000;

/** What was made last, by what it is of. */
const made = new LRUCache<string, Painted>({ max: 12 });

/**
 * The whole of a picture, small, for as long as its own pixels of a place are not there yet; null before it is made.
 * @param layer the small rendering of it
 */
export function useCoarse(layer: Layer | undefined): Painted | null {
  const rested = useRested(layer, REST);
  const [, setMade] = useState('');
  const of = rested && canonicalJson([rested.original, rested.recipe, rested.proof ?? null]);
  useEffect(() => {
    if (!rested || !of || made.has(of)) return;
    const stop = new AbortController();
    const { original, recipe, size, proof } = rested;
    const region = { x: 0, y: 0, ...size };
    ask(
      'pixels',
      { original, recipe, region, against: null, proof: proof ?? null, mayDraft: true },
      { priority: PRIORITY.ahead, group: 'coarse', signal: stop.signal },
    )
      .then((pixels) => {
        const wanted = { key: of, of, layer: rested, region };
        const arrived = { draft: true, milliseconds: 0, held: null, pieces: [{ region, pixels }] };
        made.set(of, joined(wanted, arrived));
        setMade(of);
      })
      // Without it one waits for the place's own pixels.
      .catch(() => {});
    return () => stop.abort();
    // The text says all that matters of the layer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [of]);
  // What is of another state of the work is nothing to look at.
  return layer && of && rested === layer ? (made.get(of) ?? null) : null;
}
