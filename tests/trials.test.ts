import * as v from 'valibot';
import type { ProcedureTold } from '../src/link/line-owner';
import { pick, seededRandom } from '../src/core/random/random';
import { bytesToHex } from '../src/core/bytes/hex';
import { axisOf } from '../src/core/motion/axis';
import { checkMove } from '../src/core/motion/check-move';
import { valueIn } from '../src/core/drive/describe';
import { patternOfNumber } from '../src/core/values/pattern';
import { compileTrial } from '../src/core/trial/compile';
import { laidIn, leftBand } from '../src/core/trial/expect';
import { positionBandOf } from '../src/core/trial/expect-position';
import { lineOf, sinceBegin, type Sample } from '../src/core/trial/seen-line';
import { fractionText, parseRational } from '../src/core/scaling/rational';
import { toRaw } from '../src/core/scaling/scale';
import type { ScalingStep } from '../src/core/scaling/chain';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { restOf } from '../src/core/trial/states';
import { timeBetween } from '../src/core/trial/measure';
import { reportOf } from '../src/core/trial/report';
import { SHIPPED_TRIALS } from '../src/core/trial/shipped-trials';
import { trialOfStored } from '../src/core/trial/stored-trial';
import { storedPath, storedTableOf } from '../src/core/motion/stored-moves';
import { TrialSchema, type Trial, type TrialStep } from '../src/core/trial/trial';
import { CALM } from '../src/messages/line';
import { K1 } from './harness/line';
import { demoJob } from './harness/shipped';
import { framingOf } from '../src/core/modbus/framing';
import { registerLink } from '../src/core/places/register-link';
import type { ParameterRole } from '../src/core/sheet/parameter-section';
import type { SheetIndex } from '../src/core/sheet/index-sheet';
import { Cia402Drive } from '../src/standin/cia402-drive';
import { registerOf } from './harness/sheets';
import { shippedIndex, standinLine } from './harness/standin-line';

const FAST = { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 } as const;
/** Drives with their commands from the line. */
const DRIVES = {
  tern: { protocol: 'modbus-rtu', station: 3, end: K1, factory: { '2.01': 2, '2.02': 2, '5.01': 3 } },
  wren: { protocol: 'modbus-rtu', station: 7, end: K1, factory: { '10': 7 } },
  dunlin: { protocol: 'uss', station: 4, end: FAST, factory: {} },
  'dunlin-telegram-3': { protocol: 'uss', station: 4, end: FAST, factory: {} },
  curlew: { protocol: 'modbus-rtu', station: 1, end: K1, factory: {} },
  'curlew-table': { protocol: 'modbus-rtu', station: 1, end: K1, factory: { '42': 0 } },
  pipit: { protocol: 'ascii', station: 5, end: { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 }, factory: {} },
} as const;
type Slug = keyof typeof DRIVES;

const shipped = (id: string): Trial => {
  const trial = SHIPPED_TRIALS.find((one) => one.id === id);
  if (!trial) throw new Error(`no trial ${id}`);
  return trial;
};

/** A trial at a stand-in, over the real master, on a virtual clock. */
async function trialAt(
  slug: Slug,
  trial: Trial,
  factory: Record<string, number> = {},
  others: readonly number[] = [],
  known: Partial<Record<ParameterRole, number>> = {},
) {
  const { protocol, station, end, factory: usual } = DRIVES[slug];
  const line = await standinLine(slug, protocol, [station, ...others], end, 1, end, { ...usual, ...factory });
  const { profile } = line.index;
  const compiled = compileTrial(trial, {
    index: line.index,
    places: line.protocol.placesOf(line.index),
    station,
    name: slug,
    here: [(profile && restOf(profile)) ?? ''],
    known: (role) => known[role],
    protocol: line.protocol,
  });
  const drive = line.yard.drives.get(station);
  if (!drive) throw new Error('no drive');
  const last = () => line.runs[line.runs.length - 1]!;
  const tell = (told: ProcedureTold): void => line.master.tellProcedure('run', told);
  const start = (): void => {
    if (!compiled.procedure) throw new Error(compiled.why);
    line.master.startProcedure(compiled.procedure, 'run');
  };
  const stepNow = () => compiled.procedure?.steps[last().at];
  /** Runs on until something ends it, answering each question; by its first choice where nothing else is said. */
  const onward = (answer = (_: string): string | null => null, seconds = 400): void => {
    for (let i = 0; i < seconds * 10 && last().phase === 'running'; i++) {
      line.clock.advanceBy(100_000);
      const step = stepNow();
      if (last().phase === 'running' && step?.kind === 'person')
        tell({ kind: 'answer', said: answer(step.question) ?? step.choices[0]?.name ?? '100' });
    }
  };
  const report = () => reportOf(line.index, compiled, last());
  const stands = (): boolean => {
    line.clock.advanceBy(30_000_000);
    return !drive.isTurning();
  };
  return { ...line, compiled, tell, last, start, onward, report, drive, station, stands };
}
const verdicts = (own: Awaited<ReturnType<typeof trialAt>>) =>
  Object.fromEntries(own.report().steps.map(({ compiled, verdict }) => [compiled.step.id, verdict]));

it('what ships is what a file of a trial may hold, and each names steps that it has', () => {
  for (const trial of SHIPPED_TRIALS) {
    expect(v.safeParse(TrialSchema, trial).issues ?? []).toEqual([]);
    const ids = trial.steps.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const measure of trial.measures ?? []) {
      const named =
        measure.kind === 'line'
          ? measure.points.flatMap(({ asked, seen }) => [asked, seen])
          : measure.kind === 'time'
            ? [measure.from, measure.to]
            : measure.kind === 'same'
              ? [measure.a, measure.b]
              : measure.kind === 'arrival'
                ? [measure.move, measure.seen]
                : [measure.seen];
      expect(ids).toEqual(expect.arrayContaining(named));
    }
  }
});

describe.each<Slug>(['tern', 'wren', 'dunlin', 'dunlin-telegram-3'])('on %s', (slug) => {
  it.each(['first-contact', 'stops', 'direction', 'ramps', 'scale', 'loss-of-link'])(
    '%s runs to its end with no change, and leaves a shaft that stands',
    async (id) => {
      const own = await trialAt(slug, shipped(id));
      own.start();
      own.onward();
      expect(own.last()).toMatchObject({ end: 'done', why: '' });
      expect(own.report().steps.filter(({ verdict }) => verdict !== 'passed')).toEqual([]);
      expect(own.stands()).toBe(true);
      expect(own.master.snapshot().driven).toEqual([]);
    },
  );
});

it.each<Slug>(['tern', 'wren'])(
  'on %s a controller in stop brings the shaft to rest, and a reference alone does not start it',
  async (slug) => {
    const own = await trialAt(slug, shipped('controller-stop'));
    own.start();
    own.onward();
    expect(own.last()).toMatchObject({ end: 'done', why: '' });
    expect(own.report().steps.filter(({ verdict }) => verdict !== 'passed')).toEqual([]);
    expect(own.stands()).toBe(true);
  },
);

// PROFIdrive, control word 1 bit 10 (control by PLC): without it the drive takes no process data and holds the last ones (from memory).
it('a drive that takes words only from a controller that claims it goes on turning at zeros: the trial finds it, and stops it', async () => {
  const own = await trialAt('dunlin', shipped('controller-stop'));
  own.start();
  own.onward();
  expect(own.last()).toMatchObject({ end: 'surprise', why: expect.stringContaining('“the shaft stands”') as string });
  expect(verdicts(own)).toMatchObject({ cleared: 'passed', stands: 'failed' });
  expect(own.stands()).toBe(true);
  expect(own.master.snapshot().driven).toEqual([]);
});

it('while zeros go to a drive that turns on, it counts as one that this bench set in motion, and Stop stops it', async () => {
  const own = await trialAt('dunlin', shipped('controller-stop'));
  own.start();
  const isAt = (id: string): boolean => own.compiled.steps.find(({ step }) => step.id === id)?.from === own.last().at;
  for (let i = 0; i < 4000 && !isAt('stands'); i++) own.clock.advanceBy(100_000);
  own.clock.advanceBy(5_000_000);
  expect(own.drive.isTurning()).toBe(true);
  expect(own.master.snapshot().driven).toEqual([own.station]);
  own.master.stop(own.station);
  own.clock.advanceBy(30_000_000);
  expect(own.drive.isTurning()).toBe(false);
  expect(own.last()).toMatchObject({ phase: 'over', end: 'stop' });
});

it.each<[Slug, string, readonly [string, RegExp, string][]]>([
  // The sheets' own numbers: a ramp of 6.2 s to full scale, a watch of 3.2 s.
  [
    'tern',
    'ramps',
    [
      ['up from 20 to 70 % of full scale', /^3\.10 s, known to ± 0\.0\d+ s$/, 'passed'],
      ['down from 70 to 20 % of full scale', /^3\.10 s, known to ± 0\.0\d+ s$/, 'passed'],
    ],
  ],
  ['tern', 'loss-of-link', [['from the last word to the fault', /^3\.2\d s, known to ± 0\.0\d+ s$/, 'passed']]],
  // Where any request calms the watch, nothing may be asked meanwhile: it is said that nobody knows.
  [
    'dunlin',
    'loss-of-link',
    [['from the last word to the fault', /^at most 12\.\d+ s; closer it is not known$/, 'open']],
  ],
  ['wren', 'scale', [['the drive’s own actual speed over the reference', /^1\.0000 × asked \+ 0\.00 rpm/, 'passed']]],
])('on %s %s measures %j', async (slug, id, expected) => {
  const own = await trialAt(slug, shipped(id));
  own.start();
  own.onward();
  const { measures } = own.report();
  for (const [name, text, verdict] of expected)
    expect(measures.find((one) => one.name === name)).toMatchObject({
      text: expect.stringMatching(text) as string,
      verdict,
    });
});

it('a positioning drive goes there and back by the handshake of its profile, and the bench stands aside in between', async () => {
  const own = await trialAt('curlew', shipped('there-and-back'));
  own.start();
  own.onward();
  expect([own.compiled.why, own.last().why]).toEqual(['', '']);
  const { measures, steps } = own.report();
  expect(steps.filter(({ verdict }) => verdict !== 'passed')).toEqual([]);
  expect(steps.map(({ compiled }) => compiled.text)).toContain('move by 2 turns within 60 s');
  expect(measures.find(({ name }) => name === 'the position before and after')).toMatchObject({
    verdict: 'passed',
    text: expect.stringMatching(/^87\.019\d* mm$/) as string,
  });
  expect(own.stands()).toBe(true);
  // Each set-point rose once: three there, three back.
  const words = own.entries.filter(
    ({ direction, cause }) => direction === 'sent' && cause.includes('the set-point rises'),
  );
  expect(words).toHaveLength(6);
});

describe.each<Slug>(['curlew', 'pipit'])('positioning on %s', (slug) => {
  const limits: Record<string, number> =
    slug === 'curlew' ? { '69': 0, '71': 655_360 } : { 'limit-low.0': 0, 'limit-high.0': 573_440 };
  const [least, most] = Object.values(limits) as [number, number];
  it.each([
    'first-contact',
    'home',
    'this-is-zero',
    'short-move',
    'there-and-back',
    'limits',
    'repeatability',
    'sequence',
  ])('%s runs to its end with no change, and leaves a shaft that stands', async (id) => {
    const own = await trialAt(slug, shipped(id), limits, [], {
      'position-least': least,
      'position-most': most,
      'homing-method': 17,
      'home-offset': 0,
    });
    own.start();
    own.onward();
    expect([own.compiled.why, own.last().why]).toEqual(['', '']);
    expect(own.report().verdict).toBe('passed');
    expect(own.stands()).toBe(true);
    expect(own.master.snapshot().driven).toEqual([]);
  });
});

describe('positioning on a table that goes round', () => {
  /** Degrees in the drive’s counts, and its ways by their numbers. */
  const counts = (degrees: number): number => degrees * 16_384;
  const KNOWN = { 'homing-method': 37, 'home-offset': 0, 'round-way': 3 } as const;
  const at = (degrees: number) => ({ ...KNOWN, 'actual-position': counts(degrees) });
  const started = async (trial: Trial, degrees: number, way = 3) => {
    const own = await trialAt('curlew-table', trial, { '42': counts(degrees), '94': way }, [], {
      ...at(degrees),
      'round-way': way,
    });
    own.start();
    return own;
  };

  it.each(['first-contact', 'home', 'this-is-zero', 'short-move', 'there-and-back', 'repeatability', 'sequence'])(
    '%s runs to its end with no change, across its zero too',
    async (id) => {
      const own = await started(shipped(id), 358);
      own.onward();
      expect([own.compiled.why, own.last().why]).toEqual(['', '']);
      expect(own.report().verdict).toBe('passed');
      expect(own.stands()).toBe(true);
    },
  );

  it('has no limits to go to, and says so', async () => {
    const own = await trialAt('curlew-table', shipped('limits'), {}, [], at(0));
    expect(own.compiled).toMatchObject({
      procedure: null,
      why: expect.stringMatching(/lowest position|position least/) as string,
    });
  });

  // What the drive's setting says is gone, by the stand-in's own motion: in time with the way that the bench worked out.
  it.each<[way: number, from: number, to: string, gone: number]>([
    [0, 350, '10', -340],
    [1, 10, '350', -20],
    [1, 350, '10', -340],
    [2, 350, '10', 20],
    [2, 10, '350', 340],
    [3, 350, '10', 20],
    [3, 10, '350', -20],
    [3, 10, '710', -20],
  ])('by way %i from %i° to %s° it goes %i°, arrives, and stays in its band', async (way, from, to, gone) => {
    const trial: Trial = {
      ...shipped('there-and-back'),
      steps: [
        { id: 'before', kind: 'read', what: { role: 'actual-position' } },
        { id: 'go', kind: 'move', to, relative: false, withinS: 60 },
        { id: 'after', kind: 'read', what: { role: 'actual-position' } },
        { id: 'end', kind: 'stop' },
      ],
      measures: [{ kind: 'arrival', name: 'off', move: 'go', seen: 'after', within: '0.1' }],
    };
    const own = await started(trial, from, way);
    const position = own.index.byRole.get('actual-position')!;
    const { drive } = own;
    if (!(drive instanceof Cia402Drive)) throw new Error('no table');
    const seen: Sample[] = [];
    for (let i = 0; i < 1200 && own.last().phase === 'running'; i++) {
      own.clock.advanceBy(50_000);
      const register = registerOf(position);
      const raw = (drive.read(register)! << 16) | drive.read(register + 1)!;
      expect(raw >= 0 && raw < counts(360)).toBe(true);
      seen.push({ x: own.clock.now() / 1e6, y: raw / 16_384 });
    }
    expect(own.last()).toMatchObject({ end: 'done', why: '' });
    expect(own.report().measures[0]).toMatchObject({ text: '0 ° off', verdict: 'passed' });
    const value = (role: ParameterRole): string | null => {
      const place = own.index.byRole.get(role)!;
      return fractionText(valueIn(own.index.sheet, place, place.default!)!);
    };
    const band = positionBandOf(
      own.index,
      own.compiled,
      {
        position: `${from}`,
        speed: value('move-speed'),
        acceleration: value('move-acceleration'),
        deceleration: value('move-deceleration'),
        jerk: value('move-jerk'),
        least: null,
        most: null,
        atHome: '0',
        roundWay: `${way}`,
      },
      own.last(),
    )!;
    const line = laidIn(band, sinceBegin(lineOf(seen), own.last()));
    expect(leftBand(band, line)).toBeNull();
    expect(line.at(-1)! - from).toBeCloseTo(gone, 1);
  });

  it('goes by the way that the trial itself has written before', async () => {
    const steps = (way: string): Trial['steps'] => [
      { id: 'way', kind: 'write', what: { role: 'round-way' }, to: way },
      { id: 'go', kind: 'move', to: '270', relative: true, withinS: 60 },
    ];
    const why = async (way: string): Promise<string> =>
      (await trialAt('curlew-table', { ...shipped('there-and-back'), measures: [], steps: steps(way) }, {}, [], at(0)))
        .compiled.why;
    expect([await why('2'), await why('1')]).toEqual(['', expect.stringMatching(/backward only: that would be −90/)]);
  });

  it('where its position is a float, a distance is gone by its fractions or refused, and nothing throws', () => {
    const index = toldInFloats('curlew-table');
    const whyNot = (to: string): string =>
      compileTrial(
        {
          ...shipped('there-and-back'),
          measures: [],
          steps: [{ id: 'go', kind: 'move', to, relative: true, withinS: 9 }],
        },
        {
          index,
          places: registerLink(index, framingOf('modbus-rtu')),
          station: 1,
          name: 'table',
          here: [restOf(index.profile!)!],
          known: (role) =>
            role === 'actual-position' ? patternOfNumber('float32', 350.5) : role === 'round-way' ? 3 : undefined,
        },
      ).why;
    expect([whyNot('20.25'), whyNot('270.5')]).toEqual([
      '',
      expect.stringMatching(/by the shorter way: that would be −89\.5/),
    ]);
  });

  it('looks once whether it stands where it was read, also where that lies across its zero', async () => {
    const trial: Trial = {
      ...shipped('there-and-back'),
      steps: [{ id: 'go', kind: 'move', to: '10', relative: false, withinS: 60 }],
    };
    const own = await trialAt('curlew-table', trial, { '42': counts(360) - 3, '94': 3 }, [], at(0));
    own.start();
    own.onward();
    expect(own.last()).toMatchObject({ end: 'done', why: '' });
    const elsewhere = await trialAt('curlew-table', trial, { '42': counts(180), '94': 3 }, [], at(0));
    elsewhere.start();
    elsewhere.onward();
    expect(elsewhere.last().end).toBe('surprise');
  });
});

it('a drive that knows no positions says so before anything is sent', async () => {
  const own = await trialAt('tern', shipped('there-and-back'));
  expect(own.compiled).toMatchObject({
    procedure: null,
    why: expect.stringMatching(/^step 2: sheet Tern has no actual position/) as string,
  });
});

it('the demo’s trials do what they say: the fan fails by half a second for the reason that is said, the lift goes its rounds', async () => {
  const [fan, lift] = demoJob().trials ?? [];
  const late = await trialAt('tern', fan!);
  late.start();
  late.onward();
  expect(late.report().steps.every(({ verdict }) => verdict === 'passed')).toBe(true);
  expect(late.report().measures).toEqual([
    {
      name: 'from the last word to standstill',
      text: expect.stringMatching(/^4\.\d\d s, known to ± 0\.0\d+ s$/) as string,
      should: '0.00 to 4.00 s',
      verdict: 'failed',
    },
  ]);
  // A shorter watch brings it in time.
  const intime = await trialAt('tern', fan!, { '5.04': 15 });
  intime.start();
  intime.onward();
  expect(intime.report().verdict).toBe('passed');
  const rounds = await trialAt('curlew', lift!);
  rounds.start();
  rounds.onward();
  expect([rounds.compiled.why, rounds.report().verdict]).toEqual(['', 'passed']);
  expect(rounds.report().steps.filter(({ compiled }) => compiled.step.id === 'saw')).toHaveLength(5);
});

const ownTrial = (...steps: readonly TrialStep[]): Trial => ({
  format: 1,
  id: 'own',
  name: 'own',
  proves: 'x',
  leaves: 'x',
  steps: [...steps],
});

it('the demo’s script of the fence: its own lines, asked again and compared, round after round', async () => {
  const script = demoJob().trials?.find(({ id }) => id === 'fence-answers');
  const own = await trialAt('pipit', script!);
  own.start();
  own.onward();
  expect([own.compiled.why, own.last().why, own.report().verdict]).toEqual(['', '', 'passed']);
  const sent = own.entries
    .filter(({ direction }) => direction === 'sent')
    .map(({ bytes }) => String.fromCharCode(...bytes));
  expect(sent.filter((line) => line.startsWith('05.spd=15~'))).toHaveLength(2);
});

it.each<[Slug, string, RegExp]>([
  ['tern', '03 03 01 82', /^step 1: these bytes are no request of this line/],
  ['tern', '07 03 01 82 00 01', /^step 1: it is for station 7: a trial speaks to its own drive, 3$/],
  ['tern', '03 zz', /^step 1: /],
  ['pipit', '06.pos?', /^step 1: it is for station 6/],
])('on %s “%s” is not sent as it stands', async (slug, bytes, why) => {
  const own = await trialAt(slug, ownTrial({ id: 'one', kind: 'send', bytes, expects: 'answer' }));
  expect(own.compiled.why).toMatch(why);
});

it('a request as it stands gets its check, and one that writes counts as one that may turn the shaft', async () => {
  const own = await trialAt(
    'tern',
    ownTrial(
      { id: 'reads', kind: 'send', bytes: '03 03 01 82 00 01', expects: 'answer' },
      { id: 'refused', kind: 'send', bytes: '03 03 00 00 00 01', expects: 'refusal' },
      { id: 'writes', kind: 'send', bytes: '03 06 01 C1 00 00', expects: 'any' },
    ),
  );
  expect(own.compiled.steps.map(({ turns }) => turns)).toEqual([false, false, true]);
  own.start();
  own.onward();
  expect([own.last().end, own.report().verdict]).toEqual(['done', 'passed']);
  const taken = await trialAt(
    'tern',
    ownTrial({ id: 'a', kind: 'send', bytes: '03 03 01 82 00 01', expects: 'refusal' }),
  );
  taken.start();
  taken.onward();
  expect(taken.last().why).toBe('send 03 03 01 82 00 01: it was answered, and should have been refused');
  const needy = await trialAt(
    'tern',
    ownTrial({ id: 'a', kind: 'send', bytes: '03 03 00 00 00 01', expects: 'answer' }),
  );
  needy.start();
  needy.onward();
  expect(needy.report().verdict).toBe('failed');
});

it('a way is counted from where the axis stands, not from a last target that a stop left far away', async () => {
  const own = await trialAt(
    'curlew',
    ownTrial({ id: 'by', kind: 'move', to: '10', relative: true, withinS: 30 }),
    {},
    [],
    {
      'actual-position': 142_572,
    },
  );
  const places = own.protocol.placesOf(own.index);
  const write = (role: ParameterRole, raw: number): void =>
    void own.ask(places.write(1, own.index.byRole.get(role)!, raw, () => undefined)!);
  // The drive was on its way to 2000 mm, and stopped soon: its last target is there still.
  write('mode', 1);
  for (const word of [0x06, 0x07, 0x0f]) write('control-word', word);
  write('target-position', 3_276_800);
  write('control-word', 0x1f);
  write('control-word', 0x02);
  own.clock.advanceBy(3_000_000);
  const at = (): number =>
    own.protocol
      .placesOf(own.index)
      .learned(
        places.read(1, [own.index.byRole.get('actual-position')!])[0]!,
        own.ask(places.read(1, [own.index.byRole.get('actual-position')!])[0]!).reply!,
      )
      .reduce((sum, [, word]) => sum * 65_536 + word, 0);
  const stood = at();
  expect(stood).toBeLessThan(1_500_000);
  const again = compileTrial(own.compiled.trial, {
    index: own.index,
    places,
    station: 1,
    name: 'lift',
    here: ['quick-stop-active'],
    known: (role) => ({ 'actual-position': stood, 'mode-display': 1, 'control-word': 2 })[role as string],
  });
  expect(again.why).toBe('');
  own.master.startProcedure(again.procedure!, 'run');
  own.onward();
  expect(own.last().why).toBe('');
  expect(at()).toBe(stood + 16_384);
});

it.each<[Slug, string, boolean, number]>([
  ['curlew', '50', true, 142_572],
  ['curlew', '300', false, 142_572],
  ['pipit', '12', true, 0],
  ['pipit', '30 mm', false, 0],
])('on %s what a move of %s (a way: %s) says that it writes is what goes out', async (slug, to, relative, position) => {
  const own = await trialAt(slug, ownTrial({ id: 'a', kind: 'move', to, relative, withinS: 30 }), {}, [], {
    'actual-position': position,
  });
  const wish = { to, relative, speed: '', acceleration: '', deceleration: '', jerk: '' };
  const { written } = checkMove(axisOf(own.index)!, wish, (role) =>
    role === 'actual-position' ? valueIn(own.index.sheet, own.index.byRole.get(role)!, position) : null,
  );
  const bytes = own.protocol
    .placesOf(own.index)
    .write(own.station, written!.place, patternOfNumber('int32', Number(written!.counts)), () => undefined)!;
  const sent = own.compiled.procedure!.steps.flatMap((step) =>
    step.kind === 'request' ? [bytesToHex(step.bytes)] : [],
  );
  expect(sent).toContain(bytesToHex(bytes));
});

/** The lift with its position counted from elsewhere, or from the other side. */
const liftCounted = (...first: ScalingStep[]): SheetIndex => {
  const { sheet } = shippedIndex('curlew');
  return indexSheet({
    ...sheet,
    scalings: (sheet.scalings ?? []).map((one) =>
      one.id === 'position' ? { ...one, chain: { ...one.chain, steps: [...first, ...one.chain.steps] } } : one,
    ),
  });
};

/** Where its position begins to count, and which way. */
const COUNTED: Readonly<Record<string, readonly ScalingStep[]>> = {
  'as it ships': [],
  'from 300 mm below': [{ kind: 'offset', add: '300' }],
  'from the other side': [
    { kind: 'factor', by: '-1' },
    { kind: 'offset', add: '2400' },
  ],
  'behind a gear that turns it round': [{ kind: 'gear', motor: '1', load: '1', inverted: true }],
};
const WAYS = [
  ['10', true, '110'],
  ['10', false, '10'],
  // One turn of the motor is 40 mm.
  ['1/2 turns', true, '120'],
] as const;

it.each(
  Object.keys(COUNTED).flatMap((counted) => WAYS.map(([to, relative, end]) => [counted, to, relative, end] as const)),
)('a lift that counts %s goes %s (a way: %s) from 100 mm to %s mm, as it is shown', (counted, to, relative, end) => {
  const [first, from] = [COUNTED[counted] ?? [], '100'];
  const index = liftCounted(...first);
  const [position, target] = [index.byRole.get('actual-position')!, index.byRole.get('target-position')!];
  const chain = index.sheet.scalings!.find(({ id }) => id === 'position')!.chain;
  const raw = (mm: string): number => {
    const value = parseRational(mm);
    const scaled = value.ok ? toRaw(chain, value.value) : null;
    if (!scaled?.ok) throw new Error(mm);
    return Number(scaled.value.raw);
  };
  const pattern = patternOfNumber('int32', raw(from));
  const wish = { to, relative, speed: '', acceleration: '', deceleration: '', jerk: '' };
  const shown = checkMove(axisOf(index)!, wish, (role) =>
    role === 'actual-position' ? valueIn(index.sheet, position, pattern) : null,
  );
  expect([shown.faults, fractionText(shown.end!), shown.written]).toEqual([
    [],
    end,
    { place: target, counts: BigInt(raw(end)) },
  ]);
  const places = registerLink(index, framingOf('modbus-rtu'));
  const { procedure, why } = compileTrial(ownTrial({ id: 'a', kind: 'move', to, relative, withinS: 30 }), {
    index,
    places,
    station: 1,
    name: 'lift',
    here: [restOf(index.profile!)!],
    known: (role) => (role === 'actual-position' ? pattern : undefined),
  });
  expect(why).toBe('');
  const bytes = places.write(1, target, patternOfNumber('int32', raw(end)), () => undefined)!;
  expect(procedure!.steps.flatMap((step) => (step.kind === 'request' ? [bytesToHex(step.bytes)] : []))).toContain(
    bytesToHex(bytes),
  );
});

/** A shipped axis whose positions are floats, in its unit. */
function toldInFloats(slug: Slug): SheetIndex {
  const { sheet } = shippedIndex(slug);
  return indexSheet({
    ...sheet,
    parameters: (sheet.parameters ?? []).map((one) =>
      one.role === 'actual-position' || one.role === 'target-position'
        ? { ...one, type: 'float32' as const, scale: undefined, min: -1e6, max: 1e6, default: 0 }
        : one,
    ),
  });
}

it('a position that is a float goes by a fraction of its unit, without counts', () => {
  const index = toldInFloats('curlew');
  const target = index.byRole.get('target-position')!;
  const places = registerLink(index, framingOf('modbus-rtu'));
  const { procedure, why } = compileTrial(ownTrial({ id: 'a', kind: 'move', to: '0.5', relative: true, withinS: 9 }), {
    index,
    places,
    station: 1,
    name: 'lift',
    here: [restOf(index.profile!)!],
    known: (role) => (role === 'actual-position' ? patternOfNumber('float32', 100.25) : undefined),
  });
  expect(why).toBe('');
  const bytes = places.write(1, target, patternOfNumber('float32', 100.75), () => undefined)!;
  expect(procedure!.steps.flatMap((step) => (step.kind === 'request' ? [bytesToHex(step.bytes)] : []))).toContain(
    bytesToHex(bytes),
  );
});

it.each<Slug>(['curlew', 'pipit'])(
  'an axis of %s that was moved since it was looked at is not sent anywhere',
  async (slug) => {
    const position = slug === 'curlew' ? 1_000_000 : 5_000_000;
    const own = await trialAt(slug, ownTrial({ id: 'a', kind: 'move', to: '1', relative: true, withinS: 30 }), {}, [], {
      'actual-position': position,
    });
    own.start();
    own.onward();
    expect(own.last().why).toMatch(/as it was read” was expected/);
    expect(own.entries.some(({ cause }) => /target|dst|it moves|rises/.test(cause))).toBe(false);
    expect(own.drive.isTurning()).toBe(false);
  },
);

it.each<[string, boolean, RegExp]>([
  ['3000', false, /^step 1: it would end at 3000 mm; the machine goes from −20 mm to 2430 mm$/],
  ['-200', true, /^step 1: it would end at −112\.981 mm; the machine goes/],
  ['2410', false, /^step 1: it would end at 2410 mm, outside the drive’s own limits, 0 mm to 2400 mm$/],
  ['900', true, /^$/],
])(
  'a step of a trial that moves to %s (from where it stands: %s) is judged before anything runs',
  async (to, relative, why) => {
    const own = await trialAt('curlew', ownTrial({ id: 'a', kind: 'move', to, relative, withinS: 9 }), {}, [], {
      'actual-position': 142_572,
      'position-least': 0,
      'position-most': 3_932_160,
    });
    expect(own.compiled.why).toMatch(why);
  },
);

it('a drive that trips on its way ends the move at once, and says by what', async () => {
  // A window of 1 count is less than what the shaft is behind at speed: the drive's own watch trips.
  const own = await trialAt(
    'curlew',
    ownTrial({ id: 'far', kind: 'move', to: '2000', relative: false, withinS: 600 }),
    { '76': 1 },
  );
  own.start();
  own.onward(undefined, 20);
  expect(own.last().why).toMatch(/^a fault came on the way/);
  expect(own.stands()).toBe(true);
  const saw = await trialAt('pipit', ownTrial({ id: 'far', kind: 'move', to: '500', relative: false, withinS: 600 }), {
    'following-limit.0': 1,
  });
  saw.start();
  saw.onward(undefined, 20);
  expect(saw.last().why).toMatch(/^a fault came on the way/);
});

it.each([
  ['100 mm', 'passed'],
  ['2 turns', 'failed'],
])('two positions are the same within what is said: within %s, 87 mm apart: %s', async (within, verdict) => {
  const trial = ownTrial(
    { id: 'a', kind: 'read', what: { role: 'actual-position' } },
    { id: 'b', kind: 'read', what: { role: 'position-most' } },
  );
  const own = await trialAt('curlew', { ...trial, measures: [{ kind: 'same', name: 'both', a: 'a', b: 'b', within }] });
  own.start();
  own.onward();
  expect(own.report().measures[0]?.verdict).toBe(verdict);
});

it('a password that is read is in no report', async () => {
  const secret = shippedIndex('tern').parameters.find((one) => one.secret === true)!;
  const own = await trialAt('tern', ownTrial({ id: 'a', kind: 'read', what: { number: secret.number } }));
  own.start();
  own.onward();
  expect(own.report().steps[0]).toMatchObject({ verdict: 'passed', seen: '••••' });
});

it('an input is waited for by its bit: the home switch comes on the way up', async () => {
  const inputs = { role: 'axis-inputs' } as const;
  const own = await trialAt(
    'curlew',
    ownTrial(
      { id: 'free', kind: 'wait-flag', what: inputs, bit: 2, is: false, withinS: 1 },
      { id: 'up', kind: 'move', to: '900', relative: false, blended: true, withinS: 30 },
      { id: 'met', kind: 'wait-flag', what: inputs, bit: 2, is: true, withinS: 30 },
      { id: 'on', kind: 'move', to: '1000', relative: false, withinS: 30 },
    ),
  );
  expect(own.compiled.steps[2]?.text).toBe('home switch, bit 2 of 49 inputs of the axis, is 1 within 30 s');
  own.start();
  own.onward();
  expect([own.last().why, own.report().verdict]).toEqual(['', 'passed']);
  const never = await trialAt(
    'tern',
    ownTrial({ id: 'a', kind: 'wait-flag', what: { number: '2.01' }, bit: 20, is: true, withinS: 1 }),
  );
  expect(never.compiled.why).toMatch(/^step 1: 2\.01 .* has no bit 20$/);
});

it.each(['direction', 'loss-of-link'])(
  'another drive that was set in motion on the line runs on through %s, fed as before',
  async (id) => {
    const own = await trialAt('dunlin', shipped(id), {}, [9]);
    const other = own.yard.drives.get(9)!;
    const places = own.protocol.placesOf(own.index);
    const write = (role: 'control-word' | 'speed-reference', word: number): void =>
      void own.ask(
        places.write(9, own.index.byRole.get(role)!, word, (known) =>
          known === 'speed-reference' ? 0x1000 : undefined,
        )!,
      );
    write('speed-reference', 0x1000);
    for (const word of [0x047e, 0x047f]) write('control-word', word);
    own.start();
    own.onward();
    expect(own.last().why).toBe('');
    own.clock.advanceBy(10_000_000);
    expect([own.drive.isTurning(), other.isTurning()]).toEqual([false, true]);
    expect(own.master.snapshot().driven).toEqual([9]);
    own.master.stop(own.station);
    own.clock.advanceBy(20_000_000);
    expect(other.isTurning()).toBe(false);
  },
);

it('a way that does not come ends there where its trial goes on: no further word of it goes out', async () => {
  const trial: Trial = {
    ...shipped('direction'),
    steps: [
      { id: 'run', kind: 'walk', to: 'running', ifNot: 'go-on' },
      { id: 'then', kind: 'read', what: { role: 'status-word' } },
    ],
  };
  // The drive looks at its keys: it confirms every word, and goes nowhere.
  const own = await trialAt('wren', trial);
  own.drive.setHands({ selector: 'local', liveFault: 0 });
  own.start();
  own.onward();
  expect(verdicts(own)).toEqual({ run: 'failed', then: 'passed' });
  const words = own.entries.filter(
    ({ direction, bytes, cause }) => direction === 'sent' && bytes[1] === 6 && cause.startsWith('trial'),
  );
  expect(words).toHaveLength(1);
});

it('a repeated read shows what it read each time', async () => {
  const trial: Trial = {
    ...shipped('direction'),
    steps: [
      { id: 'set', kind: 'write', what: { role: 'ramp-time' }, to: '5' },
      { id: 'ramp', kind: 'read', what: { role: 'ramp-time' } },
      { id: 'other', kind: 'write', what: { role: 'ramp-time' }, to: '7' },
      { id: 'twice', kind: 'repeat', from: 'ramp', times: 2 },
    ],
  };
  const own = await trialAt('wren', trial);
  own.start();
  own.onward();
  const reads = own.report().steps.filter(({ compiled }) => compiled.step.id === 'ramp');
  expect(reads.map(({ seen }) => seen)).toEqual(['5 s', '7 s']);
});

describe('a line that is not well', () => {
  const lose = (own: Awaited<ReturnType<typeof trialAt>>, share: number): void => {
    own.yard.bus.disturbance = { ...CALM, loseReply: share };
  };

  it('answers that are missing while something is waited for are waited out', async () => {
    const own = await trialAt('tern', shipped('stops'));
    own.start();
    own.clock.advanceBy(700_000);
    lose(own, 1);
    own.clock.advanceBy(500_000);
    lose(own, 0);
    own.onward();
    expect(own.last()).toMatchObject({ end: 'done', why: '' });
    expect(own.stands()).toBe(true);
  });

  it('a lost reply to a word ends the trial with its reason and a shaft that stands; it can be run again', async () => {
    const own = await trialAt('tern', shipped('direction'));
    own.start();
    lose(own, 1);
    own.clock.advanceBy(1_000_000);
    lose(own, 0);
    expect(own.last()).toMatchObject({ end: 'surprise', why: 'stop word 0x0004: no sure answer came' });
    expect(own.stands()).toBe(true);
    own.start();
    own.onward();
    expect(own.last().end).toBe('done');
  });

  it('a line that is closed and opened again resumes nothing', async () => {
    const own = await trialAt('tern', shipped('direction'));
    own.start();
    own.clock.advanceBy(1_500_000);
    expect(own.drive.isTurning()).toBe(true);
    await own.master.close();
    expect(own.last()).toMatchObject({ phase: 'over', end: 'lost' });
    await own.master.open();
    const before = own.entries.length;
    // The drive's own watch stops it meanwhile.
    own.clock.advanceBy(60_000_000);
    expect(own.drive.isTurning()).toBe(false);
    expect(own.entries.slice(before).filter(({ direction }) => direction === 'sent')).toEqual([]);
  });

  it.each(Array.from({ length: 20 }, (_, i) => i))(
    'whatever gets lost, it ends, and the shaft stands (seed %i)',
    async (seed) => {
      const random = seededRandom(500 + seed);
      const own = await trialAt(
        (['tern', 'wren', 'dunlin'] as const)[pick(random, 3)]!,
        shipped(['stops', 'ramps', 'direction'][pick(random, 3)]!),
      );
      lose(own, 0.02 + random() * 0.2);
      own.start();
      own.onward();
      lose(own, 0);
      own.clock.advanceBy(90_000_000);
      expect(own.last().phase).toBe('over');
      expect([own.drive.isTurning(), own.last().end === 'done' || own.last().why !== '']).toEqual([false, true]);
    },
  );

  it.each(Array.from({ length: 16 }, (_, i) => i))(
    'whatever gets lost on the way to a place, it ends, and the axis stands (seed %i)',
    async (seed) => {
      const random = seededRandom(900 + seed);
      const slug = (['curlew', 'pipit'] as const)[seed % 2]!;
      const own = await trialAt(slug, shipped(['home', 'there-and-back', 'sequence'][pick(random, 3)]!));
      lose(own, 0.02 + random() * 0.2);
      own.start();
      own.onward();
      lose(own, 0);
      own.clock.advanceBy(90_000_000);
      expect(own.last().phase).toBe('over');
      expect([own.drive.isTurning(), own.last().end === 'done' || own.last().why !== '']).toEqual([false, true]);
    },
  );

  it.each<Slug>(['curlew', 'pipit'])(
    'a line that dies under a move and comes back resumes nothing, on %s',
    async (slug) => {
      const own = await trialAt(slug, shipped('there-and-back'));
      own.start();
      for (let i = 0; i < 100 && !own.drive.isTurning(); i++) own.onward(undefined, 0.1);
      expect(own.drive.isTurning()).toBe(true);
      await own.master.close();
      own.clock.advanceBy(60_000_000);
      expect(own.last()).toMatchObject({ phase: 'over' });
      const before = own.entries.length;
      await own.master.open();
      own.clock.advanceBy(60_000_000);
      expect(own.entries.slice(before).filter(({ direction }) => direction === 'sent')).toEqual([]);
      expect(own.drive.isTurning()).toBe(false);
    },
  );
});

it('nothing runs in a mode in which the same word would start a move to a target that nobody has typed', () => {
  const index = shippedIndex('curlew');
  const inMode = (mode: number, own: SheetIndex) =>
    compileTrial(shipped('direction'), {
      index: own,
      places: registerLink(index, framingOf('modbus-rtu')),
      station: 1,
      name: 'lift',
      here: ['switch-on-disabled'],
      known: (role) => (role === 'mode-display' ? mode : undefined),
    }).why;
  expect(inMode(2, index)).toBe('');
  expect(inMode(1, index)).toMatch(/^step 3: in this mode the word that runs starts a move/);
  expect(inMode(1, index.modes.get(1)!)).toMatch(/^step 3: in this mode the word that runs starts a move/);
});

it('a drive without a watch over its master does not pass the loss of its link, and is stopped', async () => {
  const own = await trialAt('wren', shipped('loss-of-link'), { '13': 0 });
  own.start();
  own.onward();
  expect(own.last().why).toBe('“the shaft stands” was expected, but it did not come within 120 s');
  expect(verdicts(own)).toMatchObject({ fault: 'failed', stands: 'failed', wait: 'not-done' });
  expect(own.report().verdict).toBe('failed');
  expect(own.stands()).toBe(true);
});

it('an answer that is not the wanted one ends the trial, and the shaft is stopped first', async () => {
  const own = await trialAt('tern', shipped('direction'));
  own.start();
  own.onward((question) => (question.startsWith('Seen on') ? 'the other way' : null));
  expect(own.last()).toMatchObject({ phase: 'over', end: 'surprise' });
  expect(verdicts(own)).toMatchObject({ way: 'failed', stop: 'not-done' });
  expect(own.entries.some(({ cause }) => cause === 'Direction ended')).toBe(true);
  expect(own.stands()).toBe(true);
});

const ASKING: Trial = {
  ...shipped('direction'),
  steps: [
    ...shipped('direction').steps.slice(0, 3),
    { id: 'never', kind: 'wait', what: { role: 'actual-speed' }, from: '90 %', to: null, withinS: 2, ifNot: 'ask' },
    { id: 'after', kind: 'hold', s: 1 },
  ],
};

it('a step that asks how it goes on stops the shaft first; it is done again, or left as failed, on purpose only', async () => {
  const own = await trialAt('tern', ASKING);
  own.start();
  own.onward();
  expect(own.last()).toMatchObject({
    phase: 'paused',
    asks: expect.stringMatching(/^“6\.05 actual speed is at least 90 %”/) as string,
  });
  // In the middle of the Stop it does not go on.
  own.tell({ kind: 'resume' });
  expect(own.last().phase).toBe('paused');
  expect(own.stands()).toBe(true);
  own.tell({ kind: 'again' });
  expect(own.last().phase).toBe('running');
  own.onward();
  expect(own.last().phase).toBe('paused');
  own.tell({ kind: 'resume' });
  own.onward();
  expect(own.last()).toMatchObject({ phase: 'over', end: 'done' });
  expect(verdicts(own)).toMatchObject({ never: 'failed', after: 'passed' });
  expect(own.report().verdict).toBe('failed');
});

it.each(Array.from({ length: 24 }, (_, i) => i))(
  'after Stop no step of a trial follows, and the shaft stands (seed %i)',
  async (seed) => {
    const random = seededRandom(seed);
    const slug = (['tern', 'wren', 'dunlin'] as const)[pick(random, 3)]!;
    const id = ['stops', 'ramps', 'reverse', 'loss-of-link', 'scale'][pick(random, 5)]!;
    const own = await trialAt(slug, shipped(id));
    own.start();
    own.onward(undefined, 0.1 * (1 + pick(random, 120)));
    own.clock.advanceBy(pick(random, 100_000));
    const before = own.entries.length;
    own.master.stop(own.station);
    own.clock.advanceBy(1_000_000);
    own.tell({ kind: 'resume' });
    own.tell({ kind: 'again' });
    expect(own.stands()).toBe(true);
    const after = own.entries
      .slice(before)
      .filter(({ direction, cause }) => direction === 'sent' && cause.startsWith('trial'));
    expect(after).toEqual([]);
    expect(own.last().phase).toBe('over');
  },
);

/** Drives with settings of their own, three times measured at each; 334 of them make a thousand times (`BUJO_TIMES=334`, half a minute). */
const TIMED_DRIVES = parseInt(process.env.BUJO_TIMES ?? '16', 10);

it.each(Array.from({ length: TIMED_DRIVES }, (_, i) => i))(
  'what it says of a time holds the true one (seed %i)',
  async (seed) => {
    const random = seededRandom(100 + seed);
    const [ramp, watch] = [10 + pick(random, 150), 8 + pick(random, 60)];
    const ramps = await trialAt('tern', shipped('ramps'), { '11.02': ramp });
    ramps.start();
    ramps.onward();
    // The stand-in rounds its speed to its own steps, each of which takes a moment of the ramp.
    const stepS = ramp / 10 / 55 / 10;
    const way = { index: ramps.index, compiled: ramps.compiled, run: ramps.last() };
    for (const [from, to] of [
      ['up-low', 'up-high'],
      ['down-high', 'down-low'],
    ] as const) {
      const time = timeBetween(way, from, to)!;
      expect(time.least).toBeLessThanOrEqual(ramp / 20 + 2 * stepS);
      expect(time.most).toBeGreaterThanOrEqual(ramp / 20 - 2 * stepS);
      expect(time.most - time.least).toBeLessThan(0.2);
    }
    const loss = await trialAt('tern', shipped('loss-of-link'), { '5.04': watch });
    loss.start();
    loss.onward();
    const time = timeBetween({ index: loss.index, compiled: loss.compiled, run: loss.last() }, 'lose', 'fault')!;
    expect(time.least).toBeLessThanOrEqual(watch / 10);
    expect(time.most).toBeGreaterThanOrEqual(watch / 10);
  },
);

it('moves that the lift keeps itself: started by their number, over when the bench says so, within one look', async () => {
  const mm = (value: number): number => (value * 65_536) / 40;
  const own = await trialAt('curlew', trialOfStored(1, new Map([['133', '0.25']]), null), {
    '23': 0,
    '120': mm(300),
    '122': mm(400),
    '125': 100,
    '126': 2,
    '128': mm(-50),
    '130': mm(400),
    '132': 1,
  });
  own.start();
  own.onward();
  expect(own.last()).toMatchObject({ end: 'done' });
  const way = { index: own.index, compiled: own.compiled, run: own.last() };
  const axis = axisOf(own.index)!;
  const raw = new Map(
    own.index.parameters.flatMap(
      ({ number, type, default: factory = 0 }) => [[number, patternOfNumber(type, factory)]] as const,
    ),
  );
  for (const [number, value] of [
    ['120', mm(300)],
    ['122', mm(400)],
    ['125', 100],
    ['126', 2],
    ['128', mm(-50)],
    ['130', mm(400)],
    ['132', 1],
    ['133', 25],
  ] as const)
    raw.set(number, patternOfNumber(own.index.byNumber.get(number)!.type, value));
  const known = (role: ParameterRole) => {
    const place = own.index.byRole.get(role);
    return place ? valueIn(own.index.sheet, place, raw.get(place.number) ?? 0) : null;
  };
  const path = storedPath(
    axis,
    storedTableOf(own.index)!,
    1,
    known('actual-position'),
    (number) => raw.get(number),
    known,
  );
  if (!path.ok) throw new Error(path.error);
  const time = timeBetween(way, 'moves', 'moves')!;
  // It is there a lag of its shaft later, and says so when it has been in its window for as long as is set; the bench looks each 20 ms at most.
  const [lagS, windowS, lookS] = [2 * 0.006 + 0.004, 0.02, 0.05];
  expect(time.most).toBeGreaterThanOrEqual(path.value.seconds!);
  expect(time.least).toBeLessThanOrEqual(path.value.seconds! + lagS + windowS + lookS);
  expect(own.report().measures[0]).toMatchObject({ verdict: 'passed' });
});

it('a stored move is not begun where it would go round, or where the sheet keeps none', async () => {
  const none = await trialAt('pipit', trialOfStored(1, new Map(), null));
  expect(none.compiled.why).toMatch(/the sheet lists no moves that the drive keeps itself/);
  const trial = trialOfStored(9, new Map(), null);
  expect((await trialAt('curlew', trial)).compiled.why).toMatch(/move 9 is not in the table: it has 8/);
});

it('the same drive and the same answers give the same report', async () => {
  const once = async () => {
    const own = await trialAt('tern', shipped('stops'));
    own.start();
    own.onward();
    return own.report();
  };
  expect(await once()).toEqual(await once());
});

describe('a repeat that may end early', () => {
  const HOLD: TrialStep = { id: 'hold', kind: 'hold', s: 1 };
  const READ: TrialStep = { id: 'speed', kind: 'read', what: { role: 'actual-speed' } };
  const LAST: TrialStep = { id: 'last', kind: 'read', what: { role: 'status-word' } };
  const trialOf = (repeat: Partial<Extract<TrialStep, { kind: 'repeat' }>>): Trial => ({
    ...shipped('first-contact'),
    steps: [HOLD, READ, { id: 'again', kind: 'repeat', from: 'hold', times: 50, ...repeat }, LAST],
    measures: [],
  });
  /** How often the speed was read, and what the whole came to. */
  const cameTo = (own: Awaited<ReturnType<typeof trialAt>>) => {
    const { steps, verdict } = own.report();
    const done = steps.filter(({ compiled, verdict: one }) => compiled.step.id === 'speed' && one === 'passed');
    return { times: done.length, verdict, end: own.last().end, last: steps.at(-1)?.verdict };
  };

  it('ends at its time, after the round in which that is over, and goes on behind it', async () => {
    const own = await trialAt('tern', trialOf({ forS: 4.5 }));
    own.start();
    own.onward();
    // A round takes a second and a read of about 20 ms: the fifth begins before 4.5 s, and no sixth.
    expect(cameTo(own)).toEqual({ times: 5, verdict: 'passed', end: 'done', last: 'passed' });
    const looks = own.report().steps.filter(({ compiled }) => compiled.step.id === 'again');
    expect(looks.map(({ seen }) => seen).filter((seen) => seen !== '')).toEqual([
      '1.0 s since it began',
      '2.0 s since it began',
      '3.0 s since it began',
      '4.1 s since it began',
      '5.1 s since it began',
    ]);
    expect(looks.at(-1)?.why).toBe('left out: the repeat was over before it');
  });

  it('ends when a bit is there, and as often as it says where it never is', async () => {
    const own = await trialAt('tern', trialOf({ untilWhat: { role: 'fault-code' }, untilBit: 0, untilIs: true }));
    own.start();
    for (let i = 0; i < 30; i++) own.clock.advanceBy(100_000);
    own.drive.setHands({ selector: 'remote', liveFault: 9 });
    own.onward();
    expect(cameTo(own)).toEqual({ times: 3, verdict: 'passed', end: 'done', last: 'passed' });
    const never = await trialAt(
      'tern',
      trialOf({ times: 3, untilWhat: { role: 'fault-code' }, untilBit: 0, untilIs: true }),
    );
    never.start();
    never.onward();
    expect(cameTo(never)).toEqual({ times: 3, verdict: 'passed', end: 'done', last: 'passed' });
  });

  it('does not wait for ever where the drive is silent, and Stop ends it', async () => {
    const silent = await trialAt('tern', trialOf({ untilWhat: { role: 'fault-code' }, untilBit: 0, untilIs: true }));
    silent.start();
    silent.clock.advanceBy(2_500_000);
    silent.yard.bus.disturbance = { ...CALM, loseReply: 1 };
    silent.onward();
    expect(silent.last()).toMatchObject({ phase: 'over', end: 'surprise' });
    const stopped = await trialAt('tern', trialOf({ forS: 1000 }));
    stopped.start();
    stopped.clock.advanceBy(2_500_000);
    stopped.master.stop(3);
    stopped.clock.advanceBy(5_000_000);
    expect(stopped.last()).toMatchObject({ phase: 'over' });
    expect(cameTo(stopped).times).toBeLessThan(4);
  });
});
