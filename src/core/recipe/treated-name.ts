import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { canonicalJson } from './canonical';
import type { PlacedRecipe } from './recipe';

/** What treated pictures of a page are called together: by their recipes. */
export const treatedName = (placed: readonly PlacedRecipe[]): string =>
  bytesToHex(sha256(new TextEncoder().encode(canonicalJson(placed))));
