import { inMode } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import { wordsOfPattern } from '../values/pattern';
import { shippedIndex, ternIndex } from '../../../tests/harness/sheets';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Fact } from './condition';
import type { Observed } from './facts';
import { whyNotRunning } from './why-not';

const index = ternIndex();
const NOW = 100_000_000;

/** A drive that runs, as far as this bench can see. */
const RUNNING: Partial<Record<ParameterRole, number>> = {
  'command-source': 2,
  'reference-source': 2,
  selector: 1,
  'status-word': 0x2b0d,
  'fault-code': 0,
  'control-word': 0x000d,
  'speed-reference': 3909,
  'minimum-speed': 670,
  'watchdog-time': 32,
  'direction-lock': 0,
  'reference-form': 0,
};

function observed(
  values: Partial<Record<ParameterRole, number | null>> = {},
  rest: Partial<Observed> = {},
  ageUs = 1_000_000,
): Observed {
  const facts = Object.entries({ ...RUNNING, ...values }).flatMap(([role, word]): [Cell, Fact][] => {
    const place = index.byRole.get(role as ParameterRole);
    return place && word !== null
      ? wordsOfPattern(word, place.cells.length, place.order).map((part, i) => [
          place.cells[i]!,
          { word: part, atUs: NOW - ageUs },
        ])
      : [];
  });
  return {
    index,
    nowUs: NOW,
    open: true,
    misses: 0,
    lastAnswerUs: NOW - 50_000,
    keptAlive: true,
    values: new Map(facts),
    ...rest,
  };
}

const verdicts = (seen: Observed) =>
  Object.fromEntries(whyNotRunning(seen).conditions.map(({ id, verdict }) => [id, verdict]));
const condition = (seen: Observed, id: string) =>
  whyNotRunning(seen).conditions.find((candidate) => candidate.id === id)!;

it('a running drive: everything is met', () => {
  expect(new Set(Object.values(verdicts(observed())))).toEqual(new Set(['met']));
  expect(whyNotRunning(observed()).summary).toBe('The shaft turns.');
});

it.each<[string, Parameters<typeof observed>[0], Partial<Observed>, string, string]>([
  ['keypad in command', { 'command-source': 0, 'status-word': 0x2201 }, {}, 'command-source', 'keypad'],
  ['reference from the terminals', { 'reference-source': 1 }, {}, 'reference-source', 'terminals'],
  ['selector in local', { 'status-word': 0x0001 }, {}, 'selector', 'local'],
  ['a latched fault', { 'status-word': 0x2a90, 'fault-code': 21 }, {}, 'fault', 'fault 21, watchdog'],
  [
    'a watchdog that ran out',
    { 'status-word': 0x2a90, 'fault-code': 21 },
    {},
    'watchdog',
    '3.2 s, kept alive by this bench',
  ],
  ['no run bit', { 'control-word': 0x0005, 'status-word': 0x2a05 }, {}, 'command', '0x0005'],
  ['run and jog together', { 'control-word': 0x004d }, {}, 'command', '0x004D'],
  ['a closed line', {}, { open: false }, 'link', 'the line is closed'],
  ['a silent drive', {}, { misses: 3 }, 'link', '3 tries without an answer'],
  ['zero reference without a minimum speed', { 'speed-reference': 0, 'minimum-speed': 0 }, {}, 'reference', '0 Hz'],
])('%s is not met, with its value', (_, values, rest, id, value) => {
  expect(condition(observed(values, rest), id)).toMatchObject({ verdict: 'not-met', value });
});

it('zero reference is not standstill: said, and not in the way', () => {
  expect(condition(observed({ 'speed-reference': 0 }), 'reference')).toMatchObject({
    verdict: 'not-met',
    blocks: false,
    advice: 'Zero reference is not standstill: it turns at its minimum speed, 2.999 Hz.',
  });
});

it('a reference below the minimum speed turns, but not as asked', () => {
  expect(condition(observed({ 'speed-reference': 223 }), 'minimum').advice).toBe(
    'It turns, but at 2.999 Hz and not at the 0.998 Hz asked for.',
  );
});

describe('unknown is never shown as met', () => {
  it.each(Object.keys(RUNNING) as ParameterRole[])('without %s nothing that rests on it is met', (role) => {
    const without = whyNotRunning(observed({ [role]: null })).conditions;
    const place = index.byRole.get(role)!;
    for (const { source, verdict, id } of without)
      if (source.startsWith(place.number)) expect([id, verdict]).not.toEqual([id, 'met']);
  });

  it('values older than half a minute prove nothing', () => {
    const old = verdicts(observed({}, {}, 31_000_000));
    expect(
      Object.entries(old)
        .filter(([, verdict]) => verdict === 'met')
        .map(([id]) => id),
    ).toEqual(['link']);
  });

  it('nor does what was seen before the link was lost', () => {
    const lost = verdicts(observed({}, { misses: 2, keptAlive: false }));
    expect(lost.link).toBe('not-met');
    expect(Object.values(lost).filter((verdict) => verdict === 'met')).toEqual([]);
  });
});

describe('the write that helps', () => {
  it('says that the shaft would start when the drive holds a run word', () => {
    expect(condition(observed({ 'command-source': 0, 'status-word': 0x2201 }), 'command-source').remedy).toMatchObject({
      text: 'write 2.01 ← network',
      word: 2,
      starts: 'yes',
    });
  });

  it('says that it would not when something else is in the way, and what', () => {
    const remedy = condition(
      observed({ 'command-source': 0, 'reference-source': 0, 'status-word': 0x0201 }),
      'command-source',
    ).remedy;
    expect(remedy).toMatchObject({ starts: 'no', why: 'it is still not so that the reference comes from the network' });
  });

  it('says that it would not without a run word', () => {
    expect(
      condition(observed({ 'command-source': 0, 'control-word': 0x0005, 'status-word': 0x2201 }), 'command-source')
        .remedy?.starts,
    ).toBe('no');
  });

  it('says may where the control word is not known', () => {
    expect(
      condition(observed({ 'command-source': 0, 'control-word': null, 'status-word': 0x2201 }), 'command-source').remedy
        ?.starts,
    ).toBe('may');
  });

  it('offers the reset word for a latched fault, which does not start the shaft', () => {
    expect(condition(observed({ 'status-word': 0x2a10, 'fault-code': 12 }), 'fault')).toMatchObject({
      advice: 'the motor contact opened; let it cool, then reset.',
      remedy: { role: 'control-word', word: 0x0200, starts: 'no' },
    });
  });

  it('offers no write for what only a hand can do', () => {
    expect(condition(observed({ 'status-word': 0x0001 }), 'selector')).toMatchObject({
      remedy: null,
      advice: 'Turn the selector on the drive to remote; it cannot be done over the line.',
    });
  });
});

it('counts what stands in the way and what is not known', () => {
  expect(
    whyNotRunning(observed({ 'command-source': 0, 'status-word': 0x2201, 'reference-source': null })).summary,
  ).toBe('One thing stands in the way, 1 not known.');
  expect(whyNotRunning(observed({ 'status-word': 0x2201 })).summary).toBe(
    'Nothing that is known here stands in the way.',
  );
});

describe('what sheets add', () => {
  it.each<[string, Partial<Record<ParameterRole, number | null>>, string, 'met' | 'not-met' | 'unknown' | undefined]>([
    ['a locked way', { 'direction-lock': 2 }, 'lock-forward', 'not-met'],
    ['the other way locked', { 'direction-lock': 1 }, 'lock-forward', 'met'],
    ['backward by the bit', { 'direction-lock': 1, 'control-word': 0x002d }, 'lock-backward', 'not-met'],
    ['backward by the sign', { 'direction-lock': 1, 'speed-reference': 0x10000 - 3909 }, 'lock-backward', 'not-met'],
    [
      'both, which cancel',
      { 'direction-lock': 1, 'control-word': 0x002d, 'speed-reference': 0x10000 - 3909 },
      'lock-backward',
      undefined,
    ],
    ['no sign taken', { 'reference-form': 1 }, 'sign', 'not-met'],
    ['not read', { 'reference-form': null }, 'sign', 'unknown'],
  ])('%s', (_, values, id, verdict) => {
    expect(verdicts(observed(values))[id]).toBe(verdict);
  });

  it('answers to somebody else mean another master, and nobody else heard is met', () => {
    expect(condition(observed({}, { foreign: 3 }), 'other-master')).toMatchObject({
      verdict: 'not-met',
      value: '3 answers to somebody else',
    });
    expect(verdicts(observed({}, { foreign: 0 }))['other-master']).toBe('met');
    expect(verdicts(observed())).not.toHaveProperty('other-master');
  });

  it('a setting that waits for a restart is named and does not block', () => {
    expect(condition(observed({}, { waiting: ['5.02 bit rate'] }), 'restart')).toMatchObject({
      verdict: 'not-met',
      blocks: false,
      value: '5.02 bit rate',
    });
  });

  const observedOf = (sheet: string, values: Partial<Record<ParameterRole, number>>): Observed => {
    const own = shippedIndex(sheet);
    const facts = Object.entries(values).flatMap(([role, word]): [Cell, Fact][] => {
      const place = own.byRole.get(role as ParameterRole);
      return place
        ? wordsOfPattern(word, place.cells.length, place.order).map((part, i) => [
            place.cells[i]!,
            { word: part, atUs: NOW },
          ])
        : [];
    });
    return { ...observed(), index: own, values: new Map(facts) };
  };
  const of = (...told: Parameters<typeof observedOf>) => verdicts(observedOf(...told));

  it('each condition says what kind it is: those of any drive by their rule, those of a sheet by the sheet', () => {
    const kinds = (...told: Parameters<typeof observedOf>) =>
      Object.fromEntries(whyNotRunning(observedOf(...told)).conditions.map(({ id, kind }) => [id, kind]));
    expect(kinds('tern', { 'status-word': 0x2201 })).toMatchObject({
      link: 'link',
      'command-source': 'source',
      fault: 'latched-fault',
      command: 'command',
    });
    expect(kinds('dunlin', { 'status-word': 0x0233, 'speed-reference': 0x1000, 'end-inputs': 3 })).toMatchObject({
      plc: 'masked',
      'upper-end': 'input-level',
    });
  });

  it('CiA 402: the state that it must be in, voltage, halt', () => {
    expect(of('wren', { 'status-word': 0x0233, 'control-word': 0x0107 })).toMatchObject({
      state: 'not-met',
      voltage: 'met',
      halt: 'not-met',
      remote: 'met',
    });
    expect(of('wren', { 'status-word': 0x0037 })).toMatchObject({ state: 'met', remote: 'not-met', halt: 'unknown' });
  });

  it('in the mode of stored moves one must be chosen, and its start must be able to rise', () => {
    const seen = observedOf('curlew', {
      'mode-display': 0xffff,
      'stored-move': 0,
      'control-word': 0x001f,
      'status-word': 0x1237,
    });
    const own = { ...seen, index: inMode(seen.index, 0xffff) };
    expect(own.index.profile?.takes).toBe('stored-move');
    expect(verdicts(own)).toMatchObject({ 'stored-move': 'not-met', 'start-edge': 'not-met', state: 'met' });
    const chosen = observedOf('curlew', { 'stored-move': 2, 'control-word': 0x000f, 'status-word': 0x0237 });
    const ready = { ...chosen, index: inMode(chosen.index, 0xffff) };
    expect(verdicts(ready)).toMatchObject({ 'stored-move': 'met', 'start-edge': 'met' });
    expect(verdicts(ready)).not.toHaveProperty('reference');
  });

  it('PROFIdrive: S3 or S5 is not known, a missing bit 10 masks the word, an unwired end input counts as active', () => {
    expect(
      of('dunlin', { 'status-word': 0x0233, 'control-word': 0x007f, 'speed-reference': 0x1000, 'end-inputs': 3 }),
    ).toMatchObject({ state: 'not-met', plc: 'not-met', 'upper-end': 'not-met' });
    expect(of('dunlin', { 'status-word': 0x0237, 'speed-reference': 0xf000, 'end-inputs': 1 })).toMatchObject({
      state: 'met',
      'lower-end': 'met',
    });
  });
});
