import { counted } from '../counted';
import type { Dialect } from '../dialect/dialect';
import { readEitherWay } from '../dialect/read';
import type { Fault } from '../fault';
import { MODBUS_FRAMINGS } from '../modbus/framing';
import { functionName } from '../modbus/lookup';
import { decodeWith } from '../modbus/reading';
import { readUss } from '../uss/telegram';
import { searchChecks, TRIES_PER_CHECK, type CheckFind } from './rank-checks';

/** One way to read bytes of unknown origin, with all that speaks for and against it. */
export interface Guess {
  readonly what: string;
  /** 0 to 100: an order, not a probability. */
  readonly score: number;
  readonly evidence: readonly string[];
  readonly against: readonly string[];
  /** How the line's protocol is called in a job, where the guess is one. */
  readonly protocol?: 'modbus-rtu' | 'modbus-ascii' | 'modbus-tcp' | 'uss' | 'ascii';
}

/** Evidence of a check: a wide one is hard to meet by chance. */
const CHECK_SCORE = { 16: 60, 8: 25 } as const;
const NO_CHECK = 20;
const STRUCTURE = 25;
const PLAUSIBLE = 10;

const texts = (faults: readonly Fault[]): readonly string[] => faults.map(({ text }) => text);

function modbusGuesses(bytes: Uint8Array): readonly Guess[] {
  return MODBUS_FRAMINGS.flatMap((framing): Guess[] => {
    const { message, faults, shape, direction } = decodeWith(framing.read, bytes);
    if (!message) return [];
    const evidence: string[] = [];
    let score = 0;
    if (shape.checkGood) {
      const isWide = framing.id === 'modbus-rtu';
      evidence.push(
        framing.id === 'modbus-tcp'
          ? 'protocol 0 and a length that fits; there is no check'
          : isWide
            ? 'the CRC agrees; by chance 1 in 65,536 does'
            : 'colon, hex digits, end, and the LRC agrees; by chance 1 in 256 does',
      );
      score += framing.id === 'modbus-tcp' ? NO_CHECK : isWide ? CHECK_SCORE[16] : CHECK_SCORE[8] + STRUCTURE;
    }
    const isKnown = !faults.some(({ code }) => code === 'unknown-function' || code === 'too-short');
    if (isKnown && shape.end === bytes.length) {
      evidence.push(
        `the length is the one of “${functionName(message.fc, message.subFunction ?? message.meiType)}”, ${direction === 'either' ? 'request or response' : direction}`,
      );
      score += STRUCTURE;
    }
    if (message.unit > 0 && message.unit <= 247 && faults.length === 0) {
      evidence.push(`station ${message.unit} and all fields within the limits of the standard`);
      score += PLAUSIBLE;
    }
    if (evidence.length === 0) return [];
    return [
      {
        what: framing.name,
        score: shape.checkGood ? score : Math.min(score, 30),
        evidence,
        against: texts(faults),
        protocol: framing.id,
      },
    ];
  });
}

function ussGuess(bytes: Uint8Array): readonly Guess[] {
  const { message, faults, shape } = readUss(bytes);
  if (!message || bytes[0] !== 2) return [];
  const evidence = ['it begins with STX'];
  let score = PLAUSIBLE;
  if (!faults.some(({ code }) => code === 'length-mismatch' || code === 'truncated' || code === 'trailing-bytes')) {
    evidence.push(`LGE counts ${counted(bytes[1] as number, 'character')}, and that many are there`);
    score += STRUCTURE;
  }
  if (shape.checkGood) {
    evidence.push('the BCC agrees; by chance 1 in 256 does');
    score += CHECK_SCORE[8] + PLAUSIBLE;
  }
  return [{ what: `USS, station ${message.address}`, score, evidence, against: texts(faults), protocol: 'uss' }];
}

function dialectGuesses(bytes: Uint8Array, dialects: readonly Dialect[]): readonly Guess[] {
  return dialects.flatMap((dialect): Guess[] => {
    const { message, faults, direction } = readEitherWay(dialect, bytes);
    if (!message || faults.length > 0) return [];
    const names = dialect.commands.find(({ id }) => id === message.command)?.name;
    const evidence = [`the whole line is a ${direction} of this dialect${names ? `: ${names}` : ''}`];
    if (dialect.check) evidence.push(`its check (${dialect.check.algorithm}) agrees`);
    const bare = names === undefined && !dialect.check;
    return [
      {
        what: `dialect ${dialect.name}`,
        score: bare ? 15 : dialect.check ? 75 : 45,
        evidence,
        against: bare ? ['a bare mark or value fits many dialects'] : [],
        protocol: 'ascii',
      },
    ];
  });
}

function textGuess(bytes: Uint8Array): readonly Guess[] {
  const printable = bytes.filter(
    (byte) => (byte >= 0x20 && byte < 0x7f) || byte === 13 || byte === 10 || byte === 9,
  ).length;
  if (bytes.length < 3 || printable < bytes.length) return [];
  return [
    {
      what: 'plain text',
      score: 30,
      evidence: ['every byte is a printable character or a line end'],
      against: ['no check was found in it that this would rest on'],
      protocol: 'ascii',
    },
  ];
}

function checkGuess(find: CheckFind, all: readonly CheckFind[], length: number): Guess {
  const chance = TRIES_PER_CHECK / 2 ** find.bits;
  const place = `bytes ${find.from + 1} to ${find.to}, check at byte ${find.at + 1} of ${length}, ${find.form}`;
  const rivals = all.filter((other) => other !== find && other.bits === find.bits).length;
  return {
    what: `unknown frame with ${find.algorithm}`,
    score: find.bits >= 16 ? 35 : find.bits === 8 && rivals > 3 ? 5 : 10,
    evidence: [`${find.algorithm} agrees over ${place}`],
    against: [
      chance > 0.01
        ? `one of ${TRIES_PER_CHECK} places tried agrees by chance in ${(100 * chance).toFixed(0)} % of all cases: alone it shows nothing`
        : `by chance one of ${TRIES_PER_CHECK} places tried agrees once in ${Math.round(1 / chance)} cases`,
      ...(rivals > 0 ? [`${counted(rivals, 'other check')} of the same width agree as well`] : []),
    ],
  };
}

/** More finds of checks alone are not shown. */
const MOST_CHECKS = 6;
/** Longer strings are streams: they are cut first. */
export const LONGEST_GUESS = 600;

/**
 * Ranks what bytes of unknown origin may be. It never claims more than the evidence shows: each guess says what speaks for it, how often that
 * happens by chance, and what speaks against it. An empty list means that nothing speaks for anything.
 */
export function rankUnknown(bytes: Uint8Array, dialects: readonly Dialect[] = []): readonly Guess[] {
  if (bytes.length < 2 || bytes.length > LONGEST_GUESS) return [];
  const protocols = [
    ...modbusGuesses(bytes),
    ...ussGuess(bytes),
    ...dialectGuesses(bytes, dialects),
    ...textGuess(bytes),
  ];
  const checks = searchChecks(bytes);
  // A check that a protocol above already rests on is no second find.
  const isExplained = protocols.some(({ score }) => score >= 60);
  const alone = isExplained ? [] : checks.slice(0, MOST_CHECKS).map((find) => checkGuess(find, checks, bytes.length));
  return [...protocols, ...alone].sort((a, b) => b.score - a.score);
}
