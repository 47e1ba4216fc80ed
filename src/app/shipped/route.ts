import { SHIPPED_FILES } from '../../core/shipped/files';
import { messageOf } from '../../core/message-of';
import { readShipped } from '../../store/read-shipped';
import { runningYard } from '../../yard/network-yard';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

/** The last answer, and by which ports: to check half a megabyte of sheets takes longer than all else of a page's start. */
let last: { readonly ports: string; readonly text: string } | null = null;

/** The sheets that ship and the demo job, for the page. Where a stand-in had to take another port, the demo job names that. */
export function GET(): Response {
  const moved = new Map((runningYard()?.states() ?? []).map(({ wanted, port }) => [wanted, port]));
  const ports = JSON.stringify([...moved]);
  if (last?.ports === ports) return jsonOf(last.text);
  const lines = SHIPPED_FILES.demo.lines.map((line) =>
    'tcp' in line && line.tcp
      ? { ...line, tcp: { ...line.tcp, port: moved.get(line.tcp.port) ?? line.tcp.port } }
      : line,
  );
  try {
    last = { ports, text: JSON.stringify(readShipped({ ...SHIPPED_FILES, demo: { ...SHIPPED_FILES.demo, lines } })) };
    return jsonOf(last.text);
  } catch (error) {
    return new Response(messageOf(error), { status: 500 });
  }
}

const jsonOf = (text: string): Response => new Response(text, { headers: { 'content-type': 'application/json' } });
