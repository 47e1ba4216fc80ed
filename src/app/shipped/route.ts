import { SHIPPED_FILES } from '../../core/shipped/files';
import { messageOf } from '../../core/message-of';
import { readShipped } from '../../store/read-shipped';
import { runningYard } from '../../yard/network-yard';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

/** The sheets that ship and the demo job, for the page. Where a stand-in had to take another port, the demo job names that. */
export function GET(): Response {
  const moved = new Map((runningYard()?.states() ?? []).map(({ wanted, port }) => [wanted, port]));
  const lines = SHIPPED_FILES.demo.lines.map((line) =>
    'tcp' in line && line.tcp
      ? { ...line, tcp: { ...line.tcp, port: moved.get(line.tcp.port) ?? line.tcp.port } }
      : line,
  );
  try {
    return Response.json(readShipped({ ...SHIPPED_FILES, demo: { ...SHIPPED_FILES.demo, lines } }));
  } catch (error) {
    return new Response(messageOf(error), { status: 500 });
  }
}
