import { shippedIndex } from '../../../tests/harness/sheets';
import { cia402, DRIVE_MODES } from './cia402';
import { profileOf } from '../sheet/profile-of';
import { PROFIDRIVE } from './profidrive';
import { RUNNING, stateAfter, stateNamesOf, targetsOf, type Profile } from './profile';
import { routeTo, type Route } from './route';

/** IEC 61800-7-201, state coding in the status word: bits 7 to 0, - = either. */
const CIA402_CODING: Readonly<Record<string, string>> = {
  'not-ready-to-switch-on': '-0--0000',
  'switch-on-disabled': '-1--0000',
  'ready-to-switch-on': '-01-0001',
  'switched-on': '-01-0011',
  'operation-enabled': '-01-0111',
  'quick-stop-active': '-00-0111',
  'fault-reaction-active': '-0--1111',
  fault: '-0--1000',
};

/** IEC 61800-7-203, general state machine: status bits 6, 2, 1, 0 (S5 from memory: like S3). */
const PROFIDRIVE_CODING: Readonly<Record<string, string>> = {
  S1: '-1---000',
  S2: '-0---001',
  S3: '-0---011',
  S4: '-0---111',
  S5: '-0---011',
};

/** A second reading of the same tables, by text. */
const namedBy = (coding: Readonly<Record<string, string>>, status: number): readonly string[] => {
  const bits = (status & 0xff).toString(2).padStart(8, '0');
  return Object.entries(coding)
    .filter(([, form]) => [...form].every((want, i) => want === '-' || want === bits[i]))
    .map(([name]) => name);
};

it.each<[string, Profile, Readonly<Record<string, string>>]>([
  ...DRIVE_MODES.map((mode): [string, Profile, Readonly<Record<string, string>>] => [
    mode,
    cia402(mode),
    CIA402_CODING,
  ]),
  ['PROFIdrive', PROFIDRIVE, PROFIDRIVE_CODING],
])(
  '%s: each of the 65,536 status words gives the states that the coding table gives, or none',
  (_, profile, coding) => {
    let none = 0;
    const wrong: number[] = [];
    for (let status = 0; status < 0x10000; status++) {
      const names = stateNamesOf(profile, status);
      if (names.length === 0) none++;
      if ([...names].sort().join() !== [...namedBy(coding, status)].sort().join()) wrong.push(status);
    }
    expect(wrong).toEqual([]);
    // Both codings leave patterns that no state has.
    expect(none).toBeGreaterThan(0);
  },
);

it('says "S3 or S5" where the word leaves it open', () => {
  expect(stateNamesOf(PROFIDRIVE, 0x0233)).toEqual(['S3', 'S5']);
  expect(stateNamesOf(PROFIDRIVE, 0x02c0)).toEqual(['S1']);
});

const wordsOf = (route: Route): readonly number[] | string =>
  route.kind === 'steps' ? route.steps.map(({ word }) => word) : route.why;
const velocity = cia402('velocity');

describe('routes', () => {
  it.each<[Profile, readonly string[], number | null, string, readonly number[]]>([
    // The usual walk, and running in velocity mode (IEC 61800-7-201).
    [velocity, ['switch-on-disabled'], 0, 'operation-enabled', [0x06, 0x07, 0x0f]],
    [velocity, ['switch-on-disabled'], 0, RUNNING, [0x06, 0x07, 0x0f, 0x7f]],
    [velocity, ['fault'], 0x0f, 'operation-enabled', [0x80, 0x06, 0x07, 0x0f]],
    // The reset bit is up already, or nobody knows: first it falls.
    [velocity, ['fault'], 0x80, 'switch-on-disabled', [0x00, 0x80]],
    [velocity, ['fault'], null, 'switch-on-disabled', [0x00, 0x80]],
    [velocity, ['operation-enabled'], 0x7f, 'quick-stop-active', [0x02]],
    [velocity, ['operation-enabled'], 0x7f, 'switched-on', [0x07]],
    [velocity, ['operation-enabled'], 0x0f, 'operation-enabled', []],
    [cia402('profile-velocity'), ['switched-on'], 0x07, RUNNING, [0x0f]],
    // 0x047E and 0x047F: common practice, no source.
    [PROFIDRIVE, ['S1'], 0, 'S4', [0x047e, 0x047f]],
    [PROFIDRIVE, ['S2'], 0x047e, RUNNING, [0x047f]],
    [PROFIDRIVE, ['S1-fault'], 0x047f, 'S4', [0x04fe, 0x047f]],
    [PROFIDRIVE, ['S3', 'S5'], 0x0477, 'S4', [0x047f]],
  ])('%# lead there by the words that the standard lists', (profile, from, last, target, words) => {
    expect(wordsOf(routeTo(profile, from, last, target))).toEqual(words);
  });

  it('from somewhere unknown works from every state', () => {
    for (const profile of [velocity, PROFIDRIVE, shippedIndex('tern').profile!])
      for (const target of targetsOf(profile)) {
        const route = routeTo(profile, [], null, target);
        if (route.kind === 'none') continue;
        for (const { id } of profile.states) {
          let state = id;
          let last: number | null = null;
          for (const { word } of route.steps) {
            state = stateAfter(profile, state, last, word);
            last = word;
          }
          expect({ target, from: id, state }).toEqual({
            target,
            from: id,
            state: target === RUNNING ? profile.runs?.state : target,
          });
        }
      }
    expect(routeTo(velocity, [], null, RUNNING).kind).toBe('steps');
    expect(routeTo(PROFIDRIVE, [], null, 'S4').kind).toBe('steps');
  });

  it('never raises enable operation before the drive is switched on', () => {
    for (const { id } of velocity.states)
      for (const target of targetsOf(velocity)) {
        const route = routeTo(velocity, [id], null, target);
        if (route.kind === 'none') continue;
        let state = id;
        let last: number | null = null;
        for (const { word, raises } of route.steps) {
          if (raises.includes(3)) expect(['switched-on', 'operation-enabled', 'quick-stop-active']).toContain(state);
          state = stateAfter(velocity, state, last, word);
          last = word;
        }
      }
  });

  it('says from which word on the shaft may turn', () => {
    const route = routeTo(velocity, ['switch-on-disabled'], 0, RUNNING);
    expect(route.kind === 'steps' && route.steps.map(({ turns }) => turns)).toEqual([false, false, false, true]);
  });

  it('names what nobody commands, and what does not exist', () => {
    expect(wordsOf(routeTo(velocity, ['fault'], 0, 'fault-reaction-active'))).toMatch(/by itself/);
    expect(wordsOf(routeTo(velocity, ['fault'], 0, 'S4'))).toMatch(/no state S4/);
  });

  it('a plain-bit drive starts on the first word', () => {
    const tern = shippedIndex('tern').profile!;
    expect(wordsOf(routeTo(tern, ['ready'], 0, 'running-forward'))).toEqual([0x000d]);
    expect(wordsOf(routeTo(tern, ['fault'], 0x000d, 'running-backward'))).toEqual([0x0200, 0x002d]);
  });

  it('a drive without a control word is enabled by a mode number', () => {
    const pipit = shippedIndex('pipit').profile!;
    expect(wordsOf(routeTo(pipit, ['free'], 0, 'held'))).toEqual([4]);
  });
});

it('what a sheet says of a standard word replaces the bits that it covers, as bits and as a field, in every mode', () => {
  const wren = shippedIndex('wren').sheet;
  const own = {
    width: 16 as const,
    bits: [{ bit: 11, name: 'brake', one: 'open', zero: 'closed' }],
    fields: [{ from: 12, width: 3, name: 'ramp set', values: [{ value: 1, name: 'short' }] }],
  };
  const base = { width: 16 as const, bits: [] };
  const sheet = { ...wren, words: { control: own, status: base } } as typeof wren;
  for (const mode of DRIVE_MODES) {
    const profile = profileOf(sheet, mode);
    const bits = profile?.control.bits.map(({ bit }) => bit) ?? [];
    expect([bits.includes(0), bits.includes(11), bits.some((bit) => bit >= 12 && bit <= 14)]).toEqual([
      true,
      true,
      false,
    ]);
    expect(profile?.control.bits.find(({ bit }) => bit === 7)?.role).toBe(
      cia402(mode).control.bits.find(({ bit }) => bit === 7)?.role,
    );
    expect(profile?.control.fields?.map(({ name }) => name)).toEqual(['ramp set']);
  }
});
