import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { Measure } from '../api/generated/schema';

const eightySix: Measure = { mm: 86, mm_text: '86.0', inch_text: '3.386', fraction: '3 3/8' };

describe('figures', () => {
  beforeAll(() => {
    vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined });
  });

  it('are shown as the server worded them, in the chosen unit', async () => {
    const { figure, length, sentence } = await import('./bench');
    expect(figure(eightySix, 'mm')).toBe('86.0');
    expect(figure(eightySix, 'in')).toBe('3.386');
    expect(length(eightySix, 'mm')).toBe('86.0 mm');
    expect(length(eightySix, 'in')).toBe('3 3/8 in (3.386)');
    expect(sentence({ mm: 'drop it 8.0 mm', inch: 'drop it 0.315 in' }, 'in')).toBe('drop it 0.315 in');
  });

  it('never show a minus before nothing', async () => {
    const { degrees } = await import('./bench');
    expect(degrees(-0.04)).toBe('0.0°');
    expect(degrees(-0.06)).toBe('-0.1°');
    expect(degrees(4.765, 2)).toBe('4.76°');
  });

  it('tell parts apart by what they are and which', async () => {
    const { samePart } = await import('./bench');
    expect(samePart({ part: 'bend', run: 1, bend: 3 }, { run: 1, bend: 3, part: 'bend' })).toBe(true);
    expect(samePart({ part: 'bend', run: 1, bend: 3 }, { part: 'bend', run: 2, bend: 3 })).toBe(false);
    expect(samePart({ part: 'end', run: 1, end: 'a' }, { part: 'nothing' })).toBe(false);
  });
});
