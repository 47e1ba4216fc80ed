import * as v from 'valibot';
import { Text, whole } from '../schema/primitives';

const Length = v.pipe(v.number(), v.minValue(-20_000), v.maxValue(20_000));

/** A piece of a manual's page: the file's SHA-256 in hex, and its place in points from the page's top left corner. */
const PieceSchema = v.strictObject({
  file: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'is no SHA-256 in hex')),
  x: Length,
  y: Length,
  width: Length,
  height: Length,
});
export type Piece = v.InferOutput<typeof PieceSchema>;

/** Where an entry of a sheet is from. Absent: it came with the sheet. */
export const SourceSchema = v.variant('kind', [
  v.strictObject({
    kind: v.literal('manual'),
    text: Text,
    page: v.optional(whole(1, 10_000)),
    piece: v.optional(PieceSchema),
  }),
  v.strictObject({ kind: v.literal('file'), text: Text }),
  v.strictObject({ kind: v.literal('table'), text: Text, line: v.optional(whole(1, 1_000_000)) }),
  v.strictObject({ kind: v.literal('drive'), text: Text }),
  v.strictObject({ kind: v.literal('guess'), text: Text }),
]);
export type Source = v.InferOutput<typeof SourceSchema>;

/** That an entry was compared with the drive: when, by which exchange, and what was seen. */
export const ProofSchema = v.strictObject({ when: Text, exchange: Text, seen: Text });
export type Proof = v.InferOutput<typeof ProofSchema>;

const SOURCE_WORDS: Readonly<Record<Source['kind'], string>> = {
  manual: 'from the manual',
  file: 'from a file',
  table: 'from a pasted table',
  drive: 'found at the drive',
  guess: 'guessed',
};

/** `from a pasted table: manual, line 12`, and whether it was proved: never by colour alone. */
export function sourceText(source: Source | undefined): string {
  if (!source) return '';
  const where =
    source.kind === 'manual' && source.page !== undefined
      ? `${source.text}, page ${source.page}`
      : source.kind === 'table' && source.line !== undefined
        ? `${source.text}, line ${source.line}`
        : source.text;
  return `${SOURCE_WORDS[source.kind]}: ${where}`;
}
