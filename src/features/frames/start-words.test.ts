import { startWords } from './start-words';

const known = (address: number): number | undefined => ({ 200: 0x0f45, 201: 7 })[address];

it('a write that goes elsewhere begins with what the drive holds there, never with the number of before', () => {
  const before = { unit: 3, fc: 6, address: 705, values: [8937] };
  expect(startWords(before, { address: 200 }, known)).toEqual({ values: [0x0f45], unset: new Set() });
  expect(startWords(before, { address: 300 }, known)).toEqual({ values: [0], unset: new Set([300]) });
});

it('a read that becomes a write has no words of its own', () => {
  const before = { unit: 3, fc: 3, address: 201, quantity: 2 };
  expect(startWords(before, { fc: 6 }, known)).toEqual({ values: [7], unset: new Set() });
  expect(startWords(before, { fc: 16 }, known)).toEqual({ values: [7, 0], unset: new Set([202]) });
});

it('a register that was in the request keeps its word when the request moves or grows', () => {
  const before = { unit: 3, fc: 16, address: 199, quantity: 2, values: [11, 12] };
  expect(startWords(before, { quantity: 4 }, known)).toEqual({ values: [11, 12, 7, 0], unset: new Set([202]) });
  expect(startWords(before, { address: 200 }, known)).toEqual({ values: [12, 7], unset: new Set() });
});
