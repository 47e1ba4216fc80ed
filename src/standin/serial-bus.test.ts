import type { SerialSettings } from '../core/line/settings';
import { seededRandom } from '../core/random/random';
import { VirtualClock } from '../core/time/clock';
import { CALM } from './disturbance';
import { SerialBus, type CharacterFault, type Party } from './serial-bus';

const EVEN: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };

function bus(seed = 1) {
  const clock = new VirtualClock();
  const line = new SerialBus(clock, seededRandom(seed));
  const party = (settings: SerialSettings = EVEN) => {
    const heard: { byte: number; fault: CharacterFault; atUs: number }[] = [];
    const own: Party = {
      side: 'drives',
      settings: () => settings,
      hear: (byte, fault) => heard.push({ byte, fault, atUs: clock.now() }),
    };
    line.attach(own);
    return { own, heard };
  };
  return { clock, line, party };
}

it('a character takes its time, and the talker does not hear itself', () => {
  const { clock, line, party } = bus();
  const [a, b] = [party(), party()];
  const endUs = line.transmit(a.own, Uint8Array.of(1, 2, 3));
  clock.advanceBy(1e6);
  expect(endUs).toBeCloseTo(3 * 572.92, 0);
  expect(b.heard.map(({ byte }) => byte)).toEqual([1, 2, 3]);
  expect(b.heard[0]?.atUs).toBeCloseTo(572.92, 1);
  expect(a.heard).toEqual([]);
});

it('two talkers at once spoil each other', () => {
  const { clock, line, party } = bus();
  const [a, b, c] = [party(), party(), party()];
  line.transmit(a.own, Uint8Array.of(1, 2, 3));
  line.transmit(b.own, Uint8Array.of(4, 5, 6));
  clock.advanceBy(1e6);
  expect(c.heard.every(({ fault }) => fault === 'framing')).toBe(true);
});

it.each<[string, Partial<SerialSettings>, Partial<SerialSettings>, number[], CharacterFault[]]>([
  // A receiver twice as fast sees even values only (common practice, no source); 55 by hand in core/line/uart.test.ts.
  ['twice as fast', { rate: 9600, parity: 'N' }, { rate: 19200, parity: 'N' }, [0x66, 0xe6], ['framing', null]],
  ['odd against even parity', { parity: 'E' }, { parity: 'O' }, [0x55], ['parity']],
  ['one stop bit against two', { parity: 'N', stopBits: 2 }, { parity: 'N', stopBits: 1 }, [0x55], [null]],
])('unlike settings hear what the levels on the wire say: %s', (_, talks, hears, bytes, faults) => {
  const { clock, line, party } = bus();
  const [a, b] = [party({ ...EVEN, ...talks }), party({ ...EVEN, ...hears })];
  line.transmit(a.own, Uint8Array.of(0x55));
  clock.advanceBy(1e6);
  expect(b.heard.map(({ byte }) => byte)).toEqual(bytes);
  expect(b.heard.map(({ fault }) => fault)).toEqual(faults);
});

it('unlike ends hear nothing either when the cable is out', () => {
  const { clock, line, party } = bus();
  const [a, b] = [party(), party({ ...EVEN, rate: 9600 })];
  line.disturbance = { ...CALM, dropByte: 1 };
  line.transmit(a.own, Uint8Array.of(1, 2, 3));
  clock.advanceBy(1e6);
  expect(b.heard).toEqual([]);
});

it('drops and flips about as many as asked, and the same seed gives the same bytes', () => {
  const run = (seed: number) => {
    const { clock, line, party } = bus(seed);
    const [a, b] = [party(), party()];
    line.disturbance = { ...CALM, dropByte: 0.1, flipBits: 0.2 };
    line.transmit(a.own, new Uint8Array(5000));
    clock.advanceBy(1e8);
    return b.heard;
  };
  const heard = run(42);
  expect(heard.length).toBeGreaterThan(4300);
  expect(heard.length).toBeLessThan(4700);
  const flipped = heard.filter(({ byte }) => byte !== 0).length / heard.length;
  expect(flipped).toBeGreaterThan(0.17);
  expect(flipped).toBeLessThan(0.23);
  // A single flipped bit is seen by parity, two are not.
  expect(heard.some(({ byte, fault }) => byte !== 0 && fault === null)).toBe(true);
  expect(heard.some(({ fault }) => fault === 'parity')).toBe(true);
  expect(run(42)).toEqual(heard);
});
