import type { HouseEvidence } from '@/core/house/house-recipe';
import { say } from '@/core/words/say';

/** How often a recipe was used, and how that went. */
export function evidenceWords({ pictures, changed, approved, sent }: HouseEvidence): string {
  if (pictures === 0) return say`not used yet`;
  const words = [pictures === 1 ? say`1 picture` : say`${pictures} pictures`];
  if (approved > 0) words.push(say`${approved} approved`);
  if (sent > 0) words.push(say`${sent} sent`);
  if (changed > 0) words.push(say`${changed} changed since`);
  return words.join(' · ');
}
