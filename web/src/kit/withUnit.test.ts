import { describe, expect, it } from 'vitest';
import { withUnit } from './withUnit';

describe('a typed length', () => {
  it('goes out with its unit, and with the one shown where it has none', () => {
    expect(withUnit('86', 'mm')).toBe('86 mm');
    expect(withUnit('3 3/8', 'in')).toBe('3 3/8 in');
    expect(withUnit('2½', 'in')).toBe('2½ in');
    expect(withUnit('10 cm', 'in')).toBe('10 cm');
    expect(withUnit(`1' 2"`, 'mm')).toBe(`1' 2"`);
  });

  it('is left as it is where it is no length, for the server to say so', () => {
    expect(withUnit('wide', 'mm')).toBe('wide');
    expect(withUnit('', 'mm')).toBe('');
  });
});
