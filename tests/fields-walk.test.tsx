import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import type { Job } from '../src/core/job/job';
import { BlockAtDrive } from '../src/features/registers/block-at-drive';
import { BlockPart } from '../src/features/registers/block-part';
import { CyclePart } from '../src/features/registers/cycle-part';
import { OneAddress } from '../src/features/registers/one-address';
import { DrivePart } from '../src/features/sheets/drive-part';
import { openDraft, useDraftSheet } from '../src/features/sheets/sheet-drafts';
import { benchAt } from './harness/bench';
import { benchOnLine, FAN } from './harness/bench-on-line';
import { demoJob } from './harness/shipped';
import { shippedIndex } from './harness/sheets';

/**
 * The law of every form, over views that came after the first: a field that shows what is not used switches the act off that would use it, with the
 * reason at the act, and mends it when it is mended.
 */
const NOBODY_TAKES = ['15 ells', '999999999', '-'] as const;

interface View {
  readonly name: string;
  /** Shows the view, with an act that can be done; what was sent or begun is counted. */
  readonly mount: () => Promise<jest.Mock>;
  readonly act: RegExp;
  /** Fields that the act does not use. */
  readonly apart: RegExp;
  /** Fields that must be among those that were walked. */
  readonly walked: readonly string[];
}

const nameOf = (box: HTMLInputElement): string => box.getAttribute('aria-label') ?? box.labels?.[0]?.textContent ?? '';
const type = (box: HTMLElement, value: string): void => {
  fireEvent.change(box, { target: { value } });
};
const onFan = async (view: ReactNode, blocks: Job['blocks'] = []): Promise<jest.Mock> => {
  const { bench, show } = await benchOnLine(FAN);
  bench.state.setState(({ job }) => ({ job: job && { ...job, blocks } }));
  const sent = jest.fn(() => 1);
  Object.assign(bench, { send: sent });
  show(view);
  return sent;
};

function Look() {
  const sheet = useDraftSheet();
  return sheet && <DrivePart sheet={sheet} />;
}

const TERN = shippedIndex('tern');

const VIEWS: readonly View[] = [
  {
    name: 'Play the controller',
    mount: () => {
      const { bench, know, show } = benchAt('K1 kiln', 3);
      know({ 'ramp-time': 50, 'speed-reference': 0 }, true);
      const start = jest.fn(() => 'run');
      Object.assign(bench, { start, tell: jest.fn() });
      show(<CyclePart index={TERN} />);
      return Promise.resolve(start);
    },
    act: /^Begin the cycle/,
    apart: /^$/,
    walked: ['A cycle every, ms', 'Cycles it may lose'],
  },
  {
    name: 'One address',
    mount: async () => {
      const sent = await onFan(<OneAddress />);
      type(screen.getByLabelText('Address or number'), '40108');
      return sent;
    },
    act: /^Read it and its neighbours/,
    apart: /^$/,
    walked: ['Address or number'],
  },
  {
    name: 'A block that is read',
    mount: async () => {
      const { blocks: [block] = [] } = demoJob();
      // A place of 32 bits and a speed of 16: two of its items are enough to walk over.
      const sent = await onFan(<BlockPart />, block && [{ ...block, items: block.items.slice(5, 7) }]);
      type(screen.getByLabelText('Block'), block?.id ?? '');
      type(screen.getByLabelText('It stands at register'), '100');
      return sent;
    },
    act: /^Read it from/,
    // Copied bytes are replaced by the reading; names and meanings take any text, and a count of 32 bits such a number.
    apart:
      /^(A block that was copied|Bytes copied before|Items that were copied|Its first register|Name$|item, |what it is, |count of 100 %, item 1)|as you know$/,
    walked: ['It stands at register', 'Its bytes', 'Bytes of its slot', 'byte, item 1', 'count of 100 %, item 2'],
  },
  {
    name: 'The block at the drive',
    mount: async () => {
      const { blocks: [block] = [] } = demoJob();
      const { bench, show } = await benchOnLine(FAN);
      const kept = jest.fn(() => Promise.resolve());
      Object.assign(bench, { keepSheet: kept });
      show(block && <BlockAtDrive block={{ ...block, items: block.items.slice(5, 7) }} index={TERN} notLaidOut="" />);
      type(screen.getByLabelText('Its first register'), '100');
      return kept;
    },
    act: /^Keep in the sheet/,
    apart: /^$/,
    walked: ['Its first register'],
  },
  {
    name: 'A look over registers',
    mount: async () => {
      act(() => openDraft(TERN.sheet, null));
      const sent = await onFan(<Look />);
      type(screen.getByLabelText('From'), '100');
      type(screen.getByLabelText('To'), '120');
      return sent;
    },
    act: /^Look$/,
    apart: /^(?!From|To)/,
    walked: ['From', 'To'],
  },
];

it.each(VIEWS)('$name: what no field takes is used by no act', async ({ mount, act: acts, apart, walked }) => {
  const done = await mount();
  const boxes = (): readonly HTMLInputElement[] =>
    [...document.querySelectorAll<HTMLInputElement>('input:not([type=file]), textarea')].filter(
      (box) => !apart.test(nameOf(box)),
    );
  const act = (): HTMLElement => screen.getByRole('button', { name: acts });
  const names = boxes().map(nameOf);
  expect(names).toEqual(expect.arrayContaining([...walked]));
  expect(act()).toBeEnabled();
  names.forEach((name, i) => {
    const box = (): HTMLInputElement => boxes()[i]!;
    const was = box().value;
    for (const text of NOBODY_TAKES) {
      type(box(), text);
      fireEvent.click(act());
      const seen = { name, text, shown: box().value, isOff: (act() as HTMLButtonElement).disabled };
      expect(seen).toEqual({ name, text, shown: text, isOff: true });
      expect(act()).toHaveAccessibleDescription(/\w/);
    }
    type(box(), was);
    expect([name, (act() as HTMLButtonElement).disabled]).toEqual([name, false]);
  });
  expect(done).not.toHaveBeenCalled();
  fireEvent.click(act());
  await waitFor(() => expect(done).toHaveBeenCalled());
});
