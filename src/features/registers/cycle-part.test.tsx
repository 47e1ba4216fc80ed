import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { shippedIndex } from '../../../tests/harness/sheets';
import { INPUT } from '../../core/procedure/cycle-procedure';
import type { Procedure } from '../../core/procedure/procedure';
import { beginRun, type CycleTimes } from '../../core/procedure/run-state';
import { CyclePart } from './cycle-part';

const index = shippedIndex('tern');

function part(isOpen = true) {
  const own = benchAt('K1 kiln', 3);
  own.know({ 'ramp-time': 50, 'speed-reference': 0 }, isOpen);
  const start = jest.fn((_: string, __: Procedure) => 'run');
  const tell = jest.fn();
  Object.assign(own.bench, { start, tell });
  own.show(<CyclePart index={index} />);
  return { ...own, start, tell };
}
const type = async (label: RegExp, text: string): Promise<void> => {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  if (text !== '') await userEvent.type(field, text);
};
const begin = (): HTMLElement => screen.getByRole('button', { name: /^(?:Begin the cycle|Put this block in)/ });
const bytesOf = (procedure: Procedure): readonly string[] =>
  procedure.steps.flatMap((step) => (step.kind === 'request' ? [Buffer.from(step.bytes).toString('hex')] : []));

it('begins with the word of rest; what is shown is what goes out, and a word that may turn the shaft says so at the button', async () => {
  const { start } = part();
  expect(begin()).toHaveTextContent('Begin the cycle');
  expect(begin()).not.toHaveTextContent('may turn');
  await userEvent.click(begin());
  await type(/^11\.01 control word/, '0x000D');
  await type(/^11\.03 speed reference/, '17.5 Hz');
  expect(begin()).toHaveTextContent('Begin the cycle: the shaft may turn');
  await userEvent.selectOptions(screen.getByLabelText('By'), 'one');
  await userEvent.click(begin());
  const [first, second] = start.mock.calls.map(([, procedure]) => procedure);
  // 16 (10h) at 705, three words: the last stop word 0004, what the drive holds; then 03 at 385, five words. CRC by the bench's own.
  expect(bytesOf(first!).map((hex) => hex.slice(0, -4))).toEqual(['031002c1000306000400320000', '030301810005']);
  // 23 (17h): read 385, five; write 705, three (Modbus Application Protocol V1.1b3, 6.17).
  expect(bytesOf(second!).map((hex) => hex.slice(0, -4))).toEqual(['03170181000502c1000306000d00320f45']);
  expect(second).toMatchObject({
    kind: 'cycle',
    rounds: null,
    lostMost: 2,
    steps: [{ kind: 'pause', us: 100_000, beat: true }, {}],
  });
});

it('does not begin on a closed line, and says so', () => {
  part(false);
  expect(begin()).toBeDisabled();
  expect(begin()).toHaveAccessibleDescription('the line is closed');
});

it('what is not typed is what was read, and says how long ago; a slow cycle with a run word does not begin', async () => {
  const { bench } = part();
  act(() => bench.state.setState({ nowUs: 40_000_000 }));
  const table = screen.getByRole('table', { name: 'Block to Tern' });
  expect(within(table).getByRole('row', { name: /^11\.02 ramp time .*as read 40 s ago/ })).toBeInTheDocument();
  await type(/^11\.02 ramp time/, '2 s');
  expect(within(table).queryByRole('row', { name: /^11\.02 ramp time .*as read/ })).toBeNull();
  await type(/^A cycle every, ms/, '2000');
  expect(begin()).toBeEnabled();
  await type(/^11\.01 control word/, '0x000D');
  expect(begin()).toBeDisabled();
  expect(begin()).toHaveAccessibleDescription('a block that asks it to run goes round within 1000 ms');
});

it('a field that is none switches the press off, and says which', async () => {
  part();
  await type(/^11\.02 ramp time/, 'soon');
  expect(begin()).toBeDisabled();
  await type(/^11\.02 ramp time/, '2 s');
  expect(begin()).toBeEnabled();
  await type(/^A cycle every, ms/, '5');
  expect(begin()).toBeDisabled();
});

it('shows what comes back with its age and how the cycle is kept; the controller is put to stop by a press, and no run word waits after that', async () => {
  const { bench, tell } = part();
  await type(/^11\.01 control word/, '0x000D');
  await userEvent.click(begin());
  const { lineId } = bench.state.getState();
  const procedure: Procedure = { kind: 'cycle', title: '', station: 3, steps: [], rounds: null, standsStill: false };
  const cycle: CycleTimes = {
    done: 40,
    lost: 1,
    lostInARow: 0,
    missed: 2,
    beganUs: 0,
    intervals: 10,
    sumUs: 1_020_000,
    leastUs: 99_000,
    worstUs: 131_000,
    inputUs: 0,
    changedUs: [],
    goodUs: 0,
  };
  const speed = index.byRole.get('actual-speed')!.cells[0]!;
  act(() =>
    bench.state.setState({
      nowUs: 3_000_000,
      runs: [
        {
          id: 'run',
          line: lineId,
          procedure,
          about: { kind: 'none' },
          run: {
            ...beginRun({ ...procedure, steps: [{ kind: 'pause', text: '', us: 1 }] }, 'run', 0),
            kept: { [INPUT]: [[speed, 3909]] },
            cycle,
          },
        },
      ],
    }),
  );
  const table = screen.getByRole('table', { name: 'Block from Tern' });
  expect(
    within(table).getByRole('row', { name: /^6\.05 actual speed 0x0F45 3909 = 17\.498 Hz 3 s ago/ }),
  ).toBeInTheDocument();
  expect(within(table).getByRole('row', { name: /^6\.02 status word ····/ })).toBeInTheDocument();
  const status = screen.getByRole('status', { name: 'The cycle' });
  expect(status).toHaveTextContent('40 with their answers, 1 lost, 2 beats left out');
  expect(status).toHaveTextContent('mean 102.0 ms of 100 ms, shortest 99.0 ms, worst 131.0 ms; jitter 32.0 ms');
  expect(begin()).toHaveTextContent('Put this block in');
  await userEvent.click(screen.getByRole('button', { name: 'Controller to stop' }));
  expect(tell).toHaveBeenCalledWith('run', { kind: 'end' });
  expect(screen.getByLabelText(/^11\.01 control word/)).toHaveValue('0x0004');
});

it('a drive of commands has nothing that goes round, and says why', () => {
  const own = benchAt('S1', 5);
  own.show(<CyclePart index={shippedIndex('pipit')} />);
  expect(screen.getByText(/^Nothing goes round here: /)).toBeInTheDocument();
});

describe('a drive that gathers lists', () => {
  const curlew = shippedIndex('curlew');
  function lists() {
    const own = benchAt('E1 stacker', 1);
    own.know({ 'speed-reference': 0, mode: 2, 'target-position': 0, 'life-sign': 0 }, true);
    let runs = 0;
    const start = jest.fn((_: string, __: Procedure) => `run ${++runs}`);
    Object.assign(own.bench, { start });
    own.show(<CyclePart index={curlew} />);
    return { ...own, start };
  }
  const lastOf = (start: jest.Mock): Procedure => (start.mock.calls.at(-1) as [string, Procedure])[1];

  it('goes over the list that is chosen, with a sign of life that is sent in turn, and one that is watched', async () => {
    const { start } = lists();
    await userEvent.selectOptions(screen.getByLabelText('Over the registers'), '3000 to 3005 out, 3020 to 3026 in');
    await userEvent.selectOptions(screen.getByLabelText('The controller’s sign of life'), [
      '103 sign of life of the controller',
    ]);
    await userEvent.selectOptions(screen.getByLabelText('The drive’s sign of life'), ['104 sign of life as it came']);
    await type(/^Bit/, '16');
    expect(begin()).toBeDisabled();
    await type(/^Bit/, '4');
    expect(screen.getByRole('row', { name: /^103 .*one of its bits toggles/ })).toBeInTheDocument();
    await type(/^Cycles it may stand/, '7');
    await userEvent.click(begin());
    const procedure = lastOf(start);
    const [, write] = procedure.steps;
    const last = (bytes: Uint8Array): string => Buffer.from(bytes.subarray(-2)).toString('hex');
    expect(write).toMatchObject({ kind: 'request' });
    if (write?.kind !== 'request') return;
    // Modbus TCP: no check behind the words, so the last of them ends the frame.
    expect([write.bytes, ...(write.then ?? [])].map(last)).toEqual(['0000', '0010']);
    expect(procedure.life).toEqual({ cell: 'holding-register 3026', withinUs: 700_000 });
    // Nothing that a drive goes by at once can count.
    for (const field of ['The controller’s sign of life', 'The drive’s sign of life'])
      expect(
        within(screen.getByLabelText(field)).queryByRole('option', { name: /target speed|target position|^52/ }),
      ).toBeNull();
  });

  it('takes no bit of the control word that does something, and says which', async () => {
    lists();
    await userEvent.selectOptions(screen.getByLabelText('The controller’s sign of life'), ['50 control word']);
    await type(/^Bit/, '7');
    expect(begin()).toBeDisabled();
    expect(screen.getByLabelText('Bit')).toHaveAccessibleDescription(/bit 7 is “fault reset”/);
    await userEvent.selectOptions(screen.getByLabelText('Cycle by cycle'), ['its low byte counts 0 to 255']);
    expect(begin()).toBeDisabled();
    await userEvent.selectOptions(screen.getByLabelText('Cycle by cycle'), ['one of its bits toggles']);
    await type(/^Bit/, '15');
    expect(begin()).toBeEnabled();
  });

  it('says what moved since the block was changed', async () => {
    const { bench, start } = lists();
    const { lineId } = bench.state.getState();
    const status = curlew.byRole.get('status-word')!.cells[0]!;
    const goesRound = (id: string, word: number): void => {
      const procedure = lastOf(start);
      const run = beginRun(procedure, id, 0);
      const cycle: CycleTimes = {
        done: 9,
        lost: 0,
        lostInARow: 0,
        missed: 0,
        beganUs: 0,
        intervals: 8,
        sumUs: 800_000,
        leastUs: 100_000,
        worstUs: 100_000,
        inputUs: 9_000_000,
        changedUs: [[status, 4_000_000]],
        goodUs: 900_000,
      };
      act(() =>
        bench.state.setState({
          nowUs: 12_000_000,
          runs: [
            {
              id,
              line: lineId,
              procedure,
              about: { kind: 'none' },
              run: { ...run, kept: { [INPUT]: [[status, word]] }, cycle },
            },
          ],
        }),
      );
    };
    await type(/^50 control word/, '0x0006');
    await userEvent.click(begin());
    goesRound('run 1', 0x0231);
    const row = within(screen.getByRole('table', { name: 'Block from Curlew' })).getByRole('row', { name: /^41/ });
    expect(row).toHaveTextContent(/3 s ago.*8 s ago/);
    await type(/^50 control word/, '0x0007');
    await userEvent.click(begin());
    goesRound('run 2', 0x0233);
    expect(screen.getByRole('list', { name: 'What was put in' })).toHaveTextContent(
      '50 control word: bit 0 switch on rose',
    );
    expect(screen.getByRole('table', { name: 'What moved in the block from the drive' })).toHaveTextContent(
      '41 status wordbit 1 switched on roseas is expected of 50 control word',
    );
  });
});
