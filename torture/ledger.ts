/** What the shop said that it kept: all of it must be there at the end, whatever happened meanwhile. */
export class Ledger {
  /** digests of originals */
  readonly originals = new Set<string>();
  /** titles of jobs by their number in the database */
  readonly jobs = new Map<number, string>();
  /** pictures by number, with the labels of changes that were answered with "kept" */
  readonly changes = new Map<number, Set<string>>();
  /** labels that were sent, whatever came of it: none may be there twice */
  readonly sent = new Set<string>();
  /** runs that were queued, by their number */
  readonly runs = new Set<string>();
  /** files that were sent to devices, by the keys of their prints */
  readonly sendings = new Set<string>();
  /** batches by their number */
  readonly batches = new Map<number, string>();
  /** pictures that joined one, as the numbers of both */
  readonly joined = new Set<string>();
  /** jobs that were deleted */
  readonly deleted = new Set<number>();
  /** answers by what was asked and their status */
  readonly answers = new Map<string, number>();
  /** answers that only read, while the shop was open and well: what was asked, and the milliseconds that they took */
  readonly times: { what: string; ms: number }[] = [];
  /** what should never be */
  readonly faults: string[] = [];

  answered(what: string, status: number): void {
    const key = `${what} ${status}`;
    this.answers.set(key, (this.answers.get(key) ?? 0) + 1);
  }

  fault(words: string): void {
    if (this.faults.length < 40) this.faults.push(words);
  }
}
