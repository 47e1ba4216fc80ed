import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { toJsonSchema } from '@valibot/to-json-schema';
import * as v from 'valibot';
import { RecordSchema } from '../src/core/handover/document';
import { JobSchema } from '../src/core/job/job-schema';
import { MOST_SHEETS } from '../src/core/job/load-job';
import { SetFileSchema } from '../src/core/sets/set-file';
import { SheetSchema } from '../src/core/sheet/sheet';
import { TrialSchema } from '../src/core/trial/trial';

/** A job file holds the sheets of its stations beside the job. */
const JobFileSchema = v.strictObject({
  ...JobSchema.entries,
  sheets: v.optional(v.pipe(v.array(SheetSchema), v.maxLength(MOST_SHEETS))),
});

const folder = path.join(__dirname, '..', 'docs', 'schema');

/** What a file holds before it is read: hex words as text. Checks across fields are in check-sheet.ts; a JSON Schema cannot carry them. */
const published = {
  'sheet.schema.json': () => toJsonSchema(SheetSchema, { typeMode: 'input' }),
  'set.schema.json': () => toJsonSchema(SetFileSchema, { typeMode: 'input' }),
  'trial.schema.json': () => toJsonSchema(TrialSchema, { typeMode: 'input' }),
  'record.schema.json': () => toJsonSchema(RecordSchema, { typeMode: 'input' }),
  'job.schema.json': () => toJsonSchema(JobFileSchema, { typeMode: 'input' }),
};

it.each(Object.entries(published))(
  'docs/schema/%s is what the program reads (BUJO_WRITE_SCHEMA=1 writes it)',
  (name, make) => {
    const file = path.join(folder, name);
    const text = `${JSON.stringify(make(), null, 2)}\n`;
    if (process.env.BUJO_WRITE_SCHEMA === '1') writeFileSync(file, text);
    expect(existsSync(file) ? readFileSync(file, 'utf8') : '').toBe(text);
  },
);
