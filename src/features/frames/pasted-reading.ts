import { textToBytes } from '../../core/bytes/text';
import { readPasted } from '../../core/bytes/pasted';
import { fault, type Fault } from '../../core/fault';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { done, failed, type Result } from '../../core/result';

/** What a pasted text is to a line: a request, a reply, or both. */
export interface PastedExchange {
  readonly request: Uint8Array | null;
  readonly reply: Uint8Array | null;
  /** How it was read, in words. */
  readonly said: string;
  /** Frames beyond the first request and reply, which are left out. */
  readonly left: number;
}

/** Longer than the longest frame of any protocol here, which has 513 bytes (Modbus ASCII). */
const LONGEST_FRAME = 600;

/** Lines of Modbus ASCII are pasted as they are read, without quotes. */
const PLAIN_ASCII = /^\s*:[0-9a-f]+\s*$/i;

/**
 * Reads what was pasted as what it is: who spoke is told by the text, or by the bytes where only one way gives a frame. What fits both ways
 * counts as a request.
 */
export function readExchange(text: string, protocol: LineProtocol): Result<PastedExchange, Fault> {
  const pasted =
    protocol.speaksText && PLAIN_ASCII.test(text)
      ? done({
          frames: [{ direction: null, bytes: textToBytes(`${text.trim()}\r\n`) }],
          notation: 'characters',
        })
      : readPasted(text);
  if (!pasted.ok) return pasted;
  const long = pasted.value.frames.find(({ bytes }) => bytes.length > LONGEST_FRAME);
  if (long)
    return failed(
      fault('too-long', 0, text.length, `${long.bytes.length} bytes are no single frame; paste them under “Capture”`),
    );
  const frames = pasted.value.frames.map(({ direction, bytes }) => ({
    bytes,
    direction: direction ?? (isReplyOnly(bytes, protocol) ? ('response' as const) : ('request' as const)),
  }));
  const at = frames.findIndex(({ direction }) => direction === 'request');
  const request = frames[at]?.bytes ?? null;
  const reply = frames.slice(Math.max(at, 0)).find(({ direction }) => direction === 'response')?.bytes ?? null;
  const size = (bytes: Uint8Array | null, what: string): string[] =>
    bytes ? [`${what} of ${bytes.length} bytes`] : [];
  return done({
    request,
    reply,
    said: `${[...size(request, 'a request'), ...size(reply, 'a reply')].join(' and ')}, read as ${pasted.value.notation}`,
    left: frames.length - (request ? 1 : 0) - (reply ? 1 : 0),
  });
}

const isReplyOnly = (bytes: Uint8Array, protocol: LineProtocol): boolean =>
  protocol.read(bytes, 'request').faults.length > 0 && protocol.read(bytes, 'response').faults.length === 0;
