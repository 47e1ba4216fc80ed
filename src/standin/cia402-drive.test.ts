import { registerOf, shippedIndex } from '../../tests/harness/sheets';
import { VirtualClock } from '../core/time/clock';
import { Cia402Drive } from './cia402-drive';

const END = { station: 7, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;

function drive(sheet: 'wren' | 'curlew') {
  const clock = new VirtualClock();
  const index = shippedIndex(sheet);
  const own = new Cia402Drive(index, clock, {}, END, () => undefined);
  const at = (number: string): number => registerOf(index.byNumber.get(number));
  const read = (number: string): number => own.read(at(number))!;
  return {
    own,
    read,
    write: (number: string, ...words: number[]): number => own.write(at(number), words),
    seconds: (s: number): void => clock.advanceBy(s * 1e6),
    signed: (number: string): number => (read(number) << 16) >> 16,
    position: (): number => (read('42') * 65_536 + own.read(at('42') + 1)!) | 0,
    polled(s: number): void {
      for (let t = 0; t < s * 10; t++) {
        own.heard();
        clock.advanceBy(100_000);
      }
    },
  };
}

/** Wren: control 20, target 21, status 30, actual 31, watchdog 13. */
describe('velocity mode', () => {
  it('0x000F enables and stands, 0x007F turns: at its minimum speed without a target', () => {
    const d = drive('wren');
    for (const word of [0x06, 0x07, 0x0f]) d.write('20', word);
    d.polled(2);
    expect([d.read('30') & 0x6f, d.signed('31')]).toEqual([0x27, 0]);
    d.write('20', 0x7f);
    d.polled(2);
    expect(d.signed('31')).toBe(75);
  });

  it('follows its ramp (4 s to full scale), holds it while bit 5 is 0, and halts by bit 8', () => {
    const d = drive('wren');
    d.write('21', 1200);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('20', word);
    d.polled(2);
    expect(d.signed('31')).toBe(750);
    d.write('20', 0x5f);
    d.polled(2);
    expect(d.signed('31')).toBe(750);
    d.write('20', 0x17f);
    d.polled(5);
    expect(d.signed('31')).toBe(0);
    expect(d.read('30') & 0x6f).toBe(0x27);
  });

  it('turns backward by the sign of its target', () => {
    const d = drive('wren');
    d.write('21', 0x10000 - 600);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('20', word);
    d.polled(3);
    expect(d.signed('31')).toBe(-600);
  });

  it.each([
    [650, 620],
    [680, 680],
    [-650, -620],
    [600, 600],
  ])('does not stay in its skip band: %i rpm asked, %i turned', (asked, turned) => {
    const d = drive('wren');
    d.write('21', (asked + 0x10000) & 0xffff);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('20', word);
    d.polled(3);
    expect(d.signed('31')).toBe(turned);
  });

  it('trips its watchdog when nobody asks any more, and the reaction takes time', () => {
    const d = drive('wren');
    for (const word of [0x06, 0x07, 0x0f]) d.write('20', word);
    d.seconds(2.4);
    expect(d.read('30') & 0x4f).toBe(0x07);
    d.seconds(0.2);
    expect(d.read('30') & 0x4f).toBe(0x0f);
    d.seconds(1);
    expect([d.read('30') & 0x4f, d.read('33')]).toEqual([0x08, 29]);
  });

  it('does not look at its word while commands come from the keypad, and says so in bit 9', () => {
    const d = drive('wren');
    d.write('15', 0);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('20', word);
    expect(d.read('30')).toBe(0x0050);
  });

  it('is not ready while it starts', () => {
    const d = drive('wren');
    d.own.powerCycle();
    expect(d.own.isUp()).toBe(false);
    d.seconds(1.9);
    expect([d.own.isUp(), d.read('30') & 0x4f]).toEqual([true, 0x00]);
    d.seconds(0.3);
    expect(d.read('30') & 0x4f).toBe(0x40);
  });
});

/** Curlew: control 50, mode 52, target 53 and 54, position 42 and 43, status 41. */
describe('profile position', () => {
  const ACK = 0x1000;
  const REACHED = 0x400;

  function positioning() {
    const d = drive('curlew');
    d.write('52', 1);
    for (const word of [0x06, 0x07, 0x0f]) d.write('50', word);
    const target = (counts: number): void => {
      d.write('53', (counts >> 16) & 0xffff, counts & 0xffff);
    };
    return { ...d, target, bits: () => d.read('41') & (ACK | REACHED) };
  }

  it('takes a set-point as bit 4 rises, acknowledges it, and reaches it', () => {
    const d = positioning();
    d.target(655_360);
    d.write('50', 0x1f);
    expect(d.bits()).toBe(ACK);
    d.write('50', 0x0f);
    expect(d.bits()).toBe(0);
    d.polled(8);
    expect([d.bits(), d.position()]).toEqual([REACHED, 655_360]);
  });

  it('takes nothing while bit 4 stays up', () => {
    const d = positioning();
    d.target(655_360);
    d.write('50', 0x1f);
    d.polled(8);
    d.target(0);
    d.write('50', 0x1f);
    d.polled(8);
    expect(d.position()).toBe(655_360);
  });

  it('goes on from its last target when relative, and keeps one set-point waiting', () => {
    const d = positioning();
    d.target(327_680);
    d.write('50', 0x1f);
    d.write('50', 0x0f);
    d.target(65_536);
    d.write('50', 0x5f);
    expect(d.bits()).toBe(ACK);
    d.write('50', 0x0f);
    // Still waiting for its turn: not ready for another one.
    expect(d.bits()).toBe(ACK);
    d.polled(12);
    expect([d.bits(), d.position()]).toEqual([REACHED, 393_216]);
  });

  it('changes at once with bit 5', () => {
    const d = positioning();
    d.target(6_553_600);
    d.write('50', 0x1f);
    d.polled(1);
    d.write('50', 0x0f);
    d.target(0);
    d.write('50', 0x3f);
    d.polled(10);
    expect(d.position()).toBe(0);
  });

  it('brakes on quick stop and forgets the move', () => {
    const d = positioning();
    d.target(6_553_600);
    d.write('50', 0x1f);
    d.polled(1);
    d.write('50', 0x02);
    d.polled(2);
    const stood = d.position();
    d.polled(2);
    expect(d.position()).toBe(stood);
    expect(d.read('41') & 0x6f).toBe(0x07);
    expect(d.own.isTurning()).toBe(false);
  });

  it('keeps counting from where velocity mode left it', () => {
    const d = drive('curlew');
    const from = d.position();
    d.write('51', 1638);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('50', word);
    d.polled(3);
    d.write('50', 0x0f);
    d.polled(1);
    // 300 rpm for 3 s after a short ramp: about 15 turns.
    expect(Math.abs(d.position() - from - 15 * 65_536)).toBeLessThan(65_536);
    expect(d.write('52', 1)).toBe(0);
  });

  it('does not change its mode while it turns', () => {
    const d = drive('curlew');
    d.write('51', 1638);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('50', word);
    d.polled(1);
    expect(d.write('52', 1)).toBe(4);
  });
});

/** Curlew: 69 and 71 software limits, 79 end switches, 80 homing method, 87 offset, 49 inputs; 1638.4 counts a millimetre. */
describe('homing and limits', () => {
  const wide = (d: ReturnType<typeof drive>, number: string, counts: number): number =>
    d.write(number, (counts >> 16) & 0xffff, counts & 0xffff);

  it.each([
    [17, 'lower end switch', -20],
    [18, 'upper end switch', 2430],
    [20, 'home switch', -20 + 2450 / 4],
    [37, 'here', 87.02],
  ])('method %i ends at the %s and shows minus the offset there', (method, _, homeMm) => {
    const d = drive('curlew');
    const before = d.position();
    d.write('80', method);
    wide(d, '87', 16_384);
    d.write('52', 6);
    for (const word of [0x06, 0x07, 0x0f]) d.write('50', word);
    expect(d.read('41') & 0x3400).toBe(0x400);
    d.write('50', 0x1f);
    if (method !== 37) expect(d.read('41') & 0x3400).toBe(0);
    d.polled(120);
    expect(d.read('41') & 0x3400).toBe(0x1400);
    // 10 mm of offset: home shows -10 mm, and what was shown before is moved by as much.
    expect(d.position()).toBe(-16_384);
    d.write('50', 0x0f);
    d.write('52', 1);
    wide(d, '53', Math.round(before - homeMm * 1638.4) - 16_384);
    d.write('50', 0x1f);
    d.polled(10);
    expect(d.read('41') & 0x400).toBe(0x400);
  });

  it('homing that is let go of stops, and home is not known', () => {
    const d = drive('curlew');
    d.write('52', 6);
    for (const word of [0x06, 0x07, 0x0f, 0x1f]) d.write('50', word);
    d.polled(0.5);
    expect(d.own.isTurning()).toBe(true);
    d.write('50', 0x0f);
    d.polled(2);
    expect([d.own.isTurning(), d.read('41') & 0x3400]).toEqual([false, 0x400]);
  });

  it('a target beyond the software limits is cut to them, and the status says that a limit acts', () => {
    const d = drive('curlew');
    expect([wide(d, '69', 0), wide(d, '71', 327_680)]).toEqual([0, 0]);
    d.write('52', 1);
    for (const word of [0x06, 0x07, 0x0f]) d.write('50', word);
    wide(d, '53', 3_000_000);
    d.write('50', 0x1f);
    d.polled(10);
    expect([d.position(), d.read('41') & 0xc00]).toEqual([327_680, 0xc00]);
  });

  it('an end switch stops the axis in velocity mode too, and lets it go back', () => {
    const d = drive('curlew');
    d.write('79', 1);
    d.write('51', 0x10000 - 3277);
    for (const word of [0x06, 0x07, 0x0f, 0x7f]) d.write('50', word);
    d.polled(5);
    expect([d.signed('45'), d.read('49') & 1, d.read('41') & 0x800]).toEqual([0, 1, 0x800]);
    d.write('51', 3277);
    d.polled(1);
    expect(d.signed('45')).toBeGreaterThan(0);
    expect(d.read('41') & 0x800).toBe(0);
  });

  it('a following error that is not allowed trips the drive with its own fault', () => {
    const d = drive('curlew');
    wide(d, '76', 1000);
    d.write('52', 1);
    for (const word of [0x06, 0x07, 0x0f]) d.write('50', word);
    wide(d, '53', 3_000_000);
    d.write('50', 0x1f);
    d.polled(3);
    expect([d.read('41') & 0x4f, d.read('40'), d.own.isTurning()]).toEqual([0x08, 23, false]);
  });
});
