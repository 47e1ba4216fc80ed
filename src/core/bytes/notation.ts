import { HEX_MARK } from './hex';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';

/** How the bytes were written; `mixed` when one text holds several ways. */
export type Notation = 'hex' | 'decimal' | 'prefixed' | 'suffixed' | 'text' | 'mixed';

export interface ParsedBytes {
  readonly bytes: Uint8Array;
  readonly notation: Notation;
}

interface Token {
  readonly start: number;
  readonly text: string;
  readonly kind: 'bare' | 'prefixed' | 'suffixed' | 'text' | 'escape';
}

type Parsed = Result<readonly number[], Fault>;

const ESCAPES: Readonly<Record<string, number>> = {
  r: 13,
  n: 10,
  t: 9,
  '0': 0,
  a: 7,
  b: 8,
  f: 12,
  v: 11,
  e: 27,
  '\\': 92,
  '"': 34,
  "'": 39,
};
const SEPARATOR = /[\s,;|{}[\]()]/;
const PREFIX = new RegExp(`^${HEX_MARK}`, 'i');
const HEX = /^[0-9a-f]+$/i;

/**
 * Reads bytes as people write them: `01 03 00 6B`, `0103006B`, `0x01,0x03`, `01h 03h`, `16#01`, `01:03`, decimal, a C array,
 * quoted text with `\r`, and `\x01\x03`. Bare numbers are hex, unless one of them cannot be a hex byte and all can be decimal
 * bytes (`1, 3, 0, 107`); pass `bare` to decide. Faults name the character range where reading stopped.
 */
export function parseBytes(text: string, bare?: 'hex' | 'decimal'): Result<ParsedBytes, Fault> {
  const [from, to] = arrayBody(text);
  const tokens = tokenise(text, from, to);
  if (!tokens.ok) return tokens;
  if (tokens.value.length === 0) return failed(fault('empty', 0, text.length, 'no bytes here yet'));
  const base = bare ?? baseOfBare(tokens.value.filter((token) => token.kind === 'bare'));
  const bytes: number[] = [];
  for (const token of tokens.value) {
    const parsed = parseToken(token, base);
    if (!parsed.ok) return parsed;
    for (const byte of parsed.value) bytes.push(byte);
  }
  return done({ bytes: Uint8Array.from(bytes), notation: notationOf(tokens.value, base) });
}

/** `uint8_t frame[8] = { … };`: only what stands between the braces are bytes. */
function arrayBody(text: string): [number, number] {
  const declared = /^[^{}"']*=\s*\{/.exec(text);
  if (!declared) return [0, text.length];
  const close = text.indexOf('}', declared[0].length);
  return [declared[0].length, close < 0 ? text.length : close];
}

function tokenise(text: string, from: number, to: number): Result<readonly Token[], Fault> {
  const tokens: Token[] = [];
  let at = from;
  while (at < to) {
    const char = text.charAt(at);
    if (SEPARATOR.test(char) || isJoiner(text, at, from)) {
      at++;
    } else if (char === '"' || char === "'") {
      const end = closingQuote(text, at, to);
      if (end < 0)
        return failed(
          fault('unclosed-text', at, to, `the text that opens at character ${at + 1} has no closing ${char}`),
        );
      tokens.push({ start: at + 1, text: text.slice(at + 1, end), kind: 'text' });
      at = end + 1;
    } else {
      const start = at;
      while (at < to && !SEPARATOR.test(text.charAt(at)) && !/["']/.test(text.charAt(at)) && !isJoiner(text, at, from))
        at++;
      tokens.push({ start, text: text.slice(start, at), kind: kindOf(text.slice(start, at)) });
    }
  }
  return done(tokens);
}

/** `:` and `-` join pairs (`01:03`, `01-03`); at the start of a token they are no separator, so a sign or a colon is named. */
function isJoiner(text: string, at: number, from: number): boolean {
  const char = text.charAt(at);
  return (
    (char === ':' || char === '-') &&
    at > from &&
    /[0-9a-f]/i.test(text.charAt(at - 1)) &&
    /[0-9a-f]/i.test(text.charAt(at + 1))
  );
}

function closingQuote(text: string, open: number, to: number): number {
  for (let at = open + 1; at < to; at++) {
    if (text[at] === '\\') at++;
    else if (text[at] === text[open]) return at;
  }
  return -1;
}

function kindOf(token: string): Token['kind'] {
  if (PREFIX.test(token)) return 'prefixed';
  if (token.startsWith('\\')) return 'escape';
  return /h$/i.test(token) ? 'suffixed' : 'bare';
}

function baseOfBare(tokens: readonly Token[]): 'hex' | 'decimal' {
  const decimal = tokens.every(({ text }) => /^\d{1,3}$/.test(text) && parseInt(text, 10) <= 255);
  const oddLength = tokens.some(({ text }) => text.length % 2 === 1);
  // Nobody pads decimals to two digits: `01 03 006` is hex with a digit missing.
  const padded = tokens.some(({ text }) => text.length === 2 && text.startsWith('0'));
  return tokens.length > 1 && decimal && oddLength && !padded ? 'decimal' : 'hex';
}

function parseToken(token: Token, base: 'hex' | 'decimal'): Parsed {
  switch (token.kind) {
    case 'text':
    case 'escape':
      return parseText(token);
    case 'prefixed': {
      const prefix = PREFIX.exec(token.text)?.[0].length ?? 0;
      const end = token.start + prefix;
      if (token.text.length === prefix)
        return failed(fault('bad-token', token.start, end, `hex digits are missing at character ${end + 1}`));
      return parseHexDigits(token.text.slice(prefix), end);
    }
    case 'suffixed':
      return parseHexDigits(token.text.slice(0, -1), token.start);
    case 'bare':
      return base === 'hex' ? parseHexDigits(token.text, token.start) : parseDecimal(token);
  }
}

function parseHexDigits(digits: string, start: number): Parsed {
  if (digits === '')
    return failed(fault('bad-token', start, start + 1, `hex digits are missing at character ${start + 1}`));
  if (!HEX.test(digits)) {
    const bad = start + digits.search(/[^0-9a-f]/i);
    return failed(
      fault('bad-hex-digit', bad, bad + 1, `“${digits[bad - start]}” at character ${bad + 1} is no hex digit`),
    );
  }
  if (digits.length === 1) return done([parseInt(digits, 16)]);
  if (digits.length % 2 === 1) {
    const end = start + digits.length;
    return failed(
      fault('odd-hex-digits', start, end, `“${digits}” at character ${start + 1} has an odd number of hex digits`),
    );
  }
  return done(Array.from({ length: digits.length / 2 }, (_, i) => parseInt(digits.slice(2 * i, 2 * i + 2), 16)));
}

function parseDecimal({ text, start }: Token): Parsed {
  const bad = text.search(/\D/);
  if (bad >= 0)
    return failed(
      fault(
        'bad-token',
        start + bad,
        start + bad + 1,
        `“${text[bad]}” at character ${start + bad + 1} is no decimal digit`,
      ),
    );
  const value = parseInt(text, 10);
  if (value > 255)
    return failed(
      fault(
        'value-out-of-range',
        start,
        start + text.length,
        `${text} at character ${start + 1} is more than a byte holds (0 to 255)`,
      ),
    );
  return done([value]);
}

function parseText({ text, start }: Token): Parsed {
  const bytes: number[] = [];
  for (let at = 0; at < text.length; at++) {
    const here = start + at;
    if (text[at] === '\\') {
      const hex = /^x([0-9a-f]{2})/i.exec(text.slice(at + 1));
      const simple = ESCAPES[text.charAt(at + 1)];
      if (hex?.[1] === undefined && simple === undefined)
        return failed(
          fault(
            'bad-token',
            here,
            Math.min(here + 2, start + text.length),
            `“${text.slice(at, at + 2)}” at character ${here + 1} is no escape that is known here`,
          ),
        );
      bytes.push(hex?.[1] === undefined ? (simple ?? 0) : parseInt(hex[1], 16));
      at += hex ? 3 : 1;
      continue;
    }
    const code = text.charCodeAt(at);
    if (code > 255)
      return failed(
        fault('value-out-of-range', here, here + 1, `“${text[at]}” at character ${here + 1} is more than one byte`),
      );
    bytes.push(code);
  }
  return done(bytes);
}

function notationOf(tokens: readonly Token[], base: 'hex' | 'decimal'): Notation {
  const kinds = new Set(
    tokens.map((token): Notation => (token.kind === 'bare' ? base : token.kind === 'escape' ? 'text' : token.kind)),
  );
  const [only] = kinds;
  return kinds.size === 1 && only ? only : 'mixed';
}
