import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fileAnswer } from './file-answer';

const bytes = Uint8Array.from({ length: 1000 }, (_, i) => (i * 7) & 255);
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-answers-'));
  await writeFile(join(folder, 'dome.tif'), bytes);
  await writeFile(join(folder, 'empty'), '');
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const ask = (
  headers: Record<string, string> = {},
  name = 'dome.tif',
  digest: string | null = 'd1',
) =>
  fileAnswer(new Request('http://127.0.0.1/', { headers }), join(folder, name), {
    ...{ fileName: 'dome.tif', mediaType: 'image/tiff', digest },
  });
const got = async (response: Response) => new Uint8Array(await response.arrayBuffer());

describe('a file as an answer', () => {
  it('comes whole, under its name, and says that parts of it can be asked for', async () => {
    const response = await ask();
    expect(response.status).toBe(200);
    expect(Object.fromEntries(response.headers)).toMatchObject({
      'content-type': 'image/tiff',
      'content-disposition': 'attachment; filename="dome.tif"',
      'accept-ranges': 'bytes',
      etag: '"d1"',
    });
    expect(await got(response)).toEqual(bytes);
  });

  it('that broke off goes on where it was', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: 999 }), async (at) => {
        const response = await ask({ range: `bytes=${at}-` });
        expect(response.status).toBe(206);
        expect(response.headers.get('content-range')).toBe(`bytes ${at}-999/1000`);
        expect(await got(response)).toEqual(bytes.subarray(at));
      }),
      { numRuns: 20 },
    );
  });

  it.each([
    ['bytes=0-0', 0, 0],
    ['bytes=10-19', 10, 19],
    ['bytes=990-5000', 990, 999],
    ['bytes=-4', 996, 999],
    ['bytes=-4000', 0, 999],
  ])('comes in the part that %s names', async (range, first, last) => {
    const response = await ask({ range });
    expect(response.status).toBe(206);
    expect(response.headers.get('content-range')).toBe(`bytes ${first}-${last}/1000`);
    expect(await got(response)).toEqual(bytes.subarray(first, last + 1));
  });

  it.each(['bytes=1000-', 'bytes=5000-6000', 'bytes=-0'])(
    'has nothing at %s, and says so',
    async (range) => {
      const response = await ask({ range });
      expect(response.status).toBe(416);
      expect(response.headers.get('content-range')).toBe('bytes */1000');
    },
  );

  it.each(['bytes=-', 'bytes=9-3', 'bytes=1-2,5-9', 'lines=1-2', 'bytes=a-b', 'bytes=1e3-'])(
    'comes whole where %s is nothing that is understood',
    async (range) => {
      const response = await ask({ range });
      expect(response.status).toBe(200);
      expect(await got(response)).toEqual(bytes);
    },
  );

  it('comes whole where the part would be of another file than was fetched before', async () => {
    const range = 'bytes=500-';
    expect((await ask({ range, 'if-range': '"d1"' })).status).toBe(206);
    expect((await ask({ range, 'if-range': '"d0"' })).status).toBe(200);
    expect((await ask({ range, 'if-range': '"d1"' }, 'dome.tif', null)).status).toBe(200);
  });

  it('may be empty, and has no parts then', async () => {
    expect(await got(await ask({}, 'empty'))).toHaveLength(0);
    expect((await ask({ range: 'bytes=0-' }, 'empty')).status).toBe(416);
  });

  it('that is not there is trouble', async () => {
    await expect(ask({}, 'gone')).rejects.toThrow(/ENOENT/);
  });
});
