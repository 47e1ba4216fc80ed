'use client';

import Button from '@mui/material/Button';
import { wholeIn } from '../../core/bytes/whole';
import { parseRational, fractionText } from '../../core/scaling/rational';
import { PARAMETER_ROLES, type Parameter } from '../../core/sheet/parameter-section';
import type { NamedValue, WordField } from '../../core/values/word-field';
import type { Sheet } from '../../core/sheet/sheet';
import { sourceText } from '../../core/sheet/source';
import { bitNamesIn, choicesIn } from '../../core/tables/cells';
import { DATE_FORMS } from '../../core/values/date';
import { isDateType, PARAMETER_TYPES, wordsOfType } from '../../core/values/type';
import { ChoiceField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { NumberField } from './about-part';
import { placeOfEntry } from './place-of-entry';
import { RowsEditor, type RowColumn } from '../../ui/rows-editor';
import { limitInUnit, readLimit } from './limit-value';
import { ManualPiece } from './manual/manual-piece';
import { PartField } from '../../ui/part-field';
import { WaysFields } from './place-fields';
import { editParameter } from './sheet-drafts';
import styles from './sheets.module.css';

const ROLES = [['', 'none'], ...PARAMETER_ROLES.map((role) => [role, role.replaceAll('-', ' ')] as const)] as const;
const ORDERS: Readonly<Record<number, readonly (readonly [string, string])[]>> = {
  1: [
    ['', 'AB, high byte first'],
    ['BA', 'BA'],
  ],
  2: [
    ['', 'ABCD, high word first'],
    ['CDAB', 'CDAB, low word first'],
    ['BADC', 'BADC'],
    ['DCBA', 'DCBA'],
  ],
  4: [
    ['', 'ABCDEFGH'],
    ['GHEFCDAB', 'GHEFCDAB, low word first'],
    ['BADCFEHG', 'BADCFEHG'],
    ['HGFEDCBA', 'HGFEDCBA'],
  ],
};

interface EntryFormProps {
  readonly sheet: Sheet;
  readonly parameter: Parameter;
  readonly at: number;
  readonly onRemove: () => void;
}

/** One entry with all that a sheet can say of it. */
export function EntryForm({ sheet, parameter, at, onRemove }: EntryFormProps) {
  const put = (change: Partial<Record<keyof Parameter, unknown>>): void =>
    // What was proved was proved of the entry as it was.
    editParameter(
      at,
      'note' in change || 'proof' in change || 'name' in change ? change : { ...change, proof: undefined },
    );
  const words = wordsOfType(parameter.type, parameter.size);
  const orders = ORDERS[words];
  const isWide = parameter.type === 'text' || parameter.type === 'bytes';
  return (
    <Panel
      title={`${parameter.number} ${parameter.name}`}
      aside={placeOfEntry(sheet, parameter.number)}
      tools={
        <Button variant="text" color="inherit" onClick={onRemove}>
          Remove it
        </Button>
      }
    >
      <div className={styles.row}>
        <PartField
          label="Number"
          width={120}
          value={parameter.number}
          read={(number) =>
            /^[0-9A-Za-z][0-9A-Za-z.:#_ -]{0,23}$/.test(number)
              ? { number }
              : 'digits and letters, such as 11.03 or P1.02'
          }
          onValue={put}
        />
        <PartField
          label="Name"
          width={250}
          value={parameter.name}
          read={(name) => (name.trim() === '' ? 'it needs a name' : { name })}
          onValue={put}
        />
        <ChoiceField
          label="Role"
          width={160}
          value={parameter.role ?? ''}
          onChange={(role) => put({ role: role === '' ? undefined : role })}
          options={ROLES}
        />
        <WaysFields
          sheet={sheet}
          parameter={parameter}
          onWays={(at) => put({ at: at.length > 0 ? [...at] : undefined })}
        />
        <ChoiceField
          label="Type"
          width={130}
          value={parameter.type}
          onChange={(type) => put({ type: type, order: undefined })}
          options={PARAMETER_TYPES.map((type) => [type, isDateType(type) ? DATE_FORMS[type].text : type] as const)}
        />
        {isWide ? (
          <NumberField
            label="Registers"
            width={100}
            value={parameter.size}
            range={[1, 125]}
            onNumber={(size) => put({ size })}
          />
        ) : (
          orders && (
            <ChoiceField
              label="Order of bytes"
              width={190}
              value={parameter.order ?? ''}
              onChange={(order) => put({ order: order === '' ? undefined : order })}
              options={orders}
            />
          )
        )}
        <PartField
          label="Unit"
          width={90}
          value={parameter.unit ?? ''}
          read={(unit) => ({ unit: unit.trim() === '' ? undefined : unit.trim() })}
          onValue={put}
        />
        <ScaleField sheet={sheet} parameter={parameter} onScale={(scale) => put({ scale })} />
        <LimitField label="Least" sheet={sheet} parameter={parameter} field="min" onValue={put} />
        <LimitField label="Most" sheet={sheet} parameter={parameter} field="max" onValue={put} />
        <LimitField label="Default" sheet={sheet} parameter={parameter} field="default" onValue={put} />
        <ChoiceField
          label="Written"
          width={150}
          value={parameter.write ?? ''}
          onChange={(write) => put({ write: write === '' ? undefined : write })}
          options={[
            ['', 'not said'],
            ['always', 'at any time'],
            ['standstill', 'at standstill only'],
            ['never', 'never'],
          ]}
        />
        <ChoiceField
          label="Takes effect"
          width={150}
          value={parameter.effect ?? ''}
          onChange={(effect) => put({ effect: effect === '' ? undefined : effect })}
          options={[
            ['', 'not said'],
            ['now', 'at once'],
            ['restart', 'after a restart'],
          ]}
        />
        <ChoiceField
          label="Without power"
          width={130}
          value={parameter.kept === undefined ? '' : parameter.kept ? 'kept' : 'lost'}
          onChange={(kept) => put({ kept: kept === '' ? undefined : kept === 'kept' })}
          options={[
            ['', 'not said'],
            ['kept', 'is kept'],
            ['lost', 'is lost'],
          ]}
        />
        <PartField
          label="Names of values"
          width={360}
          value={(parameter.choices ?? []).map(({ value, name }) => `${value}: ${name}`).join(', ')}
          note="such as 0: off, 1: on"
          read={(text) => {
            if (text.trim() === '') return { choices: undefined };
            const found = namedIn(text, parameter.choices);
            return found.length > 0 ? { choices: found } : 'such as 0: off, 1: on';
          }}
          onValue={put}
        />
        {parameter.choices && (
          <PartField
            label="What a value takes away"
            width={360}
            value={disablesText(parameter.choices)}
            note="of a guard that is masked: 0: no end switch stops it"
            read={(text) => {
              const choices = withDisables(parameter.choices ?? [], text);
              return typeof choices === 'string' ? choices : { choices: [...choices] };
            }}
            onValue={put}
          />
        )}
        <PartField
          label="Names of bits"
          width={360}
          value={(parameter.bitNames ?? []).map(({ bit, name }) => `bit ${bit}: ${name}`).join(', ')}
          note="such as bit 0: ready, bit 3: fault"
          read={(text) => {
            if (text.trim() === '') return { bitNames: undefined };
            const found = bitNamesIn(text).map(({ bit, text: name }) => ({ bit, name }));
            return found.length > 0 ? { bitNames: found } : 'such as bit 0: ready, bit 3: fault';
          }}
          onValue={put}
        />
        <PartField
          label="Note"
          width={360}
          value={parameter.note ?? ''}
          read={(note) => ({ note: note.trim() === '' ? undefined : note })}
          onValue={put}
        />
        <SourceFields parameter={parameter} onSource={(source) => editParameter(at, { source })} />
      </div>
      <RowsEditor
        label="Fields of the word"
        noun="field"
        rows={parameter.fields ?? []}
        columns={FIELD_COLUMNS}
        fresh={() => freshField(parameter.fields ?? [])}
        onRows={(fields) => put({ fields: fields.length === 0 ? undefined : fields })}
        most={32}
      />
      {parameter.source?.kind === 'manual' && (
        <ManualPiece key={`${at} ${parameter.number}`} source={parameter.source} />
      )}
    </Panel>
  );
}

const wholeField =
  (key: 'bit' | 'bits', low: number, high: number) =>
  (field: WordField, text: string): WordField | string => {
    const number = wholeIn(text);
    return number !== null && number >= low && number <= high ? { ...field, [key]: number } : `${low} to ${high}`;
  };

/** Names of values as they are typed; what a value takes away stays with it. */
const namedIn = (text: string, before: readonly NamedValue[] = []): NamedValue[] =>
  choicesIn(text, 1).map(({ value, text: name }) => ({
    ...before.find((choice) => choice.value === value),
    value,
    name,
  }));

const disablesText = (choices: readonly NamedValue[]): string =>
  choices.flatMap(({ value, disables }) => (disables === undefined ? [] : [`${value}: ${disables}`])).join(', ');

/** The choices with what each takes away as it is typed, or why it is not taken. */
function withDisables(choices: readonly NamedValue[], text: string): readonly NamedValue[] | string {
  const found = text.trim() === '' ? [] : choicesIn(text, 1);
  const unknown = found.find(({ value }) => !choices.some((choice) => choice.value === value));
  if (unknown) return `${unknown.value} has no name above`;
  if (text.trim() !== '' && found.length === 0) return 'such as 0: no end switch stops it';
  return choices.map(({ value, name }) => {
    const disables = found.find((one) => one.value === value)?.text;
    return disables === undefined ? { value, name } : { value, name, disables };
  });
}

/** Several values in one word: a hex digit is a field of four bits. */
const FIELD_COLUMNS: readonly RowColumn<WordField>[] = [
  { label: 'lowest bit', width: 90, show: ({ bit }) => `${bit}`, take: wholeField('bit', 0, 31) },
  { label: 'bits', width: 70, show: ({ bits }) => `${bits}`, take: wholeField('bits', 1, 32) },
  {
    label: 'sign',
    width: 110,
    options: [
      ['', 'none'],
      ['signed', 'its highest bit'],
    ],
    show: ({ signed }) => (signed ? 'signed' : ''),
    take: (field, text) => ({ ...field, signed: text === '' ? undefined : true }),
  },
  {
    label: 'field of the word',
    width: 170,
    show: ({ name }) => name,
    take: (field, text) => (text.trim() === '' ? 'a name' : { ...field, name: text }),
  },
  {
    label: 'names of its values',
    width: 260,
    show: ({ choices = [] }) => choices.map(({ value, name }) => `${value}: ${name}`).join(', '),
    take: ({ choices, ...field }, text) => {
      if (text.trim() === '') return field;
      const found = namedIn(text, choices);
      return found.length > 0 ? { ...field, choices: found } : 'such as 0: free, 1: run';
    },
  },
  {
    label: 'what a value takes away',
    width: 220,
    show: ({ choices = [] }) => disablesText(choices),
    take: (field, text) => {
      const choices = withDisables(field.choices ?? [], text);
      return typeof choices === 'string' ? choices : { ...field, ...(field.choices ? { choices: [...choices] } : {}) };
    },
  },
];

/** The next hex digit above those that are there. */
const freshField = (fields: readonly WordField[]): WordField => {
  const bit = Math.min(28, Math.max(0, ...fields.map((field) => field.bit + field.bits)));
  return { name: 'field', bit, bits: 4 };
};

/** The usual meaning of a setting for decimals; common practice, no source. */
const DECIMALS = [
  { value: 0, one: '1' },
  { value: 1, one: '0.1' },
  { value: 2, one: '0.01' },
  { value: 3, one: '0.001' },
];

/** `0: 1, 1: 0.1` as cases of a scale; a sentence where it is none. */
function readCases(
  text: string,
): { readonly cases: readonly { readonly value: number; readonly one: string }[] } | string {
  const cases = text.split(',').map((part) => {
    const [key = '', one = ''] = part.split(/[:=]/).map((side) => side.trim());
    const value = wholeIn(key);
    const count = parseRational(one);
    return value === null || value < 0 || !count.ok || count.value.num <= 0n ? null : { value, one };
  });
  const good = cases.filter((one) => one !== null);
  return good.length > 0 && good.length === cases.length ? { cases: good } : 'such as 0: 1, 1: 0.1, 2: 0.01';
}

function ScaleField({
  sheet,
  parameter,
  onScale,
}: {
  readonly sheet: Sheet;
  readonly parameter: Parameter;
  readonly onScale: (scale: Parameter['scale']) => void;
}) {
  const { scale } = parameter;
  const scalings = sheet.scalings ?? [];
  const others = (sheet.parameters ?? []).filter(({ number }) => number !== parameter.number);
  const kind = scale?.kind === 'chain' ? scale.id : (scale?.kind ?? '');
  return (
    <>
      <ChoiceField
        label="Scale"
        width={180}
        value={kind}
        onChange={(next) =>
          onScale(
            next === ''
              ? undefined
              : next === 'resolution'
                ? { kind: 'resolution', value: '1' }
                : next === 'by'
                  ? { kind: 'by', parameter: others[0]?.number ?? parameter.number, cases: DECIMALS }
                  : { kind: 'chain', id: next },
          )
        }
        options={[
          ['', 'the number itself'],
          ['resolution', 'so much a count'],
          ...(others.length > 0 ? ([['by', 'as another entry says']] as const) : []),
          ...scalings.map(({ id, name }) => [id, `the scaling ${name}`] as const),
        ]}
      />
      {scale?.kind === 'resolution' && (
        <PartField
          label="One count is"
          width={110}
          value={scale.value}
          read={(text) => {
            const value = parseRational(text);
            return value.ok && value.value.num > 0n
              ? { value: /^\d+(?:\.\d+)?$/.test(text.trim()) ? text.trim() : fractionText(value.value) }
              : 'a decimal or a fraction above 0';
          }}
          onValue={({ value }) => onScale({ kind: 'resolution', value })}
        />
      )}
      {scale?.kind === 'by' && (
        <>
          <PartField
            label="The entry that says it"
            width={170}
            value={scale.parameter}
            read={(text) =>
              others.some(({ number }) => number === text.trim())
                ? { number: text.trim() }
                : 'the number of another entry of this sheet'
            }
            onValue={({ number }) => onScale({ ...scale, parameter: number })}
          />
          <PartField
            label="One count is, by its value"
            width={230}
            value={scale.cases.map(({ value, one }) => `${value}: ${one}`).join(', ')}
            note="such as 0: 1, 1: 0.1, 2: 0.01"
            read={readCases}
            onValue={({ cases }) => onScale({ ...scale, cases: [...cases] })}
          />
        </>
      )}
    </>
  );
}

type Limit = 'min' | 'max' | 'default';

interface LimitFieldProps {
  readonly label: string;
  readonly sheet: Sheet;
  readonly parameter: Parameter;
  readonly field: Limit;
  readonly onValue: (change: Partial<Record<Limit, number | undefined>>) => void;
}

/** A limit in counts, or in the unit with the unit behind it: `15 Hz` where one count is 0.01 Hz is 1500. */
function LimitField({ label, sheet, parameter, field, onValue }: LimitFieldProps) {
  const value = parameter[field];
  const inUnit = value === undefined ? '' : limitInUnit(sheet, parameter, value);
  return (
    <PartField
      label={`${label}, in counts`}
      width={140}
      value={value === undefined ? '' : `${value}`}
      note={inUnit}
      read={(text) => {
        if (text.trim() === '') return { [field]: undefined };
        const number = readLimit(sheet, parameter, text);
        return typeof number === 'string' ? number : { [field]: number };
      }}
      onValue={onValue}
    />
  );
}

const SOURCES = [
  ['', 'with the sheet'],
  ['manual', 'the manual'],
  ['file', 'a file'],
  ['table', 'a pasted table'],
  ['drive', 'found at the drive'],
  ['guess', 'guessed'],
] as const;

function SourceFields({
  parameter,
  onSource,
}: {
  readonly parameter: Parameter;
  readonly onSource: (source: Parameter['source']) => void;
}) {
  const { source } = parameter;
  return (
    <>
      <ChoiceField
        label="Where it is from"
        width={170}
        value={source?.kind ?? ''}
        onChange={(kind) =>
          onSource(kind === '' ? undefined : ({ kind, text: source?.text ?? 'not said where' } as Parameter['source']))
        }
        options={SOURCES}
      />
      {source && (
        <PartField
          label="Which one"
          width={230}
          value={source.text}
          note={sourceText(source)}
          read={(text) => (text.trim() === '' ? 'say which' : { text })}
          onValue={({ text }) => onSource({ ...source, text })}
        />
      )}
      {source?.kind === 'manual' && (
        <NumberField
          label="Page"
          width={90}
          value={source.page}
          range={[1, 10_000]}
          onNumber={(page) =>
            // The piece was on the page that stood here.
            onSource({ kind: 'manual', text: source.text, ...(page === undefined ? {} : { page }) })
          }
        />
      )}
    </>
  );
}
