/** A profile that can't be used, in words. */
export class ProfileProblem extends Error {
  override name = 'ProfileProblem';
}
