import { shippedIndex } from '../../../tests/harness/sheets';
import { cia402 } from './cia402';
import { mapOf } from './layout';
import { PROFIDRIVE } from './profidrive';

it.each([cia402('velocity'), PROFIDRIVE, shippedIndex('tern').profile!, shippedIndex('pipit').profile!])(
  '$name: every state has a place of its own, the shelf holds what nobody commands',
  (profile) => {
    const map = mapOf(profile);
    expect(map.places).toHaveLength(profile.states.length);
    const cells = map.places.map(({ column, row }) => `${column} ${row}`);
    expect(new Set(cells).size).toBe(cells.length);
    for (const { state, row, column } of map.places) {
      expect(row === 0).toBe(state.arises === true);
      expect(column).toBeLessThan(map.columns);
      expect(row).toBeLessThan(map.rows);
    }
    const known = new Set(profile.states.map(({ id }) => id));
    expect(map.ways.every(([a, b]) => a !== b && known.has(a) && known.has(b))).toBe(true);
    expect(new Set(map.ways.map((way) => [...way].sort().join(' '))).size).toBe(map.ways.length);
  },
);

it('the usual walk of CiA 402 goes to the right, step by step', () => {
  const column = new Map(mapOf(cia402('velocity')).places.map(({ state, column: at }) => [state.id, at]));
  expect(
    ['switch-on-disabled', 'ready-to-switch-on', 'switched-on', 'operation-enabled'].map((id) => column.get(id)),
  ).toEqual([0, 1, 2, 3]);
});
