import { counted } from '../counted';
import { settingsText, type SerialSettings } from '../line/settings';
import type { TroubleKind } from '../line/trouble';
import { explainHeard, rateHint } from '../line/what-sender';
import type { LineProtocol } from '../protocol/line-protocol';
import type { RefusalWhy } from '../protocol/refusal';
import type { Observation, Seen } from './observe';

/** What can be tried next with one press, where the tool can do it. Nothing of it turns a shaft. */
export type NextAct =
  | { readonly kind: 'open' }
  | { readonly kind: 'ask' }
  | { readonly kind: 'set-end'; readonly settings: SerialSettings }
  | { readonly kind: 'sweep-settings' }
  | { readonly kind: 'sweep-stations' }
  | { readonly kind: 'show'; readonly part: 'ends' | 'keypad' | 'cable' | 'ip' | 'words' }
  | { readonly kind: 'none' };

/** Evidence in words, with the trace entry that shows it (-1 where none does). */
export interface Evidence {
  readonly text: string;
  readonly entry: number;
}

export interface Finding {
  /** How well the cause explains what was seen; only the order matters. */
  readonly weight: number;
  readonly evidence: readonly Evidence[];
  readonly act?: NextAct;
  readonly next?: string;
}

export interface Cause {
  readonly id: string;
  readonly title: string;
  readonly next: string;
  readonly act: NextAct;
  /** What in the observation speaks for this cause; null when nothing does or something rules it out. */
  readonly finds: (seen: Observation) => Finding | null;
}

const say = (text: string, entry = -1): Evidence => ({ text, entry });
const from = (seen: Seen, text: string): Evidence => say(text, seen.entry);
const found = (weight: number, ...evidence: readonly Evidence[]): Finding => ({ weight, evidence });

const NONE: NextAct = { kind: 'none' };
const show = (part: Extract<NextAct, { kind: 'show' }>['part']): NextAct => ({ kind: 'show', part });

const isSerial = ({ context }: Observation): boolean => context.medium === 'serial';

/** Nothing at all came although something was asked. */
const isSilent = (seen: Observation): boolean => seen.sent > 0 && seen.received === 0 && seen.timeouts.count > 0;

/** The newest requests to this station got nothing sure. */
const failsNow = ({ failuresInARow }: Observation): boolean => failuresInARow > 0;

const silence = (seen: Observation): Evidence =>
  from(
    seen.timeouts,
    `${counted(seen.timeouts.count, 'request')} to station ${seen.context.station} got no answer at all`,
  );

/** A trouble of the port itself: one row a kind. */
const port = (id: string, kinds: readonly TroubleKind[], title: string, next: string, act: NextAct = NONE): Cause => ({
  id,
  title,
  next,
  act,
  finds: ({ context }) =>
    context.troubleKind && kinds.includes(context.troubleKind) && !context.open
      ? found(100, say(context.trouble))
      : null,
});

type Family = LineProtocol['family'];

/** What to try after a refusal, where it depends on the protocol. */
type NextByFamily = string | Readonly<Record<Family, string>>;

const refusal = (id: string, why: RefusalWhy, title: string, next: NextByFamily, act: NextAct = NONE): Cause => ({
  id,
  title,
  next: typeof next === 'string' ? next : next.modbus,
  act,
  finds: ({ refusals, context }) => {
    const hit = refusals.get(why);
    if (!hit) return null;
    const times = counted(hit.count, 'request');
    return {
      ...found(80, from(hit, `station ${context.station} refused ${times} with ${hit.text}`)),
      ...(typeof next === 'string' || !context.protocol ? {} : { next: next[context.protocol.family] }),
    };
  },
});

/** The settings that the sheet says the drive leaves the factory with, where they differ from this end's. */
function sheetDiffers({ context }: Observation): SerialSettings | null {
  const factory = context.index?.sheet.link?.serial;
  const { settings } = context;
  return factory && settings && settingsText(factory) !== settingsText(settings) ? factory : null;
}

/** Junk as other settings would explain it, if it was one of the frames that are likely on this line: reads of this station. */
function explained(seen: Observation): {
  readonly settings: SerialSettings;
  readonly inverted: boolean;
  readonly fit: number;
  readonly alike: number;
} | null {
  const { settings, protocol, station, index } = seen.context;
  if (!settings || !protocol || seen.junk.bytes.length < 3) return null;
  let best: ReturnType<typeof explained> = null;
  const status = index?.byRole.get('status-word');
  const polls = [
    ...((status && index && protocol.placesOf(index).read(station, [status])) ?? []),
    protocol.harmless(station, null),
  ].filter((poll) => poll !== null);
  for (const poll of polls) {
    const heard = { ...seen.junk, bytes: seen.junk.bytes.slice(0, 2 * poll.length) };
    const [top] = explainHeard(heard, poll, settings);
    if (top && (!best || top.fit > best.fit))
      best = { settings: top.sender, inverted: top.inverted, fit: top.fit, alike: top.alike.length };
  }
  return best;
}

const isText = (bytes: readonly number[]): boolean =>
  bytes.length >= 8 &&
  bytes.filter((byte) => (byte >= 32 && byte < 127) || byte === 13 || byte === 10 || byte === 27).length >=
    bytes.length * 0.9;

/** The table of causes. A rule sees trace and settings only; the order here breaks ties. */
export const CAUSES: readonly Cause[] = [
  port(
    'held',
    ['held'],
    'The port is held elsewhere',
    'Close the other program or the other tab that has it, then open the line again.',
    { kind: 'open' },
  ),
  port(
    'unplugged',
    ['unplugged', 'no-such-port'],
    'The adapter is not there',
    'Plug it in and choose it again; its number may have changed.',
    show('ends'),
  ),
  port(
    'no-access',
    ['no-access'],
    'This browser cannot reach serial ports',
    'Use a browser with Web Serial on a computer, or a device server.',
    NONE,
  ),
  port(
    'bad-settings',
    ['bad-settings'],
    'The adapter does not take these settings',
    'Choose a usual rate and form.',
    show('ends'),
  ),
  port(
    'tcp-refused',
    ['refused'],
    'The device refuses the connection',
    'Nothing listens at that port, the protocol is switched off in the device, or its connections are all taken: check the port, then close other masters.',
    { kind: 'open' },
  ),
  port(
    'tcp-unreachable',
    ['unreachable', 'no-answer'],
    'The address is not reached',
    'Check the address on the drive’s display, the subnet of both ends, and the cable’s link light.',
    show('ip'),
  ),
  port(
    'not-allowed',
    ['not-allowed'],
    'The local server does not connect there',
    'Use the address of a device on this machine’s own networks.',
    show('ip'),
  ),
  port(
    'server-gone',
    ['server-gone'],
    'The local server is not there',
    'Start the program again and reload the page.',
    NONE,
  ),
  {
    id: 'tcp-limit',
    title: 'The device has no connection free',
    next: 'Another master, or an old connection, takes the device’s place: close it or wait until the device drops it, then open again.',
    act: { kind: 'open' },
    finds: (seen) =>
      seen.lostAtOnce.count > 0 && !(seen.answeredBefore.count > 0 && seen.lostLater.count > 0)
        ? found(101, from(seen.lostAtOnce, 'the connection was taken and closed at once, before a byte came'))
        : null,
  },
  {
    id: 'far-closed',
    title: 'The other end closes the connection',
    next: 'The device restarted, its connection time-out ran out, or it does not like what it was sent: look at the last request.',
    act: { kind: 'open' },
    finds: (seen) =>
      seen.lostLater.count > 0 && seen.context.medium === 'tcp'
        ? found(
            95,
            from(
              seen.lostLater,
              `the connection was lost after it had been in use: ${seen.context.trouble || 'closed by the other end'}`,
            ),
          )
        : null,
  },
  {
    id: 'half-open',
    title: 'The connection is dead although it looks open',
    next: 'A pulled cable or a switched-off device leaves a connection like this: check link light and power, then close and open the line.',
    act: { kind: 'open' },
    finds: (seen) =>
      seen.context.medium === 'tcp' &&
      seen.context.open &&
      seen.answered.count > 0 &&
      seen.failuresInARow >= 2 &&
      seen.othersAnswered.length === 0
        ? found(70, from(seen.answered, 'this connection carried answers before'), silence(seen))
        : null,
  },
  {
    id: 'tcp-silent',
    title: 'The device takes the connection and does not answer',
    next: 'The unit number is wrong, another protocol is spoken at this port, or a device server’s line is dead behind it.',
    act: { kind: 'sweep-stations' },
    finds: (seen) =>
      seen.context.medium === 'tcp' && seen.context.open && isSilent(seen) && seen.answeredBefore.count === 0
        ? found(75, say('the connection stands'), silence(seen))
        : null,
  },
  {
    id: 'restarting',
    title: 'The drive restarts because it was asked to',
    next: 'Wait; it is asked again by itself.',
    act: { kind: 'ask' },
    finds: (seen) => {
      const bootMs = seen.context.index?.sheet.link?.bootMs ?? 3_000;
      const sinceUs = seen.restartAskedUs === null ? Infinity : seen.context.nowUs - seen.restartAskedUs;
      return failsNow(seen) && sinceUs < bootMs * 1000 + 1_000_000
        ? found(
            99,
            say(
              `a restart was asked for ${(sinceUs / 1e6).toFixed(1)} s ago; the sheet gives the drive ${bootMs / 1000} s`,
            ),
          )
        : null;
    },
  },
  {
    id: 'took-new-settings',
    title: 'The drive listens with the settings that were written to it',
    next: 'Set this end to the same.',
    act: show('ends'),
    finds: (seen) => {
      const { linkWritten, context, restartAskedUs } = seen;
      if (!linkWritten || restartAskedUs === null || !failsNow(seen) || seen.endChanged.count > 0) return null;
      const place = context.index?.byRole.get(linkWritten.role);
      const name = place?.choices?.find(({ value }) => value === linkWritten.raw)?.name ?? `${linkWritten.raw}`;
      const settings = context.settings && followed(context.settings, linkWritten.role, name);
      return {
        weight: 92,
        evidence: [
          say(`${place?.name ?? linkWritten.role} was set to ${name} and confirmed`, linkWritten.entry),
          say('the drive restarted after that, and answers no more at the old setting'),
        ],
        ...(settings ? { act: { kind: 'set-end', settings } } : {}),
      };
    },
  },
  {
    id: 'waits-for-restart',
    title: 'A written setting waits for a restart of the drive',
    next: 'Go back to the old setting, keep the new one in the drive and restart it; then follow.',
    act: show('ends'),
    finds: ({ linkWritten, restartAskedUs, endChanged, context, ...seen }) =>
      linkWritten &&
      restartAskedUs === null &&
      endChanged.count > 0 &&
      failsNow({ linkWritten, restartAskedUs, endChanged, context, ...seen })
        ? found(
            93,
            say('a link setting was written and confirmed', linkWritten.entry),
            from(endChanged, 'this end was changed at once'),
            say('the drive was not restarted since, and the sheet says that it takes effect after one'),
          )
        : null,
  },
  {
    id: 'end-changed',
    title: 'This end’s settings were changed, the drive’s were not',
    next: 'Go back to the settings under which it answered.',
    act: show('ends'),
    finds: (seen) => {
      const { endChanged, answeredBefore, linkWritten } = seen;
      if (!isSerial(seen) || !failsNow(seen) || endChanged.count === 0 || answeredBefore.count === 0 || linkWritten)
        return null;
      return {
        ...found(
          85,
          from(answeredBefore, `station ${seen.context.station} answered before`),
          from(endChanged, 'then the settings of this end were changed'),
        ),
        ...(endChanged.from ? { act: { kind: 'set-end', settings: endChanged.from } } : {}),
      };
    },
  },
  {
    id: 'swapped',
    title: 'The two conductors are swapped (A and B)',
    next: 'Swap them at one end. Makers name A and B both ways, so trying it is the quickest test.',
    act: show('cable'),
    finds: (seen) => {
      if (!isSerial(seen)) return null;
      if (seen.breaks.count > 0 && seen.answered.count === 0)
        return found(
          90,
          from(seen.breaks, 'the resting line reads as an endless break'),
          ...(seen.junk.bytes.length > 1 ? [say('what comes makes no characters', seen.junkEntry)] : []),
        );
      const why = explained(seen);
      return why?.inverted && why.fit > 0.8
        ? found(75, say('the bytes are those of a turned-round signal', seen.junkEntry))
        : null;
    },
  },
  {
    id: 'wrong-parity',
    title: 'The parity differs',
    next: 'Set this end’s parity as the drive’s, or try the usual forms.',
    act: { kind: 'sweep-settings' },
    finds: (seen) => {
      if (!isSerial(seen)) return null;
      if (rateHint(seen.junk).ratio === 'parity')
        return found(
          86,
          say(`${counted(seen.junk.parityErrors, 'character')} came whole but with wrong parity`, seen.junkEntry),
        );
      const factory = sheetDiffers(seen);
      const { settings } = seen.context;
      return factory && settings && factory.rate === settings.rate && isSilent(seen) && seen.answeredBefore.count === 0
        ? {
            ...found(
              62,
              silence(seen),
              say(
                `the sheet says that the drive comes with ${settingsText(factory)}, this end has ${settingsText(settings)}`,
              ),
            ),
            act: { kind: 'set-end', settings: factory },
          }
        : null;
    },
  },
  {
    id: 'wrong-rate',
    title: 'The bit rate differs',
    next: 'Set this end’s rate as the drive’s, or let the usual rates be tried.',
    act: { kind: 'sweep-settings' },
    finds: (seen) => {
      const { settings } = seen.context;
      if (!isSerial(seen) || !settings || seen.answered.count > 0) return null;
      const hint = rateHint(seen.junk);
      const why = seen.junk.bytes.length > 0 && seen.breaks.count === 0 ? explained(seen) : null;
      if (why && !why.inverted && why.fit > 0.75 && why.settings.rate !== settings.rate)
        return {
          ...found(
            88,
            say(`the junk is what ${settingsText(settings)} makes of ${settingsText(why.settings)}`, seen.junkEntry),
            ...(why.alike > 0 ? [say(`${counted(why.alike, 'other setting')} would look the same`)] : []),
          ),
          act: { kind: 'set-end', settings: why.settings },
        };
      if (hint.ratio.startsWith('sender')) return found(84, say(hint.text, seen.junkEntry));
      if (seen.junk.framingErrors > 2 && seen.damaged.count === 0 && seen.breaks.count === 0)
        return found(58, say(`${counted(seen.junk.framingErrors, 'character')} without a stop bit`, seen.junkEntry));
      const factory = sheetDiffers(seen);
      if (
        factory &&
        factory.rate !== settings.rate &&
        isSilent(seen) &&
        seen.othersAnswered.length === 0 &&
        seen.answeredBefore.count === 0
      )
        return {
          ...found(
            64,
            silence(seen),
            say(
              `the sheet says that the drive comes with ${settingsText(factory)}, this end has ${settingsText(settings)}`,
            ),
          ),
          act: { kind: 'set-end', settings: factory },
        };
      return isSilent(seen) && seen.othersAnswered.length === 0 && seen.answeredBefore.count === 0
        ? found(32, silence(seen), say('a drive that cannot read a request stays silent'))
        : null;
    },
  },
  {
    id: 'echo',
    title: 'The adapter hears what it sends (local echo)',
    next: 'Switch the adapter’s echo off, or have the bench leave it out (Port and wires); until then a write’s echo may pass for its answer.',
    act: show('ends'),
    finds: (seen) =>
      seen.echoes.count > 0
        ? found(82, from(seen.echoes, `${counted(seen.echoes.count, 'time')} exactly the sent bytes came back`))
        : null,
  },
  {
    id: 'other-master',
    title: 'Another master is on the line',
    next: 'Find it and take it off: a controller, a second laptop, a panel. Only one may ask.',
    act: NONE,
    finds: (seen) =>
      seen.unasked.count >= 2
        ? found(83, from(seen.unasked, `${counted(seen.unasked.count, 'whole frame')} came that nobody here asked for`))
        : null,
  },
  {
    id: 'turnaround',
    title: 'The first character of replies is lost',
    next: 'The adapter turns from sending to receiving too late: let it turn by itself, or lengthen the drive’s reply delay.',
    act: NONE,
    finds: (seen) =>
      seen.beheaded.count > 0
        ? found(
            87,
            from(
              seen.beheaded,
              `${counted(seen.beheaded.count, 'reply', 'replies')} would be whole with the missing station byte before it`,
            ),
          )
        : null,
  },
  {
    id: 'other-station-answers',
    title: 'Another station answers than was asked',
    next: 'Two drives have mixed numbers, or a gateway renumbers them: ask each station alone and compare identities.',
    act: { kind: 'sweep-stations' },
    finds: (seen) =>
      seen.foreign.count > 0
        ? found(
            81,
            from(
              seen.foreign,
              `${counted(seen.foreign.count, 'reply', 'replies')} came from another station or for another function`,
            ),
          )
        : null,
  },
  {
    id: 'twin',
    title: 'Two drives have this station number',
    next: 'Switch one of them off and ask again; give it another number.',
    act: show('keypad'),
    finds: (seen) =>
      seen.damaged.count >= 2 &&
      seen.othersAnswered.length > 0 &&
      seen.othersDamaged.count === 0 &&
      seen.damaged.count > seen.answered.count
        ? found(
            78,
            from(
              seen.damaged,
              `${counted(seen.damaged.count, 'reply', 'replies')} of station ${seen.context.station} came broken, most of them`,
            ),
            say(`station ${seen.othersAnswered.join(', ')} answers cleanly on the same line`),
          )
        : null,
  },
  {
    id: 'noise',
    title: 'The line disturbs characters now and then',
    next: 'Check terminators at both ends only, the shield, the common, stubs, and the motor cable beside it; a lower rate helps too.',
    act: show('cable'),
    finds: (seen) => {
      const broken = seen.damaged.count + seen.othersDamaged.count;
      const well = seen.answered.count + seen.othersAnswered.length;
      return broken > 0 && well > 0
        ? found(
            seen.othersDamaged.count > 0 || seen.answered.count >= seen.damaged.count ? 77 : 60,
            from(
              seen.damaged.count > 0 ? seen.damaged : seen.othersDamaged,
              `${counted(broken, 'reply', 'replies')} came with a bad check`,
            ),
            from(seen.answered, 'others on the same line came well'),
          )
        : null;
    },
  },
  {
    id: 'late',
    title: 'The drive answers, but later than the time-out',
    next: 'Ask for less at once or wait longer; the sheet’s reply time may be too short for this drive.',
    act: NONE,
    finds: (seen) =>
      seen.late.count > 0
        ? found(
            79,
            from(seen.late, `${counted(seen.late.count, 'answer')} came after the request was given up`),
            silence(seen),
          )
        : null,
  },
  {
    id: 'other-protocol',
    title: 'Another protocol is spoken there',
    next: 'What comes is readable text: open the line as plain text, or use another port of the device.',
    act: show('ends'),
    finds: (seen) => {
      if (isText(seen.junk.bytes))
        return found(
          91,
          say(
            `“${String.fromCharCode(...seen.junk.bytes.slice(0, 24)).replace(/[^ -~]+/g, ' ')}” came instead of frames`,
            seen.junkEntry,
          ),
        );
      // Over TCP nothing is damaged on the way: what makes no frame was never one.
      return seen.context.medium === 'tcp' && seen.junk.bytes.length > 0 && seen.answered.count === 0
        ? found(68, say(`${counted(seen.junk.bytes.length, 'byte')} came that make no frame`, seen.junkEntry))
        : null;
    },
  },
  {
    id: 'line-dead',
    title: 'The whole line went dead',
    next: 'Check that the plug of this end sits, the cable to the first drive, and the supply of the drives.',
    act: show('cable'),
    finds: (seen) =>
      isSerial(seen) &&
      failsNow(seen) &&
      seen.failuresInARow >= 2 &&
      seen.answeredBefore.count > 0 &&
      seen.endChanged.count === 0 &&
      !othersLive(seen) &&
      seen.damaged.count === 0
        ? found(66, from(seen.answeredBefore, 'it answered before, under the same settings'), silence(seen))
        : isSerial(seen) && isSilent(seen) && seen.answeredBefore.count === 0 && seen.othersAnswered.length === 0
          ? found(28, silence(seen))
          : null,
  },
  {
    id: 'drive-off',
    title: 'This drive has no power, or its branch of the cable is open',
    next: 'Look at its display. Control supply alone may keep the display alive, but not always the link.',
    act: NONE,
    finds: (seen) =>
      failsNow(seen) &&
      seen.failuresInARow >= 2 &&
      seen.answeredBefore.count > 0 &&
      othersLive(seen) &&
      seen.damaged.count === 0 &&
      seen.late.count === 0
        ? found(
            76,
            from(seen.answeredBefore, 'it answered before'),
            say(`station ${seen.othersAnswered.join(', ')} still answers on the same line`),
            silence(seen),
          )
        : isSilent(seen) && seen.answeredBefore.count === 0
          ? found(26, silence(seen))
          : null,
  },
  {
    id: 'wrong-station',
    title: 'No drive with this station number listens',
    next: 'Read the number at the drive’s keypad, or let all numbers be tried.',
    act: { kind: 'sweep-stations' },
    finds: (seen) => {
      if (
        seen.timeouts.count === 0 ||
        seen.answered.count > 0 ||
        seen.answeredBefore.count > 0 ||
        seen.refusals.size > 0
      )
        return null;
      if (seen.context.medium === 'tcp' && !seen.othersAnswered.length) return null;
      return othersLive(seen)
        ? found(
            74,
            silence(seen),
            say(`station ${seen.othersAnswered.join(', ')} answers, so cable and settings are right`),
          )
        : seen.received === 0
          ? found(30, silence(seen), say('whether any other station answers is not known'))
          : null;
    },
  },
  refusal('function-unknown', 'function', 'The drive does not know this request', {
    modbus: 'Use another function for the same register: 03 in place of 04, 06 in place of 16.',
    uss: 'Use another task: arrays, descriptions and texts have tasks of their own, and many drives know few of them.',
    ascii: 'Check the verb, and whether it can be used this way: the sheet’s dialect lists both.',
  }),
  refusal('register-missing', 'place', 'There is no such place, or it may not be used this way', {
    modbus: 'Check the address: a manual or a tool that counts from 1 is off by one. Some registers can only be read.',
    uss: 'Check number and index. For numbers of 2000 and more the page bits decide, and they differ from family to family.',
    ascii: 'Check the number that the command names.',
  }),
  refusal('value-refused', 'value', 'The value or the quantity is not allowed', {
    modbus: 'Check the limits in the sheet, and how many registers may be read at once.',
    uss: 'Check the limits in the sheet, and whether the parameter holds a word or a double word.',
    ascii: 'Check limits, digits and sign in the sheet.',
  }),
  refusal('read-only', 'fixed', 'It can be read, not changed', 'Look in the sheet which settings may be written.'),
  refusal(
    'no-right',
    'right',
    'This link has no right to change it',
    'Give the right at the keypad: access level, password, or who may set parameters.',
    show('keypad'),
  ),
  refusal(
    'not-now',
    'state',
    'The drive cannot do that in its present state',
    'Some settings are taken at standstill only, or while another source is in control.',
    show('words'),
  ),
  refusal('busy', 'busy', 'The drive is busy', 'Wait and ask again.', { kind: 'ask' }),
  refusal(
    'gateway-path',
    'path',
    'The gateway has no way to that line',
    'Check the gateway’s table of lines and units.',
    show('ip'),
  ),
  refusal(
    'gateway-target',
    'target',
    'The drive behind the gateway does not answer',
    'Check the unit number, and the serial line behind the gateway.',
    { kind: 'sweep-stations' },
  ),
  refusal('refused', 'other', 'The drive refuses for a reason of its own', 'Look the number up in the drive’s manual.'),
  {
    id: 'run-not-taken',
    title: 'It communicates, but does not run',
    next: 'The link is proved. See in Words what keeps the drive from running; the usual reason is its command source.',
    act: show('words'),
    finds: (seen) => runRefused(seen),
  },
];

const othersLive = ({ othersAnswered }: Observation): boolean => othersAnswered.length > 0;

function followed(own: SerialSettings, role: string, name: string): SerialSettings | null {
  if (role === 'bit-rate') return { ...own, rate: parseInt(name, 10) || own.rate };
  const form = /^([78])([NEO])([12])$/.exec(name);
  if (role !== 'character-form' || !form) return null;
  return {
    rate: own.rate,
    dataBits: form[1] === '7' ? 7 : 8,
    parity: form[2] as SerialSettings['parity'],
    stopBits: form[3] === '2' ? 2 : 1,
  };
}

/** The status that came after a confirmed run word says that the shaft stands. Told by `runSeen`, which reads the trace's words. */
function runRefused({ context, answered, failuresInARow, ran }: Observation): Finding | null {
  if (failuresInARow > 0 || answered.count === 0 || !ran) return null;
  return found(
    72,
    say('a run word was confirmed', ran.entry),
    say(`${((context.nowUs - ran.atUs) / 1e6).toFixed(1)} s later the status still says standstill`, ran.statusEntry),
  );
}
