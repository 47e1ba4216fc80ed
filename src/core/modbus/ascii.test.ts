import { ascii } from '../../../tests/harness/bytes';
import published from '../../../tests/published/modbus.json';
import { bytesToText } from '../bytes/text';
import { leavesOf } from '../bytes/field';
import { anatomyAscii } from './anatomy';
import { readAscii, sealAscii } from './ascii';
import { encodeAscii } from './encode';
import type { Direction } from '../direction';

/** The LRC by hand: the sum of the bytes taken from 256 (Modbus over Serial Line V1.02, 2.5.2.2). */
function framed(pdu: string): Uint8Array {
  const bytes = [0x11, ...Buffer.from(pdu.replaceAll(' ', ''), 'hex')];
  const lrc = (256 - (bytes.reduce((sum, byte) => sum + byte, 0) % 256)) % 256;
  return ascii(
    `:${Buffer.from([...bytes, lrc])
      .toString('hex')
      .toUpperCase()}\r\n`,
  );
}

describe(`${published.source} (in ASCII)`, () => {
  it.each(published.cases)('$name', ({ direction, pdu, message }) => {
    const chars = framed(pdu);
    const reading = readAscii(chars, direction as Direction);
    expect(reading.faults).toEqual([]);
    expect(reading.message).toEqual({ unit: 0x11, ...message });
    const built = encodeAscii({ unit: 0x11, ...message }, direction as Direction);
    expect(built.ok && bytesToText(built.value)).toBe(bytesToText(chars));
  });
});

describe('faults stand at their characters', () => {
  it.each([
    ['no colon', '010300000001FB\r\n', ['missing-start', 0, 1]],
    ['no end', ':010300000001FB', ['missing-end', 15, 15]],
    ['LF alone', ':010300000001FB\n', ['missing-end', 15, 16]],
    ['CR alone', ':010300000001FB\r', ['missing-end', 15, 16]],
    ['a letter that is no digit', ':01030000O001FB\r\n', ['bad-hex-digit', 9, 10]],
    ['one digit short', ':01030000001FB\r\n', ['odd-hex-digits', 13, 14]],
    ['a wrong check', ':010300000001FC\r\n', ['checksum-mismatch', 13, 15]],
    ['a second colon', ':0103:010300000001FB\r\n', ['restarted', 5, 6]],
    ['more after the end', ':010300000001FB\r\nAB', ['trailing-bytes', 17, 19]],
    ['too short', ':01FF\r\n', ['too-short', 1, 5]],
    ['nothing', '', ['too-short', 0, 0]],
  ] as const)('%s', (_, text, [code, start, end]) => {
    expect(readAscii(ascii(text), 'request').faults).toEqual([expect.objectContaining({ code, start, end })]);
  });

  it('digits in small letters are read', () => {
    expect(readAscii(ascii(':010300000001fb\r\n'), 'request').faults).toEqual([]);
  });

  it('what stands before a broken digit is still told', () => {
    expect(readAscii(ascii(':0106001700!1\r\n'), 'request').message).toMatchObject({ unit: 1, fc: 6, address: 0x17 });
  });
});

it('the longest frame has 513 characters, and one more byte is refused', () => {
  const whole = encodeAscii({ unit: 1, fc: 65, dataHex: '00'.repeat(252) }, 'request');
  expect(whole.ok && whole.value.length).toBe(513);
  expect(encodeAscii({ unit: 1, fc: 65, dataHex: '00'.repeat(253) }, 'request').ok).toBe(false);
});

it('fields stand over their pairs of characters', () => {
  const chars = ascii(':010300000001FB\r\n');
  const leaves = leavesOf(anatomyAscii(chars, readAscii(chars, 'request')));
  expect(leaves.map(({ path, start, end, value }) => [path, start, end, value])).toEqual([
    ['start', 0, 1, ':'],
    ['unit', 1, 3, 1],
    ['fc', 3, 5, 3],
    ['address', 5, 9, 0],
    ['quantity', 9, 13, 1],
    ['check', 13, 15, 0xfb],
    ['end', 15, 17, '0d0a'],
  ]);
});

it('sealing mends the check and leaves what is no frame alone', () => {
  expect(bytesToText(sealAscii(ascii(':01030000000100\r\n')))).toBe(':010300000001FB\r\n');
  expect(bytesToText(sealAscii(ascii(':0103Z\r\n')))).toBe(':0103Z\r\n');
});
