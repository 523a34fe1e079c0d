import { rasterBytes, type Window } from '../raster/raster';
import { contains, type Region } from '../raster/region';

/**
 * What was computed, kept by the text of everything before it. Holds at most `limit` bytes; what
 * was not used for longest goes first.
 */
export class Kept {
  /** by age of use, oldest first */
  private readonly windows = new Map<Window, string>();
  private readonly byKey = new Map<string, Set<Window>>();
  private bytes = 0;

  constructor(private readonly limit: number) {}

  /** A kept window that covers `region` of what `key` names. */
  find(key: string, region: Region): Window | undefined {
    for (const window of this.byKey.get(key) ?? []) {
      if (!contains(window.region, region)) continue;
      this.windows.delete(window);
      this.windows.set(window, key);
      return window;
    }
    return undefined;
  }

  keep(key: string, window: Window): void {
    this.windows.set(window, key);
    const group = this.byKey.get(key) ?? new Set();
    this.byKey.set(key, group.add(window));
    this.bytes += rasterBytes(window.raster);
    for (const [oldest, itsKey] of this.windows) {
      if (this.bytes <= this.limit) break;
      this.forget(oldest, itsKey);
    }
  }

  private forget(window: Window, key: string): void {
    this.windows.delete(window);
    this.bytes -= rasterBytes(window.raster);
    const group = this.byKey.get(key)!;
    group.delete(window);
    if (group.size === 0) this.byKey.delete(key);
  }
}
