import { cleanup, fireEvent, screen } from '@testing-library/react';
import type { Job } from '../src/core/job/job';
import { ComposePart } from '../src/features/frames/compose-part';
import { ASKS } from '../src/features/frames/message-fields';
import { ScalingStage } from '../src/features/scaling/scaling-stage';
import { JobStage } from '../src/features/job/job-stage';
import { LineForm } from '../src/features/line/line-form';
import { LineStage } from '../src/features/line/line-stage';
import { WordsStage } from '../src/features/words/words-stage';
import { benchAt } from './harness/bench';
import { rtu } from './harness/line';

/**
 * The law of every form: a field that shows what is not in the bytes switches the act off that would use it, and the reason stands beside it. The
 * walk types into every field of a view what no field takes, tries the act by its key, and mends the field again.
 */
const NOBODY_TAKES = ['15 ells', '999999999', '-'] as const;

/** Fields of the frame's view that are no part of the bytes until they are taken over. */
const APART = /^(Or paste bytes|manual says|what works|remark|Or the line itself|Name to keep|Repeat every)/;

const nameOf = (box: HTMLInputElement): string => box.labels?.[0]?.textContent ?? '';

const entries = (selector: string): readonly HTMLInputElement[] =>
  [...document.querySelectorAll<HTMLInputElement>(selector)].filter((box) => !APART.test(nameOf(box)));

const act = (): HTMLButtonElement => {
  const found = [...document.querySelectorAll('button')].find(({ textContent }) =>
    /^Send (?:to|0x| to)/.test(textContent),
  );
  if (!found) throw new Error('nothing sends here');
  return found;
};

const type = (box: HTMLElement, value: string): void => {
  fireEvent.change(box, { target: { value } });
};

/** The names of the fields that were walked. */
function walk(selector: string, sent: jest.Mock, texts: readonly string[] = NOBODY_TAKES): readonly string[] {
  const names = entries(selector).map(nameOf);
  names.forEach((name, i) => {
    const now = (): HTMLInputElement => entries(selector)[i] as HTMLInputElement;
    const was = now().value;
    for (const text of texts) {
      type(now(), text);
      fireEvent.keyDown(document.body, { key: 'Enter', ctrlKey: true });
      const off = { name, text, shown: now().value, isOff: act().disabled, sent: sent.mock.calls.length };
      expect(off).toEqual({ name, text, shown: text, isOff: true, sent: 0 });
      expect(document.body).toHaveTextContent(
        /Not sent while “[^”]*” shows something else than what would go out|expected|fit/,
      );
    }
    type(now(), was);
    expect([name, act().disabled]).toEqual([name, false]);
  });
  return names;
}

/** One request of each function that the forms know (Modbus Application Protocol V1.1b3, section 6), without its check. */
const REQUESTS: Readonly<Record<number, string>> = {
  1: '03 01 00 00 00 08',
  2: '03 02 00 00 00 08',
  3: '03 03 01 81 00 05',
  4: '03 04 01 81 00 05',
  5: '03 05 00 00 FF 00',
  6: '03 06 02 C2 01 00',
  7: '03 07',
  8: '03 08 00 00 A5 37',
  11: '03 0B',
  12: '03 0C',
  15: '03 0F 00 00 00 08 01 00',
  16: '03 10 02 C2 00 02 04 01 00 02 00',
  17: '03 11',
  20: '03 14 07 06 00 01 00 00 00 01',
  21: '03 15 09 06 00 01 00 00 00 01 00 00',
  22: '03 16 00 04 FF FF 00 00',
  23: '03 17 00 00 00 01 00 00 00 01 02 00 00',
  24: '03 18 00 04',
  43: '03 2B 0E 01 00',
  65: '03 41 AB',
};

function framesWith(hex: string) {
  const { bench, know, show } = benchAt('K1', 3);
  know({}, true);
  show(<ComposePart />);
  const [key] = [...bench.drafts.getState().frames.keys()];
  if (key === undefined) throw new Error('no frame was begun');
  cleanup();
  bench.drafts.getState().editFrame(key, rtu(hex));
  show(<ComposePart />);
  return { bench, bytes: () => bench.drafts.getState().frames.get(key)?.present };
}

afterEach(cleanup);

it.each(ASKS.map(({ fc, name, fields }) => [name, fc, fields] as const))(
  'Frames, %s: no field shows what is not sent',
  (_, fc, fields) => {
    const { bench } = framesWith(REQUESTS[fc] ?? '');
    const names = walk('input[type=text]', bench.send as jest.Mock);
    for (const { label, usual } of fields) if (!usual) expect(names).toContain(label);
    if ([3, 4, 6, 16].includes(fc)) expect(names).toContain('Parameter or register');
  },
);

it('Frames: a count that no request may have is named at its field, and an address beyond the last register', () => {
  const { bytes } = framesWith(REQUESTS[1] ?? '');
  for (const [label, text, why] of [
    ['How many', '2001', 'not in the bytes: the standard allows no frame like that'],
    ['Address', '65535', 'not in the bytes: the standard allows no frame like that'],
    ['Address', '70000', 'an address or a reference of this table'],
  ] as const) {
    const before = bytes();
    const box = screen.getByLabelText(label);
    type(box, text);
    expect([act().disabled, bytes()]).toEqual([true, before]);
    expect(document.body).toHaveTextContent(why);
    type(box, '8');
    expect(act().disabled).toBe(false);
  }
});

it('Frames: as many words as were typed are written, and a reference is an address', () => {
  const { bytes } = framesWith(REQUESTS[23] ?? '');
  type(screen.getByLabelText('Values to write'), '5 6 -7');
  expect(act().disabled).toBe(false);
  type(screen.getByLabelText('Write from'), '400101');
  expect(screen.getByText(/100: reference of a holding register, counted from 1/)).toBeInTheDocument();
  expect(bytes()).toEqual(rtu('03 17 0000 0001 0064 0003 06 0005 0006 FFF9'));
  type(screen.getByLabelText('Read from'), '40101');
  fireEvent.click(screen.getByText('40101, counted from 0'));
  expect(bytes()?.slice(2, 4)).toEqual(Uint8Array.of(0x9c, 0xa5));
});

it('Frames: a pasted log is a request and its reply, a reply alone is read as one, and a missing check is offered', () => {
  const { bytes } = framesWith(REQUESTS[3] ?? '');
  const paste = (text: string): void => type(screen.getByLabelText('Or paste bytes, any notation'), text);
  const enter = (): void =>
    void fireEvent.keyDown(screen.getByLabelText('Or paste bytes, any notation'), { key: 'Enter' });
  const hexOf = (text: string): string => Buffer.from(rtu(text)).toString('hex');
  paste(`10:00:01.2 TX: ${hexOf('03 03 02C3 0001')}\n10:00:01.3 RX: ${hexOf('03 03 02 0F45')}`);
  expect(
    screen.getByText('a request of 8 bytes and a reply of 7 bytes, read as a log; Enter takes them'),
  ).toBeVisible();
  enter();
  expect(bytes()).toEqual(rtu('03 03 02C3 0001'));
  expect(screen.getByTestId('pasted-sentence')).toHaveTextContent('speed reference 3909 = 17.498 Hz');
  expect(screen.getByText('it fits the request above')).toBeVisible();
  paste(hexOf('05 03 04 0001 0002'));
  enter();
  expect(bytes()).toEqual(rtu('03 03 02C3 0001'));
  expect(document.body).toHaveTextContent('not to the request above: ');
  paste('03 06 02 C3 01 00');
  fireEvent.click(screen.getByRole('button', { name: /^Take it with its check, [0-9A-F]{2} [0-9A-F]{2}$/ }));
  expect(bytes()).toEqual(rtu('03 06 02C3 0100'));
});

it('a host that is refused in Line is not dialled from any view, and each says why', () => {
  const { bench, show } = benchAt('E1', 1);
  globalThis.fetch = jest.fn(() => Promise.reject(new Error('no server here')));
  const typeHost = (host: string): void => {
    show(<LineForm />);
    type(screen.getByLabelText('IP address'), host);
    cleanup();
  };
  typeHost('8.8.4.4');
  for (const view of [
    <LineStage key="line" />,
    <ComposePart key="frames" />,
    <WordsStage key="words" />,
    <JobStage key="job" />,
  ]) {
    show(view);
    const [open] = screen.getAllByText(/^Open (line )?E1/, { selector: 'button' });
    expect(open).toBeDisabled();
    expect(document.body).toHaveTextContent(
      'another end is typed in Line than it would go to: 8.8.4.4 is not on this machine',
    );
    cleanup();
  }
  typeHost('172.022.007.037');
  expect(bench.changeJob).toHaveBeenCalledTimes(1);
  show(<LineStage />);
  expect(screen.getByText(/^Open E1/, { selector: 'button' })).toBeEnabled();
});

it('Frames: another parameter of a write has no value until one is given', () => {
  framesWith(REQUESTS[6] ?? '');
  type(screen.getByLabelText('Parameter or register'), '0x0200');
  const value = screen.getByLabelText('Value');
  expect([(value as HTMLInputElement).value, act().disabled]).toEqual(['', true]);
  type(value, '0');
  expect(act().disabled).toBe(false);
});

it('Frames, USS: a value that no word of 16 bits holds is not sent cut short; another parameter has no value of before', () => {
  const { bench, know, show } = benchAt('K2', 4);
  know({}, true);
  show(<ComposePart />);
  const bytes = (): string =>
    [...bench.drafts.getState().frames.values()].map(({ present }) => present.join(' ')).join();
  walk('input[type=text]', bench.send as jest.Mock);
  fireEvent.change(screen.getByLabelText('What to do'), { target: { value: 'working' } });
  const value = screen.getByLabelText<HTMLInputElement>(/^Value/);
  expect([value.value, act().disabled]).toEqual(['', true]);
  type(value, '12');
  expect([value.value, act().disabled]).toEqual(['12', false]);
  const before = bytes();
  type(value, '70000');
  expect([value.value, act().disabled, bytes()]).toEqual(['70000', true, before]);
  type(value, '0x1F');
  expect([value.value, act().disabled]).toEqual(['0x1F', false]);
  expect(bytes()).not.toBe(before);
  const parameter = screen.getByLabelText<HTMLInputElement>('Parameter', { selector: 'input' });
  type(parameter, '120');
  expect(screen.getByLabelText('Value, s')).toBeInTheDocument();
  expect([screen.getByLabelText<HTMLInputElement>(/^Value/).value, act().disabled]).toEqual(['', true]);
});

it('Frames, ASCII commands: a value that the command does not take is not sent as the one before', () => {
  const { bench, know, show } = benchAt('S1', 5);
  know({}, true);
  show(<ComposePart />);
  const command = screen.getByLabelText<HTMLSelectElement>('Command');
  const walked = [...command.options].flatMap(({ value }) => {
    fireEvent.change(command, { target: { value } });
    const how = screen.getByLabelText<HTMLSelectElement>('What to do');
    const write = [...how.options].find((option) => option.value === 'write');
    if (write) fireEvent.change(how, { target: { value: 'write' } });
    return walk('input[type=text]', bench.send as jest.Mock, ['15 ells', '-', '99999999999999']);
  });
  expect(walked.length).toBeGreaterThan(2);
});

it('Scaling: nothing wanted sends nothing, and no reading shows what is not sent', () => {
  const { bench, know, show } = benchAt('K1', 3);
  know({ 'status-word': 0x2201, 'control-word': 1, 'speed-reference': 100 }, true);
  show(<ScalingStage />);
  expect(act().disabled).toBe(true);
  expect(screen.getByText('Nothing is wanted yet: type a value, or drag the line.')).toBeInTheDocument();
  type(screen.getByLabelText('wanted, Hz'), '17.5');
  expect(act().disabled).toBe(false);
  expect(walk('input[id^=reading-]', bench.send as jest.Mock)).toEqual(
    expect.arrayContaining(['wanted, Hz', 'share, %', 'decimal', 'hex']),
  );
});

it('Scaling: what was typed in Words as no number is not sent as 0', () => {
  const { bench, know, show } = benchAt('K1', 3);
  know({}, true);
  show(<ScalingStage />);
  type(screen.getByLabelText('wanted, Hz'), '17.5');
  const [key] = [...bench.drafts.getState().references.keys()];
  cleanup();
  bench.drafts.getState().setReference(key ?? '', '15 ells');
  show(<ScalingStage />);
  expect(act()).toBeDisabled();
  expect(document.body).toHaveTextContent(/“15 ells”: /);
});

it('Words: a word that is no word is not sent as the one before; a ready word takes its place', () => {
  const { bench, know, show } = benchAt('K1', 3);
  know({ 'status-word': 0x2201, 'control-word': 1 }, true);
  show(<WordsStage />);
  const word = screen.getByLabelText('type a word, any base');
  type(word, '0xAB');
  expect(act()).toBeEnabled();
  for (const text of [...NOBODY_TAKES, '0x1FFFF']) {
    type(word, text);
    fireEvent.keyDown(document.body, { key: 'Enter', ctrlKey: true });
    expect([text, act().disabled]).toEqual([text, true]);
    expect(
      screen.getByText('Not sent while “type a word, any base” shows something else than what would go out.'),
    ).toBeInTheDocument();
  }
  expect(bench.send).not.toHaveBeenCalled();
  fireEvent.click(screen.getByText('stop on the ramp', { selector: 'button' }));
  expect([(word as HTMLInputElement).value, act().disabled]).toEqual(['', false]);
});

it('Frames, USS: any number, units, texts in a channel as long as they need, and the control word by its bits', () => {
  const { bench, know, show } = benchAt('K2', 4);
  know({}, true);
  show(<ComposePart />);
  const hex = (): string =>
    [...bench.drafts.getState().frames.values()].map(({ present }) => Buffer.from(present).toString('hex')).join();
  const choose = (label: string, value: string): void =>
    void fireEvent.change(screen.getByLabelText(label), { target: { value } });
  const parameter = (number: string): void => type(screen.getByLabelText('Parameter', { selector: 'input' }), number);
  // The ramp-up time of the sheet, 0.1 s to a count, written as people say it.
  choose('What to do', 'working');
  parameter('120');
  type(screen.getByLabelText('Value, s'), '7.5');
  expect(hex().slice(0, 30)).toBe('020e04' + '2078' + '0000' + '0000004b' + '00000000');
  // A number that the sheet does not have: 2100 is 52 on the page from 2048, whose bits stand in the low half of IND.
  parameter('2100');
  choose('It is', 'array double');
  type(screen.getByLabelText('Element'), '3');
  type(screen.getByLabelText('Value'), '-2');
  expect(hex().slice(6, 22)).toBe('80340310' + 'fffffffe');
  parameter('9999');
  expect(act()).toBeDisabled();
  parameter('14');
  choose('What to do', 'text');
  type(screen.getByLabelText('Text; none reads it'), 'North hoist');
  // A channel of eight words: task and index, and six for eleven characters.
  expect(hex().slice(0, 10)).toBe('021604' + 'f00e');
  expect(Buffer.from(hex(), 'hex').subarray(7, 19).toString('latin1')).toBe('North hoist\0');
  expect(document.body).toHaveTextContent('parameter 14 station name, text “North hoist”');
  choose('What to do', 'none');
  fireEvent.click(screen.getByText(/^Control word by bits/));
  const lever = screen.getByRole('switch', { name: 'bit 10, control by PLC' });
  expect(lever).toHaveAttribute('aria-checked', 'false');
  fireEvent.click(lever);
  expect(hex().slice(-10, -6)).toBe('0400');
  walk('input[type=text]', bench.send as jest.Mock);
});

it('Frames: what the manual says and the drive does otherwise is noted at any place', () => {
  const { bench } = framesWith(REQUESTS[3] ?? '');
  expect(screen.getByText('Manual against drive: 6.01 fault code')).toBeInTheDocument();
  const keep = screen.getByRole('button', { name: 'Keep the note' });
  expect(keep).toBeDisabled();
  type(screen.getByLabelText('what works'), 'read it twice');
  fireEvent.click(screen.getByRole('button', { name: 'Keep the note' }));
  const [change] = (bench.changeJob as jest.Mock).mock.calls[0] as [(job: Job) => Job];
  const { job } = bench.state.getState();
  const noted = job && change(job).lines.flatMap(({ stations }) => stations.flatMap(({ notes }) => notes ?? []));
  expect(noted).toContainEqual({ setting: '6.01 fault code', manual: '', tried: 'read it twice', remark: '' });
});

it('Scaling: a number with the unit of its field goes out as the same number without it', () => {
  const { know, show } = benchAt('K1', 3);
  know({}, true);
  show(<ScalingStage />);
  const words = ['15', '15 Hz', '0.015 kHz'].map((text) => {
    type(screen.getByLabelText('wanted, Hz'), text);
    expect(act()).toBeEnabled();
    return /0x[0-9A-F]{4}/.exec(act().textContent)?.[0];
  });
  // 15 / 55 × 12287 = 3351, by the demo sheet's own scale.
  expect(words).toEqual(['0x0D17', '0x0D17', '0x0D17']);
});
