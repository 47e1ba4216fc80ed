import type { AddressRule } from '../registers/address';
import type { ModbusTable } from '../registers/tables';
import type { ValueType } from '../values/type';
import { plain } from './numbers';
import { accessIn, typeIn, whenIn } from './cells';

/** What the sentences around a table say about all of its rows. */
export interface Legend {
  /** Where plain numbers begin to count. */
  readonly countsFrom: 0 | 1;
  /** Added to a plain number. */
  readonly offset: number;
  readonly rule: AddressRule | null;
  readonly isHex: boolean;
  readonly limitsAreCounts: boolean;
  readonly type: ValueType | null;
  /** Marks such as `*` and what they stand for. */
  readonly marks: ReadonlyMap<
    string,
    { readonly access: 'read' | 'read-write' | 'write' | null; readonly when: 'always' | 'standstill' | null }
  >;
  /** Whether values of several registers have their low word first: whole numbers, and floats. */
  readonly lowFirst: { readonly whole: boolean; readonly float: boolean };
  /** Each rule that was taken, in words for the user. */
  readonly said: readonly string[];
}

const TABLES: readonly (readonly [ModbusTable, RegExp])[] = [
  [
    'input-register',
    /input[ -]regist|eingangsregister|registres? d['’]entr[ée]e|\b3x|\b3xxxx|(?:function|fc|fonction|funktion(?:scode)?)(?: code)?s?\s*(?:0?4|0x0?4|04h)\b/i,
  ],
  [
    'discrete-input',
    /discrete[ -]inputs?|diskrete eing|entr[ée]es? (?:discr|tout)|\b1xxxx|(?:function|fc|fonction|funktion(?:scode)?)(?: code)?s?\s*(?:0?2|0x0?2|02h)\b/i,
  ],
  [
    'holding-register',
    /holding|halteregister|registres? de maintien|\b4x\b|\b4xxxx|(?:function|fc|fonction|funktion(?:scode)?)(?: code)?s?\s*(?:0?[36]|16|0x0?[36]|0x10|0[36]h|10h)\b/i,
  ],
  [
    'coil',
    /\bcoils?\b|\b0xxxx|bobines?|spulen?\b|(?:function|fc|fonction|funktion(?:scode)?)(?: code)?s?\s*(?:0?[15]|15|0x0?[15]|0x0f)\b/i,
  ],
];

/** The one table that a text names; null where it names none, or several. */
export function tableIn(text: string): ModbusTable | null {
  const found = TABLES.filter(([, form]) => form.test(text));
  return found.length === 1 ? (found[0]?.[0] ?? null) : null;
}

const FROM_ZERO =
  /(?:zero|0)[ -]?based|(?:count|start|begin|number|address|z[äa]hl|nummer|beginn|compt|num[ée]rot|commenc)\w*(?: \w+){0,4}? (?:from|at|with|by|bei|ab|mit|von|[àa]|partir de) (?:address |register |adresse )?(?:0|zero|null|z[ée]ro)\b|first (?:register|address) (?:is|has)(?: \w+){0,2} 0\b|ab (?:0|null) (?:gez|num)/i;
const FROM_ONE =
  /(?:one|1)[ -]?based|(?:count|start|begin|number|address|z[äa]hl|nummer|beginn|compt|num[ée]rot|commenc)\w*(?: \w+){0,4}? (?:from|at|with|by|bei|ab|mit|von|[àa]|partir de) (?:address |register |adresse )?(?:1|one|eins|un)\b|first (?:register|address) (?:is|has)(?: \w+){0,2} 1\b|ab (?:1|eins) (?:gez|num)/i;
const INTEGER = String.raw`(0x[0-9a-f]+|[0-9a-f]*\d[0-9a-f]*h\b|\d+)`;
const FORMULA = /(?:address|adresse|register(?: number)?|registre|reg\.?)[^=]{0,40}=\s*(.+)/i;
const GROUPED = new RegExp(
  String.raw`(?:group|gruppe|groupe|menu|men[üu]|block|g\b)[\w. ]*?\s*[x×*·]\s*${INTEGER}|${INTEGER}\s*[x×*·]\s*(?:group|gruppe|groupe|menu|block|g\b)`,
  'i',
);
const TERM = new RegExp(String.raw`([+\-–])\s*${INTEGER}(?!\s*[x×*·])`, 'gi');
const ADDED = new RegExp(String.raw`(?:add|addiere\w*|ajoute[rz]?)\s+(?:an? )?(?:offset (?:of )?)?${INTEGER}`, 'i');
const SUBTRACTED = new RegExp(
  String.raw`(?:subtract|deduct|subtrahiere\w*|soustra\w+|minus|moins|abzüglich)\s+${INTEGER}`,
  'i',
);
const LESS = new RegExp(String.raw`(?:number|address|register|reference)\s*(?:-|–|minus)\s*${INTEGER}`, 'i');
const OFFSET = new RegExp(
  String.raw`(?:offset|versatz|d[ée]calage)\s*(?:of|is|=|:|von|de)?\s*([+\-–]?)\s*${INTEGER}`,
  'i',
);
const ALL_HEX =
  /(?:address|register|adresse|registre|value)\w*(?: \w+){0,5} (?:hex|hexadecimal|hexadezimal|hexad[ée]cimal)/i;
const COUNTS =
  /(?:limit|range|minimum|maximum|min|max|default|value|grenz|werte|limite|valeur|setting|bereich|plage)\w*(?: \w+){0,8} (?:in|as|are|sind|als|en|sont) (?:raw|counts|internal|register (?:counts|units)|increments|inkrement|zähler|rohwert|points|bruts)|\braw (?:values|counts|limits|numbers)\b|rohwerte|valeurs brutes/i;
const ALL_TYPE =
  /\b(?:all|unless|otherwise|alle|sofern|sauf|tou[ts])\b.*?\b((?:un)?signed \d{2}(?: ?-?bits?)?|u?int\d{2}|\d{2}[ -]bits? (?:un)?signed|word|float32|real)\b/i;
const WORD_ORDER =
  /\b(?:low|high|least significant|most significant|lsw|msw)(?: order)?(?: word| register)? first\b|(?:nieder|h[öo]her)wertige\w* (?:wort|register) zuerst|mot de poids (?:faible|fort) (?:en premier|d['’]abord)/i;
const MARK =
  /(?:^|[;,.]\s*|\s{2,}|\s)([*†‡§■□●○◆▲✻#]{1,3}|[¹²³⁴⁵⁶]|\(?[1-9]\)|\(?[A-Z]\))\s*[:=–-]?\s*([^;*†‡§■□●○◆▲✻]+)/gu;

/** `1 Can be changed only at standstill.` */
const NUMBERED = /^\s*([1-9])\s+([A-ZÀ-Ü].*)$/g;

const integer = (text: string | undefined): number =>
  text === undefined
    ? 0
    : /^0x/i.test(text)
      ? parseInt(text, 16)
      : /h$/i.test(text)
        ? parseInt(text, 16)
        : parseInt(text, 10);

/** A formula such as `address = group × 64 + index + 1000` as the bench's own rule. */
function ruleIn(text: string): AddressRule | null {
  const right = FORMULA.exec(plain(text))?.[1];
  if (right === undefined) return null;
  const grouped = GROUPED.exec(right);
  const offset = [...right.matchAll(TERM)].reduce(
    (sum, [, sign, digits]) => sum + (sign === '+' ? 1 : -1) * integer(digits),
    0,
  );
  if (grouped) return { kind: 'group-index', factor: integer(grouped[1] ?? grouped[2]), offset };
  return /number|nummer|no\b|nr\b|num[ée]ro|parameter|param|pnu|\bn\b|\bp\b/i.test(right)
    ? { kind: 'number', offset }
    : null;
}

/** Reads the sentences around a table. A later sentence of the same kind goes before an earlier one. */
export function readLegend(sentences: readonly string[]): Legend {
  let countsFrom: 0 | 1 = 0;
  let offset = 0;
  let rule: AddressRule | null = null;
  let [isHex, limitsAreCounts] = [false, false];
  let type: ValueType | null = null;
  const marks = new Map<
    string,
    { access: 'read' | 'read-write' | 'write' | null; when: 'always' | 'standstill' | null }
  >();
  const said: string[] = [];
  const lowFirst = { whole: false, float: false };
  for (const sentence of sentences) {
    const text = plain(sentence);
    const formula = ruleIn(text);
    if (formula) {
      rule = formula;
      said.push(`the rule of “${sentence.trim()}”`);
    } else if (FROM_ONE.test(text) && !/\bcoils? (?:are )?numbered\b/i.test(text)) {
      countsFrom = 1;
      said.push('plain numbers count from 1');
    } else if (FROM_ZERO.test(text)) {
      countsFrom = 0;
      said.push('plain numbers count from 0');
    } else {
      const less = SUBTRACTED.exec(text) ?? LESS.exec(text);
      const added = ADDED.exec(text);
      const named = OFFSET.exec(text);
      if (less && /address|register|number|adress|registre|referenc/i.test(text)) offset = -integer(less[1]);
      else if (added && /address|register|number|adress|registre|parameter/i.test(text)) offset = integer(added[1]);
      else if (named && /address|register|number|adress|registre|parameter|modbus/i.test(text))
        offset = (named[1] && named[1] !== '+' ? -1 : 1) * integer(named[2]);
      if (less || added || named) said.push(`plain numbers ${offset < 0 ? `less ${-offset}` : `plus ${offset}`}`);
    }
    if (ALL_HEX.test(text)) {
      isHex = true;
      said.push('addresses are hex');
    }
    if (COUNTS.test(text)) {
      limitsAreCounts = true;
      said.push('limits are printed in counts');
    }
    const order = WORD_ORDER.exec(text);
    if (order) {
      const isLow = /low|least|lsw|niederw|faible/i.test(order[0]);
      const isFloat = /float|real|gleitkomma|flottant/i.test(text);
      if (!isFloat || !/\b(?:whole|integer|int)/i.test(text)) lowFirst[isFloat ? 'float' : 'whole'] = isLow;
      if (!isFloat && !/\b(?:whole|integer|int)/i.test(text)) lowFirst.float = isLow;
      said.push(
        `${isFloat ? 'floats' : 'values of several registers'} have their ${isLow ? 'low' : 'high'} word first`,
      );
    }
    const all = ALL_TYPE.exec(text)?.[1];
    type = (all === undefined ? null : typeIn(all)) ?? type;
    for (const [, mark = '', meaning = ''] of [...text.matchAll(MARK), ...text.matchAll(NUMBERED)]) {
      const [access, when] = [accessIn(meaning.trim()) ?? accessOfSentence(meaning), whenIn(meaning)];
      if (access === null && when === null) continue;
      if (marks.has(mark.replace(/[()]/g, ''))) continue;
      marks.set(mark.replace(/[()]/g, ''), { access, when });
      said.push(`${mark} is ${meaning.trim()}`);
    }
  }
  return { countsFrom, offset, rule, isHex, limitsAreCounts, type, marks, lowFirst, said };
}

const accessOfSentence = (text: string): 'read' | null =>
  /\bread[ -]only\b|nur lesen|nur lesbar|lecture seule/i.test(text) ? 'read' : null;
