/** What a request says about where it comes from. Header names are lower case. */
export interface Asking {
  readonly method: string;
  readonly header: (name: string) => string | null;
}

export interface Refusal {
  readonly status: number;
  readonly text: string;
}

const LOCAL_HOST = /^(?:127\.0\.0\.1|localhost|\[::1\]):(\d{1,5})$/;

/** Refuses whoever asks by another name than this machine's own: a page of another site may have its name resolve to this machine. */
export function refuseForeignHost(host: string, ownPort: number): Refusal | null {
  const port = LOCAL_HOST.exec(host)?.[1];
  if (port !== undefined && Number(port) === ownPort) return null;
  return { status: 403, text: `asked by the name “${host.slice(0, 80)}”; this server answers on this machine only` };
}

/**
 * Lets only this program's own page in. The Host header is checked against a list because a page of another site may have its name resolve
 * to this machine (the request URL cannot be trusted for that), Origin and Sec-Fetch-Site because a browser sends them honestly.
 * Null when the request may pass.
 */
export function refuseForeign({ method, header }: Asking, ownPort: number): Refusal | null {
  const host = header('host') ?? '';
  const foreign = refuseForeignHost(host, ownPort);
  if (foreign) return foreign;
  const origin = header('origin');
  if (origin !== null && origin !== `http://${host}`)
    return { status: 403, text: `a page of ${origin.slice(0, 80)} has no business here` };
  const site = header('sec-fetch-site');
  if (site !== null && site !== 'same-origin')
    return { status: 403, text: 'only this program’s own page may use the bridge' };
  if (method === 'POST' && origin === null && site !== null)
    return { status: 403, text: 'a browser’s POST must name its origin' };
  return null;
}
