import { createServer, type Server, type Socket } from 'node:net';

/** What a device on a network may do with a request for registers. `good`: what it sends is the answer, so it must be taken as that. */
export interface EvilMode {
  readonly name: string;
  readonly good: boolean;
  readonly play: (request: Buffer, answer: Buffer, socket: Socket) => void;
}

const changed = (answer: Buffer, at: number, value: number): Buffer => {
  const copy = Buffer.from(answer);
  copy[at] = value;
  return copy;
};

const later = (socket: Socket, bytes: Buffer, ms: number): void => {
  setTimeout(() => socket.writable && socket.write(bytes), ms);
};

/** Longer than any time-out that the bench waits for this device. */
const BEYOND_MS = 900;

const mode = (name: string, good: boolean, play: EvilMode['play']): EvilMode => ({ name, good, play });

export const EVIL_MODES: readonly EvilMode[] = [
  mode('honest', true, (_, answer, socket) => socket.write(answer)),
  mode('byte by byte', true, (_, answer, socket) => answer.forEach((byte, i) => later(socket, Buffer.of(byte), 4 * i))),
  mode('doubled', true, (_, answer, socket) => socket.write(Buffer.concat([answer, answer]))),
  mode('an older answer before it', true, (_, answer, socket) =>
    socket.write(Buffer.concat([changed(changed(answer, 0, 0x7e), 1, 0x11), answer])),
  ),
  mode('slow, within its time', true, (_, answer, socket) => later(socket, answer, 250)),
  mode('silent', false, () => undefined),
  mode('late, beyond the time-out', false, (_, answer, socket) => later(socket, answer, BEYOND_MS)),
  mode('half an answer', false, (_, answer, socket) => socket.write(answer.subarray(0, 7))),
  mode('another transaction', false, (_, answer, socket) => socket.write(changed(answer, 1, (answer[1] ?? 0) ^ 0x55))),
  mode('another unit', false, (_, answer, socket) => socket.write(changed(answer, 6, 9))),
  mode('another function', false, (_, answer, socket) => socket.write(changed(answer, 7, 4))),
  mode('another count of bytes', false, (_, answer, socket) => socket.write(changed(answer, 8, (answer[8] ?? 0) + 1))),
  mode('a length that is too great', false, (_, answer, socket) => socket.write(changed(answer, 4, 0xff))),
  mode('a length of nothing', false, (_, answer, socket) => socket.write(changed(changed(answer, 5, 0), 4, 0))),
  mode('another protocol', false, (_, answer, socket) => socket.write(changed(answer, 3, 1))),
  mode('the request sent back', false, (request, __, socket) => socket.write(request)),
  mode('more registers than were asked for', false, (_, answer, socket) => {
    const more = Buffer.concat([answer, Buffer.of(0x12, 0x34)]);
    more[5] = (more[5] ?? 0) + 2;
    more[8] = (more[8] ?? 0) + 2;
    socket.write(more);
  }),
  mode('a page of the web', false, (_, __, socket) =>
    socket.write('HTTP/1.1 400 Bad Request\r\nContent-Length: 0\r\n\r\n'),
  ),
  mode('noise', false, (_, __, socket) =>
    socket.write(Buffer.from(Array.from({ length: 300 }, (_unused, i) => (i * 151 + 7) & 0xff))),
  ),
  mode('zeros', false, (_, __, socket) => socket.write(Buffer.alloc(260))),
  mode('a flood', false, (_, __, socket) => socket.write(Buffer.alloc(700_000, 0x41))),
  mode('closed in the middle', false, (_, answer, socket) => socket.end(answer.subarray(0, 5))),
  mode('reset', false, (_, __, socket) => socket.resetAndDestroy()),
  mode('closed without a word', false, (_, __, socket) => socket.end()),
];

/** A request that reached the device: what a real one would see. */
export interface SeenRequest {
  readonly atMs: number;
  readonly hex: string;
  readonly fc: number;
  /** The first register and the value of a write of one register. */
  readonly address: number;
  readonly word: number;
}

/** A Modbus TCP device that answers every request as one register bank would, unless its mode is evil, and records all that reaches it. */
export class EvilDevice {
  readonly seen: SeenRequest[] = [];
  mode: EvilMode = EVIL_MODES[0] as EvilMode;
  /** What reads of one register answer; a write of one register is remembered here. */
  readonly registers = new Map<number, number>();
  readonly #sockets = new Set<Socket>();
  #server: Server | null = null;
  port = 0;

  async start(port = 0): Promise<number> {
    const server = createServer((socket) => this.#accept(socket));
    await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
    this.#server = server;
    const address = server.address();
    this.port = typeof address === 'object' && address ? address.port : port;
    return this.port;
  }

  async stop(): Promise<void> {
    for (const socket of this.#sockets) socket.destroy();
    await new Promise<void>((resolve) => (this.#server ? this.#server.close(() => resolve()) : resolve()));
  }

  #accept(socket: Socket): void {
    this.#sockets.add(socket);
    let pending = Buffer.alloc(0);
    socket.setNoDelay(true);
    socket.on('error', () => undefined);
    socket.on('close', () => this.#sockets.delete(socket));
    socket.on('data', (bytes) => {
      pending = Buffer.concat([pending, bytes]);
      while (pending.length >= 8) {
        const size = 6 + pending.readUInt16BE(4);
        if (pending.length < size) return;
        const request = pending.subarray(0, size);
        pending = pending.subarray(size);
        this.#take(request, socket);
      }
    });
  }

  #take(request: Buffer, socket: Socket): void {
    const fc = request[7] ?? 0;
    const [address, word] = [request.readUInt16BE(8), request.readUInt16BE(10)];
    this.seen.push({ atMs: performance.now(), hex: request.toString('hex'), fc, address, word });
    if (fc === 6) this.registers.set(address, word);
    const body =
      fc === 6
        ? request.subarray(7)
        : Buffer.concat([
            Buffer.of(fc, 2 * word),
            ...Array.from({ length: word }, (_, i) => {
              const value = this.registers.get(address + i) ?? 0;
              return Buffer.of(value >> 8, value & 0xff);
            }),
          ]);
    const head = Buffer.from(request.subarray(0, 7));
    head.writeUInt16BE(body.length + 1, 4);
    this.mode.play(request, Buffer.concat([head, body]), socket);
  }
}
