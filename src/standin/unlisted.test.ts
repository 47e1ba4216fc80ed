import { unlistedSheets } from '../../tests/harness/shipped';
import { indexSheet } from '../core/sheet/index-sheet';
import { VirtualClock } from '../core/time/clock';
import { Inverter } from './inverter';
import { serveFunction } from './rtu-server';

const END = { station: 21, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;

function flap() {
  const clock = new VirtualClock();
  const sheet = unlistedSheets().find(({ slug }) => slug === 'redshank');
  if (!sheet) throw new Error('the flap has no sheet');
  const drive = new Inverter(indexSheet(sheet), clock, {}, END, () => undefined);
  const ask = (...pdu: number[]): number[] => serveFunction(pdu, drive);
  return { clock, drive, ask };
}

/** IEEE 754 single precision: 12.5 is 41480000. */
describe('a drive with floats, input registers and swapped words', () => {
  it('turns by a float reference, and shows its speed as a float in input registers', () => {
    const { clock, drive, ask } = flap();
    expect(ask(16, 0, 202, 0, 2, 4, 0x41, 0x48, 0, 0)).toEqual([16, 0, 202, 0, 2]);
    expect(ask(6, 0, 200, 0x01, 0x02)).toEqual([6, 0, 200, 0x01, 0x02]);
    for (let i = 0; i < 30; i++) {
      drive.heard();
      clock.advanceBy(200_000);
    }
    expect(ask(4, 0, 22, 0, 2)).toEqual([4, 4, 0x41, 0x48, 0, 0]);
    expect(drive.isTurning()).toBe(true);
  });

  it('keeps its low word first where its sheet says so, and takes one word into the other', () => {
    const { ask } = flap();
    // −1850 is FFFFF8C6.
    expect(ask(3, 0, 216, 0, 2)).toEqual([3, 4, 0xf8, 0xc6, 0xff, 0xff]);
    expect(ask(6, 0, 216, 0xf8, 0x30)).toEqual([6, 0, 216, 0xf8, 0x30]);
    expect(ask(3, 0, 216, 0, 2)).toEqual([3, 4, 0xf8, 0x30, 0xff, 0xff]);
  });

  it('has its tables apart: what is an input register is no holding register, and it has no coils', () => {
    const { ask } = flap();
    expect(ask(3, 0, 20, 0, 1)).toEqual([0x83, 2]);
    expect(ask(4, 0, 200, 0, 1)).toEqual([0x84, 2]);
    expect(ask(1, 0, 0, 0, 1)).toEqual([0x81, 1]);
  });

  it('stops by itself when the link goes quiet, by the step that its sheet gives the time', () => {
    const { clock, drive, ask } = flap();
    ask(16, 0, 202, 0, 2, 4, 0x41, 0x48, 0, 0);
    ask(6, 0, 200, 0x01, 0x02);
    clock.advanceBy(4_400_000);
    expect(drive.isTurning()).toBe(true);
    clock.advanceBy(20_000_000);
    expect(drive.isTurning()).toBe(false);
    // Fault 31, link lost.
    expect(ask(4, 0, 21, 0, 1)).toEqual([4, 2, 0, 31]);
  });
});
