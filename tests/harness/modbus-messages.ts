import fc from 'fast-check';
import type { Direction } from '../../src/core/direction';
import type { ModbusMessage } from '../../src/core/modbus/message';

/** Messages that the standard allows, for every function and both directions. */
export type Said = readonly [Direction, ModbusMessage];

const word = fc.integer({ min: 0, max: 0xffff });
const byte = fc.integer({ min: 0, max: 0xff });
const unit = fc.integer({ min: 0, max: 247 });
const address = fc.integer({ min: 0, max: 63_000 });
const words = (max: number, min = 1) => fc.array(word, { minLength: min, maxLength: max });
const bit = fc.constantFrom(0, 1);
const hexText = (max: number) => fc.uint8Array({ maxLength: max }).map((bytes) => Buffer.from(bytes).toString('hex'));

type Body = Omit<ModbusMessage, 'unit'>;
const said = (direction: Direction, body: fc.Arbitrary<Body>): fc.Arbitrary<Said> =>
  fc.tuple(unit, body).map(([station, rest]) => [direction, { unit: station, ...rest }] as const);
const both = (body: fc.Arbitrary<Body>) => [said('request', body), said('response', body)];

/** Coils of a reply come back in whole bytes. */
const coilBytes = fc
  .array(fc.array(bit, { minLength: 8, maxLength: 8 }), { minLength: 1, maxLength: 250 })
  .map((octets) => octets.flat());

const record = fc.record({
  file: fc.integer({ min: 1, max: 0xffff }),
  record: fc.integer({ min: 0, max: 9999 }),
});

const DIAGNOSTICS_WITH_ZERO = [2, 4, 10, 11, 12, 13, 14, 15, 16, 17, 18, 20];
const PUBLIC = [1, 2, 3, 4, 5, 6, 7, 8, 11, 12, 15, 16, 17, 20, 21, 22, 23, 24, 43];

export const ALL_MESSAGES: fc.Arbitrary<Said> = fc.oneof(
  said('request', fc.record({ fc: fc.constantFrom(1, 2), address, quantity: fc.integer({ min: 1, max: 2000 }) })),
  said('response', fc.record({ fc: fc.constantFrom(1, 2), coils: coilBytes })),
  said('request', fc.record({ fc: fc.constantFrom(3, 4), address, quantity: fc.integer({ min: 1, max: 125 }) })),
  said('response', fc.record({ fc: fc.constantFrom(3, 4), values: words(125) })),
  ...both(
    fc
      .record({ address: word, on: bit })
      .map(({ address: at, on }) => ({ fc: 5, address: at, coils: [on], rawValue: on ? 0xff00 : 0 })),
  ),
  ...both(
    fc
      .record({ address: word, value: word })
      .map(({ address: at, value }) => ({ fc: 6, address: at, values: [value] })),
  ),
  said('request', fc.record({ fc: fc.constantFrom(7, 11, 12, 17) })),
  said('response', fc.record({ fc: fc.constant(7), status: byte })),
  ...both(words(126, 0).map((values) => ({ fc: 8, subFunction: 0, values: values.slice(0, 125) }))),
  ...both(fc.constantFrom(0, 0xff00).map((value) => ({ fc: 8, subFunction: 1, values: [value] }))),
  ...both(byte.map((char) => ({ fc: 8, subFunction: 3, values: [char << 8] }))),
  ...both(fc.constantFrom(...DIAGNOSTICS_WITH_ZERO).map((subFunction) => ({ fc: 8, subFunction, values: [0] }))),
  said('response', fc.record({ fc: fc.constant(11), status: word, eventCount: word })),
  said(
    'response',
    fc.record({
      fc: fc.constant(12),
      status: word,
      eventCount: word,
      messageCount: word,
      events: fc.array(byte, { maxLength: 64 }),
    }),
  ),
  said(
    'request',
    fc
      .tuple(address, fc.array(bit, { minLength: 1, maxLength: 1968 }))
      .map(([at, coils]) => ({ fc: 15, address: at, quantity: coils.length, coils })),
  ),
  said('response', fc.record({ fc: fc.constant(15), address, quantity: fc.integer({ min: 1, max: 1968 }) })),
  said(
    'request',
    fc.tuple(address, words(123)).map(([at, values]) => ({ fc: 16, address: at, quantity: values.length, values })),
  ),
  said('response', fc.record({ fc: fc.constant(16), address, quantity: fc.integer({ min: 1, max: 123 }) })),
  said('response', fc.record({ fc: fc.constant(17), serverIdHex: hexText(200), running: fc.boolean() })),
  said(
    'request',
    fc
      .array(
        fc.tuple(record, fc.integer({ min: 1, max: 100 })).map(([head, length]) => ({ ...head, length })),
        { minLength: 1, maxLength: 35 },
      )
      .map((records) => ({ fc: 20, records })),
  ),
  said(
    'response',
    fc.array(words(10), { minLength: 1, maxLength: 11 }).map((list) => ({
      fc: 20,
      records: list.map((values) => ({ length: values.length, values })),
    })),
  ),
  ...both(
    fc.array(fc.tuple(record, words(8)), { minLength: 1, maxLength: 10 }).map((list) => ({
      fc: 21,
      records: list.map(([head, values]) => ({ ...head, length: values.length, values })),
    })),
  ),
  ...both(fc.record({ fc: fc.constant(22), address: word, andMask: word, orMask: word })),
  said(
    'request',
    fc
      .tuple(address, fc.integer({ min: 1, max: 125 }), address, words(121))
      .map(([readAddress, readQuantity, writeAddress, values]) => ({
        fc: 23,
        readAddress,
        readQuantity,
        writeAddress,
        writeQuantity: values.length,
        values,
      })),
  ),
  said('response', fc.record({ fc: fc.constant(23), values: words(125) })),
  said('request', fc.record({ fc: fc.constant(24), address: word })),
  said('response', fc.record({ fc: fc.constant(24), values: words(31, 0) })),
  said(
    'request',
    fc.record({
      fc: fc.constant(43),
      meiType: fc.constant(14),
      readCode: fc.integer({ min: 1, max: 4 }),
      objectId: byte,
    }),
  ),
  said(
    'response',
    fc.record({
      fc: fc.constant(43),
      meiType: fc.constant(14),
      readCode: fc.integer({ min: 1, max: 4 }),
      conformity: fc.constantFrom(1, 2, 3, 0x81, 0x82, 0x83),
      moreFollows: fc.boolean(),
      nextObjectId: byte,
      objects: fc.array(fc.record({ id: byte, hex: hexText(20) }), { minLength: 1, maxLength: 9 }),
    }),
  ),
  ...both(fc.record({ fc: fc.constant(43), meiType: fc.constant(13), dataHex: hexText(100) })),
  said(
    'response',
    fc.record({ fc: fc.constantFrom(...PUBLIC), exception: fc.constantFrom(1, 2, 3, 4, 5, 6, 8, 10, 11) }),
  ),
);

/** User-defined functions: their body is opaque and only their check or their length closes them. */
export const USER_DEFINED: fc.Arbitrary<Said> = fc.oneof(
  ...both(fc.record({ fc: fc.constantFrom(65, 72, 100, 110), dataHex: hexText(252) })),
);
