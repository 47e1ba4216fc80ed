import { statesOf, type Profile } from '../profile/profile';
import type { ParameterRole } from '../sheet/parameter-section';
import { numberOf } from '../drive/describe';
import { contradictionsIn } from '../words/read';
import { asksForMotion } from '../sheet/profile-of';
import type { BlockKind, Condition, Verdict } from './condition';
import type { Facts } from './facts';

/** The write that a rule proposes; whether the shaft would start with it is worked out from all rules together. */
export interface Proposal {
  readonly text: string;
  readonly role: ParameterRole;
  readonly word: number;
}

export type Found = Omit<Condition, 'id' | 'kind' | 'title' | 'remedy'> & { readonly proposal: Proposal | null };

export interface Rule {
  readonly id: string;
  readonly kind: BlockKind;
  readonly title: string;
  /** Null where the sheet has nothing that this rule could look at. */
  readonly look: (facts: Facts) => Found | null;
}

const verdictOf = (good: boolean | null): Verdict => (good === null ? 'unknown' : good ? 'met' : 'not-met');

const found = (
  verdict: Verdict,
  value: string,
  source: string,
  ageUs: number | null,
  advice = '',
  rest: { readonly proposal?: Proposal | null; readonly blocks?: boolean } = {},
): Found => ({ verdict, value, source, ageUs, advice, proposal: rest.proposal ?? null, blocks: rest.blocks ?? true });

/** A source setting that must say network: the last of its named choices, by the sheet. */
function sourceRule(id: string, title: string, role: ParameterRole, effect: string): Rule {
  return {
    id,
    kind: 'source',
    title,
    look: (facts) => {
      const place = facts.place(role);
      const wanted = place?.choices?.find(({ name }) => name === 'network');
      if (!place || !wanted) return null;
      const word = facts.word(role);
      const good = word === null ? null : word === wanted.value;
      const advice = good === false ? `The drive confirms every write and ${effect}.` : '';
      const proposal =
        good === false && place.write !== 'never'
          ? { text: `write ${place.number} ← ${wanted.name}`, role, word: wanted.value }
          : null;
      return found(verdictOf(good), facts.meaning(role), facts.source(role), facts.ageUs(role), advice, { proposal });
    },
  };
}

const link: Rule = {
  id: 'link',
  kind: 'link',
  title: 'the drive answers',
  look: (facts) => {
    const { open, misses, lastAnswerUs, nowUs } = facts.observed;
    const ageUs = lastAnswerUs === null ? null : nowUs - lastAnswerUs;
    if (!open) return found('not-met', 'the line is closed', 'the line', ageUs, 'Open the line.');
    if (facts.linkIsLost)
      return found(
        'not-met',
        `${misses} tries without an answer`,
        'the line',
        ageUs,
        'Prove the link first: station, settings, cable, supply.',
      );
    return found(
      lastAnswerUs === null ? 'unknown' : 'met',
      lastAnswerUs === null ? '' : 'it answered',
      'the line',
      ageUs,
    );
  },
};

/** Answers that nobody here asked for come from another master's requests. */
const otherMaster: Rule = {
  id: 'other-master',
  kind: 'master',
  title: 'no other master is on the line',
  look: ({ observed: { foreign } }) =>
    foreign === undefined
      ? null
      : found(
          foreign === 0 ? 'met' : 'not-met',
          foreign === 0 ? 'nobody else was heard' : `${foreign} answers to somebody else`,
          'the trace of this line',
          null,
          foreign === 0 ? '' : 'Two masters command the drive in turn: take the other one off the line.',
          { blocks: false },
        ),
};

const selector: Rule = {
  id: 'selector',
  kind: 'source',
  title: 'the selector is in remote',
  look: (facts) => {
    const good = facts.status('remote');
    const advice = good === false ? 'Turn the selector on the drive to remote; it cannot be done over the line.' : '';
    return found(
      verdictOf(good),
      good === null ? '' : good ? 'remote' : 'local',
      facts.statusSource('remote'),
      facts.ageUs('status-word'),
      advice,
    );
  },
};

const latchedFault: Rule = {
  id: 'fault',
  kind: 'latched-fault',
  title: 'no fault is latched',
  look: (facts) => {
    const fault = facts.status('fault');
    const code = facts.word('fault-code');
    const known = facts.observed.index.sheet.faults?.find((entry) => entry.code === code);
    const value =
      fault === null ? '' : fault ? facts.meaning('fault-code') || 'fault, its code is not read yet' : 'no fault';
    const reset = facts.observed.index.commands.find(({ id }) => id === 'reset');
    const proposal =
      fault && reset ? { text: `send ${reset.name}`, role: 'control-word' as const, word: reset.word } : null;
    const advice = fault ? (known ? `${known.cause}; ${known.remedy}.` : 'Look the code up in the manual.') : '';
    return found(
      verdictOf(fault === null ? null : !fault),
      value,
      facts.statusSource('fault'),
      facts.ageUs('status-word'),
      advice,
      { proposal },
    );
  },
};

const watchdog: Rule = {
  id: 'watchdog',
  kind: 'watchdog',
  title: 'the watchdog is kept calm',
  look: (facts) => {
    if (!facts.place('watchdog-time')) return null;
    const time = facts.word('watchdog-time');
    const warning = facts.status('warning');
    const { keptAlive } = facts.observed;
    const value = [
      time === null ? '' : time === 0 ? 'off' : facts.meaning('watchdog-time'),
      keptAlive ? 'kept alive by this bench' : '',
    ]
      .filter(Boolean)
      .join(', ');
    const calm = time !== null && (time === 0 || keptAlive || facts.control('run') === false);
    const good = warning === true ? false : calm ? true : null;
    const advice =
      warning === true
        ? 'It ran out: nobody sent the control word in time. Reset, and keep sending.'
        : good === null
          ? 'A run word that is not repeated in time lets it run out.'
          : '';
    return found(verdictOf(good), value, facts.source('watchdog-time'), facts.ageUs('watchdog-time'), advice);
  },
};

const command: Rule = {
  id: 'command',
  kind: 'command',
  title: 'the control word asks to run',
  look: (facts) => {
    const spec = facts.observed.index.words?.control;
    const word = facts.word('control-word');
    if (!spec) return null;
    const contradictions = word === null ? [] : contradictionsIn(spec, word);
    const missing =
      word === null
        ? []
        : [
            facts.control('enable') === false && 'enable',
            facts.control('stop') === true && 'stop released',
            !asksForMotion(facts.observed.index.profile, spec, word) && 'run',
          ].filter((text) => text !== false);
    const good = word === null ? null : missing.length === 0 && contradictions.length === 0;
    const advice = contradictions[0] ?? (missing.length > 0 ? `Missing: ${missing.join(', ')}.` : '');
    return found(
      verdictOf(good),
      facts.wordText('control-word'),
      facts.source('control-word'),
      facts.ageUs('control-word'),
      advice,
    );
  },
};

/** In a mode that moves to positions no speed reference is looked at. */
const takesSpeed = ({ observed }: Facts): boolean => (observed.index.profile?.takes ?? 'speed') === 'speed';

const bitOf = (facts: Facts, role: 'control-word' | 'status-word', bit: number): boolean | null => {
  const word = facts.word(role);
  return word === null ? null : ((word >>> bit) & 1) === 1;
};

/** Profile position, IEC 61800-7-201: a move starts as control bit 4 rises, and status bit 12 acknowledges it. */
const START_BIT = 4;
const ACKNOWLEDGED_BIT = 12;
const LIMIT_BIT = 11;

const ruleWhere =
  (takes: readonly Profile['takes'][]) =>
  (id: string, kind: BlockKind, title: string, look: (facts: Facts) => Found | null): Rule => ({
    id,
    kind,
    title,
    look: (facts) => (takes.includes(facts.observed.index.profile?.takes) ? look(facts) : null),
  });
const positionRule = ruleWhere(['position']);
/** What starts as a bit rises, whether its target is in a word or in the drive's own table. */
const startRule = ruleWhere(['position', 'stored-move']);

const storedChosen = ruleWhere(['stored-move'])('stored-move', 'reference', 'a stored move is chosen', (facts) => {
  const chosen = facts.word('stored-move');
  return found(
    verdictOf(chosen === null ? null : chosen !== 0),
    chosen === null ? '' : `move ${chosen}`,
    facts.source('stored-move'),
    facts.ageUs('stored-move'),
    chosen === 0
      ? 'The start begins none: write the number of one.'
      : 'The start begins it, and those that follow from it: read the table in Trials, A move.',
  );
});

const startEdge = startRule('start-edge', 'command', 'bit 4 can rise', (facts) => {
  const [start, acknowledged] = [
    bitOf(facts, 'control-word', START_BIT),
    bitOf(facts, 'status-word', ACKNOWLEDGED_BIT),
  ];
  const advice =
    start === true && acknowledged === true
      ? 'It is still high, and the set-point was taken: let it fall, then raise it for the next move.'
      : start === true && acknowledged === false
        ? 'It is high and was not acknowledged: the drive did not take the set-point. Let it fall; look at the state, the target and the limits.'
        : '';
  return found(
    verdictOf(start === null ? null : !start),
    start === null ? '' : start ? 'bit 4 is 1' : 'bit 4 is 0',
    facts.source('control-word'),
    facts.ageUs('control-word'),
    advice,
  );
});

const acknowledgeFell = positionRule('acknowledge', 'command', 'the last set-point is finished with', (facts) => {
  const acknowledged = bitOf(facts, 'status-word', ACKNOWLEDGED_BIT);
  const start = bitOf(facts, 'control-word', START_BIT);
  const good = acknowledged === null ? null : !acknowledged;
  return found(
    verdictOf(good),
    acknowledged === null ? '' : acknowledged ? 'acknowledged, bit 12 is 1' : 'bit 12 is 0',
    facts.source('status-word'),
    facts.ageUs('status-word'),
    acknowledged && start === false ? 'The drive holds a set-point that waits for the present move to end.' : '',
    { blocks: start === false },
  );
});

const targetElsewhere = positionRule('target', 'reference', 'the target is not where the shaft is', (facts) => {
  const whole = (role: ParameterRole): number | null => {
    const [place, word] = [facts.place(role), facts.word(role)];
    return place && word !== null ? numberOf(place, word) : null;
  };
  if (!facts.place('target-position') || !facts.place('actual-position')) return null;
  const [target, position] = [whole('target-position'), whole('actual-position')];
  const isRelative = bitOf(facts, 'control-word', 6) === true;
  const distance = target === null || position === null ? null : isRelative ? target : target - position;
  return found(
    verdictOf(distance === null ? null : distance !== 0),
    target === null ? '' : `target ${target}${position === null ? '' : `, position ${position}`}`,
    facts.source('target-position'),
    facts.ageUs('target-position'),
    distance === 0 ? (isRelative ? 'A relative move by 0 goes nowhere.' : 'It is there already: nothing moves.') : '',
  );
});

const internalLimit = startRule('internal-limit', 'limit', 'no internal limit acts', (facts) => {
  const acts = bitOf(facts, 'status-word', LIMIT_BIT);
  return found(
    verdictOf(acts === null ? null : !acts),
    acts === null ? '' : acts ? 'bit 11 is 1' : 'bit 11 is 0',
    facts.source('status-word'),
    facts.ageUs('status-word'),
    acts === true ? 'A software limit, an end input or the following error holds it: compare target and limits.' : '',
  );
});

const reference: Rule = {
  id: 'reference',
  kind: 'reference',
  title: 'the reference is not zero',
  look: (facts) => {
    if (!facts.place('speed-reference') || !takesSpeed(facts)) return null;
    const sign = facts.sign('speed-reference');
    const least = facts.sign('minimum-speed');
    const turnsAnyway = sign === 0 && least !== null && least > 0;
    const advice = turnsAnyway
      ? `Zero reference is not standstill: it turns at its minimum speed, ${facts.meaning('minimum-speed')}.`
      : sign === 0
        ? 'Write a speed reference.'
        : '';
    const good = sign === null ? null : sign !== 0;
    const unsure = sign === 0 && least === null && facts.place('minimum-speed') !== null;
    return found(
      unsure ? 'unknown' : verdictOf(good),
      facts.meaning('speed-reference'),
      facts.source('speed-reference'),
      facts.ageUs('speed-reference'),
      advice,
      { blocks: !turnsAnyway },
    );
  },
};

const minimum: Rule = {
  id: 'minimum',
  kind: 'limit',
  title: 'the reference is above the minimum speed',
  look: (facts) => {
    const reference = facts.word('speed-reference');
    const least = facts.word('minimum-speed');
    if (!facts.place('minimum-speed') || !takesSpeed(facts)) return null;
    const magnitude = reference === null ? null : reference > 0x7fff ? 0x10000 - reference : reference;
    const good = magnitude === null || least === null ? null : magnitude >= least;
    const advice =
      good === false
        ? `It turns, but at ${facts.meaning('minimum-speed')} and not at the ${facts.meaning('speed-reference')} asked for.`
        : '';
    return found(
      verdictOf(good),
      facts.meaning('minimum-speed'),
      facts.source('minimum-speed'),
      facts.ageUs('minimum-speed'),
      advice,
      { blocks: false },
    );
  },
};

/** The state machine of the profile: in which state the drive is, and in which it must be. */
const state: Rule = {
  id: 'state',
  kind: 'state',
  title: 'the drive is in the state for running',
  look: (facts) => {
    const { profile } = facts.observed.index;
    if (!profile?.runs) return null;
    const { runs } = profile;
    const word = facts.word('status-word');
    const states = word === null ? [] : statesOf(profile, word);
    const good = word === null ? null : states.length === 1 && states[0]?.id === runs.state;
    const unsure = states.length > 1 && states.some(({ id }) => id === runs.state);
    const wanted = profile.states.find(({ id }) => id === runs.state)?.name ?? runs.state;
    return found(
      unsure ? 'unknown' : verdictOf(good),
      word === null ? '' : states.map(({ name }) => name).join(' or ') || 'a status that no state has',
      facts.source('status-word'),
      facts.ageUs('status-word'),
      good === false ? `It must be “${wanted}”: walk there under States.` : '',
    );
  },
};

/** What was written and acts only after a restart. */
const restart: Rule = {
  id: 'restart',
  kind: 'restart',
  title: 'no setting waits for a restart',
  look: ({ observed: { waiting } }) =>
    waiting === undefined
      ? null
      : found(
          waiting.length === 0 ? 'met' : 'not-met',
          waiting.join(', '),
          'what this bench wrote',
          null,
          waiting.length === 0 ? '' : 'Written is not active: restart the drive, then read again.',
          { blocks: false },
        ),
};

/** In the order in which a technician would look. More kinds of conditions are more rows here. */
export const RULES: readonly Rule[] = [
  link,
  otherMaster,
  selector,
  sourceRule('command-source', 'commands come from the network', 'command-source', 'runs none of them'),
  sourceRule(
    'reference-source',
    'the reference comes from the network',
    'reference-source',
    'turns at another speed than is written',
  ),
  latchedFault,
  state,
  watchdog,
  command,
  storedChosen,
  startEdge,
  acknowledgeFell,
  targetElsewhere,
  internalLimit,
  reference,
  minimum,
  restart,
];
