import { act, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { saveFile } from '../../bench/workers/ask-file-worker';
import type { Parameter } from '../../core/sheet/parameter-section';
import { shelfOf } from '../../core/sheet/shelf';
import type { Sheet } from '../../core/sheet/sheet';
import { BlockPart } from './block-part';

jest.mock('../../bench/workers/ask-file-worker', () => ({
  ...jest.requireActual<object>('../../bench/workers/ask-file-worker'),
  saveFile: jest.fn(),
}));

const type = async (label: string | RegExp, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  if (text !== '') await userEvent.type(screen.getByLabelText(label), text);
};
/** As a list comes out of another program, in one piece. */
const paste = async (label: string | RegExp, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.click(screen.getByLabelText(label));
  await userEvent.paste(text);
};
const row = (name: RegExp): HTMLElement =>
  within(screen.getByRole('table', { name: 'Items of the block' })).getByRole('row', { name });

it('a block that was copied is read by items, each at the controller’s address', async () => {
  benchAt('K1', 3).show(<BlockPart />);
  await userEvent.selectOptions(screen.getByLabelText('Block'), 'telegram-1-in');
  await paste(/^A block that was copied/, '0x02 0x37 0xE0 0x00');
  // PROFIdrive N2: 0x4000 is 100 %, so 0xE000 is minus half of it (from memory).
  expect(row(/^ZSW1 status word 1 0 to 1 %IW256 WORD 567 = 0x0237 \S/)).toBeInTheDocument();
  expect(row(/^NIST_A .* 2 to 3 %IW258 INT -8192 = 0xE000 -50\.00 %/)).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('Its addresses count'), 'own-width');
  expect(row(/^NIST_A .* %IW129 /)).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('Its bytes come'), 'little');
  expect(row(/^ZSW1 .* 14082 = 0x3702/)).toBeInTheDocument();
});

it('a block of another length, bytes that are none and a start that is none are said', async () => {
  benchAt('K1', 3).show(<BlockPart />);
  await userEvent.selectOptions(screen.getByLabelText('Block'), 'telegram-3-in');
  await paste(/^A block that was copied/, '02 37');
  expect(screen.getByText('2 bytes came, the image has 18.')).toBeInTheDocument();
  await paste(/^A block that was copied/, 'far');
  expect(screen.getByLabelText(/^A block that was copied/)).toBeInvalid();
  await type('Begins at the controller’s byte', '70000');
  expect(screen.getByLabelText('Begins at the controller’s byte')).toBeInvalid();
  // No file says that it begins at 0, or anywhere else that nobody typed.
  for (const name of ['Export declarations', 'Export as CSV'])
    expect(screen.getByRole('button', { name })).toBeDisabled();
  // A wide value at an odd place has no address of its own width; its declarations are not exported then.
  await type('Begins at the controller’s byte', '258');
  await userEvent.selectOptions(screen.getByLabelText('Its addresses count'), 'own-width');
  expect(row(/^NIST_B .* %ID65 DINT/)).toBeInTheDocument();
  await type('Begins at the controller’s byte', '256');
  expect(screen.getByRole('button', { name: 'Export declarations' })).toBeDisabled();
  expect(screen.getByRole('button', { name: 'Export declarations' })).toHaveAccessibleDescription(
    /^NIST_B: byte 258 is no multiple of 4 bytes/,
  );
});

it('a paste that is larger than any block is said, and nothing is ranked for it', () => {
  benchAt('K1', 3).show(<BlockPart />);
  fireEvent.change(screen.getByLabelText(/^A block that was copied/), { target: { value: 'AB '.repeat(50_000) } });
  expect(screen.getByLabelText(/^A block that was copied/)).toBeInvalid();
  expect(screen.queryByRole('table', { name: 'Ways to read the block' })).toBeNull();
});

it('what goes to the drive is an output, and its declarations go out as a file', async () => {
  benchAt('K2', 4).show(<BlockPart />);
  expect(screen.getByLabelText('Block')).toHaveValue('sheet-out');
  expect(screen.getByText(/^What goes to the drive is the controller’s output/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Export declarations' }));
  const [blob, name] = jest.mocked(saveFile).mock.calls[0]!;
  expect(name).toMatch(/\.st$/);
  expect(blob.size).toBeGreaterThan(60);
});

it('process data of any type are read: floats, single bytes', async () => {
  const { bench, show } = benchAt('K2', 4);
  const dunlin = bench.state.getState().sheets.get('dunlin')!.sheet;
  const types = ['float32', 'int8'] as const;
  const parameters = types.map((type, i): Parameter => ({
    number: `IN ${i + 1}`,
    name: `value ${i + 1}`,
    type,
    unit: 'Hz',
    at: [{ kind: 'process', direction: 'in', word: 2 * i }],
  }));
  const sheet = { ...dunlin, commands: undefined, profile: undefined, words: undefined, parameters };
  bench.state.setState(({ sheets }) => ({ sheets: shelfOf([sheet], sheets) }));
  show(<BlockPart />);
  await paste(/^A block that was copied/, '41 8C 00 00 FF 00');
  expect(row(/^IN 1 value 1 0 to 3 %ID256 REAL 17\.5 Hz/)).toBeInTheDocument();
  expect(row(/^IN 2 value 2 4 %IB260 SINT -1 = 0xFF/)).toBeInTheDocument();
});

it('a block that looks wrong is found out by what is known of one value, and read so by a press', async () => {
  benchAt('K1', 3).show(<BlockPart />);
  await userEvent.selectOptions(screen.getByLabelText('Block'), 'telegram-3-in');
  // Two bytes of a head; ZSW1 0237, NIST_B 25 % = 1000 0000 with its words swapped, the rest 0 (IEC 61800-7-203, from memory).
  await paste(/^A block that was copied/, `AA AA 02 37 00 00 10 00 ${'00 '.repeat(12)}`);
  await type('NIST_B is, as you know', '25 %');
  const ways = screen.getByRole('table', { name: 'Ways to read the block' });
  const [best] = within(ways).getAllByRole('row');
  expect(best).toHaveTextContent('everything stands 2 bytes further on, as behind a head of a slot');
  expect(best).toHaveTextContent('the two words of each value of 32 bits are swapped');
  expect(best).toHaveTextContent('+ NIST_B would be 268435456, which is the 25 % that you know');
  await userEvent.click(within(best!).getByRole('button'));
  expect(screen.getByLabelText('Its bytes come')).toHaveValue('big-swapped-words');
  expect(screen.getByLabelText('Bytes copied before it')).toHaveValue('2');
  expect(row(/^NIST_B .* 268435456 = 0x10000000 25\.00 %/)).toBeInTheDocument();
  expect(
    within(screen.getByRole('table', { name: 'Ways to read the block' })).getAllByRole('row')[0],
  ).toHaveTextContent('as it is read now');
  // What is known and cannot be read is said at its field, and decides nothing.
  await type('NIST_B is, as you know', 'quick');
  expect(screen.getByLabelText('NIST_B is, as you know')).toBeInvalid();
});

it('a list of the drive’s values is a block: its fault is said, and its table and text go out as files', async () => {
  jest.mocked(saveFile).mockClear();
  benchAt('K1', 3).show(<BlockPart />);
  await userEvent.selectOptions(screen.getByLabelText('Block'), 'list-to-drive');
  expect(screen.queryByRole('table', { name: 'Items of the block' })).toBeNull();
  await paste('Their numbers, in the order of the list', '11.01 99.99');
  expect(screen.getByText('the sheet has no 99.99')).toBeInTheDocument();
  await paste('Their numbers, in the order of the list', '11.01, 0, 11.03');
  expect(row(/^11\.03 speed reference 4 to 5 %QW260 INT/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Export as CSV' }));
  await userEvent.click(screen.getByRole('button', { name: 'Export declarations' }));
  const files = jest.mocked(saveFile).mock.calls.map(([blob, name]) => [blob.type, name.replace(/^.*\./, '')]);
  expect(files).toEqual([
    ['text/csv', 'csv'],
    ['text/plain', 'st'],
  ]);
});

describe('a block of one’s own', () => {
  /** The demo's own block is left out. */
  const withoutBlocks = () => {
    const at = benchAt('K1', 3);
    at.bench.state.setState(({ job }) => ({ job: job && { ...job, blocks: [] } }));
    return at;
  };
  const DECLARED =
    'VAR_GLOBAL\nready AT %IX100.0 : BOOL;\nstatus AT %IW102 : WORD;\nplace AT %ID104 : DINT; (* mm *)\nEND_VAR';
  const lay = async (text = DECLARED): Promise<void> => {
    await userEvent.click(screen.getByRole('button', { name: 'Lay out a block of your own' }));
    fireEvent.change(screen.getByLabelText(/^Items that were copied/), { target: { value: text } });
    await userEvent.click(screen.getByRole('button', { name: /^Take \d+ items?/ }));
  };
  const blocks = (at: ReturnType<typeof benchAt>) => at.bench.state.getState().job?.blocks ?? [];

  it('is laid out from declarations, reads what was copied, and is kept in the job', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await lay();
    expect(blocks(at)).toMatchObject([
      {
        name: 'Block 1',
        direction: 'from-drive',
        size: 8,
        start: 100,
        items: [{ byte: 0, bit: 0 }, { byte: 2 }, { byte: 4 }],
      },
    ]);
    expect(screen.getByText('byte 1 belongs to no item and stays 0.')).toBeInTheDocument();
    await paste(/^A block that was copied/, '01 00 02 37 00 01 FF FE');
    expect(row(/^place mm 4 to 7 %ID104 DINT 131070 = 0x0001FFFE/)).toBeInTheDocument();
    // A gateway that swaps the two words of the place.
    await userEvent.selectOptions(screen.getByLabelText('Its bytes come'), 'big-swapped-words');
    expect(row(/^place mm 4 to 7 %ID104 DINT -131071 = 0xFFFE0001/)).toBeInTheDocument();
  });

  it('says what is wrong with it, and every change can be undone', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await lay();
    await type('byte, item 2', '3');
    expect(screen.getByText('place begins in byte 4, where status still lies.')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Lay the items one behind the other' }));
    expect(screen.queryByText(/still lies/)).not.toBeInTheDocument();
    expect(blocks(at)[0]?.items.map(({ byte }) => byte)).toEqual([0, 1, 3]);
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(blocks(at)[0]?.items.map(({ byte }) => byte)).toEqual([0, 2, 4]);
    // A byte that is none stays in its field and out of the block.
    await type('byte, item 1', '0.9');
    expect(screen.getByText('a byte from 0 to 1439, of a bit such as 4.3')).toBeInTheDocument();
    expect(blocks(at)[0]?.items[0]).toMatchObject({ byte: 0, bit: 0 });
    // What is shown is not in the block: no file is made of it, and nothing is read by it.
    for (const name of ['Export declarations', 'Export as CSV', /^Read it from/])
      expect(screen.getByRole('button', { name })).toHaveAccessibleDescription(
        'a field of the block shows what is not in it',
      );
  });

  it('a second one over the same bytes of the controller is named; a deletion is taken back', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await lay();
    await lay('lamp AT %IB107 : BYTE;');
    expect(screen.getByText('byte 107 of the controller’s inputs belongs to “Block 1” too.')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Delete this block' }));
    expect(blocks(at).map(({ name }) => name)).toEqual(['Block 1']);
    act(() => at.bench.undoChange());
    expect(blocks(at).map(({ name }) => name)).toEqual(['Block 1', 'Block 2']);
  });

  it('is kept in the drive’s sheet where the drive has it; its first register stays as it is typed', async () => {
    const at = withoutBlocks();
    const keepSheet = jest.fn((_: Sheet) => Promise.resolve());
    Object.assign(at.bench, { keepSheet });
    at.show(<BlockPart />);
    await lay('VAR_GLOBAL\nstatus AT %IW102 : WORD;\nspare AT %IW104 : INT;\nEND_VAR');
    const keep = (): HTMLElement => screen.getByRole('button', { name: /^Keep in the sheet/ });
    expect(keep()).toHaveAccessibleDescription('its first register is not said');
    await type('Its first register', '70000');
    expect(screen.getByLabelText('Its first register')).toBeInvalid();
    await type('Its first register', '0x10E0');
    expect(screen.getByLabelText('Its first register')).toHaveValue('0x10E0');
    // What a field shows and the block does not hold is kept nowhere.
    await type('byte, item 2', '0.9');
    expect(keep()).toHaveAccessibleDescription('a field of the block shows what is not in it');
    await type('byte, item 2', '2');
    await type('Its first register', 'x');
    expect(screen.getByRole('button', { name: 'Export as CSV' })).toBeEnabled();
    await type('Its first register', '0x10E0');
    await type('item, item 1', 'status word');
    expect(screen.getByText(/^Reached here too: \S+ status word\.$/)).toBeInTheDocument();
    expect(screen.getByText('Entries of their own: spare.')).toBeInTheDocument();
    await userEvent.click(keep());
    const kept = keepSheet.mock.calls[0]?.[0];
    const ways = kept?.parameters?.find(({ role }) => role === 'status-word')?.at ?? [];
    expect(ways.at(-1)).toEqual({ kind: 'register', table: 'holding-register', address: 0x10e0 });
    expect(await screen.findByText(/^Kept as sheet “Tern \(mine\)”, revision 1/)).toBeInTheDocument();
  });

  it('an item is moved on the strip by the arrow keys, a bit by bits; what comes to lie over another is said, and undone', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await lay('VAR_GLOBAL\nstatus AT %IW102 : WORD;\nready AT %IX104.7 : BOOL;\nEND_VAR');
    const strip = within(screen.getByRole('group', { name: 'The bytes of your block' }));
    const press = async (name: string, keys: string): Promise<void> => {
      act(() => strip.getByRole('button', { name }).focus());
      await userEvent.keyboard(keys);
    };
    await press('ready, BOOL, byte 2.7', '{ArrowRight}');
    expect(strip.getByRole('button', { name: 'ready, BOOL, byte 3.0' })).toHaveFocus();
    expect(blocks(at)[0]?.items[1]).toMatchObject({ byte: 3, bit: 0 });
    expect(blocks(at)[0]?.size).toBe(4);
    await press('ready, BOOL, byte 3.0', '{Shift>}{ArrowLeft}{ArrowLeft}{/Shift}');
    expect(strip.getByRole('button', { name: 'ready, BOOL, byte 1.0' })).toBeInTheDocument();
    expect(screen.getByText(/^ready.* status|status.* ready/)).toBeInTheDocument();
    await press('status, WORD, byte 0', '{ArrowLeft}');
    expect(blocks(at)[0]?.items[0]).toMatchObject({ byte: 0 });
    expect(screen.getByText('status: byte 0')).toBeInTheDocument();
    await userEvent.click(screen.getAllByRole('button', { name: /^Undo/ })[0]!);
    expect(strip.getByRole('button', { name: 'ready, BOOL, byte 2.0' })).toBeInTheDocument();
  });

  it('threads that cross are named by the order of their bytes, item by item', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await userEvent.selectOptions(screen.getByLabelText('Block'), 'telegram-2-out');
    expect(screen.queryByText(/^Threads cross/)).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('Its bytes come'), 'big-swapped-words');
    expect(
      screen.getByText(/^Threads cross at NSOLL_B \(high byte first, words of 32 bits swapped\)/),
    ).toBeInTheDocument();
    await userEvent.selectOptions(screen.getByLabelText('Its bytes come'), 'little');
    expect(screen.getByText(/^Threads cross at STW1, NSOLL_B, STW2 \(low byte first\)/)).toBeInTheDocument();
  });

  it('addresses are written as the controller writes them', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await userEvent.selectOptions(screen.getByLabelText('Block'), 'telegram-1-in');
    expect(row(/^ZSW1 .* %IW256/)).toBeInTheDocument();
    await userEvent.selectOptions(screen.getByLabelText('The controller writes addresses'), 'register');
    expect(row(/^ZSW1 .* 30129 /)).toBeInTheDocument();
    await userEvent.selectOptions(screen.getByLabelText('The controller writes addresses'), 'tag');
    expect(row(/^ZSW1 .* telegram_1_from_the_drive\.ZSW1 /)).toBeInTheDocument();
  });

  it('a telegram is copied to be changed', async () => {
    const at = withoutBlocks();
    at.show(<BlockPart />);
    await userEvent.selectOptions(screen.getByLabelText('Block'), 'telegram-3-in');
    await userEvent.click(screen.getByRole('button', { name: 'Copy this one to change it' }));
    expect(blocks(at)[0]).toMatchObject({ name: 'telegram 3, from the drive, own', size: 18 });
    expect(screen.getByLabelText('item, item 1')).toHaveValue('ZSW1');
  });
});
