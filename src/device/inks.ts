import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Transform } from '@/core/colour/engine';
import { SRGB } from '@/core/colour/profiles';
import type { DeviceSpace } from '@/core/colour/space';
import { inkColours, type InkColours } from '@/core/device/print-look';
import { engine } from '@/server/colour/engine';
import { profileBytes } from '@/server/colour/profiles';
import { root } from '@/server/root';
import type { Model } from './models';

/** The colours of a model's inks, by its profile. */
export class Inks {
  private profile: Promise<Uint8Array> | undefined;
  private looks: Promise<InkColours> | undefined;

  constructor(private readonly model: Model) {}

  /**
   * How a file's colours become amounts of ink; null where they are amounts of ink already, which are printed as they are.
   * @param profile the file's own; without one its numbers are taken for sRGB
   */
  async from(space: DeviceSpace, profile: Uint8Array | null): Promise<Transform | null> {
    if (space === 'cmyk') return null;
    const own = profile ?? (await profileBytes(SRGB.digest));
    const how = { intent: 'relative', blackPoint: true } as const;
    return (await engine()).transform(own, await this.ownProfile(), how);
  }

  /** What they look like on a screen. */
  look(): Promise<InkColours> {
    this.looks ??= this.ownProfile().then(async (own) => {
      const how = { intent: 'relative', blackPoint: false } as const;
      return inkColours((await engine()).transform(own, await profileBytes(SRGB.digest), how));
    });
    return this.looks;
  }

  private ownProfile(): Promise<Uint8Array> {
    this.profile ??= readFile(join(root(), 'profiles', this.model.profileFile));
    return this.profile;
  }
}
