import { emptyRaster, paste, type Raster, type Window } from '../raster/raster';
import { contains, type Region } from '../raster/region';
import type { GraphNode } from '../recipe/graph-node';
import type { CarryPlan } from './schedule';
import type { Compute, Store } from './store';
import { planeCount, type Form } from '../raster/form';

/** The most bytes of one node that are carried over; what needs more is computed anew. */
const MOST_BYTES = 192 << 20;

/**
 * Carries rows of nodes from tile to tile down a part of a picture: a tile asks for its rows and computes
 * just those that the one above it did not. Correct whatever is asked for; quick where the plan holds.
 */
export class Carry implements Store {
  private readonly bands = new Map<GraphNode, Band>();
  private tile = 0;

  constructor(private readonly plans: ReadonlyMap<GraphNode, CarryPlan>) {}

  read(node: GraphNode, region: Region, compute: Compute): Promise<Window> {
    const plan = this.plans.get(node);
    if (!plan || plan.rows * plan.width * planeCount(node.form) * 4 > MOST_BYTES)
      return compute(region);
    let band = this.bands.get(node);
    if (!band) this.bands.set(node, (band = new Band(plan, node.form)));
    return band.read(region, this.tile, compute);
  }

  /** A tile is done: what none of those below looks at is let go. */
  nextTile(): void {
    for (const [node, band] of this.bands)
      band.dropAbove(this.plans.get(node)!.tiles[this.tile]!.keepFrom);
    this.tile++;
  }
}

/** Some rows of a node, all of its planned columns. */
class Band {
  private held: Raster;
  /** the grid's row that the first held row is */
  private origin = 0;
  /** rows that are held, on the grid: from `top` to before `bottom` */
  private top = 0;
  private bottom = 0;
  /** one at a time, so that none computes what another is about to */
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly plan: CarryPlan,
    form: Form,
  ) {
    // Half as much again, so that rows are moved up only now and then.
    this.held = emptyRaster(plan.width, Math.ceil(plan.rows * 1.5), form);
  }

  /** @param tile all of whose rows are computed with the first that are asked for, rather than bit by bit */
  read(region: Region, tile: number, compute: Compute): Promise<Window> {
    const { x, width } = this.plan;
    if (!contains({ ...region, x, width }, region)) return compute(region);
    const next = this.last.then(() => this.readRows(region, tile, compute));
    this.last = next.catch(() => {});
    return next;
  }

  private async readRows(region: Region, tile: number, compute: Compute): Promise<Window> {
    const { x, width, tiles } = this.plan;
    const { from, to } = tiles[tile]!;
    const first = Math.min(region.y, from);
    const end = Math.max(region.y + region.height, to);
    const goesOn = first >= this.top && first <= this.bottom && this.bottom > this.top;
    // What was let go, or lies beyond a gap, is computed anew, whole.
    if (!goesOn && first < this.bottom && this.bottom > this.top) return compute(region);
    if (!goesOn) this.top = this.bottom = this.origin = first;
    if (end > this.bottom) {
      const missing = { x, y: this.bottom, width, height: end - this.bottom };
      const found = await compute(missing);
      this.makeRoom(end);
      paste(found, {
        region: { x, y: this.origin, width, height: this.held.height },
        raster: this.held,
      });
      this.bottom = end;
    }
    return this.view(region.y, region.y + region.height);
  }

  /** The held rows themselves, not a copy: they stay where they are until the tile is done. */
  private view(y: number, end: number): Window {
    const { x, width } = this.plan;
    const planes = this.held.planes.map((plane) =>
      plane.subarray((y - this.origin) * width, (end - this.origin) * width),
    );
    return {
      region: { x, y, width, height: end - y },
      raster: { ...this.held, height: end - y, planes },
    };
  }

  private makeRoom(end: number): void {
    if (end - this.origin <= this.held.height) return;
    // Views of what is held may still be in use: the rows move to memory of their own.
    const rows = Math.max(Math.ceil(this.plan.rows * 1.5), end - this.top);
    const roomier = emptyRaster(this.plan.width, rows, this.held.form);
    this.copyTo(roomier);
  }

  private copyTo(target: Raster): void {
    const { width } = this.plan;
    const from = (this.top - this.origin) * width;
    const to = (this.bottom - this.origin) * width;
    this.held.planes.forEach((plane, c) => target.planes[c]!.set(plane.subarray(from, to)));
    this.held = target;
    this.origin = this.top;
  }

  dropAbove(row: number): void {
    this.top = Math.min(Math.max(this.top, row), this.bottom);
    // Between tiles nobody looks: rows move up in place once half of what is held was let go.
    if ((this.top - this.origin) * 3 < this.held.height) return;
    const { width } = this.plan;
    for (const plane of this.held.planes) {
      plane.copyWithin(0, (this.top - this.origin) * width, (this.bottom - this.origin) * width);
    }
    this.origin = this.top;
  }
}
