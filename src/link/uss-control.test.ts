import { shippedIndex } from '../../tests/harness/sheets';
import { indexSheet } from '../core/sheet/index-sheet';
import { encodeUss } from '../core/uss/encode';
import { readUss } from '../core/uss/telegram';
import { UssControl } from './uss-control';

const dunlin = shippedIndex('dunlin');
const telegram = (...pzd: readonly number[]): Uint8Array => {
  const built = encodeUss({ address: 4, pkwWords: 4, pzd: [...pzd] });
  if (!built.ok) throw new Error(built.error[0]?.text);
  return built.value;
};
const pzd = (bytes: Uint8Array | null) => readUss(bytes ?? new Uint8Array(), 4).message?.pzd;

it('a word that the drive does not look at does nothing; any other is an act, the stop word too', () => {
  const care = new UssControl(4, dunlin);
  expect(care.effectOf(telegram(0, 0x1000))).toEqual({});
  expect(care.effectOf(telegram(0x047e, 0))).toEqual({ control: 0x047e, reference: 0 });
  expect(care.mayTurn(care.effectOf(telegram(0x047f, 0x1000)))).toBe(true);
  expect(care.mayTurn(care.effectOf(telegram(0x047e, 0x1000)))).toBe(false);
});

it('without a profile every word counts, so that sending the stop word ends what was repeated', () => {
  const plain = indexSheet({ ...dunlin.sheet, profile: undefined, conditions: undefined });
  expect(new UssControl(4, plain).effectOf(telegram(0x047e, 0))).toEqual({ control: 0x047e, reference: 0 });
});

it('repeats a control word with the reference that was sent last, a third of the watchdog time apart; Stop sends 0 with it', () => {
  const care = new UssControl(4, dunlin);
  care.noteSent(care.effectOf(telegram(0x047f, 0x1000)));
  expect(pzd(care.controlWrite(0x047f))).toEqual([0x047f, 0x1000]);
  // 455: 400 ms.
  expect(care.keepAliveEveryUs()).toBeCloseTo(400_000 / 3, 0);
  expect(care.stopFrames().map(pzd)).toEqual([[0x047e, 0]]);
});
