import { shippedIndex } from '../../../tests/harness/sheets';
import { RTU } from '../modbus/framing';
import { registerLink } from '../places/register-link';
import { ussLink } from '../places/uss-link';
import { cardRows, wordCard } from './word-card';

it('Wren: words in every base with their frame, addresses in every notation', () => {
  const index = shippedIndex('wren');
  const card = wordCard(index, 7, '19200 8E1', registerLink(index, RTU));
  expect(card.words.find(({ name }) => name === 'run')).toEqual({
    name: 'run',
    hex: '0x007F',
    decimal: '127',
    binary: '0000 0000 0111 1111',
    frame: '07 06 03 98 00 7F 49 E7',
  });
  expect(card.places.find(({ name }) => name === 'target speed')).toEqual({
    name: 'target speed',
    number: '21',
    access: 'read and write',
    type: 'int16',
    fromZero: '921',
    fromOne: '922',
    hex: '0x0399',
    reference5: '40922',
    reference6: '400922',
    scale: '1500 = 1500 rpm',
  });
  expect(card.scale[1]).toBe('16 bits, backward as two’s complement');
});

it('Dunlin: process data have a place in the telegram instead of an address', () => {
  const index = shippedIndex('dunlin');
  const card = wordCard(index, 4, '38400 8E1, USS', ussLink(index));
  expect(card.places.find(({ name }) => name === 'status word')).toMatchObject({
    fromZero: 'word 1 of the process data from the drive',
    reference6: '',
  });
  // STX, LGE 14, ADR 4, no task, 047F and set-point 0, BCC (from memory).
  expect(card.words.find(({ hex }) => hex === '0x047F')?.frame).toBe('02 0E 04 00 00 00 00 00 00 00 00 04 7F 00 00 73');
});

it('as rows every part has its heading', () => {
  const index = shippedIndex('tern');
  const rows = cardRows(wordCard(index, 3, '19200 8E1', registerLink(index, RTU)));
  expect(rows[0]).toEqual(['Tern, station 3']);
  expect(rows.filter(([first]) => first === 'word' || first === 'place')).toHaveLength(2);
  expect(rows.some((row) => row.includes('12287 = 55 Hz'))).toBe(true);
});
