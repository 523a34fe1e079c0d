import { NO_GUARDS } from '@/core/guard/guards';
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Method } from '@/core/steps/enlarge/methods';
import { forOtherPictures } from '@/core/recipe/treatment-file';
import { newStep } from '@/core/recipe/order';
import { buildPdf } from '@/server/testing/pdf';
import { openDatabase } from '@/server/db/connection';
import { beginJob } from '@/server/db/jobs';
import { endPictureProcesses } from '@/server/codecs/pictures';
import { takeIn } from '@/server/files/take-in';
import { streamOf, testJpeg } from '@/server/testing/shop';
import { testPaper } from '@/core/testing';

let folder: string;
let picture: string;

const run = (...words: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(process.execPath, ['bin/lontano.mjs', ...words], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-cli-'));
  picture = join(folder, 'picture.jpg');
  await writeFile(picture, await testJpeg(90, 60, 35));
});
afterAll(async () => {
  await endPictureProcesses();
  await rm(folder, { recursive: true, force: true });
});

describe('the terminal', () => {
  it('inspects, in words and as one object', async () => {
    const words = await run('inspect', picture);
    expect(words).toMatchObject({ code: 0, err: '' });
    expect(words.out).toMatch(/ppi tag +missing/);
    const { out } = await run('inspect', picture, '--json');
    expect(JSON.parse(out)).toMatchObject({
      width: 90,
      height: 60,
      ppi: null,
      format: 'jpeg',
      jpeg: { quality: 35, subsampling: '4:2:0', progressive: false },
      megapixels: 0.0054,
      bitDepth: 8,
      channels: 3,
      alpha: false,
      profile: null,
      orientation: 1,
      kind: expect.any(String),
      blocking: { strength: expect.any(Number), offsetX: 0, offsetY: 0 },
      noise: { luma: expect.any(Number), colour: expect.any(Number) },
      softness: null,
    });
  });

  it('compares results with their original, and refuses what lies on no common paper', async () => {
    const results = await Promise.all(
      ['nearest', 'lanczos3'].map(async (method) => {
        const out = join(folder, `${method}.png`);
        await run('enlarge', picture, out, '--scale', '3', '--method', method, '--clean', '0');
        return out;
      }),
    );
    const { code, out } = await run('compare', picture, ...results, '--json');
    expect(code).toBe(0);
    const { original, trials } = JSON.parse(out) as {
      original: { file: string };
      trials: Record<string, number>[];
    };
    expect(original).toMatchObject({ file: 'picture.jpg', blocking: expect.any(Number) });
    const keys = [
      ...['psnrReduced', 'ssimReduced', 'colourShift', 'blocking', 'noise'],
      ...['edgeRisePx', 'overshootPercent', 'file', 'width', 'height'],
    ];
    for (const trial of trials) expect(Object.keys(trial).sort()).toEqual(keys.sort());
    const [nearest, lanczos] = trials;
    expect(nearest).toMatchObject({ file: 'nearest.png', width: 270, height: 180 });
    // Pixels repeated three times are the original once they are reduced again.
    expect(nearest!.psnrReduced).toBeGreaterThan(50);
    expect(lanczos!.psnrReduced).toBeLessThan(nearest!.psnrReduced!);
    expect(nearest!.overshootPercent).toBe(0);
    const words = await run('compare', picture, ...results);
    expect(words.out).toMatch(/overshoot .*less is calmer$/m);

    const pdf = join(folder, 'sheet.pdf');
    const made = await run('compare', picture, ...results, '--sheet', pdf, '--paper', 'A3');
    expect(made.code).toBe(0);
    const sheet = JSON.parse((await run('inspect', pdf, '--json')).out) as { format: string };
    expect(sheet).toMatchObject({ format: 'pdf' });
    const nowhere = await run('compare', picture, results[0]!, '--sheet', join(pdf, 'no.pdf'));
    expect(nowhere.err).toMatch(/can't be written to .*Nothing was kept/);
    const many = await run('compare', picture, ...results, ...results, '--sheet', pdf);
    expect(many.err).toMatch(/room for 3 results/);

    const square = join(folder, 'square.png');
    await sharp({ create: { width: 400, height: 400, channels: 3, background: '#888' } }).toFile(
      square,
    );
    const refused = await run('compare', picture, square);
    expect(refused).toMatchObject({ code: 3, out: '' });
    expect(refused.err).toMatch(/square\.png is 400 x 400, picture\.jpg 90 x 60.*shapes/);
    const turned = await run('compare', results[0]!, picture);
    expect(turned).toMatchObject({ code: 3, out: '' });
    expect(turned.err).toMatch(/name the larger one after the original/);
  }, 120_000);

  it('plans a print without making it, in words and as one object', async () => {
    const order = ['--width', '30cm', '--ppi', '200', '--bleed', '3mm', '--distance', '4'];
    const words = await run('plan', picture, ...order);
    expect(words.code).toBe(0);
    expect(words.out).toMatch(/result +2410 x 1623 pixels/);
    expect(words.out).toMatch(/Seen from 4 m, 22 ppi are needed/);
    const { out } = await run('plan', picture, ...order, '--json');
    expect(JSON.parse(out)).toMatchObject({
      pixels: { width: 2410, height: 1623 },
      trim: { x: 24, y: 24, width: 2362, height: 1575 },
      ppiAfter: 200,
      verdict: { tone: expect.any(String) },
    });
  });

  it('takes a part of the picture and adds bleed', async () => {
    const out = join(folder, 'part.png');
    const words = ['--crop', '10,5,40,40', '--scale', '3', '--method', 'nearest'];
    expect(await run('enlarge', picture, out, ...words)).toMatchObject({ code: 0 });
    const expected = await sharp(picture)
      .extract({ left: 10, top: 5, width: 40, height: 40 })
      .resize(120, 120, { kernel: 'nearest' })
      .raw()
      .toBuffer();
    expect((await sharp(out).raw().toBuffer()).equals(expected)).toBe(true);
    const bled = join(folder, 'bled.tif');
    const sheet = ['--width', '4cm', '--ppi', '254', '--bleed', '3mm', '--bleed-fill', 'rim'];
    await run('enlarge', picture, bled, ...sheet);
    expect(await sharp(bled).metadata()).toMatchObject({ width: 460, height: 327 });
  });

  it('draws the page of a PDF that is asked for, at the ordered size', async () => {
    const page = (blue: number) => ({
      width: 200,
      height: 100,
      content: `0 0 ${blue} rg 0 0 200 100 re f 1 g 10 10 40 40 re f`,
    });
    const file = join(folder, 'leaf.pdf');
    await writeFile(file, buildPdf([page(0.2), page(1)]));
    const out = join(folder, 'leaf.tif');
    const result = await run('enlarge', file, out, '--page', '2', '--width', '30cm', '--json');
    expect(JSON.parse(result.out)).toMatchObject({ output: { width: 1890, height: 945 } });
    const { dominant } = await sharp(out).stats();
    expect(dominant.b).toBeGreaterThan(200);
    expect((await run('inspect', file)).out).toMatch(/shapes +70.6 mm x 35.3 mm/);
    const none = await run('enlarge', file, out, '--page', '3', '--width', '30cm');
    expect(none).toMatchObject({ code: 3 });
    expect(none.err).toMatch(/there is no page 3/);
  });

  it('keeps transparency where the format holds it, and says where it does not', async () => {
    const clear = join(folder, 'clear.png');
    await writeFile(clear, await sharp(picture).ensureAlpha(0.4).png().toBuffer());
    const tiff = join(folder, 'clear.tif');
    await run('enlarge', clear, tiff, '--scale', '2');
    expect(await sharp(tiff).metadata()).toMatchObject({ channels: 4, hasAlpha: true });
    const laid = await run('enlarge', clear, join(folder, 'clear.jpg'), '--scale', '2');
    expect(laid.out).toMatch(/Transparent parts are laid on white/);
  });

  it('enlarges to the ordered size and says what it did', async () => {
    const out = join(folder, 'print.tif');
    const words = [
      '--width',
      '20cm',
      '--ppi',
      '120',
      '--clean',
      '80',
      '--sharpen',
      '0.4mm,70,2',
      '--json',
    ];
    const result = await run('enlarge', picture, out, ...words);
    expect(result.code).toBe(0);
    expect(JSON.parse(result.out)).toMatchObject({
      input: { width: 90, height: 60, ppi: null },
      output: { width: 945, height: 630, ppi: 120, format: 'tiff' },
    });
    expect(result.err).toMatch(/100 %/);
    expect(await sharp(out).metadata()).toMatchObject({ width: 945, height: 630, density: 120 });
  });

  it('takes a factor, crops to a shape, and writes the format of the ending', async () => {
    const out = join(folder, 'print.png');
    expect(
      await run('enlarge', picture, out, '--scale', '2.5', '--method', 'nearest'),
    ).toMatchObject({ code: 0 });
    expect(await sharp(out).metadata()).toMatchObject({ format: 'png', width: 225, height: 150 });
    const square = join(folder, 'square.jpg');
    await run('enlarge', picture, square, '--width', '5cm', '--height', '5cm', '--ppi', '100');
    expect(await sharp(square).metadata()).toMatchObject({
      format: 'jpeg',
      width: 197,
      height: 197,
      density: 100,
    });
  });

  it('writes every format, packed as it is told, and tells what was read back', async () => {
    const written = async (name: string, ...words: string[]) => {
      const out = join(folder, name);
      const order = ['--width', '10cm', '--ppi', '100', '--json', ...words];
      const result = await run('enlarge', picture, out, ...order);
      return { ...result, bytes: result.code === 0 ? await readFile(out) : Buffer.alloc(0) };
    };
    for (const [name, words, says] of [
      ['d.tif', ['--compression', 'deflate'], { profile: 'sRGB' }],
      ['l.tif', ['--compression', 'lzw', '--untagged'], { profile: null }],
      ['q.jpg', ['--quality', '60', '--progressive', '--coarse-colours'], {}],
      ['w.webp', ['--compression', 'lossless'], {}],
      ['p.pdf', ['--profile', 'coated'], { profile: 'Coated paper, offset' }],
      ['g.png', ['--profile', 'grey', '--intent', 'perceptual'], {}],
    ] as const) {
      const { code, out, err, bytes } = await written(name, ...words);
      expect({ name, code, err: err.replace(/^.*left\s*$/gm, '').trim() }).toMatchObject({
        ...{ name, code: 0, err: '' },
      });
      const { output } = JSON.parse(out) as { output: object };
      expect(output).toMatchObject({
        ...{ width: 394, height: 262, ...says },
        digest: createHash('sha256').update(bytes).digest('hex'),
        mm: { width: 100.08, height: 66.55 },
      });
    }
    const cut = await written('cut.pdf', '--panels', '6cmx5cm', '--overlap', '5mm');
    expect(cut.code).toBe(0);
    expect(cut.bytes.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(2 * 2 + 1);
    const zip = await written('cut.zip', '--panels', '6cm', '--panel-files', 'tif');
    expect(JSON.parse(zip.out)).toMatchObject({ output: { width: 394, height: 262 } });
    expect(zip.bytes.subarray(0, 2).toString()).toBe('PK');
    const refused = async (name: string, ...words: string[]) => (await written(name, ...words)).err;
    expect(await refused('x.png', '--compression', 'lzw')).toMatch(/A PNG is packed by deflate/);
    expect(await refused('x.png', '--profile', 'coated')).toMatch(/A PNG holds no CMYK/);
    expect(await refused('x.tif', '--profile', picture)).toMatch(/can't be used as a profile/);
    expect(await refused('x.tif', '--profile', 'nothing.icc')).toMatch(
      /nothing\.icc can't be read/,
    );
    expect(await refused('x.tif', '--panels', '5cm')).toMatch(/let the result end in \.pdf/);
    expect(await refused('x.zip', '--panels', '5cm')).toMatch(/ends in \.zip holds panels/);
    expect(await refused('x.tif', '--panels', '5cm', '--panel-files', 'tif')).toMatch(
      /holds panels/,
    );
    expect(await refused('x.zip', '--panel-files', 'tif')).toMatch(/How large is a panel/);
    expect(await refused('x.zip', '--panels', '5cm', '--panel-files', 'doc')).toMatch(/one of tif/);
    expect(await refused('x.pdf', '--panels', '11mm', '--overlap', '8mm')).toMatch(
      /overlap of 8 mm/,
    );
    expect(await refused('x.jpg', '--quality', '0')).toMatch(/from 1 to 100/);
  }, 120_000);

  it('writes a proof of places at the print’s own size', async () => {
    const proof = (name: string, ...words: string[]) =>
      run('proof', picture, join(folder, name), '--width', '60cm', '--ppi', '100', ...words);
    const found = async (name: string, ...words: string[]) =>
      JSON.parse((await proof(name, '--json', ...words)).out) as object;
    expect(await found('proof.pdf')).toMatchObject({
      ...{ format: 'pdf', width: 827, height: 1169, profile: 'sRGB' },
      mm: { width: 210.06, height: 296.93 },
    });
    const strip = [
      '--strip',
      '100cm',
      '--place',
      '50,50',
      '--place',
      '0,100',
      '--profile',
      'coated',
    ];
    expect(await found('proof.tif', ...strip)).toMatchObject({
      ...{ format: 'tiff', places: 2, profile: 'Coated paper, offset', width: 3937 },
    });
    expect((await sharp(join(folder, 'proof.tif')).metadata()).space).toBe('cmyk');
    expect((await proof('proof.jpg')).err).toMatch(/should end in \.pdf or \.tif/);
    expect((await proof('x.pdf', '--place', '50')).err).toMatch(/two numbers from 0 to 100/);
    expect((await proof('x.pdf', '--strip', '12cm')).err).toMatch(/too narrow/);
  }, 120_000);

  it('says what a shop knows of a job', async () => {
    const data = join(folder, 'shop');
    const db = await openDatabase(join(data, 'lontano.sqlite'));
    process.env.LONTANO_DATA = data;
    const bytes = new Uint8Array(await readFile(picture));
    const { digest, fileName } = await takeIn(db, streamOf(bytes), 'dome.jpg');
    const paper = testPaper({ width: { value: 60, unit: 'cm' } });
    await beginJob(db, {
      ...{ title: 'The dome', customer: 'Colle Vespra', due: null, distance: 2, device: null },
      ...{ material: null, paper, pictures: [{ digest, fileName, page: 1 }] },
    });
    await db.destroy();
    const told = await run('record', '0401', '--data', data);
    expect(told.out).toMatch(/^0401 The dome\n/);
    expect(told.out).toContain(digest);
    const json = JSON.parse((await run('record', '0401', '--data', data, '--json')).out) as object;
    expect(json).toMatchObject({ number: '0401', customer: 'Colle Vespra' });
    const pdf = join(folder, 'record.pdf');
    expect(await run('record', '0401', '--data', data, '--pdf', pdf)).toMatchObject({ code: 0 });
    expect(JSON.parse((await run('inspect', pdf, '--json')).out)).toMatchObject({ format: 'pdf' });
    const none = await run('record', '0999', '--data', data);
    expect(none).toMatchObject({ code: 3, err: expect.stringMatching(/no job 0999/) });
    const nowhere = await run('record', '0401', '--data', join(folder, 'none'));
    expect(nowhere.err).toMatch(/There is no shop/);
  }, 120_000);

  it('enlarges by every method, each in its own way', async () => {
    const write = async (...words: string[]) => {
      const out = join(folder, 'enlarged.tif');
      const result = await run('enlarge', picture, out, '--scale', '2.6', ...words);
      expect(result, words.join(' ')).toMatchObject({ code: 0 });
      expect(await sharp(out).metadata()).toMatchObject({ width: 234, height: 156 });
      return (await sharp(out).raw().toBuffer()).toString('base64');
    };
    const results: string[] = [];
    for (const method of Method.options) results.push(await write('--method', method));
    // Automatic comes to one of the others.
    expect(new Set(results).size).toBe(Method.options.length - 1);
    const stepped = results[Method.options.indexOf('stepped')];
    expect(await write('--method', 'stepped', '--step', '50')).not.toBe(stepped);
    const lanczos = results[Method.options.indexOf('lanczos3')];
    expect(await write('--method', 'lanczos3', '--linear')).not.toBe(lanczos);
    expect(await write('--method', 'lanczos3', '--limit', '100')).not.toBe(lanczos);
  }, 240_000);

  it.each([
    [
      ['--method', 'magic'],
      /auto, learned-photo, learned-photo-finest, learned-art, traced, nearest/,
    ],
    [['--method', 'stepped', '--step', '0'], /a number from 1 to 100/],
    [['--limit', '101'], /a number from 0 to 100/],
    [['--scale', '600'], /times the original; Lontano goes up to/],
    [['--scale', '0.001'], /less than a 64th|less than one pixel/],
  ])('refuses %j in words, and writes nothing', async (words, message) => {
    const out = join(folder, 'refused.tif');
    const order = words.includes('--scale') ? [] : ['--scale', '2'];
    const result = await run('enlarge', picture, out, ...order, ...words);
    expect(result.code).toBe(2);
    expect(result.err).toMatch(message);
    expect(await readdir(folder)).not.toContain('refused.tif');
  });

  const written = async (file: string, ...words: string[]): Promise<Buffer> => {
    const out = join(folder, 'cleaned.tif');
    const result = await run('enlarge', file, out, '--scale', '1', ...words);
    expect(result, words.join(' ')).toMatchObject({ code: 0 });
    return sharp(out).raw().toBuffer();
  };

  it('cleans as it is told, and each option makes a difference', async () => {
    const write = (...words: string[]) => written(picture, ...words);
    const plain = await write();
    const results = [
      await write('--clean', 'auto', '--clean-engine', 'classical'),
      await write('--clean', '100'),
      await write('--noise', '8', '--clean-engine', 'classical'),
      await write('--clean', '60', '--texture', '80', '--clean-engine', 'classical'),
      await write('--tones', '100'),
      await write('--restore'),
    ];
    const distinct = new Set([plain, ...results].map((bytes) => bytes.toString('base64')));
    expect(distinct.size).toBe(7);
    expect(await write('--heal', 'auto')).toEqual(plain);
    // Automatically as it is proposed: more than compression happened to it.
    expect(await write('--clean', 'auto', '--noise', 'auto')).toEqual(await write('--restore'));
  }, 120_000);

  it('leaves a picture as it is that suffers from nothing, where it cleans automatically', async () => {
    const perfect = join(folder, 'perfect.png');
    const drawn =
      '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="60"><rect width="90" height="60" fill="#f4efe2"/><circle cx="45" cy="30" r="22" fill="#b5432f"/></svg>';
    await sharp(Buffer.from(drawn)).removeAlpha().png().toFile(perfect);
    const plain = await written(perfect);
    expect(await written(perfect, '--clean', 'auto')).toEqual(plain);
    const classical = ['--clean', 'auto', '--clean-engine', 'classical'];
    expect(await written(perfect, ...classical)).toEqual(plain);
    expect(await written(perfect, '--clean', '100')).not.toEqual(plain);
  }, 60_000);

  it('takes a treatment from a file, with what was painted', async () => {
    const bytes = new Uint8Array(2 * 90 * 60);
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 45; x++) bytes[y * 90 + x] = bytes[5400 + y * 90 + x] = 255;
    const painted = {
      digest: createHash('sha256').update(bytes).digest('hex'),
      ...{ width: 90, height: 60, bytes: gzipSync(bytes).toString('base64') },
    };
    const zone = { id: 'z', name: 'Left', parts: [], painted, feather: 0, inverted: false };
    const brighter = { ...newStep('tones', { points: 0, exposure: 1 }), zone: 'z' };
    const file = {
      ...forOtherPictures(
        { name: 'Left', guards: NO_GUARDS, treatment: [brighter, newStep('enlarge')] },
        [],
      ),
      treatment: [brighter, newStep('enlarge', { method: 'nearest' })],
      zones: [zone],
    };
    const path = join(folder, 'left.json');
    await writeFile(path, JSON.stringify(file));
    const out = join(folder, 'left.png');
    const result = await run('enlarge', picture, out, '--scale', '1', '--treatment', path);
    expect(result).toMatchObject({ code: 0 });
    const [before, after] = await Promise.all(
      [picture, out].map((name) => sharp(name).raw().toBuffer()),
    );
    const at = (x: number) => (30 * 90 + x) * 3 + 1;
    expect(after![at(10)]).toBeGreaterThan(before![at(10)]! + 10);
    expect(after![at(80)]).toBe(before![at(80)]);

    await writeFile(
      path,
      JSON.stringify({ ...file, zones: [{ ...zone, painted: { ...painted, width: 91 } }] }),
    );
    const wrong = await run('enlarge', picture, out, '--scale', '1', '--treatment', path);
    expect(wrong).toMatchObject({ code: 3 });
    expect(wrong.err).toMatch(/does not fill 91 x 60/);
  });

  it('keeps house recipes in files and shops, and works by them', async () => {
    const data = await mkdtemp(join(folder, 'recipes-'));
    const shop = ['--data', data];
    expect(await run('recipe', 'list', ...shop)).toMatchObject({ code: 3, err: /no shop/ });
    await (await openDatabase(join(data, 'lontano.sqlite'))).destroy();
    const file = join(data, 'squares.json');
    expect(await run('recipe', 'export', 'pixel SQUARES', file, ...shop)).toMatchObject({
      code: 0,
      out: 'squares.json: “Pixel squares”, version 1\n',
    });
    const exported = JSON.parse(await readFile(file, 'utf8')) as Record<string, unknown>;
    const { out: same } = await run('recipe', 'import', file, ...shop);
    expect(same).toMatch(/as in the file already/);
    await writeFile(file, JSON.stringify({ ...exported, ppi: 50 }));
    expect((await run('recipe', 'import', file, ...shop)).out).toMatch(/kept, version 2/);
    await writeFile(file, JSON.stringify({ ...exported, name: 'Mosaic' }));
    expect((await run('recipe', 'import', file, ...shop)).out).toMatch(/“Mosaic” is kept/);
    const { out } = await run('recipe', 'list', '--json', ...shop);
    expect(JSON.parse(out)).toHaveLength(7);
    expect(await run('recipe', 'export', 'Fresco', ...shop)).toMatchObject({
      code: 3,
      err: expect.stringMatching(/There are: .*“Mosaic”/) as string,
    });
    // By a name that ships where there is no shop, by a file anywhere: the same steps, the same bytes.
    const written_ = async (...by: string[]) => {
      const to = join(folder, 'by-recipe.png');
      const ran = await run('enlarge', picture, to, '--scale', '2', ...by);
      expect(ran).toMatchObject({ code: 0 });
      return sharp(to).raw().toBuffer();
    };
    const plain = await written_('--method', 'nearest');
    expect(await written_('--recipe', file)).toEqual(plain);
    expect(await written_('--recipe', 'Pixel squares')).toEqual(plain);
    expect(await written_('--recipe', 'Line drawing')).not.toEqual(plain);
  }, 120_000);

  it.each([
    [['recipe', 'export'], 2, /missing required argument/],
    [['recipe', 'import', 'package.json', '--data', '/nowhere'], 3, /no shop/],
    [['enlarge', 'PICTURE', 'x.tif', '--recipe', 'package.json'], 3, /neither a house recipe/],
    [['enlarge', 'PICTURE', 'x.tif', '--recipe', 'Fresco'], 3, /no house recipe “Fresco”/],
    [['enlarge', 'PICTURE', 'x.tif', '--noise', '51'], 2, /from 0 to 50, or auto/],
    [['enlarge', 'PICTURE', 'x.tif', '--clean-engine', 'magic'], 2, /learned|classical/],
    [['enlarge', 'PICTURE', 'x.tif', '--texture', '-1'], 2, /from 0 to 100/],
    [['enlarge', 'PICTURE', 'x.tif', '--heal', 'some'], 2, /auto or off/],
    [['enlarge', 'PICTURE', 'x.tif', '--treatment', 'nowhere.json'], 3, /no treatment file/],
    [['enlarge', 'PICTURE', 'x.tif', '--treatment', 'package.json'], 3, /not a treatment/],
    [['enlarge', 'PICTURE', 'x.tif', '--treatment', 'PICTURE'], 3, /not JSON/],
    [['enlarge', 'PICTURE', 'x.bmp'], 2, /should end in/],
    [['enlarge', 'PICTURE', 'PICTURE'], 2, /never overwritten/],
    [['enlarge', 'PICTURE', 'x.tif', '--width', '0cm'], 2, /a length/],
    [['enlarge', 'PICTURE', 'x.tif', '--clean', '101'], 2, /from 0 to 100/],
    [['enlarge', 'PICTURE', 'x.tif', '--restore', '--noise', '3'], 2, /not both/],
    [['enlarge', 'PICTURE', 'x.tif', '--sharpen', '1,2'], 2, /RADIUS,AMOUNT,THRESHOLD/],
    [['enlarge', 'PICTURE', 'x.tif', '--scale', '2', '--width', '3cm'], 2, /not both/],
    [['enlarge', 'PICTURE', 'x.tif', '--crop', '0,0,9,9', '--scale', '900'], 2, /64 times/],
    [['enlarge', 'PICTURE', 'x.tif', '--crop', '60,0,90,90'], 2, /leaves the picture/],
    [['enlarge', 'PICTURE', 'x.tif', '--crop', '1,2,3'], 2, /X,Y,W,H/],
    [['enlarge', 'PICTURE', 'x.tif', '--bleed', '9m'], 2, /0 to 200 mm/],
    [['enlarge', 'PICTURE', 'x.tif', '--page', '2'], 3, /one page only/],
    [['plan', 'PICTURE', '--width', '-3cm'], 2, /a length/],
    [['enlarge', 'PICTURE'], 2, /missing required argument/],
    [['polish', 'PICTURE'], 2, /unknown command/],
    [['inspect', 'nowhere.jpg'], 3, /no file/],
    [['inspect', 'package.json'], 3, /not a picture/],
    [['inspect', 'src'], 3, /folder/],
  ])('%j ends with %i and one clear line', async (words, code, sentence) => {
    const result = await run(
      ...words.map((word) =>
        word === 'PICTURE' ? picture : word.startsWith('x.') ? join(folder, word) : word,
      ),
    );
    expect(result.code).toBe(code);
    expect(result.err.trim().split('\n')).toHaveLength(1);
    expect(result.err).toMatch(sentence);
    expect(result.err).not.toMatch(/ at .*:\d+/);
    expect((await readdir(folder)).filter((name) => name.startsWith('x.'))).toEqual([]);
  });
});
