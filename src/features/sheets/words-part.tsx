'use client';

import Button from '@mui/material/Button';
import { wholeIn } from '../../core/bytes/whole';
import { hexNumber } from '../../core/bytes/hex';
import { readBitTable } from '../../core/words/bit-table';
import { CONTROL_ROLES, STATUS_ROLES, type BitSpec } from '../../core/words/spec';
import { DRIVE_MODES } from '../../core/profile/cia402';
import { proposedControlRole, proposedStatusRole } from '../../core/sheet/propose-role';
import type { Sheet } from '../../core/sheet/sheet';
import { standardStop } from '../../core/sheet/standard-stop';
import { ActButton } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { Panel, Warning } from '../../ui/panel';
import { PasteArea } from '../../ui/paste-area';
import { NumberField } from './about-part';
import { PartField } from '../../ui/part-field';
import { choiceColumn, numberColumn, RowsEditor, textColumn, type RowColumn } from '../../ui/rows-editor';
import { editSheet, merged, setTyped, useTypedText } from './sheet-drafts';
import styles from './sheets.module.css';

type Words = NonNullable<Sheet['words']>;
type Which = keyof Words;
type Bit = Words[Which]['bits'][number];
type Commands = NonNullable<Sheet['commands']>;
type Command = Commands['words'][number];

const put = (change: Partial<Record<keyof Sheet, unknown>>): void => editSheet((sheet) => merged(sheet, change));

const EMPTY_WORDS: Words = { control: { width: 16, bits: [] }, status: { width: 16, bits: [] } };
/** Profile, bits, the words that are kept ready, and how this drive is stopped. */
export function WordsPart({ sheet }: { readonly sheet: Sheet }) {
  return (
    <div className={styles.stack}>
      <ProfilePanel sheet={sheet} />
      <StopPanel sheet={sheet} />
      <BitsPanel sheet={sheet} which="control" />
      <BitsPanel sheet={sheet} which="status" />
    </div>
  );
}

function ProfilePanel({ sheet }: { readonly sheet: Sheet }) {
  const { profile } = sheet;
  const choose = (kind: string): void => {
    if (kind === '') return put({ profile: undefined });
    if (kind === 'cia402') return put({ profile: { kind, modes: ['velocity'] } });
    if (kind === 'profidrive') return put({ profile: { kind } });
    put({
      profile: {
        kind: 'own',
        follows: 'all',
        states: [{ id: 'stands', name: 'stands', ones: [], zeros: [] }],
        moves: [],
        own: [],
      },
    });
  };
  return (
    <Panel title="State machine" aside="which words lead where; without one the bits stand for themselves">
      <div className={styles.row}>
        <ChoiceField
          label="Profile"
          width={240}
          value={profile?.kind ?? ''}
          onChange={choose}
          options={[
            ['', 'none: plain bits'],
            ['cia402', 'CiA 402'],
            ['profidrive', 'PROFIdrive'],
            ['own', 'a table of its own'],
          ]}
        />
        {profile?.kind === 'cia402' &&
          DRIVE_MODES.map((mode) => (
            <label key={mode} className={styles.soft}>
              <input
                type="checkbox"
                checked={profile.modes.includes(mode)}
                onChange={({ target }) => {
                  const modes = target.checked ? [...profile.modes, mode] : profile.modes.filter((own) => own !== mode);
                  if (modes.length > 0) put({ profile: { ...profile, modes } });
                }}
              />{' '}
              {mode.replaceAll('-', ' ')}
            </label>
          ))}
      </div>
      {profile?.kind === 'own' && <OwnStates sheet={sheet} profile={profile} />}
    </Panel>
  );
}

type Own = Extract<NonNullable<Sheet['profile']>, { kind: 'own' }>;

/** Bits as people write them in a cell: `0 3 7`. */
const bitsText = (bits: readonly number[]): string => bits.join(' ');
const bitsIn = (text: string): readonly number[] | null => {
  const parts = text.split(/[\s,]+/).filter((part) => part !== '');
  const bits = parts.map((part) => (/^\d{1,2}$/.test(part) ? Number(part) : NaN));
  return bits.every((bit) => bit >= 0 && bit <= 31) ? bits : null;
};
const bitsColumn = <Row extends object>(
  label: string,
  show: (row: Row) => readonly number[],
  set: (row: Row, bits: readonly number[]) => Row,
): RowColumn<Row> => ({
  label,
  width: 110,
  show: (row) => bitsText(show(row)),
  take: (row, text) => {
    const bits = bitsIn(text);
    return bits ? set(row, bits) : 'bit numbers with blanks between';
  },
});

const slugOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60) || 'state';

function OwnStates({ profile }: { readonly sheet: Sheet; readonly profile: Own }) {
  const names = profile.states.map(({ id, name }) => [id, name] as const);
  const putProfile = (change: Partial<Record<keyof Own, unknown>>): void => put({ profile: { ...profile, ...change } });
  return (
    <>
      <RowsEditor<Own['states'][number]>
        label="States, as the status word tells them"
        noun="state"
        rows={profile.states}
        most={40}
        fresh={() => ({
          id: `state-${profile.states.length + 1}`,
          name: `state ${profile.states.length + 1}`,
          ones: [],
          zeros: [],
        })}
        onRows={(states) => putProfile({ states })}
        columns={[
          textColumn(
            'state',
            180,
            ({ name }) => name,
            (row, name) => ({
              ...row,
              name,
              id: profile.moves.some(({ from, to }) => to === row.id || from.includes(row.id)) ? row.id : slugOf(name),
            }),
          ),
          bitsColumn(
            'bits that are 1',
            ({ ones }) => ones,
            (row, ones) => ({ ...row, ones: [...ones] }),
          ),
          bitsColumn(
            'bits that are 0',
            ({ zeros }) => zeros,
            (row, zeros) => ({ ...row, zeros: [...zeros] }),
          ),
          choiceColumn(
            'the shaft',
            110,
            [
              ['', 'stands'],
              ['yes', 'may turn'],
            ],
            ({ turns }) => (turns ? 'yes' : ''),
            (row, yes) => merged(row, { turns: yes === '' ? undefined : true }),
          ),
        ]}
      />
      <RowsEditor<Own['moves'][number]>
        label="Moves, as the control word makes them"
        noun="move"
        rows={profile.moves}
        most={200}
        fresh={() => ({
          from: [profile.states[0]?.id ?? 'stands'],
          to: profile.states[0]?.id ?? 'stands',
          name: 'move',
          ones: [],
          zeros: [],
        })}
        onRows={(moves) => putProfile({ moves })}
        columns={[
          textColumn(
            'move',
            160,
            ({ name }) => name,
            (row, name) => ({ ...row, name }),
          ),
          choiceColumn(
            'from',
            150,
            names,
            ({ from }) => from[0] ?? '',
            (row, from) => ({ ...row, from: [from, ...row.from.slice(1)] }),
          ),
          choiceColumn(
            'to',
            150,
            names,
            ({ to }) => to,
            (row, to) => ({ ...row, to }),
          ),
          bitsColumn(
            'bits that are 1',
            ({ ones }) => ones,
            (row, ones) => ({ ...row, ones: [...ones] }),
          ),
          bitsColumn(
            'bits that are 0',
            ({ zeros }) => zeros,
            (row, zeros) => ({ ...row, zeros: [...zeros] }),
          ),
          {
            label: 'on the rise of',
            width: 100,
            show: ({ rise }) => (rise === undefined ? '' : `${rise}`),
            take: (row, text) =>
              text.trim() === ''
                ? merged(row, { rise: undefined })
                : bitsIn(text)?.length === 1
                  ? { ...row, rise: Number(text) }
                  : 'one bit, or nothing',
          },
        ]}
      />
    </>
  );
}

const wordsIn = (text: string): readonly number[] | null => {
  const parts = text.split(/[\s,]+/).filter((part) => part !== '');
  const words = parts.map((part) => wholeIn(/^[0-9A-F]{4}$/i.test(part) ? `0x${part}` : part));
  return parts.length > 0 &&
    parts.length <= 5 &&
    words.every((word) => word !== null && word >= 0 && word <= 0xffffffff)
    ? (words as number[])
    : null;
};

/** The word that asks for nothing but that the drive stays enabled and stops; null where no bit says what makes it run. */
function plainStop({ bits }: Words['control']): number | null {
  if (!bits.some(({ role }) => role === 'run')) return null;
  return bits.reduce((word, { bit, role, active }) => {
    const acts = role === 'enable' || role === 'stop';
    return acts === (active !== 'low') ? word + 2 ** bit : word;
  }, 0);
}

/** Before a word that could turn a shaft goes out, a sheet should say how this drive is stopped. */
function StopPanel({ sheet }: { readonly sheet: Sheet }) {
  const { commands, profile } = sheet;
  const plain = sheet.words && plainStop(sheet.words.control);
  const proposed = standardStop(profile?.kind) ?? (plain === null || plain === undefined ? undefined : [plain]);
  const begin = (words: readonly number[]): void =>
    put({
      commands: {
        words: commands?.words ?? [],
        watchdogFedBy: commands?.watchdogFedBy ?? 'any-request',
        stop: { words: [...words], standstillWithinMs: commands?.stop.standstillWithinMs ?? 10_000 },
      },
    });
  const putCommands = (change: Partial<Record<keyof Commands, unknown>>): void => {
    if (commands) put({ commands: { ...commands, ...change } });
  };
  return (
    <Panel title="Stop, and words kept ready" aside={commands ? 'Stop sends these words, in this order' : ''}>
      {!commands && (
        <>
          <Warning>This sheet does not say how the drive is stopped: the bench’s Stop cannot stop it.</Warning>
          <div className={`${styles.row} ${styles.under}`}>
            <PartField
              label="Stop words, in order"
              width={260}
              value=""
              note="such as 0x0007 0x0006"
              read={(text) => {
                const words = wordsIn(text);
                return words ? { words } : 'one to five words, such as 0x0007 0x0006';
              }}
              onValue={({ words }) => begin(words)}
            />
            {proposed && (
              <Button variant="outlined" onClick={() => begin(proposed)}>
                Take {proposed.map((word) => hexNumber(word)).join(', ')},{' '}
                {profile ? 'as the profile has it' : 'by the roles of the bits: nothing asks to turn'}
              </Button>
            )}
          </div>
        </>
      )}
      {commands && (
        <>
          <div className={styles.row}>
            <PartField
              label="Stop words, in order"
              width={260}
              value={commands.stop.words.map((word) => hexNumber(word)).join(' ')}
              read={(text) => {
                const words = wordsIn(text);
                return words ? { words } : 'one to five words, such as 0x0007 0x0006';
              }}
              onValue={({ words }) => putCommands({ stop: { ...commands.stop, words: [...words] } })}
            />
            <NumberField
              label="Stands within, ms"
              width={150}
              value={commands.stop.standstillWithinMs}
              range={[100, 600_000]}
              onNumber={(standstillWithinMs) =>
                standstillWithinMs !== undefined && putCommands({ stop: { ...commands.stop, standstillWithinMs } })
              }
            />
            <ChoiceField
              label="Its watchdog is fed by"
              width={220}
              value={commands.watchdogFedBy}
              onChange={(watchdogFedBy) => putCommands({ watchdogFedBy })}
              options={[
                ['any-request', 'any request to it'],
                ['control-write', 'a write of the control word'],
              ]}
            />
          </div>
          <RowsEditor<Command>
            label="Words kept ready"
            noun="word"
            rows={commands.words}
            most={100}
            fresh={() => ({ id: `word-${commands.words.length + 1}`, name: 'new word', word: 0 })}
            onRows={(words) => putCommands({ words })}
            columns={[
              textColumn(
                'what it does',
                220,
                ({ name }) => name,
                (row, name) => ({ ...row, name, id: slugOf(name) }),
              ),
              numberColumn(
                'word',
                120,
                (text) => wordsIn(text)?.[0] ?? null,
                [0, 0xffffffff],
                ({ word }) => hexNumber(word),
                (row, word) => ({ ...row, word }),
              ),
              textColumn(
                'note',
                260,
                ({ note }) => note,
                (row, note) => merged(row, { note: note === '' ? undefined : note }),
                false,
              ),
            ]}
          />
        </>
      )}
    </Panel>
  );
}

const ROLES = { control: CONTROL_ROLES, status: STATUS_ROLES } as const;

function BitsPanel({ sheet, which }: { readonly sheet: Sheet; readonly which: Which }) {
  const pasted = useTypedText(`bits ${which}`);
  const words = sheet.words ?? EMPTY_WORDS;
  const spec = words[which];
  const putBits = (bits: readonly Bit[]): void => put({ words: { ...words, [which]: { ...spec, bits: [...bits] } } });
  const table = readBitTable(pasted, spec.width);
  const propose = which === 'control' ? proposedControlRole : proposedStatusRole;
  const named = sheet.parameters?.find(({ role }) => role === `${which}-word`)?.bitNames ?? [];
  const takeBits = (found: readonly BitSpec[], fields: typeof table.fields): void => {
    const known = new Map(spec.bits.map((bit) => [bit.bit, bit]));
    const roles = new Set<string>(spec.bits.flatMap(({ role }) => role ?? []));
    const fresh = found.map((bit): BitSpec => {
      const role = known.get(bit.bit)?.role ?? propose(bit.name);
      if (role === undefined || (roles.has(role) && known.get(bit.bit)?.role !== role)) return bit;
      roles.add(role);
      return { ...bit, role };
    });
    const others = spec.bits.filter(({ bit }) => !found.some((own) => own.bit === bit));
    const bits = [...others, ...(fresh as Bit[])].sort((a, b) => a.bit - b.bit);
    put({ words: { ...words, [which]: { ...spec, bits, ...(fields.length > 0 ? { fields: [...fields] } : {}) } } });
    setTyped(`bits ${which}`, '');
  };
  return (
    <Panel
      title={`Bits of the ${which} word`}
      aside={
        sheet.profile && sheet.profile.kind !== 'own'
          ? 'those that differ from the profile'
          : 'as the manual has them; the role tells the bench what a bit does'
      }
    >
      <RowsEditor<Bit>
        label={`Bits of the ${which} word`}
        noun="bit"
        rows={spec.bits}
        most={32}
        fresh={() => {
          const taken = new Set(spec.bits.map(({ bit }) => bit));
          let bit = 0;
          while (taken.has(bit)) bit++;
          return { bit, name: `bit ${bit}`, one: '1', zero: '0' };
        }}
        onRows={putBits}
        columns={[
          numberColumn(
            'bit',
            56,
            wholeIn,
            [0, 31],
            ({ bit }) => `${bit}`,
            (row, bit) => ({ ...row, bit }),
          ),
          textColumn(
            'name',
            160,
            ({ name }) => name,
            (row, name) => ({ ...row, name }),
          ),
          textColumn(
            '1 means',
            150,
            ({ one }) => one,
            (row, one) => ({ ...row, one }),
          ),
          textColumn(
            '0 means',
            150,
            ({ zero }) => zero,
            (row, zero) => ({ ...row, zero }),
          ),
          choiceColumn(
            'role',
            130,
            [['', 'none'], ...ROLES[which].map((role) => [role, role.replaceAll('-', ' ')] as const)],
            ({ role }) => role ?? '',
            (row, role) => merged(row, { role: role === '' ? undefined : role }),
          ),
          choiceColumn(
            'does its work',
            110,
            [
              ['high', 'at 1'],
              ['low', 'at 0'],
            ],
            ({ active }) => active ?? 'high',
            (row, active) => merged(row, { active: active === 'low' ? 'low' : undefined }),
          ),
          choiceColumn(
            'acts',
            120,
            [
              ['level', 'while it is'],
              ['rise', 'on the rise'],
            ],
            ({ acts }) => acts ?? 'level',
            (row, acts) => merged(row, { acts: acts === 'rise' ? 'rise' : undefined }),
          ),
        ]}
      />
      {spec.bits.length === 0 && named.length > 0 && (
        <p>
          <Button
            variant="outlined"
            onClick={() =>
              takeBits(
                named.map(({ bit, name }) => ({ bit, name, one: name, zero: `not ${name}` })),
                [],
              )
            }
          >
            Take the {named.length} bits that the entry of the {which} word names
          </Button>
        </p>
      )}
      <div className={styles.under} />
      <PasteArea
        rows={2}
        longest={20_000}
        label={`paste the manual’s table of the ${which} word`}
        value={pasted}
        onChange={(text) => setTyped(`bits ${which}`, text)}
      />
      {table.faults.slice(0, 4).map(({ start, text }) => (
        <Warning key={start}>
          Line {pasted.slice(0, start).split('\n').length}: {text}.
        </Warning>
      ))}
      {pasted.trim() !== '' && (
        <ActButton
          variant="outlined"
          off={table.bits.length + table.fields.length === 0 ? 'no bit is understood yet' : ''}
          onClick={() => takeBits(table.bits, table.fields)}
        >
          Take {table.bits.length} bits, with the roles that their names propose
        </ActButton>
      )}
    </Panel>
  );
}
