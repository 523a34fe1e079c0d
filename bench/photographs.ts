import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { missing } from './report';

const HELD_OUT = 'training/.data/photographs/held-out';

/** Paths of the photographs that no model has learnt from; where there are none, that is said and counted as missed. */
export function heldOut(): string[] {
  if (existsSync(HELD_OUT)) return readdirSync(HELD_OUT).map((name) => join(HELD_OUT, name));
  missing('no photographs are here: python3 training/photographs.py fetches them');
  return [];
}
