import { registerOf, ternIndex } from '../../tests/harness/sheets';
import { roleActive } from '../core/words/read';
import type { StatusRole } from '../core/words/spec';
import { VirtualClock } from '../core/time/clock';
import { Inverter } from './inverter';
import type { Nonvolatile } from './parameter-store';

/** In command of the network, with a ramp of 5 s to 55 Hz, 3 Hz at least, and a jog of 5 Hz. */
const NETWORK = { '2.01': 2, '2.02': 2, '5.01': 3, '11.02': 50, '11.04': 670, '11.06': 1117 };
const FALLBACK = { station: 1, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;

/** A drive on a virtual clock, spoken to by parameter number. */
function drive(kept: Nonvolatile = NETWORK) {
  const clock = new VirtualClock();
  const index = ternIndex();
  const memory: Nonvolatile[] = [];
  const inverter = new Inverter(index, clock, kept, FALLBACK, (values) => memory.push(values));
  const at = (number: string): number => registerOf(index.byNumber.get(number));
  const read = (number: string): number => inverter.read(at(number))!;
  const spec = index.words!.status;
  return {
    inverter,
    clock,
    memory,
    read,
    write: (number: string, ...words: number[]): number => inverter.write(at(number), words),
    is: (role: StatusRole): boolean => roleActive(spec, role, read('6.02')) === true,
    seconds: (s: number): void => clock.advanceBy(s * 1e6),
    /** Runs for a while as a controller does, repeating the control word. */
    keepRunning(word: number, s: number): void {
      for (let t = 0; t < s; t++) {
        this.write('11.01', word);
        clock.advanceBy(1e6);
      }
    },
  };
}

const READY = 0x0005;
const RUN = 0x000d;
const BACK = 0x002d;
const STOP = 0x0004;
const JOG = 0x0045;
const RESET = 0x0200;

describe('running', () => {
  it('goes from cold to ready to running and up its ramp to the reference', () => {
    const d = drive();
    expect([d.is('ready'), d.is('enabled'), d.is('turning')]).toEqual([true, false, false]);
    d.write('11.01', READY);
    expect([d.is('enabled'), d.is('turning')]).toEqual([true, false]);
    d.write('11.03', 3909);
    d.write('11.01', RUN);
    d.seconds(1);
    // Ramp 5 s to 55 Hz: 11 Hz after a second.
    expect(d.inverter.speedHz()).toBeCloseTo(11, 5);
    expect(d.is('at-speed')).toBe(false);
    d.seconds(1);
    expect(d.inverter.speedHz()).toBe(17.49);
    expect(d.is('at-speed')).toBe(true);
    // Rounding inside the drive: 3909 written, 3907 read back.
    expect(d.read('6.05')).toBe(3907);
    expect(d.read('6.04')).toBe(28);
  });

  it('starts on the first word: run without ready', () => {
    const d = drive();
    d.write('11.01', RUN);
    d.seconds(1);
    expect(d.is('turning')).toBe(true);
  });

  it('turns at its minimum speed with reference 0', () => {
    const d = drive();
    d.write('11.01', RUN);
    d.keepRunning(RUN, 3);
    expect(d.inverter.speedHz()).toBeCloseTo(2.99, 5);
  });

  it.each([
    ['reverse bit', BACK, 3909, -1],
    ['negative reference', RUN, 65536 - 3909, -1],
    ['both cancel', BACK, 65536 - 3909, 1],
    ['neither', RUN, 3909, 1],
  ])('%s', (_, word, reference, sign) => {
    const d = drive();
    d.write('11.03', reference);
    d.keepRunning(word, 3);
    expect(Math.sign(d.inverter.speedHz())).toBe(sign);
    expect(d.is('backward')).toBe(sign < 0);
  });

  it('reverses through standstill on the ramp', () => {
    const d = drive();
    d.write('11.03', 3909);
    d.keepRunning(RUN, 3);
    d.write('11.01', BACK);
    d.seconds(1);
    expect(d.inverter.speedHz()).toBeCloseTo(17.49 - 11, 5);
    d.keepRunning(BACK, 3);
    expect(d.inverter.speedHz()).toBe(-17.49);
    expect(d.read('6.05')).toBe(65536 - 3907);
  });

  it.each([
    ['stop ramps', STOP, 17.49 - 11],
    ['run taken back ramps', READY, 17.49 - 11],
    ['enable off coasts', 0x0000, 17.49 - 15],
  ])('%s', (_, word, afterOneSecond) => {
    const d = drive();
    d.write('11.03', 3909);
    d.keepRunning(RUN, 3);
    d.write('11.01', word);
    d.seconds(1);
    expect(d.inverter.speedHz()).toBeCloseTo(afterOneSecond, 5);
  });

  it('jogs at its own speed, and not at all when run contradicts it', () => {
    const d = drive();
    d.keepRunning(JOG, 2);
    expect(d.inverter.speedHz()).toBe(5);
    expect(d.is('jogging')).toBe(true);
    d.keepRunning(JOG | RUN, 3);
    expect(d.is('turning')).toBe(false);
  });

  it('is held to its maximum speed', () => {
    const d = drive();
    d.write('11.03', 12287);
    d.keepRunning(RUN, 8);
    expect(d.inverter.speedHz()).toBe(50);
  });
});

describe('who is in command', () => {
  it('with the keypad as command source it confirms every word and does nothing', () => {
    const d = drive({ ...NETWORK, '2.01': 0 });
    expect(d.write('11.01', RUN)).toBe(0);
    d.seconds(2);
    expect([d.is('turning'), d.is('network-command')]).toEqual([false, false]);
  });

  it('does not act on an old word when it is given to the network', () => {
    const d = drive({ ...NETWORK, '2.01': 0 });
    d.write('11.01', RUN);
    d.write('2.01', 2);
    d.seconds(2);
    expect(d.is('turning')).toBe(false);
    d.write('11.01', RUN);
    d.seconds(1);
    expect(d.is('turning')).toBe(true);
  });

  it('comes to rest when somebody turns the selector to local', () => {
    const d = drive();
    d.write('11.01', RUN);
    d.seconds(1);
    d.inverter.setHands({ selector: 'local', liveFault: 0 });
    d.seconds(2);
    expect([d.is('turning'), d.is('remote'), d.read('2.03')]).toEqual([false, false, 0]);
  });

  it('with another reference source it turns at minimum speed, whatever is written', () => {
    const d = drive({ ...NETWORK, '2.02': 0 });
    d.write('11.03', 3909);
    d.keepRunning(RUN, 3);
    expect(d.inverter.speedHz()).toBeCloseTo(2.99, 5);
  });
});

describe('watchdog of 3.2 s', () => {
  it('trips with nobody talking, coasts, and says fault 21', () => {
    const d = drive();
    d.write('11.03', 3909);
    d.write('11.01', RUN);
    d.seconds(3.19);
    expect(d.is('fault')).toBe(false);
    d.seconds(0.02);
    expect([d.is('fault'), d.is('warning'), d.read('6.01')]).toEqual([true, true, 21]);
    d.seconds(2);
    expect(d.is('turning')).toBe(false);
  });

  it.each([
    ['ramps', 1, [false, true, false]],
    ['is ignored', 2, [false, true, true]],
  ])('%s when its action says so', (_, action, expected) => {
    const d = drive();
    d.write('5.05', action);
    d.write('11.01', RUN);
    d.seconds(6);
    expect([d.is('fault'), d.is('warning'), d.is('turning')]).toEqual(expected);
  });

  it('is off at 0, and not armed while the shaft is not asked to turn', () => {
    const d = drive();
    d.write('11.01', READY);
    d.seconds(10);
    expect(d.is('fault')).toBe(false);
    d.write('5.04', 0);
    d.write('11.01', RUN);
    d.seconds(10);
    expect([d.is('fault'), d.is('turning')]).toEqual([false, true]);
  });
});

describe('faults', () => {
  function tripped() {
    const d = drive();
    d.write('11.01', RUN);
    d.seconds(5);
    return d;
  }

  it('are cleared by the rise of the reset bit, not by its level', () => {
    const d = tripped();
    d.write('11.01', RESET);
    expect(d.is('fault')).toBe(false);
    d.write('11.01', RESET | RUN);
    d.seconds(5);
    expect(d.is('fault')).toBe(true);
    d.write('11.01', RESET | STOP);
    expect(d.is('fault')).toBe(true);
    d.write('11.01', STOP);
    d.write('11.01', RESET | STOP);
    expect(d.is('fault')).toBe(false);
  });

  it('do not let the shaft start again with a run bit that never fell', () => {
    const d = tripped();
    d.write('11.01', RUN | RESET);
    d.seconds(1);
    expect([d.is('fault'), d.is('turning')]).toEqual([false, false]);
    d.write('11.01', READY);
    d.write('11.01', RUN);
    d.seconds(1);
    expect(d.is('turning')).toBe(true);
  });

  it('stay while their cause is there', () => {
    const d = drive();
    d.inverter.setHands({ selector: 'remote', liveFault: 12 });
    d.write('11.01', RESET);
    expect(d.read('6.01')).toBe(12);
    d.inverter.setHands({ selector: 'remote', liveFault: 0 });
    expect(d.read('6.01')).toBe(12);
    d.write('11.01', 0);
    d.write('11.01', RESET);
    expect(d.read('6.01')).toBe(0);
  });
});

describe('parameters', () => {
  it.each([
    ['no such register', '11.03', 60, 2],
    ['read only', '6.02', 0, 2],
    ['too high', '5.04', 601, 3],
    ['not a choice', '2.01', 3, 3],
    ['within limits', '5.04', 600, 0],
  ])('%s answers as the sheet says', (name, number, word, refusal) => {
    const d = drive();
    if (name === 'no such register') expect(d.inverter.write(1, [word])).toBe(refusal);
    else expect(d.write(number, word)).toBe(refusal);
  });

  it('refuses standstill settings while the shaft turns', () => {
    const d = drive();
    d.write('11.01', RUN);
    d.seconds(1);
    expect(d.write('2.01', 0)).toBe(4);
    d.write('11.01', STOP);
    d.seconds(2);
    expect(d.write('2.01', 0)).toBe(0);
  });

  it('writes several at once all or not at all', () => {
    const d = drive();
    expect(d.write('11.02', 77, 40000)).toBe(3);
    expect(d.read('11.02')).toBe(50);
    expect(d.write('11.02', 77, 100)).toBe(0);
    expect([d.read('11.02'), d.read('11.03')]).toEqual([77, 100]);
  });

  it('loses at power-off what was not kept, and keeps what was', () => {
    const d = drive();
    d.write('11.02', 90);
    d.inverter.powerCycle();
    expect(d.read('11.02')).toBe(50);
    d.write('11.02', 90);
    d.write('11.60', 1);
    expect(d.read('11.60')).toBe(0);
    expect(d.memory[0]).toMatchObject({ '11.02': 90 });
    d.write('11.03', 500);
    d.inverter.powerCycle();
    expect([d.read('11.02'), d.read('11.03')]).toEqual([90, 0]);
  });

  it('takes a new station number and bit rate only after a restart', () => {
    const d = drive();
    d.write('5.01', 9);
    d.write('5.02', 9);
    d.write('11.60', 1);
    expect(d.inverter.link()).toMatchObject({ station: 3, settings: { rate: 19200 } });
    d.inverter.powerCycle();
    expect(d.inverter.link()).toEqual({ station: 9, settings: { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 } });
  });
});

describe('what keeps a direction from turning', () => {
  it.each([
    ['2.04', 1, RUN, 3909, 1],
    ['2.04', 1, BACK, 3909, 0],
    ['2.04', 1, RUN, 0x10000 - 3909, 0],
    ['2.04', 2, RUN, 3909, 0],
    ['2.04', 2, BACK, 3909, -1],
    // Reverse and a negative reference cancel each other.
    ['2.04', 1, BACK, 0x10000 - 3909, 1],
  ])('%s = %i: word %i with reference %i turns %i', (number, value, word, reference, sign) => {
    const d = drive();
    expect(d.write(number, value)).toBe(0);
    d.write('11.03', reference);
    d.write('11.01', READY);
    d.keepRunning(word, 6);
    expect(Math.sign(d.inverter.speedHz())).toBe(sign);
  });

  it('a reference without a sign counts a negative one as 0, and turns at the minimum speed', () => {
    const d = drive();
    d.write('2.05', 1);
    d.write('11.03', 0x10000 - 3909);
    d.keepRunning(RUN, 6);
    expect(d.inverter.speedHz()).toBeCloseTo(2.99, 1);
  });
});
