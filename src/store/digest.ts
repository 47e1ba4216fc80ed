import type { VisitRecord } from '../core/handover/document';
import { recordText } from '../core/handover/html';

/** SHA-256 in hex, as `sha256sum` prints it. */
export async function sha256(bytes: Uint8Array): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', Uint8Array.from(bytes)));
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** The digest of a record: of its JSON as an archive holds it. */
export const digestOf = (record: VisitRecord): Promise<string> => sha256(new TextEncoder().encode(recordText(record)));
