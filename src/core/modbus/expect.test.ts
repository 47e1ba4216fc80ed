import { rtu } from '../../../tests/harness/line';
import { hex } from '../../../tests/harness/bytes';
import { bytesToHex } from '../bytes/hex';
import { RTU } from './framing';
import { expectReply, type KnownRegister } from './expect';

const nothing: KnownRegister = () => undefined;
const shown = (request: Uint8Array, known: KnownRegister = nothing): string | null => {
  const expected = expectReply(RTU, request, known);
  return expected && expected.bytes.map((byte) => (byte === null ? '??' : bytesToHex([byte]))).join(' ');
};

it.each([
  ['06 comes back as it was', '03 06 02C3 0F45', '03 06 02 c3 0f 45 bd af'],
  ['16 comes back without its values', '11 10 0001 0002 04 000A 0102', bytesToHex(rtu('11 10 0001 0002'), ' ')],
  ['a read of two unknown registers, check unknown as well', '03 03 0182 0002', '03 03 04 ?? ?? ?? ?? ?? ??'],
])('%s', (_, request, reply) => {
  expect(shown(rtu(request))).toBe(reply);
});

it('what is half known stays half known, never zero', () => {
  expect(shown(rtu('03 03 0182 0002'), (address) => (address === 0x0182 ? 0x2a0d : undefined))).toBe(
    '03 03 04 2a 0d ?? ?? ?? ??',
  );
});

it('what is wholly known has its check', () => {
  expect(shown(rtu('11 03 006B 0003'), (address) => [555, 0, 100][address - 107])).toBe(
    bytesToHex(rtu('11 03 06 022B 0000 0064'), ' '),
  );
});

it('an exception that must come is shown as one', () => {
  const expected = expectReply(RTU, rtu('03 06 0144 0259'), nothing, 3);
  expect(expected).toEqual({ bytes: [...rtu('03 86 03')], text: 'a refusal, illegal data value' });
});

it.each([
  ['a broadcast', rtu('00 06 0001 0003')],
  ['a wrong check', hex('0306 02C3 0F45 0000')],
  ['half a request', hex('0306 02')],
  ['nothing', new Uint8Array(0)],
  ['a function that is not in the table', rtu('03 2A 00')],
])('nothing is expected of %s', (_, request) => {
  expect(expectReply(RTU, request, nothing)).toBeNull();
});
