import { finished, type Steps } from '@glenmark/core/steps';
import { createNewest } from './newest';

/** Work in so many steps that takes in what it did. */
function* work(name: string, count: number, done: string[]): Steps<string> {
  for (let n = 0; n < count; n++) {
    done.push(name);
    yield;
  }
  return name;
}

describe('work in slices', () => {
  it('comes to what it comes to at once, however long a slice is', async () => {
    for (const slice of [0, 3, Infinity]) {
      const done: string[] = [];
      expect(await createNewest(slice)(work('a', 20, done))).toBe(finished(work('a', 20, [])));
      expect(done).toHaveLength(20);
    }
  });

  it('is left as soon as there is newer work, which is done', async () => {
    const newest = createNewest(0);
    const done: string[] = [];
    const first = newest(work('a', 10_000, done));
    await new Promise((resume) => setTimeout(resume, 5));
    const second = newest(work('b', 5, done));
    expect(await Promise.all([first, second])).toEqual([undefined, 'b']);
    expect(done.slice(done.indexOf('b'))).toEqual(['b', 'b', 'b', 'b', 'b']);
  });

  it('is not begun when newer work came at the same time', async () => {
    const newest = createNewest();
    const done: string[] = [];
    const all = [newest(work('a', 3, done)), newest(work('b', 3, done)), newest(work('c', 3, done))];
    expect(await Promise.all(all)).toEqual([undefined, undefined, 'c']);
    expect(new Set(done)).toEqual(new Set(['c']));
  });

  it('fails when the work fails', async () => {
    // eslint-disable-next-line require-yield -- it fails before its first step is over
    function* failing(): Steps<string> {
      throw new Error('no');
    }
    await expect(createNewest()(failing())).rejects.toThrow('no');
  });
});
