import * as v from 'valibot';
import { done, failed, type Result } from './result';

/** A fault of a file at its path; the empty path is the file itself. */
export interface FormFault {
  readonly path: string;
  readonly text: string;
}

/** Values in one file, counted through all its depth; a job of fifty visits with its sheets has a tenth of it. */
const MOST_VALUES = 400_000;
const MOST_DEPTH = 40;
/** Up to so many values all faults of a file are looked for; in a larger one the first is told. */
const VALUES_FOR_ALL_FAULTS = 20_000;
/** More faults than this tell nobody anything. */
const MOST_FAULTS = 200;

/** How many values there are with `before`, more than the most where there are too many or they lie too deep; it stops counting there. */
function valuesIn(value: unknown, before = 0, depth = 0): number {
  if (depth > MOST_DEPTH) return MOST_VALUES + 1;
  let count = before + 1;
  if (typeof value !== 'object' || value === null) return count;
  // Gone through in place: lists of what lies on each level cost more than the count.
  if (Array.isArray(value))
    for (let i = 0; i < value.length && count <= MOST_VALUES; i++) count = valuesIn(value[i], count, depth + 1);
  else
    for (const key in value) {
      if (count > MOST_VALUES) break;
      count = valuesIn((value as Readonly<Record<string, unknown>>)[key], count, depth + 1);
    }
  return count;
}

/**
 * Reads what came from a file by its schema. Sizes come first, so that a file that is hostile or broken costs no more than a look at it; faults
 * are told with their path, some hundred at most.
 */
export function readForm<T>(schema: v.GenericSchema<unknown, T>, value: unknown): Result<T, readonly FormFault[]> {
  const count = valuesIn(value);
  if (count > MOST_VALUES)
    return failed([
      {
        path: '',
        text: `more than ${MOST_VALUES} values, or more than ${MOST_DEPTH} levels: no file of this kind has that`,
      },
    ]);
  const parsed = v.safeParse(schema, value, { abortEarly: count > VALUES_FOR_ALL_FAULTS });
  if (parsed.success) return done(parsed.output);
  const faults = parsed.issues
    .slice(0, MOST_FAULTS)
    .map((issue): FormFault => ({ path: v.getDotPath(issue) ?? '', text: issue.message }));
  const more = parsed.issues.length - faults.length;
  return failed(more > 0 ? [...faults, { path: '', text: `and ${more} more` }] : faults);
}
