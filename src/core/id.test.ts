import { uuidV7 } from './id';

it('makes the example of RFC 9562, appendix A.6 (from memory)', () => {
  // 2022-02-22 14:22:22.00-05:00 = 0x017F22E279B0, rand_a 0xCC3, rand_b 0x18C4DC0C0C07398F.
  const random = Uint8Array.of(0x0c, 0xc3, 0x18, 0xc4, 0xdc, 0x0c, 0x0c, 0x07, 0x39, 0x8f);
  expect(uuidV7(0x017f22e279b0, random)).toBe('017f22e2-79b0-7cc3-98c4-dc0c0c07398f');
});

it('sorts by time, and takes short randomness as zeros', () => {
  const [early, late] = [uuidV7(1000, new Uint8Array(0)), uuidV7(1001, new Uint8Array(0))];
  expect(early < late).toBe(true);
  expect(early).toBe('00000000-03e8-7000-8000-000000000000');
});
