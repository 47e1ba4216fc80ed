import type { Trial } from '../../core/trial/trial';
import { NetworkYard, YARD_PORTS } from '../../yard/network-yard';
import type { ScriptEvent } from './run-script';
import { scriptLine, worse } from './script-verb';

/** One line of a script, run to its end; `stopAt`: Stop comes when so many events were told. */
async function script(line: object | string, stopAt = Infinity) {
  const events: ScriptEvent[] = [];
  const status = await scriptLine(
    typeof line === 'string' ? line : JSON.stringify(line),
    (event) => events.push(event),
    () => events.length >= stopAt,
  );
  const of = (event: string): readonly ScriptEvent[] => events.filter((one) => one.event === event);
  return { events, status, of, end: events[events.length - 1] };
}

/** Commands come over the line; the stand-in keeps them so. */
const FAN = { sheet: 'tern', station: 3, standin: { parameters: { '2.01': 2, '2.02': 2, '5.01': 3 } } };
const RUN_AND_STOP: Trial = {
  format: 1,
  id: 'run-and-stop',
  name: 'Run and stop',
  proves: 'That it runs and stops.',
  leaves: 'All else.',
  steps: [
    { id: 'ask-for', kind: 'reference', to: '20 %' },
    { id: 'run', kind: 'walk', to: 'running' },
    { id: 'go', kind: 'hold', s: 1 },
    { id: 'stop', kind: 'stop' },
  ],
};

describe.each([
  ['tern', 3, { '2.01': 2, '2.02': 2, '5.01': 3 }, 'passed', 0],
  // Any request calms their watch: nobody can look meanwhile, and only an upper bound is known.
  ['wren', 7, { '10': 7 }, 'open', 3],
  ['dunlin', 4, {}, 'open', 3],
] as const)('on the stand-in of %s', (sheet, station, parameters, verdict, exit) => {
  it('a trial that ships runs at night as it does in the bench: every step told once and in order, then what was measured, then the verdict', async () => {
    const line = { id: 'night', trial: 'loss-of-link', sheet, station, standin: { parameters }, mayTurn: true };
    const { events, of, status, end } = await script(line);
    expect(events[0]).toMatchObject({ ok: true, id: 'night', event: 'begun', simulated: true, mayTurn: true });
    const steps = of('step');
    expect(steps.map(({ step }) => step)).toEqual(steps.map((_, i) => i + 1));
    expect(steps).toHaveLength(Number(events[0]!.steps));
    expect(steps.filter((step) => step.verdict !== 'passed')).toEqual([]);
    expect(of('measured').length).toBeGreaterThan(0);
    expect(end).toEqual({ ok: true, id: 'night', event: 'over', verdict, why: '', shaft: 'stands' });
    expect(status).toBe(exit);
    // Same seed, same lines.
    expect((await script(line)).events).toEqual(events);
  });
});

it('no trial begins in which the shaft may turn, unless the line says that it may', async () => {
  const { events, status, end } = await script({ trial: 'stops', ...FAN, frames: true });
  expect(end).toMatchObject({ verdict: 'not-done', why: expect.stringMatching(/mayTurn/) as string, shaft: 'stands' });
  expect(status).toBe(3);
  // The state was read, and nothing else went out: function 3 alone.
  const sent = events.filter(({ direction }) => direction === 'sent').map(({ hex }) => String(hex).slice(2, 4));
  expect(sent.length).toBeGreaterThan(0);
  expect(new Set(sent)).toEqual(new Set(['03']));
});

it('what a person is asked is answered by the line, and ends the trial where it says nothing', async () => {
  const good = 'it stood';
  const answered = await script({ trial: 'stops', ...FAN, mayTurn: true, answers: { seen: good } });
  const [asked] = answered.of('asked');
  const name = String(asked?.name);
  const { end, status } = await script({ trial: 'stops', ...FAN, mayTurn: true, answers: { [name]: good } });
  expect([end?.verdict, status]).toEqual(['passed', 0]);
  const wrong = await script({ trial: 'stops', ...FAN, mayTurn: true, answers: { [name]: 'perhaps' } });
  expect(wrong.of('asked')).toEqual([
    expect.objectContaining({ answer: 'perhaps', choices: expect.arrayContaining([good]) as string[] }),
  ]);
  expect(wrong.end).toMatchObject({ verdict: 'not-done', shaft: 'stands' });
  const nobody = await script({ trial: 'stops', ...FAN, mayTurn: true });
  expect(nobody.of('asked')).toEqual([expect.objectContaining({ name, answer: null })]);
  expect(nobody.end).toMatchObject({ event: 'over', verdict: 'not-done', shaft: 'stands' });
  expect(nobody.of('stopped').at(-1)).toMatchObject({ outcome: 'stopped' });
});

it('Stop ends it wherever it is: the shaft is stopped first, what became of it is told, nothing is sent after that', async () => {
  const whole = await script({ trial: RUN_AND_STOP, ...FAN, mayTurn: true, frames: true });
  expect([whole.end?.verdict, whole.status]).toEqual(['passed', 0]);
  for (let at = 1; at < whole.events.length; at += 7) {
    const { end, of, events } = await script({ trial: RUN_AND_STOP, ...FAN, mayTurn: true, frames: true }, at);
    expect(end).toMatchObject({ event: 'over', shaft: 'stands' });
    const said = of('stopped');
    // A run word that went out was followed by the stop word, and by an answer that says that the shaft stands.
    if (said.length > 0) expect(said.at(-1)).toMatchObject({ outcome: 'stopped' });
    const run = events.findLastIndex(
      ({ hex, direction }) => direction === 'sent' && String(hex).startsWith('030602c1000d'),
    );
    const stop = events.findLastIndex(
      ({ hex, direction }) => direction === 'sent' && String(hex).startsWith('030602c10004'),
    );
    if (run >= 0) expect(stop).toBeGreaterThan(run);
  }
});

it('it ends when it takes too long, and when the drive does not answer', async () => {
  const late = await script({ trial: RUN_AND_STOP, ...FAN, mayTurn: true, withinS: 0.5 });
  expect(late.end).toMatchObject({ verdict: 'not-done', shaft: 'stands', why: 'stopped: not done within 0.5 s' });
  const { end, status } = await script({
    trial: 'first-contact',
    ...FAN,
    station: 9,
    standin: { parameters: { '5.01': 3 } },
  });
  expect(end).toMatchObject({ event: 'over', shaft: 'stands' });
  expect(end?.verdict).not.toBe('passed');
  expect(status).not.toBe(0);
});

it.each([
  ['no JSON', /JSON/],
  [{ trial: 'nothing', sheet: 'tern' }, /^trial: none of that name ships; there are first-contact/],
  [{ trial: 'stops', sheet: 'nothing' }, /^sheet: none of that name ships/],
  [{ trial: 'stops', sheet: { format: 2 } }, /^sheet: /],
  [
    { trial: 'stops', sheet: 'tern', tcp: { host: '8.8.8.8', port: 502 } },
    /not on this machine nor on a local network/,
  ],
  [{ trial: 'stops', sheet: 'tern', tcp: { host: 'drive.example', port: 502 } }, /is no IP address/],
  [{ trial: 'stops', sheet: 'curlew', protocol: 'modbus-tcp' }, /Modbus TCP needs tcp/],
  [{ trial: 'stops', sheet: 'tern', mayturn: true }, /mayturn/],
  [{ trial: 'stops', sheet: 'tern', answers: { nobody: 'yes' } }, /^answers: no step nobody asks; there are /],
  [{ trial: 'stops', sheet: 'tern', standin: { parameters: { '99.99': 1 } } }, /^standin: the sheet has no 99\.99/],
  [{ trial: 'stops', sheet: 'tern', standin: { parameters: { '2.01': 1.5 } } }, /^standin: 2\.01 takes a whole number/],
])('%j is refused with a sentence', async (line, why) => {
  const { events, status } = await script(line);
  expect(events).toEqual([
    { ok: false, error: expect.objectContaining({ text: expect.stringMatching(why) as string }) as object },
  ]);
  expect(status).toBe(2);
});

it('the worst line is what the program ends with', () => {
  expect([0, 3, 0, 1, 3].reduce(worse)).toBe(1);
  expect([0, 1, 2, 1].reduce(worse)).toBe(2);
  expect([3, 0].reduce(worse)).toBe(3);
});

describe('over a socket', () => {
  const PORTS = { K1: YARD_PORTS.K1 + 300, E1: YARD_PORTS.E1 + 300, E2: YARD_PORTS.E2 + 300, D1: YARD_PORTS.D1 + 300 };
  const yard = new NetworkYard(PORTS);
  const portOf = (wanted: 'K1' | 'E1' | 'D1'): number => yard.states().find(({ name }) => name === wanted)?.port ?? 0;
  beforeAll(() => yard.start());
  afterAll(() => yard.stop());

  it('a drive behind a device server is asked, run and stopped in real time; it is no stand-in of this process', async () => {
    const tcp = { host: '127.0.0.1', port: portOf('K1') };
    const base = {
      sheet: 'tern',
      station: 3,
      protocol: 'modbus-rtu',
      serial: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 },
      tcp,
    };
    const passed = ({ of }: Awaited<ReturnType<typeof script>>): number =>
      of('step').filter(({ verdict }) => verdict === 'passed').length;
    const ask = () => script({ trial: 'first-contact', ...base, answers: { display: 'it does' } });
    let contact = await ask();
    // On a computer that is busy with other things an answer can be there and be looked at too late.
    for (let tries = 0; passed(contact) <= 3 && tries < 2; tries++) contact = await ask();
    expect(contact.events[0]).toMatchObject({ event: 'begun', simulated: false });
    expect(passed(contact)).toBeGreaterThan(3);
    expect(contact.end).toMatchObject({ shaft: 'stands' });
  });

  it('a link that dies in the middle ends the trial, and says so', async () => {
    const hold: Trial = { ...RUN_AND_STOP, steps: [{ id: 'wait', kind: 'hold', s: 20 }] };
    const events: ScriptEvent[] = [];
    const running = scriptLine(
      JSON.stringify({ trial: hold, sheet: 'curlew', station: 1, tcp: { host: '127.0.0.1', port: portOf('E1') } }),
      (event) => events.push(event),
      () => false,
    );
    for (let i = 0; i < 200 && events.length === 0; i++) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(events[0]).toMatchObject({ event: 'begun' });
    await yard.behave('E1', 'off');
    expect(await running).toBe(3);
    expect(events.at(-1)).toMatchObject({
      event: 'over',
      verdict: 'not-done',
      why: expect.stringMatching(/^the line went away/) as string,
      shaft: 'stands',
    });
    await yard.behave('E1', 'works');
  });

  it('a drive that is switched off and on is waited for: the connection is taken up again, and the trial goes on', async () => {
    const power: Trial = {
      ...RUN_AND_STOP,
      steps: [
        { id: 'before', kind: 'read', what: { role: 'status-word' } },
        { id: 'switch', kind: 'ask', question: 'Off and on.', good: ['it is on'], bad: [] },
        { id: 'back', kind: 'return', withinS: 30 },
        { id: 'after', kind: 'read', what: { role: 'status-word' } },
      ],
    };
    const events: ScriptEvent[] = [];
    const status = await scriptLine(
      JSON.stringify({
        trial: power,
        sheet: 'curlew',
        station: 1,
        tcp: { host: '127.0.0.1', port: portOf('E1') },
        answers: { switch: 'it is on' },
      }),
      (event) => {
        events.push(event);
        if (event.event === 'asked')
          void yard.behave('E1', 'off').then(() => setTimeout(() => void yard.behave('E1', 'works'), 500));
      },
      () => false,
    );
    expect([status, events.at(-1)]).toEqual([0, expect.objectContaining({ event: 'over', verdict: 'passed' })]);
    expect(events.map(({ event }) => event)).toContain('connected');
  });

  it('Stop while a connection is lost ends the wait for it', async () => {
    const wait: Trial = { ...RUN_AND_STOP, steps: [{ id: 'back', kind: 'return', withinS: 60 }] };
    const events: ScriptEvent[] = [];
    let isStopped = false;
    await yard.behave('E1', 'silent');
    const running = scriptLine(
      JSON.stringify({ trial: wait, sheet: 'curlew', station: 1, tcp: { host: '127.0.0.1', port: portOf('E1') } }),
      (event) => events.push(event),
      () => isStopped,
    );
    for (let i = 0; i < 600 && events.length === 0; i++) await new Promise((resolve) => setTimeout(resolve, 20));
    await yard.behave('E1', 'off');
    await new Promise((resolve) => setTimeout(resolve, 300));
    isStopped = true;
    expect(await running).toBe(3);
    expect(events.at(-1)).toMatchObject({ event: 'over', verdict: 'not-done', why: 'Stop was pressed' });
    await yard.behave('E1', 'works');
  });

  it('a text menu is asked, set, asked again and compared; it is not begun where the shaft may not turn', async () => {
    const trial: Trial = {
      ...RUN_AND_STOP,
      name: 'The menu answers',
      steps: [
        { id: 'wake', kind: 'say', text: '?<CR>', hears: 'ready', withinS: 5 },
        { id: 'page', kind: 'say', text: 'ru<CR>', hears: 'creep speed#rpm', withinS: 5, unit: 'rpm' },
        { id: 'set', kind: 'say', text: 'jg=40<CR>', hears: 'jg = # set', withinS: 5, unit: 'rpm' },
        { id: 'again', kind: 'say', text: '<CR>', hears: 'creep speed#rpm', withinS: 5, unit: 'rpm' },
      ],
      measures: [
        { kind: 'same', name: 'as it was set', a: 'set', b: 'again' },
        { kind: 'same', name: 'as it was', a: 'page', b: 'again' },
      ],
    };
    const base = { trial, protocol: 'raw-tcp', tcp: { host: '127.0.0.1', port: portOf('D1') } };
    expect((await script(base)).end).toMatchObject({
      verdict: 'not-done',
      why: expect.stringMatching(/mayTurn/) as string,
    });
    // Such a device has one connection, and takes a moment to see that it is gone.
    await new Promise((resolve) => setTimeout(resolve, 300));
    const { of, end, status } = await script({ ...base, mayTurn: true });
    expect(of('step').map(({ verdict }) => verdict)).toEqual(['passed', 'passed', 'passed', 'passed']);
    expect(of('step')[3]).toMatchObject({ seen: expect.stringMatching(/creep speed +40 rpm/) as string });
    expect(of('measured').map(({ verdict }) => verdict)).toEqual(['passed', 'failed']);
    // Nobody knows from here what a menu made of it.
    expect([end, status]).toEqual([expect.objectContaining({ verdict: 'failed', shaft: 'not known' }), 1]);
    const withSheet = await script({ ...base, sheet: 'tern' });
    expect(withSheet.end).toMatchObject({ ok: false, error: { code: 'bad-field' } });
  });

  it('a port at which nobody listens is said, and tried again for as long as the line says', async () => {
    const base = { trial: 'first-contact', sheet: 'curlew', tcp: { host: '127.0.0.1', port: 1 } };
    const { end, status } = await script(base);
    expect(end).toMatchObject({
      verdict: 'not-done',
      why: expect.stringMatching(/^the line was not opened: /) as string,
    });
    expect(status).toBe(3);
    const began = performance.now();
    await script({ ...base, openWithinS: 1.2 });
    expect(performance.now() - began).toBeGreaterThan(900);
  });
});
