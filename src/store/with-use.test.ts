import { withUse } from './with-use';

interface Shelf {
  readonly of: (id: string) => Promise<string>;
  readonly keep: (id: string, row: number) => Promise<void>;
}

const kept: (readonly [string, number])[] = [];
const SHELF: Shelf = {
  of: (id) => (id === 'none' ? Promise.reject(new Error('there is none')) : Promise.resolve(`row ${id}`)),
  keep: (id, row) => {
    kept.push([id, row]);
    return Promise.resolve();
  },
};

it('is fetched once, with the first question, and answers or rejects as it does', async () => {
  const fetch = jest.fn(() => Promise.resolve(SHELF));
  const shelf = withUse(fetch);
  expect(fetch).not.toHaveBeenCalled();
  expect(await Promise.all([shelf.of('a'), shelf.of('b')])).toEqual(['row a', 'row b']);
  await shelf.keep('c', 3);
  expect(kept).toEqual([['c', 3]]);
  await expect(shelf.of('none')).rejects.toThrow('there is none');
  expect(fetch).toHaveBeenCalledTimes(1);
});

it('where fetching failed, that is told, and the next question fetches again', async () => {
  const fetch = jest.fn(() => Promise.resolve(SHELF)).mockRejectedValueOnce(new Error('the server is away'));
  const shelf = withUse(fetch);
  await expect(shelf.of('a')).rejects.toThrow('the server is away');
  expect(await shelf.of('a')).toBe('row a');
});

it('can itself be handed on by a promise', async () => {
  const shelf = await Promise.resolve(withUse(() => Promise.resolve(SHELF)));
  expect(await shelf.of('a')).toBe('row a');
});
