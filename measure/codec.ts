import { EventEmitter } from 'node:events';
import { createRequire } from 'node:module';
import crc16modbus from 'crc/crc16modbus';
import { crc16 } from '../src/core/checksum/crc16';
import { anatomyRtu } from '../src/core/modbus/anatomy';
import { encodeRtu } from '../src/core/modbus/encode';
import { readRtu } from '../src/core/modbus/rtu';
import { RtuStream } from '../src/core/modbus/stream';
import { pick, seededRandom } from '../src/core/random/random';
import { claim, note, race, ratioOf } from './measure';

const require = createRequire(import.meta.url);

/** Peers without types of their own for the parts that are used here. */
interface JsmodbusHandler {
  handleData(data: Buffer): void;
  shift(): { body: { valuesAsArray: ArrayLike<number> }; crc: number } | undefined;
}
const JsmodbusResponseHandler = (
  require('jsmodbus/dist/rtu-client-response-handler.js') as { default: new () => JsmodbusHandler }
).default;
const ModbusSerial = require('modbus-serial/index.js') as new (port: EventEmitter) => ModbusSerialClient;
interface ModbusSerialClient {
  open(done: (error?: Error) => void): void;
  setID(id: number): void;
  writeFC3(
    unit: number,
    address: number,
    quantity: number,
    done: (error: Error | null, data?: { data: number[] }) => void,
  ): void;
}

const REPLIES = 200_000;
const REGISTERS = 10;
const UNIT = 3;

function frames(size: number, count: number): { readonly bytes: Uint8Array; readonly buffers: readonly Buffer[] } {
  const random = seededRandom(size);
  const bytes = Uint8Array.from({ length: size * count }, () => pick(random, 256));
  return { bytes, buffers: Array.from({ length: count }, (_, i) => Buffer.from(bytes.buffer, i * size, size)) };
}

function crcRace(size: number, count: number, least: number): void {
  const { bytes, buffers } = frames(size, count);
  const [ours, peer] = race([
    {
      name: 'ours',
      work: () => {
        let sum = 0;
        for (let i = 0; i < count; i++) sum += crc16(bytes, i * size, (i + 1) * size);
        return sum;
      },
    },
    { name: 'crc', work: () => buffers.reduce((sum, buffer) => sum + crc16modbus(buffer), 0) },
  ]);
  if (ours && peer)
    claim(`CRC-16 over ${size}-byte frames against the package crc, normal entry`, peer.bestMs / ours.bestMs, {
      atLeast: least,
    });
}

/** 200,000 replies to 03 with 10 registers, one after the other. */
function replies(): { readonly stream: Uint8Array; readonly each: readonly Uint8Array[] } {
  const random = seededRandom(10);
  const each = Array.from({ length: REPLIES }, () => {
    const built = encodeRtu(
      { unit: UNIT, fc: 3, values: Array.from({ length: REGISTERS }, () => pick(random, 65536)) },
      'response',
    );
    if (!built.ok) throw new Error(built.error[0]?.text);
    return built.value;
  });
  const size = each[0]?.length ?? 0;
  const stream = new Uint8Array(size * REPLIES);
  each.forEach((frame, i) => stream.set(frame, i * size));
  return { stream, each };
}

/** The sum of all first registers proves that every reply was read. */
const ours = (stream: Uint8Array, chunk: number) => (): number => {
  let sum = 0;
  const cutter = new RtuStream('response', (bytes, start, end) => {
    sum += readRtu(bytes.subarray(start, end), 'response').message?.values?.[0] ?? NaN;
  });
  for (let at = 0; at < stream.length; at += chunk) cutter.push(stream.subarray(at, at + chunk));
  return sum;
};

const jsmodbus = (stream: Buffer, chunk: number) => (): number => {
  let sum = 0;
  const handler = new JsmodbusResponseHandler();
  for (let at = 0; at < stream.length; at += chunk) {
    handler.handleData(stream.subarray(at, at + chunk));
    for (let response = handler.shift(); response; response = handler.shift())
      sum += response.body.valuesAsArray[0] ?? NaN;
  }
  return sum;
};

/** Its receive path with a port that hands each reply over whole; the request is written as its client does. */
function modbusSerial(each: readonly Uint8Array[]): () => number {
  class Port extends EventEmitter {
    isOpen = true;
    open(done: () => void): void {
      done();
    }
    write(): void {}
  }
  const port = new Port();
  const client = new ModbusSerial(port);
  client.open(() => undefined);
  const buffers = each.map((frame) => Buffer.from(frame));
  return () => {
    let sum = 0;
    const took = (error: Error | null, data?: { data: number[] }): void => {
      if (error) throw error;
      sum += data?.data[0] ?? NaN;
    };
    for (const buffer of buffers) {
      client.writeFC3(UNIT, 0, REGISTERS, took);
      port.emit('data', buffer);
    }
    return sum;
  };
}

/** Frames whose anatomy is told in one turn. */
const TOLD = 1000;

/** What it takes to tell one frame byte by byte, as each of its looks does, in terms of reading it and by the clock. */
function anatomyBench(each: readonly Uint8Array[]): void {
  const some = each.slice(0, TOLD);
  const read = (): number =>
    some.reduce((sum, frame) => sum + (readRtu(frame, 'response').message?.values?.length ?? NaN), 0);
  const told = (): number => some.reduce((sum, frame) => sum + anatomyRtu(frame, readRtu(frame, 'response')).length, 0);
  const ratio = ratioOf(told, read);
  const start = performance.now();
  told();
  note(`the anatomy of a frame: ${((1000 * (performance.now() - start)) / TOLD).toFixed(1)} µs`);
  claim('the anatomy of a reply with 10 registers against reading it', ratio, { atMost: 40 });
}

export function codecBench(): void {
  crcRace(8, 1_000_000, 7);
  crcRace(256, 60_000, 2);
  crcRace(4096, 4000, 3);
  const { stream, each } = replies();
  anatomyBench(each);
  const inChunks = race([
    { name: 'ours', work: ours(stream, 64) },
    { name: 'jsmodbus', work: jsmodbus(Buffer.from(stream), 64) },
  ]);
  const rate = (ms: number | undefined): string => `${Math.round(REPLIES / (ms ?? Infinity))}k frames/s`;
  note(`64-byte chunks: ours ${rate(inChunks[0]?.bestMs)}, jsmodbus ${rate(inChunks[1]?.bestMs)}`);
  claim(
    '200,000 replies to 03 in 64-byte chunks against jsmodbus',
    (inChunks[1]?.bestMs ?? NaN) / (inChunks[0]?.bestMs ?? NaN),
    { atLeast: 5 },
  );
  const whole = race([
    {
      name: 'ours',
      work: () =>
        each.reduce((sum, frame) => {
          const { message, faults } = readRtu(frame, 'response');
          return faults.length === 0 ? sum + (message?.values?.[0] ?? NaN) : NaN;
        }, 0),
    },
    { name: 'modbus-serial', work: modbusSerial(each) },
  ]);
  note(`frame by frame: ours ${rate(whole[0]?.bestMs)}, modbus-serial ${rate(whole[1]?.bestMs)}`);
  claim(
    'the same frame by frame against modbus-serial’s receive path',
    (whole[1]?.bestMs ?? NaN) / (whole[0]?.bestMs ?? NaN),
    { atLeast: 4 },
  );
  const single = race([
    { name: 'a byte at a time', work: ours(stream, 1) },
    { name: '64-byte chunks', work: ours(stream, 64) },
  ]);
  note(`a byte at a time: ${rate(single[0]?.bestMs)}`);
  claim('the same bytes one at a time, times slower', (single[0]?.bestMs ?? NaN) / (single[1]?.bestMs ?? NaN), {
    atMost: 8,
  });
}
