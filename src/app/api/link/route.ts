import { randomUUID } from 'node:crypto';
import * as v from 'valibot';
import { ownPort, plain } from '../../../bridge/answer';
import { refuseForeign, type Refusal } from '../../../bridge/guard';
import { readBounded } from '../../../bridge/read-bounded';
import { TcpBridge } from '../../../bridge/tcp-bridge';
import { BridgeCommandSchema, TOKEN_HEADER, WRITE_MAX } from '../../../link/bridge-protocol';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

/** Hex of the longest write and the names around it. */
const BODY_MAX = 2 * WRITE_MAX + 500;

// One bridge a process: in development this module is loaded anew with every change, its sockets must not be lost with it.
const holder = globalThis as { bujoBridge?: TcpBridge };

function bridge(): TcpBridge {
  holder.bujoBridge ??= new TcpBridge([ownPort()], randomUUID);
  return holder.bujoBridge;
}

const guard = (request: Request): Refusal | null =>
  refuseForeign({ method: request.method, header: (name) => request.headers.get(name) }, ownPort());

/** The stream down, for all sockets of one tab. */
export function GET(request: Request): Response {
  const foreign = guard(request);
  if (foreign) return plain(foreign);
  const stream = bridge().stream(request.signal);
  return stream instanceof ReadableStream
    ? new Response(stream, {
        headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
      })
    : plain(stream);
}

/** Without this the framework would answer HEAD with a stream that nobody reads and nothing ends. */
export function HEAD(): Response {
  return plain({ status: 405, text: 'the stream is asked for with GET' });
}

/** One command up. */
export async function POST(request: Request): Promise<Response> {
  const foreign = guard(request);
  if (foreign) return plain(foreign);
  const body = await readBounded(request, BODY_MAX);
  if (body === null) return plain({ status: 413, text: `a command has ${BODY_MAX} bytes at most` });
  const command = parse(body);
  if (!command) return plain({ status: 400, text: 'this is no command of the bridge' });
  const told = bridge().obey(request.headers.get(TOKEN_HEADER), command);
  return told.ok ? new Response(null, { status: 204 }) : plain(told);
}

function parse(text: string) {
  try {
    const parsed = v.safeParse(BridgeCommandSchema, JSON.parse(text));
    return parsed.success ? parsed.output : null;
  } catch {
    return null;
  }
}
