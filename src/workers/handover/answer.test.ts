import Ajv from 'ajv';
import 'fake-indexeddb/auto';
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { unzipSync, zipSync } from 'fflate';
import { demoJob, shippedSheets } from '../../../tests/harness/shipped';
import { visitedFan } from '../../../tests/harness/visited';
import { NO_VISIT } from '../../core/handover/visit';
import { recordText } from '../../core/handover/html';
import { readRecord } from '../../core/handover/read-record';
import { readJobText } from '../../core/job/load-job';
import { packBlock } from '../../core/trace/block';
import type { TraceEntry } from '../../core/trace/entry';
import type { HandoverAnswer, RecordSources } from '../../messages/handover';
import { BujoDatabase } from '../../store/database';
import { answerHandover } from './answer';
import { DIGEST_LIST } from './zip';

let count = 0;

/** The least that a browser takes for a JPEG begins so; what is in it is nobody's business here. */
const PHOTO = {
  atMs: Date.UTC(2026, 10, 20, 17),
  width: 640,
  height: 480,
  jpeg: Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 1, 2, 3),
};

/** A browser in which the demo's fan was worked on, and what the page knows of it. */
async function worked() {
  const database = new BujoDatabase(`handover ${count++}`);
  const fan = await visitedFan();
  fan.read('22.02');
  fan.write('22.02', 150);
  fan.run('stops');
  const job = demoJob();
  const line = job.lines[0]!.id;
  const entries = fan.entries.map((entry, sequence): TraceEntry => ({ ...entry, session: 's', line, sequence }));
  await database.sessions.put({ id: 's', startedAtMs: Date.UTC(2026, 10, 20, 8), job: job.id });
  for (let from = 0; from < entries.length; from += 100)
    await database.traceBlocks.put(packBlock(entries.slice(from, from + 100)));
  const [run] = fan.input().drives[0]!.runs;
  const sources: RecordSources = {
    job,
    sheets: shippedSheets(),
    sets: [
      {
        id: 'now',
        job: job.id,
        line,
        station: 3,
        kind: 'now',
        name: 'the drive now',
        sheet: { slug: 'tern', revision: 1 },
        startedMs: Date.UTC(2026, 10, 20, 9),
        reading: {
          waiting: [],
          said: new Map([['22.02', { kind: 'value', words: [150], atMs: Date.UTC(2026, 10, 20, 9) }]]),
          of: 1,
          requests: 1,
          tries: 0,
          silences: 0,
        },
      },
    ],
    writings: [],
    runs: [
      {
        ...run!,
        job: job.id,
        line,
        station: 3,
        name: '3 · kiln fan',
        sheet: { slug: 'tern', revision: 1 },
      },
    ],
    photos: [
      { ...PHOTO, id: 'a', of: { of: 'run', run: run!.id }, caption: 'the display shows 1385' },
      {
        ...PHOTO,
        id: 'b',
        of: { of: 'drive', line, station: job.lines[0]!.stations[0]!.id },
        caption: '',
      },
    ],
    visit: { ...NO_VISIT, by: 'E. Moss' },
    madeMs: Date.UTC(2026, 10, 20, 18),
    zoneMinutes: 0,
  };
  const ask = (question: Parameters<typeof answerHandover>[1]): Promise<HandoverAnswer> =>
    answerHandover({ database, fonts: () => Promise.resolve({ text: '', mono: '' }) }, question);
  const record = async () => {
    const answer = await ask({ kind: 'record', sources });
    if (answer.kind !== 'record') throw new Error('no record');
    return answer;
  };
  const archive = async (part: 'whole' | 'controller' = 'whole') => {
    const answer = await ask({ kind: 'archive', record: (await record()).record, sources, paper: 'A4', part });
    if (answer.kind !== 'file') throw new Error('no file');
    return new Uint8Array(await answer.blob.arrayBuffer());
  };
  /** What becomes of an archive that is asked for a closed record. */
  const closed = async (part: 'whole' | 'controller') => {
    const answer = await ask({ kind: 'archive', record: (await record()).record, sources: null, paper: 'A4', part });
    if (answer.kind !== 'file') throw new Error('no file');
    return Object.keys(unzipSync(new Uint8Array(await answer.blob.arrayBuffer()))).sort();
  };
  const open = (bytes: Uint8Array | string, name = 'record.zip') =>
    ask({ kind: 'open', file: new File([typeof bytes === 'string' ? bytes : Uint8Array.from(bytes)], name) });
  return { database, ask, sources, record, archive, closed, open, entries };
}

it('the worker makes the record out of the trace that is kept, and its digest is that of its JSON', async () => {
  const { record, entries } = await worked();
  const { record: made, digest } = await record();
  expect(digest).toBe(createHash('sha256').update(recordText(made)).digest('hex'));
  const drives = made.sections.find(({ id }) => id === 'lines')!.blocks[1]!;
  const rows = drives.kind === 'table' ? drives.rows : [];
  const answers = entries.filter(({ outcome }) => outcome === 'answered').length;
  expect(rows[0]!.cells[4]).toMatch(new RegExp(`^answered ${answers} times, 2026-11-20 08:00:00 to `));
  expect(rows.slice(1).map(({ cells }) => cells[4])).toEqual(rows.slice(1).map(() => 'not asked'));
});

it('a photograph stands with what it is of, in the page and as a file; one that is no JPEG is refused', async () => {
  const { archive, record } = await worked();
  const { record: made } = await record();
  const titles = (id: string): readonly string[] =>
    made.sections
      .find((section) => section.id === id)!
      .blocks.flatMap((block) => (block.kind === 'picture' ? [`${block.title} ${block.put}`] : []));
  expect(titles('trials')).toEqual(['K1 kiln, 3 · kiln fan: How it stops: the display shows 1385 2026-11-20 17:00:00']);
  expect(titles('photographs')).toEqual(['K1 kiln, 3 · kiln fan 2026-11-20 17:00:00']);
  const files = unzipSync(await archive());
  const photos = Object.keys(files).filter((name) => name.startsWith('photographs/'));
  expect(photos).toEqual([
    'photographs/01-k1-kiln-3-kiln-fan-how-it-stops-the-display-shows-1385.jpg',
    'photographs/02-k1-kiln-3-kiln-fan.jpg',
  ]);
  for (const name of photos) expect([...files[name]!]).toEqual([...PHOTO.jpeg]);
  const address = `src="data:image/jpeg;base64,${Buffer.from(PHOTO.jpeg).toString('base64')}"`;
  expect(new TextDecoder().decode(files['record.html']).split(address)).toHaveLength(3);
  const text = recordText(made);
  for (const bad of ['" onerror="x', '/9j/<b>', 'PHN2Zz4=', ''])
    expect(readRecord(text.replaceAll(/"jpeg":"[^"]*"/g, `"jpeg":${JSON.stringify(bad)}`))).toEqual({
      ok: false,
      error: expect.stringMatching(/jpeg: is no JPEG in base64/) as string,
    });
});

it('an archive is the same to the last byte when it is made again, and the bench opens it, its page and its JSON', async () => {
  const { archive, record, open } = await worked();
  const zip = await archive();
  expect(await archive()).toEqual(zip);
  const { record: made, digest } = await record();
  const files = unzipSync(zip);
  for (const bytes of [zip, files['record.html']!, files['record.json']!])
    expect(await open(bytes)).toEqual({ kind: 'record', record: made, digest, notes: [] });
});

/** Independent readers from Debian’s packages: `.ci/run` installs and demands them; elsewhere the test is left out where one is missing. */
const isThere = ['unzip', 'sha256sum'].every((tool) => spawnSync(tool, ['--help']).status === 0);

(isThere || process.env.BUJO_NEED_READER === '1' ? it : it.skip)(
  'common tools take an archive apart and check every file of it',
  async () => {
    const { archive } = await worked();
    const folder = mkdtempSync(path.join(tmpdir(), 'bujo-'));
    try {
      writeFileSync(path.join(folder, 'a.zip'), await archive());
      execFileSync('unzip', ['-q', 'a.zip', '-d', 'out'], { cwd: folder });
      const checked = execFileSync('sha256sum', ['--strict', '-c', DIGEST_LIST], {
        cwd: path.join(folder, 'out'),
      }).toString();
      const lines = checked.trim().split('\n');
      expect(lines.length).toBeGreaterThan(10);
      expect(lines.every((line) => line.endsWith(': OK'))).toBe(true);
    } finally {
      rmSync(folder, { recursive: true });
    }
  },
);

it('it holds the job with its sheets, the words, the trials and the trace, and the programmer’s part alone without them', async () => {
  const { archive, entries } = await worked();
  const files = unzipSync(await archive());
  const text = (name: string): string => new TextDecoder().decode(files[name]);
  const job = readJobText(text('job.json'));
  expect(job.ok && job.value.sheets.map(({ slug }) => slug)).toEqual(
    expect.arrayContaining(['tern', 'wren', 'dunlin']),
  );
  expect(text('trace.csv').trim().split('\r\n')).toHaveLength(entries.length + 1);
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining([
      'record.html',
      'record.json',
      'trace.pcapng',
      'cables/k1-kiln.csv',
      'controller/k1-kiln-3-kiln-fan-words.csv',
      'sheets/tern-1.json',
      expect.stringMatching(/^trials\/k1-kiln-3-kiln-fan-how-it-stops-\d+\.csv$/) as string,
    ]),
  );
  const part = Object.keys(unzipSync(await archive('controller')));
  expect(part).toContain('words.html');
  expect(part.filter((name) => !/^(?:words\.html|SHA256SUMS|controller\/.*)$/.test(name))).toEqual([]);
});

// JSON Schema, draft 7; read by a general-purpose validator.
it('each JSON file of an archive keeps to the schema that goes with it', async () => {
  const { archive } = await worked();
  const files = unzipSync(await archive());
  const json = (name: string): object => JSON.parse(new TextDecoder().decode(files[name])) as object;
  const schemaOf = (name: string): string =>
    /^sheets\//.test(name) ? 'sheet' : /^values\//.test(name) ? 'set' : name.replace(/\.json$/, '');
  const names = Object.keys(files).filter((name) => name.endsWith('.json') && !name.startsWith('schemas/'));
  expect(new Set(names.map(schemaOf))).toEqual(new Set(['job', 'record', 'sheet', 'set']));
  const ajv = new Ajv({ allErrors: true });
  for (const name of names) {
    const isValid = ajv.compile(json(`schemas/${schemaOf(name)}.schema.json`));
    isValid(json(name));
    expect([name, isValid.errors]).toEqual([name, null]);
    // A schema that lets anything through would say nothing.
    expect(isValid({ ...json(name), somethingElse: 1 })).toBe(false);
  }
});

it('a closed record goes by itself, its photographs with it: no file of now stands beside it', async () => {
  const { closed } = await worked();
  expect((await closed('whole')).filter((name) => !name.startsWith('schemas/'))).toEqual([
    DIGEST_LIST,
    'photographs/01-k1-kiln-3-kiln-fan-how-it-stops-the-display-shows-1385.jpg',
    'photographs/02-k1-kiln-3-kiln-fan.jpg',
    'record.html',
    'record.json',
  ]);
  expect(await closed('controller')).toEqual([DIGEST_LIST, 'words.html']);
});

it('a visit has what was seen since it began, and nothing of the one before', async () => {
  const { ask, sources, entries } = await worked();
  const start = Date.UTC(2026, 10, 20, 8);
  const of = async (sinceMs?: number) => {
    const visit = { ...sources.visit, ...(sinceMs === undefined ? {} : { sinceMs }) };
    const answer = await ask({ kind: 'record', sources: { ...sources, visit } });
    if (answer.kind !== 'record') throw new Error('no record');
    return answer.record;
  };
  const text = async (sinceMs?: number) => JSON.stringify((await of(sinceMs)).sections);
  expect(await text()).toContain('How it stops: steps');
  expect(await text(start)).toBe(await text());
  const after = await text(start + (entries.at(-1)?.atUs ?? 0) / 1000 + 1);
  expect(after).not.toContain('How it stops: steps');
  expect(after).toContain('no answer of it is in the trace');
  expect((await of(start)).since).toBe('2026-11-20T08:00:00.000Z');
});

it('a drive that was renumbered and got another revision keeps what was seen of it before', async () => {
  const { ask, sources, database } = await worked();
  const [line] = sources.job.lines;
  const renumbered = {
    ...line!,
    stations: line!.stations.map((one) =>
      one.station === 3 ? { ...one, station: 13, sheet: { slug: 'tern', revision: 99 } } : one,
    ),
  };
  const job = { ...sources.job, lines: [renumbered, ...sources.job.lines.slice(1)] };
  await database.sessions.update('s', { lines: sources.job.lines });
  // Values and trials were kept under its number of then.
  const answer = await ask({ kind: 'record', sources: { ...sources, job } });
  if (answer.kind !== 'record') throw new Error('no record');
  const lines = answer.record.sections.find(({ id }) => id === 'lines')!.blocks;
  const cells = lines.flatMap((block) => (block.kind === 'table' ? block.rows.map((row) => row.cells) : []));
  const drive = cells.find((own) => own.some((cell) => cell.startsWith('13')));
  expect(drive?.join(' ')).toMatch(/answered \d+ times, 2026-11-20 08:00:00 to /);
  const trials = JSON.stringify(answer.record.sections.find(({ id }) => id === 'trials')?.blocks);
  expect(trials).toContain('How it stops');
});

it('a record that could not be opened again says so before it is closed', async () => {
  const { ask, sources } = await worked();
  const answer = await ask({
    kind: 'record',
    sources: { ...sources, visit: { ...sources.visit, plant: 'x'.repeat(500) } },
  });
  expect(answer).toMatchObject({
    kind: 'record',
    notes: [expect.stringMatching(/^This record could not be opened again, .*plant/) as string],
  });
});

describe('a hostile archive', () => {
  it('that leads out of its folder, or grows too large, is read without that, and says so', async () => {
    const { open, record } = await worked();
    const { record: made } = await record();
    const json = new TextEncoder().encode(recordText(made));
    const bomb = zipSync({ 'big.bin': [new Uint8Array(70_000_000), { level: 9 }], 'record.json': json });
    expect(bomb.length).toBeLessThan(400_000);
    expect(await open(bomb)).toMatchObject({
      kind: 'record',
      notes: ['big.bin is left: it is too large unpacked', expect.stringMatching(/no list of digests/)],
    });
    for (const bad of ['../record.json', '/record.json', 'a/../../record.json', 'C:/record.json', 'a\\record.json'])
      expect(await open(zipSync({ [bad]: json }))).toEqual({
        kind: 'failed',
        why: expect.stringMatching(/^no record is in this archive; .*leads out of the archive/) as string,
      });
  });

  it('whose files are not as they were says which, and gives what is whole', async () => {
    const { open, archive } = await worked();
    const files = unzipSync(await archive());
    files['trace.csv'] = new TextEncoder().encode('nothing');
    delete files['job.json'];
    files['extra.txt'] = new Uint8Array(1);
    const opened = await open(zipSync(files));
    expect(opened).toMatchObject({ kind: 'record' });
    expect(opened.kind === 'record' && [...opened.notes].sort()).toEqual([
      'extra.txt is not in the list of digests',
      'job.json is in the list of digests and not here',
      'trace.csv is not as it was when the archive was made',
    ]);
  });

  it('that is cut anywhere is refused or read, with a sentence, and never throws', async () => {
    const { open, archive } = await worked();
    const zip = await archive('controller');
    for (let i = 1; i < 40; i++) {
      const cut = zip.slice(0, Math.floor((zip.length * i) / 40));
      expect(await open(cut)).toEqual({ kind: 'failed', why: expect.stringMatching(/ZIP|record/) as string });
    }
    expect(await open('PK but no archive')).toEqual({
      kind: 'failed',
      why: 'it is no ZIP archive, or it is damaged',
    });
    expect(await open('<html>a page</html>', 'x.html')).toMatchObject({ kind: 'failed' });
  });

  it('that is larger than any is refused before it is read', async () => {
    const { ask } = await worked();
    const file = {
      size: 200_000_000,
      name: 'x.zip',
      slice: () => new Blob(['PK']),
      arrayBuffer: () => Promise.reject(new Error('read')),
    };
    expect(await ask({ kind: 'open', file: file as unknown as File })).toEqual({
      kind: 'failed',
      why: 'the archive is too large',
    });
  });

  it('with one damaged file gives the others; one that grows beyond what it says does not grow', async () => {
    const { open, archive, record } = await worked();
    const { digest } = await record();
    const zip = await archive();
    const name = new TextEncoder().encode('trace.csv');
    const places: number[] = [];
    for (let at = 0; at < zip.length - name.length; at++)
      if (name.every((byte, i) => zip[at + i] === byte)) places.push(at);
    // The compressed bytes behind its own header are spoilt.
    const spoilt = zip.slice();
    spoilt.fill(0xff, places[0]! + name.length + 4, places[0]! + name.length + 200);
    const opened = await open(spoilt);
    expect(opened).toMatchObject({ kind: 'record', digest });
    expect(
      opened.kind === 'record' &&
        opened.notes.length > 0 &&
        opened.notes.every((text) => text.startsWith('trace.csv ')),
    ).toBe(true);
    // In the directory at the end (APPNOTE, 4.3.12) the size unpacked stands 22 bytes before the name.
    const lying = zip.slice();
    const entry = places.at(-1)!;
    new DataView(lying.buffer).setUint32(entry - 46 + 24, 10, true);
    expect(await open(lying)).toMatchObject({
      kind: 'record',
      digest,
      notes: [expect.stringMatching(/^trace\.csv is /) as string],
    });
  });
});
