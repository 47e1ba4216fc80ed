import * as v from 'valibot';
import { whole } from '../schema/primitives';
import { LONGEST_SIDE, MOST_PHOTO_BYTES } from './photo';

export const RECORD_FORMAT = 1;

const Words = v.pipe(v.string(), v.maxLength(8_000));
const Short = v.pipe(v.string(), v.maxLength(400));

/**
 * Where a line of a record is from, so that it can be looked up there. `person`: it was typed; `job`: it stands in the job; `sheet`: the drive's
 * sheet says it; `exchange`: it was seen in an exchange of a line (0 for an event of the line); `set`, `writing` and `run` are kept with the job;
 * `bench`: the bench says what it does not know.
 */
export const SourceSchema = v.variant('of', [
  v.strictObject({ of: v.literal('person') }),
  v.strictObject({ of: v.literal('job') }),
  v.strictObject({ of: v.literal('bench') }),
  v.strictObject({ of: v.literal('sheet'), slug: Short, revision: whole(0, 1_000_000) }),
  v.strictObject({
    of: v.literal('exchange'),
    session: Short,
    line: Short,
    sequence: whole(0, Number.MAX_SAFE_INTEGER),
    exchange: whole(0, Number.MAX_SAFE_INTEGER),
  }),
  v.strictObject({ of: v.literal('set'), id: Short }),
  v.strictObject({ of: v.literal('writing'), id: Short }),
  v.strictObject({ of: v.literal('run'), id: Short }),
]);
export type Source = v.InferOutput<typeof SourceSchema>;

/** `good`: seen and as it should be. `bad`: seen, and not. `open`: not known, or not done. `person`: somebody says so. */
export const MARKS = ['good', 'bad', 'open', 'person'] as const;
export type Mark = (typeof MARKS)[number];

/** A mark as it is printed: a sign and a word, never a colour. */
export const MARK_TEXT: Readonly<Record<Mark, string>> = {
  good: '✓ seen',
  bad: '✗ not so',
  open: '○ open',
  person: '☑ said',
};

const RowSchema = v.strictObject({
  /** What it is about, the same at every visit: by it two records are compared. */
  key: Short,
  cells: v.pipe(v.array(Words), v.maxLength(16)),
  mark: v.optional(v.picklist(MARKS)),
  from: SourceSchema,
});
export type Row = v.InferOutput<typeof RowSchema>;

const Point = v.strictObject({ x: v.number(), y: v.number() });

const BlockSchema = v.variant('kind', [
  v.strictObject({ kind: v.literal('text'), text: Words, from: SourceSchema }),
  v.strictObject({
    kind: v.literal('table'),
    title: Short,
    head: v.pipe(v.array(Short), v.maxLength(16)),
    rows: v.pipe(v.array(RowSchema), v.maxLength(10_000)),
  }),
  /** One exchange as bytes, with what each part of it is. */
  v.strictObject({
    kind: v.literal('exchange'),
    title: Short,
    frames: v.pipe(
      v.array(
        v.strictObject({
          way: v.picklist(['sent', 'received']),
          hex: Words,
          said: Words,
          parts: v.pipe(v.array(v.strictObject({ hex: Words, label: Short, text: Words })), v.maxLength(600)),
        }),
      ),
      v.maxLength(2),
    ),
    from: SourceSchema,
  }),
  /** A photograph that somebody put here. */
  v.strictObject({
    kind: v.literal('picture'),
    title: Short,
    /** When it was put here, as the record tells times. */
    put: Short,
    width: whole(1, LONGEST_SIDE),
    height: whole(1, LONGEST_SIDE),
    /** A JPEG in base64 (RFC 4648). */
    jpeg: v.pipe(
      v.string(),
      v.maxLength(Math.ceil(MOST_PHOTO_BYTES / 3) * 4),
      v.regex(/^\/9j\/[A-Za-z0-9+/]*={0,2}$/, 'is no JPEG in base64'),
    ),
    from: SourceSchema,
  }),
  /** What was expected over time, as a band, and what came. */
  v.strictObject({
    kind: v.literal('curve'),
    title: Short,
    unit: Short,
    low: v.pipe(v.array(Point), v.maxLength(2_000)),
    high: v.pipe(v.array(Point), v.maxLength(2_000)),
    seen: v.pipe(v.array(Point), v.maxLength(2_000)),
    from: SourceSchema,
  }),
]);
export type Block = v.InferOutput<typeof BlockSchema>;
export type Table = Extract<Block, { kind: 'table' }>;

export const SECTIONS = [
  'open',
  'lines',
  'identity',
  'cables',
  'addresses',
  'keypad',
  'words',
  'scaling',
  'cyclic',
  'values',
  'trials',
  'photographs',
  'faults',
  'exchanges',
  'leaving',
] as const;
export type SectionId = (typeof SECTIONS)[number];

const SectionSchema = v.strictObject({
  id: v.picklist(SECTIONS),
  title: Short,
  remark: Words,
  blocks: v.pipe(v.array(BlockSchema), v.maxLength(100_000)),
});
export type Section = v.InferOutput<typeof SectionSchema>;

/** The record of a visit: what was there, what was done, what is left open. Everything in it was seen, sent, answered or typed. */
export const RecordSchema = v.strictObject({
  format: v.literal(RECORD_FORMAT),
  kind: v.literal('record of a visit'),
  job: v.strictObject({ id: Short, name: Short }),
  plant: Short,
  visit: Short,
  by: Short,
  /** When it was made, ISO 8601. */
  made: v.pipe(v.string(), v.isoTimestamp('is no time of ISO 8601')),
  /** What was seen before is of an earlier visit, and not in it, ISO 8601; absent: it has everything that is kept of the job. */
  since: v.optional(v.pipe(v.string(), v.isoTimestamp('is no time of ISO 8601'))),
  /** How times in it are told: minutes before UTC is reached, as the computer had it. */
  zoneMinutes: whole(-1440, 1440),
  sections: v.pipe(v.array(SectionSchema), v.maxLength(SECTIONS.length)),
});
export type VisitRecord = v.InferOutput<typeof RecordSchema>;
