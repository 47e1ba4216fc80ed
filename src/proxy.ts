import { NextResponse, type NextRequest } from 'next/server';
import { ownPort, plain } from './bridge/answer';
import { refuseForeignHost } from './bridge/guard';

/** Doors of the framework that this program does not use. */
const UNUSED = /^\/_next\/(?:image|data)(?:\/|$)/;
const READS: ReadonlySet<string> = new Set(['GET', 'HEAD']);

/**
 * Before any page or route: only this machine's own names are answered, pages are only read, doors that nobody uses are shut, and a page may run
 * only the scripts that carry its own number. Styles may be inline: the theme puts them there. The fonts of a record that is printed are in its page.
 */
export function proxy(request: NextRequest): Response {
  const { pathname } = request.nextUrl;
  const foreign = refuseForeignHost(request.headers.get('host') ?? '', ownPort());
  if (foreign) return plain(foreign);
  if (UNUSED.test(pathname)) return plain({ status: 404, text: 'there is nothing here' });
  if (pathname.startsWith('/api/')) return NextResponse.next();
  if (!READS.has(request.method) || request.headers.has('next-action'))
    return plain({ status: 405, text: 'a page can only be read' });
  const nonce = crypto.randomUUID().replaceAll('-', '');
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'${process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "frame-ancestors 'none'",
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const answer = NextResponse.next({ request: { headers } });
  answer.headers.set('content-security-policy', policy);
  return answer;
}

/** Not for files of the build: they are the same for everybody, and cost nothing this way. */
export const config = { matcher: ['/((?!_next/static/).*)'] };
