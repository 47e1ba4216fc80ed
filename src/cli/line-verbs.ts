import * as v from 'valibot';
import { ipv4Facts, parseIpv4, parsePrefix, sameSubnet } from '../core/line/ipv4';
import { characterUs, frameGapUs, innerGapUs } from '../core/line/settings';
import { receiveUart, type UartEnd } from '../core/line/uart';
import { parseRational } from '../core/scaling/rational';
import type { Fault } from '../core/fault';
import type { Result } from '../core/result';
import { bytesOf, Id, read } from './input';
import { BadLine, type Answer, type Verb } from './protocol';

const whole = (min: number, max: number) => v.pipe(v.number(), v.integer(), v.minValue(min), v.maxValue(max));
const FORM = { dataBits: v.picklist([7, 8]), parity: v.picklist(['N', 'E', 'O']), stopBits: v.picklist([1, 2]) };
/** More idle bits than this are a slip. */
const MOST_IDLE = 100_000;
/** Longest byte string of one line, so that a slip does not hold the run up. */
const MOST_BYTES = 100_000;

function need<T>(result: Result<T, Fault>): T {
  if (!result.ok) throw new BadLine(result.error.code, result.error.text);
  return result.value;
}

function timing(input: unknown): Answer {
  const { rate, bytes, dataBits, parity, stopBits } = read(
    { ...Id, ...FORM, rate: v.pipe(v.number(), v.gtValue(0)), bytes: whole(0, Number.MAX_SAFE_INTEGER) },
    input,
  );
  const settings = { rate, dataBits, parity, stopBits };
  return {
    characterUs: characterUs(settings),
    t15Us: innerGapUs(settings),
    t35Us: frameGapUs(settings),
    frameUs: bytes * characterUs(settings),
  };
}

const End = v.strictObject({ ...FORM, baud: v.union([v.number(), v.string()]) });

function endOf({ baud, ...form }: v.InferOutput<typeof End>): UartEnd {
  const rate = need(parseRational(String(baud)));
  if (rate.num <= 0n) throw new BadLine('value-out-of-range', `baud ${baud}: it must be more than 0`);
  return { ...form, rate };
}

function uart(input: unknown): Answer {
  const { sender, receiver, hex, gapBits, idleBeforeBits, idleAfterBits, inverted } = read(
    {
      ...Id,
      sender: End,
      receiver: End,
      hex: v.string(),
      gapBits: v.optional(whole(0, MOST_IDLE), 0),
      idleBeforeBits: v.optional(whole(0, MOST_IDLE), 20),
      idleAfterBits: v.optional(whole(0, MOST_IDLE), 40),
      inverted: v.optional(v.boolean(), false),
    },
    input,
  );
  const bytes = bytesOf(hex);
  if (bytes.length > MOST_BYTES) throw new BadLine('too-long', `${bytes.length} bytes; ${MOST_BYTES} at most`);
  const { characters, falseStarts, breaks } = receiveUart(endOf(sender), endOf(receiver), {
    bytes,
    gapBits,
    idleBeforeBits,
    idleAfterBits,
    inverted,
  });
  return { bytes: characters, falseStarts, breaks };
}

function ipv4(input: unknown): Answer {
  const { address, mask, prefix, other } = read(
    {
      ...Id,
      address: v.string(),
      mask: v.optional(v.string()),
      prefix: v.optional(v.union([v.string(), v.number()])),
      other: v.optional(v.string()),
    },
    input,
  );
  if ((mask === undefined) === (prefix === undefined))
    throw new BadLine('missing-field', 'give mask or prefix, one of them');
  const net = { address: need(parseIpv4(address)), prefix: need(parsePrefix(String(mask ?? prefix))) };
  return { ...ipv4Facts(net), ...(other === undefined ? {} : { sameSubnet: sameSubnet(net, need(parseIpv4(other))) }) };
}

export const LINE_VERBS: Readonly<Record<string, Verb>> = {
  timing: {
    help: 'character, silences and frame on a Modbus serial line, in microseconds',
    example: '{"rate":19200,"dataBits":8,"parity":"E","stopBits":1,"bytes":8}',
    run: timing,
  },
  uart: {
    help: 'what an asynchronous receiver makes of what a sender with other settings sent, bit by bit',
    example:
      '{"sender":{"baud":9600,"dataBits":8,"parity":"N","stopBits":1},"receiver":{"baud":19200,"dataBits":8,"parity":"N","stopBits":1},"hex":"55"}',
    run: uart,
  },
  ipv4: {
    help: 'network, hosts and kind of an IPv4 address; whether another one is in the same subnet',
    example: '{"address":"172.22.7.37","prefix":24,"other":"172.22.8.2"}',
    run: ipv4,
  },
};
