import { randomUUID } from 'node:crypto';
import * as v from 'valibot';
import { ownPort, plain } from '../../../bridge/answer';
import { refuseForeign, type Refusal } from '../../../bridge/guard';
import { readBounded } from '../../../bridge/read-bounded';
import { TcpBridge } from '../../../bridge/tcp-bridge';
import { BODY_MAX, BridgeCommandsSchema, TOKEN_HEADER } from '../../../link/bridge-protocol';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

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

/** Commands up. */
export async function POST(request: Request): Promise<Response> {
  const foreign = guard(request);
  if (foreign) return plain(foreign);
  const body = await readBounded(request, BODY_MAX);
  if (body === null) return plain({ status: 413, text: `commands have ${BODY_MAX} bytes at most` });
  const commands = parse(body);
  if (!commands) return plain({ status: 400, text: 'these are no commands of the bridge' });
  const refused = bridge().obey(request.headers.get(TOKEN_HEADER), commands);
  if ('status' in refused) return plain(refused);
  return refused.length === 0 ? new Response(null, { status: 204 }) : Response.json(refused);
}

function parse(text: string) {
  try {
    const parsed = v.safeParse(BridgeCommandsSchema, JSON.parse(text));
    return parsed.success ? parsed.output : null;
  } catch {
    return null;
  }
}
