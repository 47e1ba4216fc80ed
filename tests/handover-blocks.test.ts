import { archiveFiles, controllerFiles } from '../src/core/handover/archive';
import type { HandoverInput } from '../src/core/handover/drive';
import { makeRecord } from '../src/core/handover/make-record';
import { NO_VISIT } from '../src/core/handover/visit';
import { itemsOfText } from '../src/core/process-image/items-of-text';
import type { OwnBlock } from '../src/core/process-image/own-block-schema';
import { demoJob } from './harness/shipped';

const [DEMO] = demoJob().blocks ?? [];
const inputOf = (blocks: readonly OwnBlock[]): HandoverInput => ({
  job: { ...demoJob(), blocks: [...blocks] },
  drives: [],
  photos: [],
  visit: NO_VISIT,
  madeMs: 0,
  zoneMinutes: 0,
});
const tables = (blocks: readonly OwnBlock[]) =>
  makeRecord(inputOf(blocks))
    .sections.flatMap((section) => section.blocks)
    .flatMap((block) =>
      block.kind === 'table' && block.rows.some(({ key }) => key.startsWith('cyclic')) ? [block] : [],
    );

it('a block of the user’s own is in the record, with the controller’s addresses and what is to be known of it', () => {
  const [items, remarks, ...rest] = tables([DEMO!]);
  expect(rest).toEqual([]);
  expect(items?.title).toBe('E2 gateway, to the controller: 19 bytes in a slot of 24, high byte first');
  expect(items?.rows.map(({ cells }) => [cells[0], cells[4]])).toContainEqual(['lift_place', '%ID266']);
  expect(items?.rows).toHaveLength(DEMO!.items.length);
  expect(remarks?.rows.map(({ cells: [text] }) => text)).toContain('5 bytes behind the data are not used and stay 0');
});

it('a neighbour over the same bytes is marked as wrong, and items of one name have keys of their own', () => {
  const other: OwnBlock = {
    id: 'b',
    name: 'lamps',
    direction: 'from-drive',
    size: 2,
    order: 'big',
    start: 270,
    counts: 'bytes',
    items: ['lamp', 'lamp'].map((name, byte) => ({ name, what: '', type: 'uint8', byte })),
  };
  const made = tables([DEMO!, other]);
  const bad = made.flatMap(({ rows }) => rows.flatMap(({ mark, cells: [text] }) => (mark === 'bad' ? [text] : [])));
  expect(bad).toEqual([
    'bytes 270 to 271 of the controller’s inputs belong to “lamps” too',
    'two items are called lamp',
    'bytes 270 to 271 of the controller’s inputs belong to “E2 gateway, to the controller” too',
  ]);
  const keys = made.flatMap(({ rows }) => rows.map(({ key }) => key));
  expect(new Set(keys).size).toBe(keys.length);
});

it('the programmer’s part has it as declarations, which the bench reads again, and as a table', () => {
  const files = controllerFiles(inputOf([DEMO!]));
  const path = 'controller/block-e2-gateway-to-the-controller';
  expect(files.map((file) => file.path)).toEqual([`${path}.csv`, `${path}.st`]);
  const text = files.find((file) => file.path.endsWith('.st'))?.text ?? '';
  expect(itemsOfText(text, 'bytes')).toMatchObject({ start: 256, area: 'I', unread: [] });
  expect(itemsOfText(text, 'bytes').items.map(({ name, byte, type }) => [name, byte, type])).toEqual(
    DEMO!.items.map(({ name, byte, type }) => [name, byte, type]),
  );
  expect(archiveFiles(inputOf([DEMO!])).map((file) => file.path)).toContain(`${path}.st`);
});
