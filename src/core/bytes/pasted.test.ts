import { bytesToHex, hexNumber } from './hex';
import { LONGEST_PASTE, readPasted } from './pasted';

const read = (text: string): readonly string[] | string => {
  const pasted = readPasted(text);
  return pasted.ok
    ? pasted.value.frames.map(({ direction, bytes }) => `${direction ?? 'open'} ${bytesToHex(bytes)}`)
    : pasted.error.text;
};

// How people and programs write down what crossed a line: common practice, no source.
it.each<[string, string, readonly string[]]>([
  ['bytes alone', '03 03 01 82', ['open 03030182']],
  ['a C array', 'uint8_t f[] = { 0x03, 0x03 };', ['open 0303']],
  ['quoted text with an arrow in it', String.raw`">12\r"`, ['open 3e31320d']],
  ['TX and RX', 'TX: 03 03 01 82\nRX: 03 03 02 00 01', ['request 03030182', 'response 0303020001']],
  ['marks in brackets', '[TX] 03 03\n[RX] 03 83', ['request 0303', 'response 0383']],
  ['marks without a colon', 'Tx 03 03\r\nRx 03 83\r\n', ['request 0303', 'response 0383']],
  ['arrows', '-> 03 03\n<- 03 83', ['request 0303', 'response 0383']],
  ['typographic arrows', '→ 03 03 ← 03 83', ['request 0303', 'response 0383']],
  ['times', '12:00:01.123 TX: 03 03\n12:00:01.130 RX: 03 83', ['request 0303', 'response 0383']],
  ['times behind the mark', 'TX: [12:00:01.123] 03 03', ['request 0303']],
  ['times alone', '2026-03-01 12:00:01 03 03\n2026-03-01 12:00:02 03 83', ['open 0303', 'open 0383']],
  ['one line with both', 'request: 03 03 reply: 03 83', ['request 0303', 'response 0383']],
  ['a frame over two lines', 'TX: 03 10 00 01\n    00 02\nRX: 03 90', ['request 031000010002', 'response 0390']],
  ['a remark behind the bytes', 'TX: 03 03 01 82 (4 bytes)', ['request 03030182']],
  ['words with other notations', 'Sent: 0x03, 0x03\nReceived: 03h 83h', ['request 0303', 'response 0383']],
  ['a hex dump', '0000  03 03 01 82  |....|\n0004  00 01  |..|\n0006', ['open 030301820001']],
  ['bytes over lines', '03 03\n01 82', ['open 03030182']],
])('%s', (_, text, frames) => {
  expect(read(text)).toEqual(frames);
});

it('a fault names the character in the whole text', () => {
  const text = 'TX: 03 03\nRX: 03 8G';
  const pasted = readPasted(text);
  expect(pasted.ok).toBe(false);
  if (!pasted.ok) expect(text.slice(pasted.error.start, pasted.error.end)).toBe('G');
});

it('a long text is said to be a capture', () => {
  expect(read('03 '.repeat(LONGEST_PASTE))).toMatch(/no single frame/);
});

it('what a dump of any bytes says is those bytes, with its last offset or without', () => {
  for (let size = 17; size < 70; size += 5) {
    const bytes = Uint8Array.from({ length: size }, (_, i) => (i * 37 + size) & 0xff);
    const rows = Array.from({ length: Math.ceil(size / 16) }, (_, row) => {
      const part = bytes.subarray(16 * row, 16 * row + 16);
      return `${hexNumber(16 * row, 8).slice(2)}  ${bytesToHex(part, ' ')}  |${'.'.repeat(part.length)}|`;
    });
    expect(read(rows.join('\n'))).toEqual([`open ${bytesToHex(bytes)}`]);
    expect(read([...rows, hexNumber(size, 8).slice(2)].join('\n'))).toEqual([`open ${bytesToHex(bytes)}`]);
  }
});
