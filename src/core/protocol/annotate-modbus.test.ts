import { rtu } from '../../../tests/harness/line';
import { ternIndex } from '../../../tests/harness/sheets';
import { leavesOf } from '../bytes/field';
import { anatomyRtu } from '../modbus/anatomy';
import type { Direction } from '../direction';
import { readRtu } from '../modbus/rtu';
import { annotate } from './annotate-modbus';

const index = ternIndex();
const names = (station: number): string | null => (station === 3 ? 'kiln fan' : null);

const texts = (
  frame: string,
  direction: Direction,
  request: string | null = null,
  sheet: typeof index | null = index,
): readonly string[] => {
  const bytes = rtu(frame);
  const reading = readRtu(bytes, direction);
  const asked = request === null ? null : readRtu(rtu(request), 'request').message;
  return leavesOf(annotate(anatomyRtu(bytes, reading), reading.message, asked, sheet, names)).map(
    ({ label, text }) => `${label}: ${text}`,
  );
};

it('a write says station, parameter and value in the sheet’s words', () => {
  expect(texts('03 06 02C3 0F45', 'request')).toEqual([
    'station: 3 · kiln fan',
    'function: write one register',
    'address: 11.03 speed reference',
    'value: 3909 = 17.498 Hz',
    'check: good, low byte first',
  ]);
});

it('a reply takes the meaning of its values from its request', () => {
  expect(texts('03 03 04 0000 2A0D', 'response', '03 03 0181 0002').slice(3, 5)).toEqual([
    'value 1: 0 = no fault',
    'value 2: 0x2A0D · in remote, running forward',
  ]);
});

it('many values are told apart by name', () => {
  expect(texts('03 03 0A 0000 2A0D 0000 001C 0F43', 'response', '03 03 0181 0005')[7]).toBe(
    'value 5: actual speed 3907 = 17.489 Hz',
  );
});

it('without a request or a sheet the numbers stand for themselves', () => {
  expect(texts('03 03 04 0000 2A0D', 'response')[4]).toBe('value 2: 10765');
  expect(texts('07 06 02C3 F0BB', 'request', null, null)).toEqual([
    'station: 7',
    'function: write one register',
    'address: 0x02C3 = 707',
    'value: register 707: 61627 or -3909',
    'check: good, low byte first',
  ]);
});

it('an exception is named', () => {
  expect(texts('03 83 02', 'response', '03 03 0181 0002')).toEqual([
    'station: 3 · kiln fan',
    'function: refused: read holding registers',
    'exception: illegal data address',
    'check: good, low byte first',
  ]);
});
