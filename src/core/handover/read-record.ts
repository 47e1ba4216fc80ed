import * as v from 'valibot';
import { done, failed, type Result } from '../result';
import { RecordSchema, type VisitRecord } from './document';
import { RECORD_ELEMENT } from './html';

/** A larger file is refused before it is read. */
export const LARGEST_RECORD = 40_000_000;

const OPENING = `<script type="application/json" id="${RECORD_ELEMENT}">`;

/** The JSON of a record out of its own page, or the text as it is. */
function jsonIn(text: string): string {
  const from = text.indexOf(OPENING);
  if (from < 0) return text;
  const to = text.indexOf('</script>', from);
  return text.slice(from + OPENING.length, to < 0 ? undefined : to);
}

/** A record out of a file: the JSON, or the page that carries it. A sentence where it is none; nothing of it is run. */
export function readRecord(text: string): Result<VisitRecord, string> {
  if (text.length > LARGEST_RECORD) return failed('the file is too large for a record');
  let read: unknown;
  try {
    read = JSON.parse(jsonIn(text.replace(/^\uFEFF/, '')));
  } catch {
    return failed('it holds no record: it is no JSON, and no page that carries one');
  }
  const parsed = v.safeParse(RecordSchema, read, { abortPipeEarly: true, abortEarly: true });
  if (parsed.success) return done(parsed.output);
  const [issue] = parsed.issues;
  return failed(`it is no record: ${v.getDotPath(issue) ?? 'the file'}: ${issue.message}`);
}
