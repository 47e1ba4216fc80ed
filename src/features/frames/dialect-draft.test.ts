import { commandOfPath, EMPTY_DIALECT, placeText, sheetOf, slugOf } from './dialect-draft';

describe('a dialect that is being described', () => {
  it.each([
    ['dialect.commands[0].access', 'SPD, access'],
    ['dialect.commands[0].fields[0]', 'SPD, speed'],
    ['dialect.commands.0.fields.0.min', 'SPD, speed, min'],
    ['dialect.commands[0].asks[0].width', 'SPD, index, width'],
    ['dialect.commands[7].verb', 'commands[7].verb'],
    ['dialect.close', 'close'],
    ['dialect.reply.error.mark', 'reply.error.mark'],
  ])('%s is said as %s', (path, text) => {
    const [command] = EMPTY_DIALECT.commands;
    const dialect = {
      ...EMPTY_DIALECT,
      commands: [{ ...command!, asks: [{ name: 'index', base: 'decimal' as const }] }],
    };
    expect(placeText(dialect, path)).toBe(text);
  });

  it('names the command that a fault belongs to', () => {
    expect(['dialect.commands[3].verb', 'dialect.commands.12.fields', 'dialect.close'].map(commandOfPath)).toEqual([
      3, 12, -1,
    ]);
  });

  it('becomes a sheet as it stands, and says where it cannot', () => {
    expect(sheetOf({ ...EMPTY_DIALECT, name: 'Kiln fan 2' }, 4, null)).toMatchObject({
      ok: true,
      value: { slug: slugOf('Kiln fan 2'), revision: 4, dialect: { id: 'kiln-fan-2' } },
    });
    const bad = sheetOf({ ...EMPTY_DIALECT, close: '' }, 1, null);
    expect(bad.ok ? [] : bad.error.map(({ path }) => path)).toContain('dialect.close');
  });
});
