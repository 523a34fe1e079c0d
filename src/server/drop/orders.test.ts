import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { USUAL_SHEETS } from '@/core/shop/lists';
import { isOrder, orderFor, paperOrdered, readOrders } from './orders';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-orders-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function read(name: string, text: string | Uint8Array) {
  await writeFile(join(folder, name), text);
  return readOrders(folder, name);
}

describe('a list of orders among pictures', () => {
  it('is told from pictures by its ending', () => {
    expect(['orders.csv', 'A.JSON', 'photo.jpg.json'].every(isOrder)).toBe(true);
    expect(['photo.jpg', 'csv', 'orders.csv.pdf'].some(isOrder)).toBe(false);
  });

  it.each([
    ['commas', 'file,size,customer\ndome.jpg,90x60 cm,The desk\n'],
    ['semicolons, as tables write them', 'File;Size;Customer\r\ndome.jpg;90x60 cm;The desk\r\n'],
    ['tabs', 'file\tsize\tcustomer\ndome.jpg\t90x60 cm\tThe desk'],
    ['a mark at its beginning', '\uFEFFfile,size,customer\ndome.jpg,90x60 cm,The desk'],
    ['empty lines and spaces', '\nfile , size , customer\n\n dome.jpg , 90x60 cm , The desk \n\n'],
    ['quotes', '"file","size","customer"\n"dome.jpg","90x60 cm","The desk"'],
  ])('may have %s', async (_, text) => {
    expect([...(await read('orders.csv', text))]).toEqual([
      ['dome.jpg', { size: '90x60 cm', customer: 'The desk' }],
    ]);
  });

  it('may be JSON of many', async () => {
    const orders = await read(
      'orders.json',
      JSON.stringify([
        { file: 'dome.jpg', size: 'A2' },
        { file: 'wing.tif', due: '2026-12-24', note: 'bright' },
      ]),
    );
    expect(orderFor(orders, 'dome.jpg')).toEqual({ size: 'A2' });
    expect(orderFor(orders, 'wing.tif')).toEqual({ due: '2026-12-24', note: 'bright' });
  });

  it.each(['dome.json', 'dome.jpg.json'])(
    'may be JSON of the picture beside it: %s',
    async (name) => {
      const orders = await read(name, '{"title": "Dome", "due": ""}');
      expect(orderFor(orders, 'dome.jpg')).toEqual({ title: 'Dome', due: '' });
    },
  );

  it('says nothing of other pictures', async () => {
    const orders = await read('orders.csv', 'file,size\ndome.jpg,A2');
    expect(orderFor(orders, 'wing.jpg')).toEqual({});
    expect(orderFor(orders, 'dome')).toEqual({});
  });

  it('says of the one picture what is wrong, and the others go on', async () => {
    const orders = await read(
      'orders.csv',
      `file,due,title\ndome.jpg,24.12.2026,\nwing.jpg,2026-12-24,${'w'.repeat(200)}\nsea.jpg,2026-12-24,Sea`,
    );
    expect(() => orderFor(orders, 'dome.jpg')).toThrow(/^orders\.csv: due: /);
    expect(() => orderFor(orders, 'wing.jpg')).toThrow(/^orders\.csv: title: /);
    expect(orderFor(orders, 'sea.jpg')).toEqual({ due: '2026-12-24', title: 'Sea' });
  });

  it.each([
    ['no column for files', 'orders.csv', 'name,size\ndome.jpg,A2', /no column “file”/],
    ['a line without a file', 'orders.csv', 'file,size\n,A2', /or a line without one/],
    [
      'lines of other lengths',
      'orders.csv',
      'file,size\ndome.jpg,A2,x,y',
      /no CSV that can be read/,
    ],
    ['quotes that never end', 'orders.csv', 'file,size\n"dome.jpg,A2', /no CSV that can be read/],
    ['what is no JSON', 'orders.json', '{"file": ', /no JSON that can be read/],
    ['a number alone', 'orders.json', '7', /says nothing of an order/],
    ['a list of no orders', 'orders.json', '[1, 2]', /says nothing of an order/],
  ])('with %s is refused in words', async (_, name, text, words) => {
    await expect(read(name, text)).rejects.toThrow(words);
  });

  it('that is a picture of a list is refused before it is read', async () => {
    await expect(read('large.csv', new Uint8Array(4_000_001))).rejects.toThrow(/too large/);
  });

  it('names files alone: names that mean something to a program mean nothing here', async () => {
    const orders = await read('orders.json', '[{"file": "__proto__", "size": "A2"}]');
    expect(orderFor(orders, '__proto__')).toEqual({ size: 'A2' });
    expect(orderFor(orders, 'dome.jpg')).toEqual({});
    expect(orderFor(orders, 'constructor')).toEqual({});
  });
});

describe('a paper that a list orders', () => {
  const lying = { width: 3000, height: 2000 };

  it('is the folder’s where nothing is said', () => {
    expect(paperOrdered({}, lying, USUAL_SHEETS)).toBeNull();
    expect(paperOrdered({ size: '' }, lying, USUAL_SHEETS)).toBeNull();
  });

  it('has sides as they are typed', () => {
    expect(paperOrdered({ size: '90x60' }, lying, USUAL_SHEETS)).toMatchObject({
      width: { value: 90, unit: 'cm' },
      height: { value: 60, unit: 'cm' },
    });
  });

  it('is a sheet that lies as the picture does', () => {
    const paper = (width: number, height: number) =>
      paperOrdered({ size: 'A2' }, { width, height }, USUAL_SHEETS)!;
    expect(paper(3000, 2000)).toMatchObject({ width: { value: 59.4 }, height: { value: 42 } });
    expect(paper(2000, 3000)).toMatchObject({ width: { value: 42 }, height: { value: 59.4 } });
  });

  it('that can’t be read is refused with what was written', () => {
    expect(() => paperOrdered({ size: 'large' }, lying, USUAL_SHEETS)).toThrow(
      /^Its size “large” can't be used\. /,
    );
  });
});
