import { Recent } from './recent';

describe('what was made last', () => {
  it('is made once for who asks again in time, and for each key by itself', async () => {
    let [now, made] = [0, 0];
    const recent = new Recent<number>(2, 1_000, () => now);
    const get = (key: string) => recent.get(key, () => Promise.resolve((made += 1)));
    expect([await get('a'), await get('a'), await get('b')]).toEqual([1, 1, 2]);
    now = 999;
    expect(await get('a')).toBe(1);
    now = 1_000;
    expect([await get('a'), await get('a')]).toEqual([3, 3]);
  });
  it('is no more than so many: the oldest goes', async () => {
    let made = 0;
    const recent = new Recent<number>(2, 1_000, () => 0);
    const get = (key: string) => recent.get(key, () => Promise.resolve((made += 1)));
    for (const key of ['a', 'b', 'c']) await get(key);
    expect([await get('b'), await get('c'), await get('a')]).toEqual([2, 3, 4]);
  });
  it('keeps nothing of what failed', async () => {
    const recent = new Recent<number>(2, 1_000);
    await expect(recent.get('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await recent.get('a', () => Promise.resolve(7))).toBe(7);
  });
});
