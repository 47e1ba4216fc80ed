import { shippedIndex } from '../../../tests/harness/sheets';
import { framingOf } from '../modbus/framing';
import { NO_PLACES } from '../places/no-places';
import { registerLink } from '../places/register-link';
import { beginRun, endRun } from '../procedure/run-state';
import { indexSheet } from '../sheet/index-sheet';
import { PLAIN_TEXT } from '../sheet/plain-text';
import type { Place } from '../sheet/place';
import { compileTrial, keptName } from './compile';
import { measured } from './measure';
import { reportOf } from './report';
import type { Measure, Trial, TrialStep } from './trial';

const TERN = shippedIndex('tern');
const at = (address: number): Place => ({ kind: 'register', table: 'holding-register', address });
/** The fan with a current limit whose decimals another setting says: 1 tenths, 2 hundredths of an ampere. */
const SCALED = indexSheet({
  ...TERN.sheet,
  parameters: [
    ...(TERN.sheet.parameters ?? []),
    { number: '20.99', name: 'decimals', at: [at(9000)], type: 'uint16', min: 0, max: 2 },
    {
      number: '20.98',
      name: 'current limit',
      at: [at(9001)],
      type: 'uint16',
      unit: 'A',
      scale: {
        kind: 'by',
        parameter: '20.99',
        cases: [
          { value: 1, one: '0.1' },
          { value: 2, one: '0.01' },
        ],
      },
    },
  ],
});
const PLACES = registerLink(SCALED, framingOf('modbus-rtu'));
const LIMIT = { number: '20.98' } as const;
const limit: TrialStep = { id: 'limit', kind: 'write', what: LIMIT, to: '12.5 A' };
const seen: TrialStep = { id: 'seen', kind: 'read', what: LIMIT };
const decimals: TrialStep = { id: 'decimals', kind: 'write', what: { number: '20.99' }, to: '2' };

const compiled = (held: Readonly<Record<string, number>>, steps: readonly TrialStep[]) => {
  const trial: Trial = { format: 1, id: 'own', name: 'own', proves: '', leaves: '', steps: [...steps] };
  return compileTrial(trial, {
    index: SCALED,
    places: PLACES,
    station: 3,
    name: 'fan',
    here: ['ready'],
    known: () => undefined,
    held: (number) => held[number],
  });
};
/** A write of so many counts of the limit, as it goes out. */
const written = (counts: number): Uint8Array | null =>
  PLACES.writeWords(3, SCALED.byNumber.get(LIMIT.number)!, [counts], () => undefined);

it('a scale that a setting sets is worked out by what was read of it, or by what the trial itself wrote', () => {
  const first = ({ procedure }: ReturnType<typeof compiled>, at: number) => procedure?.steps[at];
  expect(first(compiled({ '20.99': 1 }, [limit]), 0)).toMatchObject({ bytes: written(125) });
  expect(first(compiled({ '20.99': 2 }, [limit]), 0)).toMatchObject({ bytes: written(1250) });
  expect(first(compiled({ '20.99': 1 }, [decimals, limit]), 1)).toMatchObject({ bytes: written(1250) });
  const unread = compiled({}, [limit]);
  expect([unread.procedure, unread.why]).toEqual([null, expect.stringContaining('20.99')]);
});

it('what was read at a step is told by what its setting held there', () => {
  const own = compiled({ '20.99': 1 }, [seen, decimals, { ...seen, id: 'again' }]);
  const [cell] = SCALED.byNumber.get(LIMIT.number)!.cells;
  const records = [0, 1, 2].map((step) => ({
    ...{ step, good: true, seen: null, notYetUs: null, exchange: step + 1, said: '' },
    ...{ fromUs: step * 1000, toUs: step * 1000 + 500 },
  }));
  const run = {
    ...endRun(beginRun(own.procedure!, 'run', 0), 'done', ''),
    at: 3,
    records,
    kept: { [keptName('seen', 1)]: [[cell!, 125]] as const, [keptName('again', 1)]: [[cell!, 1250]] as const },
  };
  expect(reportOf(SCALED, own, run).steps.map((step) => step.seen)).toEqual([
    expect.stringContaining('12.5 A'),
    '',
    expect.stringContaining('12.5 A'),
  ]);
  const same: Measure = { kind: 'same', name: 'same', a: 'seen', b: 'again' };
  expect(measured(SCALED, own, run, same)).toMatchObject({ verdict: 'passed' });
  // A sheet without such a scale keeps nothing of it with its runs.
  const plain = compileTrial(
    { ...own.trial, steps: [] },
    { index: TERN, places: PLACES, station: 3, name: '', here: [], known: () => undefined },
  );
  expect(plain.steps.every(({ held }) => held === undefined)).toBe(true);
});

it('a text is said on a line of plain text only, where nothing else is known of the drive', () => {
  const say: TrialStep = { id: 'wake', kind: 'say', text: '?<CR>', hears: 'ready', withinS: 5 };
  const trial: Trial = { format: 1, id: 'own', name: 'own', proves: '', leaves: '', steps: [say] };
  const way = { station: 1, name: 'menu', here: [], known: () => undefined };
  const text = compileTrial(trial, { ...way, index: PLAIN_TEXT, places: NO_PLACES, isText: true });
  expect(text.procedure?.steps).toMatchObject([{ kind: 'say', bytes: Uint8Array.of(0x3f, 0x0d), withinUs: 5_000_000 }]);
  const euro = { ...trial, steps: [{ ...say, hears: '# €' }] };
  expect(compileTrial(euro, { ...way, index: PLAIN_TEXT, places: NO_PLACES, isText: true }).why).toBe(
    'step 1: “€” is no character of eight bits: a line of plain text cannot carry it',
  );
  // Nobody knows what a menu does with it.
  expect(text.steps[0]).toMatchObject({ turns: true, fault: '' });
  expect(compileTrial(trial, { ...way, index: TERN, places: PLACES }).why).toBe(
    'step 1: this is no line of plain text: send a request as it stands, or read and write',
  );
  const read = { ...trial, steps: [{ id: 'read', kind: 'read', what: { role: 'actual-speed' } } as const] };
  expect(compileTrial(read, { ...way, index: PLAIN_TEXT, places: NO_PLACES, isText: true }).why).toMatch(
    /^step 1: sheet plain text has no /,
  );
});
