import { describe, expect, it } from 'vitest';
import { PreviewQueue } from './previewQueue';

interface Asked {
  change: number;
  answer: (text: string) => Promise<void>;
  refuse: (why: string) => Promise<void>;
}

/** A server that answers when it is told to. */
function bench() {
  const asked: Asked[] = [];
  const told: string[] = [];
  const queue = new PreviewQueue<number, string>(
    (change) =>
      new Promise((resolve, reject) => {
        const settled = async (act: () => void) => {
          act();
          await new Promise((done) => setTimeout(done));
        };
        asked.push({
          change,
          answer: (text) => settled(() => resolve(text)),
          refuse: (why) => settled(() => reject(new Error(why))),
        });
      }),
    {
      show: (answer) => told.push(answer ?? 'nothing'),
      refuse: (error) => told.push(`refused: ${(error as Error).message}`),
    },
  );
  const nth = (index: number) => {
    const one = asked[index];
    if (!one) throw new Error(`only ${asked.length} were asked`);
    return one;
  };
  return { queue, asked, told, nth };
}

describe('previews under a fast pointer', () => {
  it('asks one at a time and leaves out all but the newest that waits', async () => {
    const { queue, asked, told, nth } = bench();
    for (const change of [1, 2, 3, 4]) queue.propose(change);
    expect(asked.map((one) => one.change)).toEqual([1]);
    await nth(0).answer('one');
    expect(asked.map((one) => one.change)).toEqual([1, 4]);
    await nth(1).answer('four');
    expect(told).toEqual(['one', 'four']);
    queue.propose(5);
    expect(asked).toHaveLength(3);
  });

  it('takes a falsy change for a change', async () => {
    const { queue, asked, nth } = bench();
    queue.propose(1);
    queue.propose(0);
    await nth(0).answer('one');
    expect(asked.map((one) => one.change)).toEqual([1, 0]);
  });

  it('never shows what was asked before it was dropped', async () => {
    const { queue, told, nth } = bench();
    queue.propose(1);
    queue.propose(2);
    queue.drop();
    await nth(0).answer('late');
    expect(told).toEqual(['nothing']);
  });

  it('never tells why something dropped was refused', async () => {
    const { queue, told, nth } = bench();
    queue.propose(1);
    queue.drop();
    await nth(0).refuse('too long');
    expect(told).toEqual(['nothing']);
  });

  it('shows what is proposed after a drop though an older one is still under way', async () => {
    const { queue, asked, told, nth } = bench();
    queue.propose(1);
    queue.drop();
    queue.propose(2);
    expect(asked).toHaveLength(1);
    await nth(0).answer('late');
    expect(asked.map((one) => one.change)).toEqual([1, 2]);
    await nth(1).answer('two');
    expect(told).toEqual(['nothing', 'two']);
  });

  it('goes on after a refusal, and keeps what was shown', async () => {
    const { queue, told, nth } = bench();
    queue.propose(1);
    await nth(0).answer('one');
    queue.propose(2);
    queue.propose(3);
    await nth(1).refuse('too far');
    await nth(2).answer('three');
    expect(told).toEqual(['one', 'refused: too far', 'three']);
  });
});
