import { describe, expect, it } from 'vitest';
import { rulerMarks } from './scale';

describe('the ruler', () => {
  it('starts at A, keeps its marks apart and never passes B', () => {
    for (const perMm of [0.2, 0.41, 1.1, 3]) {
      for (const unit of ['mm', 'in'] as const) {
        const marks = rulerMarks(1184, perMm, unit, 45);
        expect(marks[0]).toEqual({ station: 0, label: '0' });
        const [first, second] = marks;
        expect(((second?.station ?? 0) - (first?.station ?? 0)) * perMm).toBeGreaterThanOrEqual(45);
        expect(marks.at(-1)?.station).toBeLessThanOrEqual(1184);
      }
    }
  });

  it('labels inches in inches at stations in millimetres', () => {
    const marks = rulerMarks(300, 2, 'in', 45);
    expect(marks[4]).toEqual({ station: 101.6, label: '4' });
  });
});
