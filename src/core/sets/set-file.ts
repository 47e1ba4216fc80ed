import * as v from 'valibot';
import { done, failed, type Result } from '../result';
import { Slug, Text, whole } from '../schema/primitives';
import type { SheetIndex } from '../sheet/index-sheet';
import { saidText, type Said, type SaidOf } from './said';

/** A set of values in a file: what a drive held, raw and in its unit, with who it was, when, and by which sheet it is read. */
const ValueSchema = v.strictObject({
  number: Text,
  name: Text,
  /** The words on the wire, in their order; absent where the drive refused to tell it. */
  words: v.optional(v.pipe(v.array(whole(0, 0xffffffff)), v.minLength(1), v.maxLength(125))),
  /** The same as people read it. */
  text: v.optional(v.pipe(v.string(), v.maxLength(2000))),
  refused: v.optional(Text),
});

export const SetFileSchema = v.strictObject({
  format: v.literal(1),
  kind: v.literal('set of values'),
  name: Text,
  /** When it was read or made, ISO 8601. */
  at: v.pipe(v.string(), v.isoTimestamp('is no time of ISO 8601')),
  job: v.optional(Text),
  line: v.optional(Text),
  station: v.optional(whole(0, 255)),
  stationName: v.optional(Text),
  sheet: v.strictObject({ slug: Slug, revision: whole(0, 1_000_000), name: Text }),
  /** What tells this drive from another, by the roles of its entries. */
  identity: v.optional(v.record(v.string(), v.string())),
  values: v.pipe(v.array(ValueSchema), v.maxLength(5000)),
});
export type SetFile = v.InferOutput<typeof SetFileSchema>;

export interface SetAbout {
  readonly name: string;
  readonly at: string;
  readonly job?: string;
  readonly line?: string;
  readonly station?: number;
  readonly stationName?: string;
}

/** A set as a file. Secrets stay out unless they are asked for; what was refused is told with its reason. */
export function setFileOf(index: SheetIndex, said: SaidOf, about: SetAbout, withSecrets = false): SetFile {
  const { slug, revision, name } = index.sheet;
  const identity = Object.fromEntries(
    (['type-code', 'firmware'] as const).flatMap((role) => {
      const parameter = index.byRole.get(role);
      const own = parameter && said.get(parameter.number);
      return parameter && own?.kind === 'value' ? [[role, saidText(index, parameter, own, said)]] : [];
    }),
  );
  return {
    format: 1,
    kind: 'set of values',
    ...about,
    sheet: { slug, revision, name },
    ...(Object.keys(identity).length > 0 ? { identity } : {}),
    values: index.parameters.flatMap((parameter): SetFile['values'] => {
      const own = said.get(parameter.number);
      if (!own || own.kind === 'silent' || (parameter.secret && !withSecrets)) return [];
      const { number, name: called } = parameter;
      if (own.kind === 'refused') return [{ number, name: called, refused: own.why.slice(0, 400) }];
      return [
        {
          number,
          name: called,
          words: [...own.words],
          text: saidText(index, { ...parameter, secret: undefined }, own, said).slice(0, 2000),
        },
      ];
    }),
  };
}

/** A larger file is refused before it is read. */
const LARGEST_SET_FILE = 8_000_000;

/** A set out of a file's text; a sentence where it is none. */
export function readSetFile(text: string): Result<SetFile, string> {
  if (text.length > LARGEST_SET_FILE) return failed('the file is too large for a set of values');
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return failed('it is no JSON');
  }
  const parsed = v.safeParse(SetFileSchema, read);
  if (parsed.success) return done(parsed.output);
  const [issue] = parsed.issues;
  return failed(`${v.getDotPath(issue) ?? 'the file'}: ${issue.message}`);
}

/** What a file says, as a witness: each value as the file has it. */
export const saidByFile = ({ values, at }: SetFile): SaidOf => {
  const atMs = Date.parse(at);
  return new Map(
    values.map(({ number, words, refused }): readonly [string, Said] => [
      number,
      words
        ? { kind: 'value', words, atMs: Number.isFinite(atMs) ? atMs : null }
        : { kind: 'refused', why: refused ?? 'not said' },
    ]),
  );
};
