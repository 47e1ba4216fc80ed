import fc from 'fast-check';
import { hex } from '../../../tests/harness/bytes';
import { bytesToHex } from '../bytes/hex';
import { expectReply } from './expect';
import { framingOf, RTU, TCP } from './framing';
import type { ModbusMessage } from './message';
import { pairModbus } from './pairing';
import { NEED_MORE, NOT_A_FRAME } from './scan';
import { sealTcp, TCP_MAX, withTransaction } from './tcp';

// Modbus Messaging on TCP/IP V1.0b, 3.1.3 and the example of 4.4.2.2: read one register at 5 of unit 255, transaction 0x1501.
const READ = '15 01 00 00 00 06 FF 03 00 04 00 01';
const ANSWER = '15 01 00 00 00 05 FF 03 02 00 05';

it('the guide’s example, both ways', () => {
  const asked = { transactionId: 0x1501, unit: 255, fc: 3, address: 4, quantity: 1 };
  const said = { transactionId: 0x1501, unit: 255, fc: 3, values: [5] };
  expect(TCP.read(hex(READ), 'request')).toMatchObject({ message: asked, faults: [] });
  expect(TCP.read(hex(ANSWER), 'response')).toMatchObject({ message: said, faults: [] });
  expect(TCP.encode(asked, 'request')).toEqual({ ok: true, value: hex(READ) });
  expect(TCP.encode(said, 'response')).toEqual({ ok: true, value: hex(ANSWER) });
  expect(pairModbus(asked, said)).toEqual({ kind: 'answer' });
  expect(pairModbus({ ...asked, transactionId: 2 }, said).kind).toBe('other');
});

it.each([
  ['one byte short of a header', '15 01 00 00 00 06 FF', 'request', 'too-short 0-7'],
  ['another protocol', '15 01 00 07 00 06 FF 03 00 04 00 01', 'request', 'wrong-protocol-id 2-4'],
  ['a length of one', '15 01 00 00 00 01 FF 03', 'request', 'length-mismatch 4-6'],
  ['a length beyond the standard', '15 01 00 00 00 FF FF 03 00 04 00 01', 'request', 'length-mismatch 4-6'],
  ['a frame cut short', '15 01 00 00 00 06 FF 03 00 04', 'request', 'truncated'],
  ['a byte after the frame', '15 01 00 00 00 06 FF 03 00 04 00 01 00', 'request', 'trailing-bytes 12-13'],
  ['126 registers', '15 01 00 00 00 06 FF 03 00 04 00 7E', 'request', 'quantity-out-of-range 10-12'],
  ['a count that lies', '15 01 00 00 00 05 FF 03 04 00 05', 'response', 'byte-count-mismatch 8-9'],
  ['a function that is not in the table', '15 01 00 00 00 02 FF 2A', 'request', 'unknown-function 7-8'],
] as const)('%s is named at its bytes', (_, text, direction, expected) => {
  const { faults } = TCP.read(hex(text), direction);
  expect(faults.map(({ code, start, end }) => `${code} ${start}-${end}`).join(', ')).toContain(expected);
});

const message = fc
  .record({
    transactionId: fc.integer({ min: 0, max: 0xffff }),
    unit: fc.integer({ min: 0, max: 255 }),
    address: fc.integer({ min: 0, max: 0xff00 }),
    values: fc.array(fc.integer({ min: 0, max: 0xffff }), { minLength: 1, maxLength: 123 }),
    fc: fc.constantFrom(3, 4, 6, 16),
  })
  .map(({ values, ...head }): ModbusMessage =>
    head.fc === 6
      ? { ...head, values: values.slice(0, 1) }
      : head.fc === 16
        ? { ...head, quantity: values.length, values }
        : { ...head, quantity: values.length },
  );

it('what is built is read back the same, its leaves cover every byte once, and a stream finds it wherever it is cut', () => {
  fc.assert(
    fc.property(message, fc.nat(), (built, cut) => {
      const bytes = TCP.encode(built, 'request');
      if (!bytes.ok) throw new Error(bytes.error[0]?.text);
      const reading = TCP.read(bytes.value, 'request');
      expect(reading.message).toEqual(built);
      let at = 0;
      for (const { start, end } of TCP.anatomy(bytes.value, reading)) {
        expect(start).toBe(at);
        at = end;
      }
      expect(at).toBe(bytes.value.length);
      const part = cut % bytes.value.length;
      expect(TCP.probe(bytes.value, 0, part, 'request')).toBe(NEED_MORE);
      expect(TCP.probe(bytes.value, 0, bytes.value.length, 'request')).toBe(bytes.value.length);
    }),
    { seed: 41, numRuns: 300 },
  );
});

it('any bytes are read without a throw, and every fault is inside them', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), fc.constantFrom('request', 'response'), (bytes, direction) => {
      const reading = TCP.read(bytes, direction);
      for (const { start, end } of reading.faults) expect(0 <= start && start <= end && end <= bytes.length).toBe(true);
      TCP.anatomy(bytes, reading);
    }),
    { seed: 42, numRuns: 1000 },
  );
});

it('longest frame: 125 registers fit, 260 bytes are the limit', () => {
  const values = Array.from({ length: 125 }, (_, i) => i);
  const built = TCP.encode({ transactionId: 1, unit: 1, fc: 3, values }, 'response');
  expect(built.ok && built.value.length).toBe(259);
  expect(TCP_MAX).toBe(260);
});

it('a stream that cannot be Modbus is told at once', () => {
  expect(TCP.probe(hex('00 01 00 05'), 0, 4, 'response')).toBe(NOT_A_FRAME);
  expect(TCP.probe(hex('00 01 00 00'), 0, 4, 'response')).toBe(NEED_MORE);
});

it('the expected reply carries the transaction and leaves unknown values open', () => {
  const expected = expectReply(TCP, hex('00 07 00 00 00 06 01 03 00 04 00 02'), (address) =>
    address === 4 ? 0x1234 : undefined,
  );
  expect(expected?.bytes).toEqual([0, 7, 0, 0, 0, 7, 1, 3, 4, 0x12, 0x34, null, null]);
  // Over TCP unit 0 is the device itself, not everyone.
  expect(expectReply(TCP, hex('00 07 00 00 00 06 00 03 00 04 00 01'), () => 1)).not.toBeNull();
});

it('length and transaction can be made right after an edit', () => {
  expect(bytesToHex(sealTcp(hex('00 01 00 00 00 00 01 03 00 00 00 01')))).toBe('000100000006010300000001');
  expect(bytesToHex(withTransaction(hex(READ), 9)).slice(0, 4)).toBe('0009');
});

it('a line’s protocol chooses the packing', () => {
  expect(framingOf('modbus-tcp')).toBe(TCP);
  expect(framingOf('modbus-rtu')).toBe(RTU);
});
