/** Why a run is stopped that is gone on with later: what was done of it stays where it is. */
export class Leave extends Error {
  constructor() {
    super('the run is left for now');
    this.name = 'Leave';
  }
}
