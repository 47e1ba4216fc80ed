import { readFileSync } from 'node:fs';
import path from 'node:path';
import { manualPage } from '../tests/harness/manual-page';
import { printed } from '../tests/harness/printed-page';
import { describe } from '../src/core/devices/describe';
import { pick, type Random } from '../src/core/random/random';
import { compareSets } from '../src/core/sets/compare-sets';
import { planFaults, type Plan } from '../src/core/sets/plan';
import { knownOf, wordsOfRaw } from '../src/core/sets/said';
import { readSetCsv } from '../src/core/sets/set-csv';
import { readSetFile, saidByFile, setFileOf } from '../src/core/sets/set-file';
import { readTyped } from '../src/core/sets/typed-value';
import { defaultWitness } from '../src/core/sets/witness';
import { writeOrder } from '../src/core/sets/write-order';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { loadSheet } from '../src/core/sheet/load-sheet';
import { SHIPPED_FILES } from '../src/core/shipped/files';
import type { PlacedText } from '../src/core/tables/page-lines';
import { tableOfPages } from '../src/core/tables/page-table';
import { readTable } from '../src/core/tables/read-table';
import { spoiled, text, type Law } from './inputs';

const bytesOf = (said: string): Uint8Array => new TextEncoder().encode(said);
const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
/** A good text with some of it cut, repeated or changed, or noise. */
const bentText = (random: Random, good: string, most: number): string =>
  random() < 0.2 ? text(random, most) : textOf(spoiled(random, bytesOf(good.slice(0, 1200))));

const tables: Law = {
  name: 'Tables: any text is read, lines lie inside, and each line is told once',
  broken: (random) => {
    const said = bentText(random, manualPage(1 + pick(random, 5000)).text, 400);
    const { parameters, unread } = readTable(said);
    const lines = said.split(/\r\n?|[\n\f\v]/).length;
    const told = [...parameters, ...unread].map(({ line }) => line);
    if (told.some((line) => !(line >= 1 && line <= lines))) return 'a line lies outside the text';
    if (new Set(parameters.map(({ line }) => line)).size !== parameters.length) return 'a line gave two parameters';
    return unread.some(({ why }) => why === '') ? 'a line that was not read has no reason' : '';
  },
};

const letters = (said: string): string => [...said.replace(/\s/g, '')].sort().join('');

const pages: Law = {
  name: 'Pages: any pieces become lines with a place each, and no letter is lost or made up',
  broken: (random) => {
    const [page] = printed(manualPage(1 + pick(random, 5000)), random);
    if (!page) return '';
    const placed = page.placed.flatMap((piece): readonly PlacedText[] => {
      if (random() < 0.05) return [];
      if (random() < 0.05)
        return [{ ...piece, x: piece.x + 40 * (random() - 0.5), y: piece.y + 40 * (random() - 0.5) }];
      return [piece];
    });
    const frame = { x: -1e4, y: -1e4, width: 2e4, height: 2e4 };
    const { text: told, places } = tableOfPages([{ ...page, placed, frame }]);
    if (places.length !== (told === '' ? 0 : told.split('\n').length)) return 'a line has no place';
    return letters(told) === letters(placed.map((piece) => piece.text).join('')) ? '' : 'letters are lost or made up';
  },
};

const folder = path.join(process.cwd(), 'sheets', 'descriptions');
const FILES = ['rook.eds', 'wagtail.eds', 'plover.iodd.xml', 'heron.gsdml.xml'].map((name) =>
  readFileSync(path.join(folder, name), 'utf8'),
);

const descriptions: Law = {
  name: 'Descriptions: any file is read or refused with a sentence',
  broken: (random) => {
    const good = FILES[pick(random, FILES.length)] ?? '';
    const from = pick(random, Math.max(1, good.length - 1200));
    const spoilt = `${good.slice(0, from)}${bentText(random, good.slice(from), 200)}${good.slice(from + 1200)}`;
    const { faults, parameters } = describe(spoilt);
    if (faults.some((fault) => fault.text === '')) return 'a fault says nothing';
    return parameters.every(({ key }) => key !== '') ? '' : 'a parameter has no key';
  },
};

const loaded = loadSheet(SHIPPED_FILES.sheets.tern);
const INDEX = loaded.ok ? indexSheet(loaded.value) : null;

const FACTORY = INDEX && defaultWitness(INDEX);
const SET_FILE =
  INDEX && FACTORY ? JSON.stringify(setFileOf(INDEX, FACTORY.said, { name: 'x', at: '2026-01-01T00:00:00.000Z' })) : '';

const sets: Law = {
  name: 'Sets: any file or value is read or refused with a sentence; what is typed is what the plan holds',
  broken: (random) => {
    if (!INDEX || !FACTORY) return 'the sheet is broken';
    const factory = FACTORY;
    const file = SET_FILE;
    const read = readSetFile(random() < 0.5 ? file : `${bentText(random, file, 60)}${file.slice(1200)}`);
    if (!read.ok && read.error === '') return 'a refusal says nothing';
    const rows = compareSets([factory, { ...factory, id: 'b', said: read.ok ? saidByFile(read.value) : new Map() }]);
    if (rows.length < INDEX.parameters.length) return 'a value has no row';
    readSetCsv(INDEX, text(random, 200));
    const parameter = INDEX.parameters[pick(random, INDEX.parameters.length)];
    if (!parameter) return '';
    const typed = readTyped(
      INDEX,
      parameter,
      random() < 0.5 ? text(random, 12) : `${pick(random, 70_000) - 2000}`,
      knownOf(INDEX, factory.said),
    );
    if (!typed.ok) return typed.error === '' ? 'a refusal says nothing' : '';
    if (typed.value.length !== parameter.cells.length) return `${parameter.number} takes ${typed.value.length} words`;
    const plan: Plan = new Map([[parameter.number, { words: typed.value, reason: 'typed' }]]);
    if (writeOrder(INDEX, plan, factory.said).length !== 1) return 'a planned value is in no phase';
    const bad = planFaults(INDEX, plan, factory.said).some(({ text: said }) => said === '');
    return bad || wordsOfRaw(parameter, NaN)?.some((word) => !(word >= 0)) ? 'a fault says nothing' : '';
  },
};

/** Laws of what is found in manuals, files and drives. */
export const foundLaws: readonly Law[] = [tables, pages, descriptions, sets];
