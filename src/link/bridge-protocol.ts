import * as v from 'valibot';
import { TROUBLES } from '../core/line/trouble';

/**
 * What goes between the page and the local server's TCP bridge: commands up, all that wait in one POST; events down, one JSON line each, in one
 * stream a tab for all its sockets (HTTP/1.1 gives a browser six connections, so a stream a socket would block Stop).
 */
export const BRIDGE_PATH = '/api/link';
/** Carries the token that the stream's first event gave; a page of another origin cannot set it. */
export const TOKEN_HEADER = 'x-bujo-link';

/** Most bytes in one write; a Modbus frame has 260. */
export const WRITE_MAX = 4096;
/** Most characters of one POST: several of the longest writes, in hex, with the names around them. */
export const BODY_MAX = 4 * (2 * WRITE_MAX + 500);
const COMMANDS_MAX = 200;

const SocketId = v.pipe(v.string(), v.regex(/^[a-z0-9-]{1,40}$/));
const Hex = v.pipe(v.string(), v.regex(/^(?:[0-9a-f]{2})*$/), v.maxLength(2 * WRITE_MAX));

const BridgeCommandSchema = v.variant('kind', [
  v.strictObject({
    kind: v.literal('open'),
    socket: SocketId,
    host: v.pipe(v.string(), v.maxLength(60)),
    port: v.number(),
  }),
  v.strictObject({ kind: v.literal('write'), socket: SocketId, hex: Hex }),
  v.strictObject({ kind: v.literal('close'), socket: SocketId }),
]);
export type BridgeCommand = v.InferOutput<typeof BridgeCommandSchema>;

/** What one POST carries; the commands are obeyed in this order. */
export const BridgeCommandsSchema = v.pipe(v.array(BridgeCommandSchema), v.minLength(1), v.maxLength(COMMANDS_MAX));

/** How many of the first waiting commands go into one POST: at least one, as many as its limits hold. */
export function fitting(texts: readonly string[]): number {
  let size = 2;
  const beyond = texts.findIndex((text, i) => i === COMMANDS_MAX || (size += text.length + 1) > BODY_MAX);
  return beyond < 0 ? texts.length : Math.max(1, beyond);
}

/** Commands of a POST that were not obeyed, and why; the others were. */
export const RefusedCommandsSchema = v.array(v.strictObject({ socket: SocketId, text: v.string() }));
export type RefusedCommand = v.InferOutput<typeof RefusedCommandsSchema>[number];

export const BridgeEventSchema = v.variant('kind', [
  v.strictObject({ kind: v.literal('hello'), token: v.string() }),
  v.strictObject({ kind: v.literal('alive') }),
  v.strictObject({ kind: v.literal('opened'), socket: SocketId }),
  v.strictObject({ kind: v.literal('bytes'), socket: SocketId, hex: v.string() }),
  v.strictObject({ kind: v.literal('ended'), socket: SocketId, end: v.picklist(TROUBLES), text: v.string() }),
]);
export type BridgeEvent = v.InferOutput<typeof BridgeEventSchema>;
