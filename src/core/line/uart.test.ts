import fc from 'fast-check';
import { ascii } from '../../../tests/harness/bytes';
import { bytesToHex } from '../bytes/hex';
import { receiveUart, type UartEnd, type UartSend } from './uart';

const end = (rate: number, form = '8N1', den = 1): UartEnd => ({
  rate: { num: BigInt(rate), den: BigInt(den) },
  dataBits: form.startsWith('7') ? 7 : 8,
  parity: form[1] as UartEnd['parity'],
  stopBits: form.endsWith('2') ? 2 : 1,
});

const send = (bytes: Uint8Array, rest: Partial<UartSend> = {}): UartSend => ({
  bytes,
  gapBits: 0,
  idleBeforeBits: 20,
  idleAfterBits: 40,
  inverted: false,
  ...rest,
});

const heard = (sender: UartEnd, receiver: UartEnd, what: UartSend): string =>
  bytesToHex(
    receiveUart(sender, receiver, what).characters.map(({ byte }) => byte),
    ' ',
  );

describe('equal settings', () => {
  it('give every byte back, at any rate and form, and with a clock error that half a bit in a character allows', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 30 }),
        fc.constantFrom('8N1', '8E1', '8O1', '8N2', '7E1', '7O2'),
        fc.integer({ min: -30, max: 30 }),
        (bytes, form, perMille) => {
          const sender = end(19200, form);
          const receiver = end(19200 * 1000 + 19200 * perMille, form, 1000);
          const { characters, falseStarts, breaks } = receiveUart(sender, receiver, send(bytes));
          const mask = form.startsWith('7') ? 0x7f : 0xff;
          expect(characters.map(({ byte }) => byte)).toEqual([...bytes].map((byte) => byte & mask));
          expect(characters.some(({ frameError, parityError }) => frameError || parityError)).toBe(false);
          expect([falseStarts, breaks]).toEqual([0, 0]);
        },
      ),
      { seed: 40, numRuns: 400 },
    );
  });

  it('count time from the first idle bit', () => {
    const { characters } = receiveUart(end(9600), end(9600), send(ascii('ab')));
    // 20 idle bits, then ten bits a character.
    expect(characters.map(({ startUs }) => Math.round(startUs))).toEqual([2083, 3125]);
  });
});

describe('wrong rate (common practice, no source: stable junk that can be recognised)', () => {
  it('a receiver twice as fast sees even values only', () => {
    const junk = receiveUart(end(9600), end(19200), send(ascii('0123456789 Bujo'), { gapBits: 3 })).characters;
    expect(junk.length).toBeGreaterThan(10);
    expect(junk.every(({ byte }) => byte % 2 === 0)).toBe(true);
  });

  it('four times as fast: 00 78 80 F8 only', () => {
    const junk = receiveUart(end(9600), end(38400), send(ascii('0123456789 Bujo'), { gapBits: 3 })).characters;
    expect([...new Set(junk.map(({ byte }) => byte))].every((byte) => [0x00, 0x78, 0x80, 0xf8].includes(byte))).toBe(
      true,
    );
  });

  it.each([
    ['00, four times as fast', 0x00, 9600, 38400, '00'],
    ['FF, twice as fast', 0xff, 9600, 19200, 'fe'],
    ['55, twice as fast', 0x55, 9600, 19200, '66 e6'],
  ])('%s', (_, byte, sender, receiver, junk) => {
    expect(heard(end(sender), end(receiver), send(Uint8Array.of(byte)))).toBe(junk);
  });
});

describe('parity, stop bits, break, conductors', () => {
  it('even against odd: the bytes are right and every one has a parity fault', () => {
    const { characters } = receiveUart(end(9600, '8E1'), end(9600, '8O1'), send(ascii('drive')));
    expect(characters.map(({ byte, parityError }) => [String.fromCharCode(byte), parityError])).toEqual(
      [...'drive'].map((char) => [char, true]),
    );
  });

  it('stop bits cannot be told from a receiver that checks only one', () => {
    expect(heard(end(9600, '8N2'), end(9600, '8N1'), send(ascii('drive')))).toBe(bytesToHex(ascii('drive'), ' '));
  });

  it('a line held low is one break, not many', () => {
    // A slow sender's 00 is a break to a receiver that is ten times as fast.
    const { characters, breaks } = receiveUart(end(1200), end(12000), send(Uint8Array.of(0)));
    expect(characters).toEqual([
      { byte: 0, frameError: true, parityError: false, startUs: expect.any(Number) as number },
    ]);
    expect(breaks).toBe(1);
  });

  it('a break after bytes is heard as one 00 with a frame error, whatever its length from a whole character on', () => {
    for (const breakBits of [10, 11, 40, 200]) {
      const { characters, breaks } = receiveUart(end(9600), end(9600), send(ascii('A'), { breakBits }));
      expect(characters.map(({ byte, frameError }) => [byte, frameError])).toEqual([
        [0x41, false],
        [0, true],
      ]);
      expect(breaks).toBe(1);
    }
  });

  it('a short dip is a false start', () => {
    // At a tenth of the sender's rate the start bit of FF is over before its middle.
    expect(receiveUart(end(9600), end(960), send(Uint8Array.of(0xff)))).toEqual({
      characters: [],
      falseStarts: 1,
      breaks: 0,
    });
  });

  it('swapped conductors: idle is low, and what is heard is not what was sent', () => {
    const swapped = heard(end(9600), end(9600), send(ascii('drive'), { inverted: true }));
    expect(swapped).not.toBe('');
    expect(swapped).not.toContain(bytesToHex(ascii('d')));
  });
});

it('a sample exactly on an edge sees the level after it', () => {
  // At half the sender's rate every sample falls on an edge: start bit 0 and bit 0 of the byte make up the receiver's start bit.
  expect(heard(end(9600), end(4800), send(Uint8Array.of(0b1010_1010), { idleAfterBits: 40 }))).toBe('f8');
});
