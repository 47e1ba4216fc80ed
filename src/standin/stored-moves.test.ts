import { registerOf, shippedIndex } from '../../tests/harness/sheets';
import { VirtualClock } from '../core/time/clock';
import { Cia402Drive } from './cia402-drive';

const END = { station: 1, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;
const COUNTS_A_MM = 65_536 / 40;
/** Position 142572 counts as it leaves the factory. */
const START = 142_572;
const STORED = 0xffff;

/** The lift in its mode of stored moves, with operation enabled; nobody's silence ends what it does. */
function lift(kept: Record<string, number> = {}) {
  const clock = new VirtualClock();
  const index = shippedIndex('curlew');
  const own = new Cia402Drive(index, clock, { '23': 0, '76': 0, ...kept }, END, () => undefined);
  const at = (number: string): number => registerOf(index.byNumber.get(number));
  const write = (number: string, ...words: number[]): number => own.write(at(number), words);
  const read = (number: string): number => own.read(at(number))!;
  const wide = (number: string, value: number): void => {
    expect(write(number, (value >>> 16) & 0xffff, value & 0xffff)).toBe(0);
  };
  const row = (k: number, mm: number, { from = 0, rest = 0, then = 0, speed = 500 } = {}): void => {
    const base = 120 + 8 * (k - 1);
    wide(`${base}`, Math.round(mm * COUNTS_A_MM));
    wide(`${base + 2}`, speed * COUNTS_A_MM);
    for (const [i, value] of [from, rest, then].entries()) expect(write(`${base + 4 + i}`, value)).toBe(0);
  };
  expect(write('52', STORED)).toBe(0);
  for (const word of [0x06, 0x07, 0x0f]) write('50', word);
  return {
    own,
    write,
    read,
    row,
    seconds: (s: number): void => clock.advanceBy(s * 1e6),
    mm: (): number => ((read('42') * 65_536 + own.read(at('42') + 1)!) | 0) / COUNTS_A_MM,
    status: () => ({ taken: (read('41') & 0x1000) !== 0, over: (read('41') & 0x400) !== 0, underWay: read('112') }),
    start: (k: number): void => {
      write('110', k);
      write('50', 0x1f);
    },
  };
}

it('goes through its moves by itself, with their rests, and says which is under way', () => {
  const d = lift();
  d.row(1, 500, { rest: 100, then: 2 });
  d.row(2, -100, { from: 1 });
  d.start(1);
  expect(d.status()).toEqual({ taken: true, over: false, underWay: 1 });
  d.write('50', 0x0f);
  expect(d.status()).toMatchObject({ taken: false, over: false });
  // 413 mm at 500 mm/s and 1250 mm/s²: 1.23 s; it rests until 2.23 s.
  d.seconds(1.5);
  expect([d.mm(), d.status().underWay]).toEqual([500, 1]);
  d.seconds(0.9);
  expect(d.status().underWay).toBe(2);
  d.seconds(3);
  expect([d.mm(), d.status()]).toEqual([400, { taken: false, over: true, underWay: 0 }]);
});

it('takes no start of none, of one that is not there, or while one is under way', () => {
  const d = lift();
  d.row(1, 500);
  d.start(0);
  expect(d.status()).toMatchObject({ taken: false, underWay: 0 });
  expect(d.write('110', 9)).toBe(3);
  d.write('50', 0x0f);
  d.start(1);
  d.write('50', 0x0f);
  d.seconds(0.5);
  d.row(2, 900);
  d.start(2);
  expect(d.status()).toMatchObject({ taken: false, underWay: 1 });
  d.seconds(5);
  expect(d.mm()).toBe(500);
});

it.each([
  ['the stop word', (d: ReturnType<typeof lift>) => d.write('50', 0x02)],
  ['halt', (d: ReturnType<typeof lift>) => d.write('50', 0x10f)],
  ['disable operation', (d: ReturnType<typeof lift>) => d.write('50', 0x07)],
])('%s ends the whole row of moves, and nothing of it comes back', (_, stop) => {
  const d = lift();
  d.row(1, 300, { rest: 50, then: 2 });
  d.row(2, 600, { rest: 50, then: 1 });
  d.start(1);
  d.write('50', 0x0f);
  d.seconds(1);
  stop(d);
  d.seconds(5);
  const at = d.mm();
  expect([d.own.isTurning(), d.status().underWay]).toEqual([false, 0]);
  for (const word of [0x06, 0x07, 0x0f]) d.write('50', word);
  d.seconds(10);
  expect([d.own.isTurning(), d.mm()]).toEqual([false, at]);
});

it('an input starts it only where that is set, in its mode, with operation enabled', () => {
  const d = lift();
  d.row(1, 300);
  d.write('110', 1);
  d.own.pressInput(3, 300_000);
  d.seconds(1);
  expect([d.own.isTurning(), d.read('49') & 8]).toEqual([false, 0]);
  d.write('111', 1);
  d.own.pressInput(3, 300_000);
  expect(d.read('49') & 8).toBe(8);
  d.seconds(0.5);
  expect([d.status().underWay, d.status().taken]).toEqual([1, false]);
  d.seconds(5);
  expect(d.mm()).toBe(300);
  d.write('50', 0x07);
  d.row(1, 100);
  d.own.pressInput(3, 300_000);
  d.seconds(2);
  expect(d.mm()).toBe(300);
});

it('moves that go nowhere and round do not hold the drive up, and an end switch ends them', () => {
  const d = lift({ '79': 1 });
  d.row(1, START / COUNTS_A_MM, { then: 1 });
  d.start(1);
  d.seconds(1);
  expect(d.status().underWay).toBe(1);
  d.write('50', 0x02);
  d.seconds(1);
  const e = lift({ '79': 1 });
  e.row(1, 2429, { then: 2 });
  e.row(2, 2600, { then: 1 });
  e.start(1);
  e.write('50', 0x0f);
  e.seconds(20);
  expect(e.own.isTurning()).toBe(false);
});

it('a master that is not the one that was set is not let in after a restart, until a person lets any in', () => {
  const d = lift();
  d.write('50', 0x06);
  expect([d.write('21', 0xc0a8), d.write('22', 0x0007), d.write('90', 1)]).toEqual([0, 0, 0]);
  expect(d.own.admits('127.0.0.1')).toBe(true);
  d.own.powerCycle();
  expect([d.own.admits('127.0.0.1'), d.own.admits('192.168.0.7')]).toEqual([false, true]);
  d.own.letAnyMasterIn();
  expect(d.own.admits('127.0.0.1')).toBe(true);
});
