import { withoutProofsByRule } from './drop-proofs';
import { emptySheet } from './empty-sheet';
import type { Parameter } from './parameter-section';

it('another address rule takes the proof of the entries that it places, and of no other', () => {
  const proof = { when: '2026-11-27T12:00:00Z', exchange: '01 03', seen: '400 V' };
  const ruled: Parameter = { number: '11.03', name: 'rated voltage', type: 'uint16', proof };
  const placed: Parameter = {
    ...ruled,
    number: '30',
    at: [{ kind: 'register', table: 'input-register', address: 30 }],
  };
  const { parameters } = withoutProofsByRule({ ...emptySheet('a', 'A'), parameters: [ruled, placed] });
  expect(parameters?.map((entry) => 'proof' in entry)).toEqual([false, true]);
  expect(parameters?.[1]).toBe(placed);
  expect(withoutProofsByRule(emptySheet('a', 'A'))).toEqual(emptySheet('a', 'A'));
});
