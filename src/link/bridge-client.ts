import * as v from 'valibot';
import { trouble, type Trouble, type TroubleKind } from '../core/line/trouble';
import { bytesToHex, hexToBytes } from '../core/bytes/hex';
import {
  BRIDGE_PATH,
  BridgeEventSchema,
  fitting,
  RefusedCommandsSchema,
  TOKEN_HEADER,
  WRITE_MAX,
  type BridgeCommand,
} from './bridge-protocol';

export interface SocketHandlers {
  readonly opened: () => void;
  readonly bytes: (bytes: Uint8Array) => void;
  readonly ended: (why: Trouble) => void;
}

/** A command as it waits to go up. */
interface Command {
  readonly socket: string;
  readonly text: string;
}

const GONE = 'the local server is not there any more; start it again, then the line comes back';

/** What the server says of a body that it cannot read, or not to its end. */
const UNREADABLE: ReadonlySet<number> = new Set([400, 413]);

/** The local server, or this browser, grants no stream. */
class NotGranted extends Error {}

/**
 * Streams that the tabs of one browser may have open together. HTTP/1.1 gives a browser six connections to one server: with six streams open no
 * command of any tab would get through, and no Stop.
 */
export const STREAMS_A_BROWSER = 4;

/** A place for one stream; null when all are taken. The function gives it back. */
export type TakeStreamPlace = () => Promise<(() => void) | null>;

const FREE_PLACE: TakeStreamPlace = () => Promise.resolve(() => undefined);

/**
 * The page's end of the TCP bridge: one stream down for all sockets of this tab, commands up in their order. What comes while a POST is on its way
 * goes together in the next one, so that a Stop waits for one POST at most, however many lines are asked.
 * When the stream ends every socket has ended; the next open asks for a new stream.
 */
export class BridgeClient {
  readonly #fetch: typeof fetch;
  readonly #base: string;
  readonly #takePlace: TakeStreamPlace;
  readonly #sockets = new Map<string, SocketHandlers>();
  #token: Promise<string> | null = null;
  #waiting: Command[] = [];
  #isSending = false;
  #next = 1;

  /** `base` is the server's origin; empty inside a page. */
  constructor(fetchFrom: typeof fetch, base = '', takePlace = FREE_PLACE) {
    this.#fetch = fetchFrom;
    this.#base = base;
    this.#takePlace = takePlace;
  }

  /** Asks for a socket; what comes of it is told by the handlers. Returns its name for `write` and `close`. */
  open(host: string, port: number, handlers: SocketHandlers): string {
    const socket = `s${this.#next++}`;
    this.#sockets.set(socket, handlers);
    this.#post({ kind: 'open', socket, host, port });
    return socket;
  }

  /** A stream has no frames: what is longer than one command goes in several. */
  write(socket: string, bytes: Uint8Array): void {
    for (let from = 0; from < bytes.length; from += WRITE_MAX)
      this.#post({ kind: 'write', socket, hex: bytesToHex(bytes.subarray(from, from + WRITE_MAX)) });
  }

  close(socket: string): void {
    this.#sockets.delete(socket);
    this.#post({ kind: 'close', socket });
  }

  #post(command: BridgeCommand): void {
    this.#waiting.push({ socket: command.socket, text: JSON.stringify(command) });
    if (!this.#isSending) void this.#sendWaiting();
  }

  async #sendWaiting(): Promise<void> {
    this.#isSending = true;
    // What one press or one moment asks for goes together.
    await Promise.resolve();
    while (this.#waiting.length > 0) {
      const commands = this.#waiting.splice(0, fitting(this.#waiting.map(({ text }) => text)));
      await this.#send(commands).catch((error: unknown) => {
        // The next command asks for a stream anew: a server that was started again is found without a reload.
        this.#token = null;
        if (error instanceof NotGranted) this.#endOf(commands, 'limit', error.message);
        else this.#endOf(commands, 'server-gone', GONE);
      });
    }
    this.#isSending = false;
  }

  async #send(commands: readonly Command[]): Promise<void> {
    this.#token ??= this.#stream();
    const answer = await this.#fetch(this.#base + BRIDGE_PATH, {
      method: 'POST',
      headers: { 'content-type': 'application/json', [TOKEN_HEADER]: await this.#token },
      body: `[${commands.map(({ text }) => text).join(',')}]`,
    });
    if (answer.status === 204) return;
    if (answer.ok) {
      const refused = v.safeParse(RefusedCommandsSchema, await answer.json());
      for (const { socket, text } of refused.success ? refused.output : []) this.#end(socket, 'not-allowed', text);
      return;
    }
    // One that the server cannot read concerns no other line: nothing of this POST was obeyed, so each goes by itself.
    if (UNREADABLE.has(answer.status) && commands.length > 1) {
      for (const one of commands) await this.#send([one]);
      return;
    }
    const text = (await answer.text()).slice(0, 300);
    // A server that was started anew knows nothing of this page's stream.
    if (answer.status === 403) this.#token = null;
    this.#endOf(commands, 'not-allowed', text);
  }

  #endOf(commands: readonly Command[], kind: TroubleKind, text: string): void {
    for (const socket of new Set(commands.map((command) => command.socket))) this.#end(socket, kind, text);
  }

  /** Opens the stream and resolves with its token; events go to their sockets until it ends. */
  async #stream(): Promise<string> {
    const leave = await this.#takePlace();
    if (!leave)
      throw new NotGranted(
        `${STREAMS_A_BROWSER} tabs of this browser use the local server already; close one of them, or its lines over the network`,
      );
    try {
      return await this.#openStream(leave);
    } catch (error) {
      leave();
      throw error;
    }
  }

  async #openStream(leave: () => void): Promise<string> {
    const answer = await this.#fetch(this.#base + BRIDGE_PATH, { cache: 'no-store' });
    if (answer.status === 429) throw new NotGranted((await answer.text()).slice(0, 300));
    if (!answer.ok || !answer.body) throw new Error(await answer.text());
    const lines = linesOf(answer.body);
    const first = await lines.next();
    const hello = first.done ? null : parseEvent(first.value);
    if (hello?.kind !== 'hello') throw new Error('the local server speaks another language');
    void this.#listen(lines, leave);
    return hello.token;
  }

  async #listen(lines: AsyncGenerator<string>, leave: () => void): Promise<void> {
    try {
      for await (const line of lines) this.#take(line);
    } catch {
      // A stream that breaks ends the sockets like one that is closed.
    }
    leave();
    this.#token = null;
    for (const socket of [...this.#sockets.keys()]) this.#end(socket, 'server-gone', GONE);
  }

  #take(line: string): void {
    const event = parseEvent(line);
    if (!event || event.kind === 'hello' || event.kind === 'alive') return;
    if (event.kind === 'ended') return this.#end(event.socket, event.end, event.text);
    const handlers = this.#sockets.get(event.socket);
    if (event.kind === 'opened') return handlers?.opened();
    const bytes = hexToBytes(event.hex);
    if (bytes.ok) handlers?.bytes(bytes.value);
  }

  #end(socket: string, kind: TroubleKind, text: string): void {
    const handlers = this.#sockets.get(socket);
    this.#sockets.delete(socket);
    handlers?.ended(trouble(kind, text));
  }
}

function parseEvent(line: string) {
  try {
    const parsed = v.safeParse(BridgeEventSchema, JSON.parse(line));
    return parsed.success ? parsed.output : null;
  } catch {
    return null;
  }
}

async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const parts = (rest + decoder.decode(value, { stream: true })).split('\n');
    rest = parts.pop() ?? '';
    for (const part of parts) if (part !== '') yield part;
  }
}
