import type { ModbusTable } from '../registers/tables';
import type {
  Amount,
  Answer,
  Chosen,
  DataRule,
  FunctionSpec,
  Item,
  Layout,
  Limit,
  RecordForm,
  ScalarName,
  Touches,
} from './layout';
import type { ModbusMessage } from './message';

/**
 * All public functions as data. Source: Modbus Application Protocol V1.1b3, section 6.
 */

const u8 = (name: ScalarName, label: string): Item => ({ kind: 'u8', name, label });
const u16 = (name: ScalarName, label: string): Item => ({ kind: 'u16', name, label });

const ADDRESS = u16('address', 'address');
const QUANTITY = u16('quantity', 'quantity');
const COUNT: Item = { kind: 'count', name: 'byteCount', label: 'byte count', width: 1 };
const VALUES: Item = { kind: 'words', name: 'values', label: 'value' };
const ONE_VALUE: Item = { kind: 'words', name: 'values', label: 'value', fixed: 1 };
const COILS: Item = { kind: 'bits', name: 'coils', label: 'coil' };
const ONE_COIL: Item = { kind: 'coil', name: 'coils', label: 'coil' };

const NOTHING: Layout = { items: [], limits: [] };
const only = (...items: readonly Item[]): Layout => ({ items, limits: [] });

const range = (field: ScalarName, min: number, max: number, noun?: string): Limit => ({
  kind: 'range',
  field,
  min,
  max,
  ...(noun ? { noun } : {}),
});
const span = (noun: string, address: ScalarName = 'address', quantity: ScalarName = 'quantity'): Limit => ({
  kind: 'span',
  address,
  quantity,
  noun,
});
const REGISTERS_READ: Limit = { kind: 'bytes', min: 2, max: 250, step: 2 };

const octets = (coils: number | undefined): number => Math.ceil((coils ?? 0) / 8);
const COIL_BYTES: Amount = {
  noun: 'byte',
  asked: ({ quantity }) => octets(quantity),
  came: ({ coils }) => octets(coils?.length),
};
const REGISTERS: Amount = {
  noun: 'register',
  asked: ({ quantity }) => quantity ?? 0,
  came: ({ values }) => values?.length ?? 0,
};
const RECORDS: Amount = {
  noun: 'record',
  asked: ({ records: asked }) => asked?.length ?? 0,
  came: ({ records: came }) => came?.length ?? 0,
};

const ECHO: Answer = { kind: 'echo' };
const RANGE: Answer = { kind: 'range' };
const unknown = (blank: (request: ModbusMessage) => Partial<ModbusMessage>): Answer => ({ kind: 'unknown', blank });
const zeros = (count: number): number[] => new Array<number>(count).fill(0);

const reading = (table: ModbusTable): Touches => ({ table, reads: { first: 'address', quantity: 'quantity' } });
const writing = (table: ModbusTable): Touches => ({ table, writes: 'address' });

const readBits = (name: string, table: ModbusTable): FunctionSpec => ({
  name,
  writes: false,
  request: { items: [ADDRESS, QUANTITY], limits: [range('quantity', 1, 2000, 'coil'), span('coils')] },
  response: { items: [COUNT, COILS], limits: [{ kind: 'bytes', min: 1, max: 250 }] },
  touches: reading(table),
  brings: COIL_BYTES,
  answer: unknown(({ quantity }) => ({ coils: zeros(8 * octets(quantity)) })),
});

const readRegisters = (name: string, table: ModbusTable): FunctionSpec => ({
  name,
  writes: false,
  request: { items: [ADDRESS, QUANTITY], limits: [range('quantity', 1, 125, 'register'), span('registers')] },
  response: { items: [COUNT, VALUES], limits: [REGISTERS_READ] },
  touches: reading(table),
  brings: REGISTERS,
  answer: { kind: 'registers' },
});

/** What is written comes back unchanged. */
const echoed = (name: string, layout: Layout, more: Partial<FunctionSpec>): FunctionSpec => ({
  name,
  writes: true,
  request: layout,
  response: layout,
  answer: ECHO,
  ...more,
});

const asked = (name: string, request: Layout, response: Layout, more: Partial<FunctionSpec> = {}): FunctionSpec => ({
  name,
  writes: false,
  request,
  response,
  ...more,
});

const records = (form: RecordForm): Item => ({ kind: 'records', name: 'records', label: 'record', form });

const READ_CODES: Limit = { kind: 'one-of', field: 'readCode', values: [1, 2, 3, 4], text: 'the read code is 1 to 4' };
const CONFORMITY: Limit = {
  kind: 'one-of',
  field: 'conformity',
  values: [1, 2, 3, 0x81, 0x82, 0x83],
  text: 'the conformity level is 1 to 3, or 81 to 83 hex',
};

/** 2B/0D belongs to another bus: its body is opaque here (section 6.20). */
const OPAQUE = only(u8('meiType', 'transport'), { kind: 'opaque', name: 'dataHex', label: 'data' });

const TRANSPORT_BACK: Partial<FunctionSpec> = { repeats: ['meiType', 'readCode'] };

const TRANSPORTS: Limit = { kind: 'one-of', field: 'meiType', values: [13, 14], text: 'the transport is 13 or 14' };

const SUB_FUNCTION = u16('subFunction', 'sub-function');
const DATA: Item = { kind: 'words', name: 'values', label: 'data', fixed: 1 };

const ALL_BACK: Partial<FunctionSpec> = { repeats: ['subFunction', 'values'], answer: ECHO };

/** A diagnostic with one data word; its response repeats the request, or holds a number. */
const diagnostic = (name: string, rule: DataRule, answer: 'echo' | 'number'): FunctionSpec => {
  const request: Layout = { items: [SUB_FUNCTION, DATA], limits: [{ kind: 'data', rule }] };
  return answer === 'echo'
    ? asked(name, request, request, ALL_BACK)
    : asked(name, request, only(SUB_FUNCTION, DATA), {
        repeats: ['subFunction'],
        answer: unknown(({ subFunction = 0 }) => ({ subFunction, values: [0] })),
      });
};

/** Sub-functions of 08, section 6.8.1. Data of any length comes back for 0; 4 is obeyed in silence. */
export const DIAGNOSTICS: Readonly<Partial<Record<number, FunctionSpec>>> = {
  0: asked('return query data', only(SUB_FUNCTION, VALUES), only(SUB_FUNCTION, VALUES), ALL_BACK),
  1: diagnostic('restart communications', 'zero-or-ff00', 'echo'),
  2: diagnostic('return diagnostic register', 'zero', 'number'),
  3: diagnostic('change ASCII end character', 'character', 'echo'),
  4: diagnostic('force listen only', 'zero', 'echo'),
  10: diagnostic('clear counters and diagnostic register', 'zero', 'echo'),
  11: diagnostic('bus message count', 'zero', 'number'),
  12: diagnostic('bus communication error count', 'zero', 'number'),
  13: diagnostic('bus exception error count', 'zero', 'number'),
  14: diagnostic('server message count', 'zero', 'number'),
  15: diagnostic('server no response count', 'zero', 'number'),
  16: diagnostic('server NAK count', 'zero', 'number'),
  17: diagnostic('server busy count', 'zero', 'number'),
  18: diagnostic('bus character overrun count', 'zero', 'number'),
  20: diagnostic('clear overrun counter and flag', 'zero', 'echo'),
};

const RESERVED: Layout = {
  items: [SUB_FUNCTION, VALUES],
  limits: [
    {
      kind: 'one-of',
      field: 'subFunction',
      values: Object.keys(DIAGNOSTICS).map(Number),
      text: 'sub-functions 0 to 4, 10 to 18 and 20 exist, others are reserved',
    },
  ],
};
const RESERVED_DIAGNOSTIC = asked('reserved diagnostic', RESERVED, RESERVED, ALL_BACK);

export const FUNCTIONS: Readonly<Partial<Record<number, FunctionSpec | Chosen>>> = {
  1: readBits('read coils', 'coil'),
  2: readBits('read discrete inputs', 'discrete-input'),
  3: readRegisters('read holding registers', 'holding-register'),
  4: readRegisters('read input registers', 'input-register'),
  5: echoed('write one coil', only(ADDRESS, ONE_COIL), { touches: writing('coil'), repeats: ['address', 'rawValue'] }),
  6: echoed('write one register', only(ADDRESS, ONE_VALUE), {
    touches: writing('holding-register'),
    repeats: ['address', 'values'],
  }),
  7: asked('read exception status', NOTHING, only(u8('status', 'status')), { answer: unknown(() => ({ status: 0 })) }),
  8: { name: 'diagnostics', writes: false, width: 2, variants: DIAGNOSTICS, other: RESERVED_DIAGNOSTIC },
  11: asked('get event counter', NOTHING, only(u16('status', 'status'), u16('eventCount', 'event count')), {
    answer: unknown(() => ({ status: 0, eventCount: 0 })),
  }),
  12: asked('get event log', NOTHING, {
    items: [
      COUNT,
      u16('status', 'status'),
      u16('eventCount', 'event count'),
      u16('messageCount', 'message count'),
      { kind: 'events', name: 'events', label: 'event' },
    ],
    limits: [{ kind: 'bytes', min: 6, max: 70 }],
  }),
  15: {
    name: 'write several coils',
    writes: true,
    request: {
      items: [ADDRESS, QUANTITY, COUNT, COILS],
      limits: [
        range('quantity', 1, 1968, 'coil'),
        span('coils'),
        { kind: 'count-is-quantity', quantity: 'quantity', per: 'coil' },
        { kind: 'padding', quantity: 'quantity' },
      ],
    },
    response: { items: [ADDRESS, QUANTITY], limits: [range('quantity', 1, 1968, 'coil'), span('coils')] },
    touches: writing('coil'),
    repeats: ['address', 'quantity'],
    answer: RANGE,
  },
  16: {
    name: 'write several registers',
    writes: true,
    request: {
      items: [ADDRESS, QUANTITY, COUNT, VALUES],
      limits: [
        range('quantity', 1, 123, 'register'),
        span('registers'),
        { kind: 'count-is-quantity', quantity: 'quantity', per: 'register' },
      ],
    },
    response: { items: [ADDRESS, QUANTITY], limits: [range('quantity', 1, 123, 'register'), span('registers')] },
    touches: writing('holding-register'),
    repeats: ['address', 'quantity'],
    answer: RANGE,
  },
  17: asked('report server identity', NOTHING, {
    items: [COUNT, { kind: 'identity', name: 'serverIdHex', label: 'identity' }],
    limits: [{ kind: 'bytes', min: 1, max: 251 }],
  }),
  20: asked(
    'read file record',
    { items: [COUNT, records('ask')], limits: [{ kind: 'bytes', min: 7, max: 245 }] },
    // The standard prints 7 as the least here too, which a reply of one register could not meet: it has 4.
    { items: [COUNT, records('given')], limits: [{ kind: 'bytes', min: 4, max: 245 }] },
    {
      brings: RECORDS,
      answer: unknown(({ records: list = [] }) => ({
        records: list.map(({ length = 0 }) => ({ values: zeros(length) })),
      })),
    },
  ),
  21: echoed(
    'write file record',
    { items: [COUNT, records('write')], limits: [{ kind: 'bytes', min: 9, max: 251 }] },
    { repeats: ['records'] },
  ),
  22: echoed('mask write register', only(ADDRESS, u16('andMask', 'AND mask'), u16('orMask', 'OR mask')), {
    touches: writing('holding-register'),
    repeats: ['address', 'andMask', 'orMask'],
  }),
  23: {
    name: 'read and write several registers',
    writes: true,
    request: {
      items: [
        u16('readAddress', 'read address'),
        u16('readQuantity', 'read quantity'),
        u16('writeAddress', 'write address'),
        u16('writeQuantity', 'write quantity'),
        COUNT,
        VALUES,
      ],
      limits: [
        range('readQuantity', 1, 125, 'register'),
        range('writeQuantity', 1, 121, 'register'),
        span('registers', 'readAddress', 'readQuantity'),
        span('registers', 'writeAddress', 'writeQuantity'),
        { kind: 'count-is-quantity', quantity: 'writeQuantity', per: 'register' },
      ],
    },
    response: { items: [COUNT, VALUES], limits: [REGISTERS_READ] },
    touches: {
      table: 'holding-register',
      reads: { first: 'readAddress', quantity: 'readQuantity' },
      writes: 'writeAddress',
    },
    brings: { ...REGISTERS, asked: ({ readQuantity }) => readQuantity ?? 0 },
    answer: { kind: 'registers' },
  },
  24: asked(
    'read FIFO queue',
    only(ADDRESS),
    {
      items: [
        { kind: 'count', name: 'byteCount', label: 'byte count', width: 2 },
        { kind: 'tally', name: 'fifoCount', label: 'queue count', width: 2 },
        VALUES,
      ],
      limits: [{ kind: 'queue', max: 31 }],
    },
    { touches: { table: 'holding-register' } },
  ),
  43: {
    name: 'encapsulated transport',
    writes: false,
    width: 1,
    other: {
      ...asked('encapsulated transport', OPAQUE, OPAQUE, TRANSPORT_BACK),
      request: { ...OPAQUE, limits: [TRANSPORTS] },
      response: { ...OPAQUE, limits: [TRANSPORTS] },
    },
    variants: {
      13: asked('general reference of another bus', OPAQUE, OPAQUE, TRANSPORT_BACK),
      14: asked(
        'read device identification',
        {
          items: [u8('meiType', 'transport'), u8('readCode', 'read code'), u8('objectId', 'object')],
          limits: [READ_CODES],
        },
        {
          items: [
            u8('meiType', 'transport'),
            u8('readCode', 'read code'),
            u8('conformity', 'conformity'),
            { kind: 'flag', name: 'moreFollows', label: 'more follows' },
            u8('nextObjectId', 'next object'),
            { kind: 'tally', name: 'objectCount', label: 'objects', width: 1 },
            { kind: 'objects', name: 'objects', label: 'object' },
          ],
          limits: [READ_CODES, CONFORMITY],
        },
        TRANSPORT_BACK,
      ),
    },
  },
};
