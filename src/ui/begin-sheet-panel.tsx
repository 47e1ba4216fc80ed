'use client';

import { useState } from 'react';
import { messageOf } from '../core/message-of';
import { TABLE_NAMES, type ModbusTable } from '../core/registers/tables';
import { readAddress } from '../core/registers/notation';
import { parseRational, exactText } from '../core/scaling/rational';
import { wholeIn } from '../core/bytes/whole';
import { SPEED_FORMS, stopText, type FirstFacts, type FirstRole, type SpeedForm } from '../core/sheet/begin-sheet';
import type { Place } from '../core/sheet/place';
import { ActButton, whyOff } from './act-button';
import styles from './begin-sheet-panel.module.css';
import { ChoiceField, TypedField } from './fields';
import { Panel, Warning } from './panel';
import { UnreadForm, useUnread } from './unread';

const PROFILES: readonly (readonly [FirstFacts['profile'], string])[] = [
  ['plain', 'not known: plain bits'],
  ['cia402', 'CiA 402'],
  ['profidrive', 'PROFIdrive'],
];
const FORMS = Object.entries(SPEED_FORMS).map(([id, { name }]) => [id, name] as const);
/** The words of a telegram with which every drive that speaks USS begins. */
const PROCESS: Readonly<Record<FirstRole, Place>> = {
  'control-word': { kind: 'process', direction: 'out', word: 0 },
  'status-word': { kind: 'process', direction: 'in', word: 0 },
  'speed-reference': { kind: 'process', direction: 'out', word: 1 },
  'actual-speed': { kind: 'process', direction: 'in', word: 1 },
};
const LABELS: Readonly<Record<FirstRole, string>> = {
  'control-word': 'Control word at',
  'status-word': 'Status word at',
  'speed-reference': 'Speed reference at',
  'actual-speed': 'Actual speed at',
};

/** What a typed address means here, with that in words; null where it means none, or a table that cannot be written as it must be. */
function addressIn(text: string, role: FirstRole): { readonly place: Place; readonly said: string } | null {
  const isWritten = role === 'control-word' || role === 'speed-reference';
  const tables: readonly (ModbusTable | null)[] = isWritten
    ? ['holding-register', null]
    : ['holding-register', 'input-register', null];
  const [first, other] = readAddress(text).filter(({ table }) => tables.includes(table));
  if (!first) return null;
  const table = first.table ?? 'holding-register';
  const doubt =
    other && other.address !== first.address
      ? `; or ${other.address}, if ${first.form === 'from-0' ? 'the manual counts from 1' : 'it is the plain number'}`
      : '';
  return {
    place: { kind: 'register', table, address: first.address },
    said: `${TABLE_NAMES[table]} ${first.address} on the wire${doubt}`,
  };
}

type BeginField = FirstRole | 'profile' | 'speeds' | 'raw' | 'value' | 'unit';

/** The drive that has no sheet, and what beginning one for it needs. */
export interface BeginSheet {
  readonly name: string;
  /** Its words are process data, not registers. */
  readonly isUss: boolean;
  /** What its sheet does not place yet. */
  readonly roles: readonly FirstRole[];
  /** Null where the station has none yet. */
  readonly sheetName: string | null;
  readonly knowsWords: boolean;
  readonly knowsStop: boolean;
  /** Why nothing can be begun now; empty where it can. */
  readonly off: string;
  readonly text: (field: BeginField) => string;
  readonly set: (field: BeginField, text: string) => void;
  /** Keeps the sheet and makes the station use it; rejects with the reason why not. */
  readonly begin: (facts: FirstFacts) => Promise<void>;
}

/** A drive that no sheet describes: with an address or two from its manual it can be commanded, and a sheet grows from them. */
export function BeginSheetPanel({
  name,
  sheetName,
  isUss,
  roles,
  knowsWords,
  knowsStop,
  text,
  set,
  ...start
}: BeginSheet) {
  const unread = useUnread();
  const [said, setSaid] = useState('');
  const profile = PROFILES.find(([id]) => id === text('profile'))?.[0] ?? 'plain';
  const speeds = isUss || !Object.hasOwn(SPEED_FORMS, text('speeds')) ? 'int16' : (text('speeds') as SpeedForm);
  const isFloat = SPEED_FORMS[speeds].type === 'float32';
  const at = Object.fromEntries(
    roles.flatMap((role): readonly (readonly [FirstRole, Place])[] => {
      if (isUss) return [[role, PROCESS[role]]];
      const found = addressIn(text(role), role);
      return found ? [[role, found.place]] : [];
    }),
  ) as FirstFacts['at'];
  const raw = wholeIn(text('raw'));
  const value = parseRational(text('value'));
  const unit = text('unit').trim();
  const hasScale = !isFloat && (text('raw').trim() !== '' || text('value').trim() !== '' || unit !== '');
  const full =
    !isFloat && raw !== null && raw > 0 && value.ok && value.value.num > 0n && unit !== ''
      ? { raw: `${raw}`, value: exactText(value.value), unit }
      : undefined;
  // A sheet that has words says itself what stops its drive.
  const stop = knowsStop || knowsWords ? null : stopText(profile);
  const off = whyOff(
    [start.off !== '', start.off],
    [
      at['control-word'] === undefined &&
        at['speed-reference'] === undefined &&
        !(full && !roles.includes('speed-reference')),
      'say where the control word or the reference is',
    ],
    [unread.why !== '', 'a field shows what cannot be read'],
    [hasScale && !full, 'a scale has a raw number, a value and a unit'],
  );
  return (
    <Panel
      title={sheetName === null ? `Begin a sheet for ${name}` : `What sheet ${sheetName} does not say yet`}
      aside="an address or two from the manual are enough; nothing is sent, the line closes, nothing of it counts as proved"
    >
      <UnreadForm unread={unread}>
        <div className={styles.row}>
          {!knowsWords && (
            <ChoiceField
              label="Profile of its words"
              width={210}
              value={profile}
              onChange={(id) => set('profile', id)}
              options={PROFILES}
            />
          )}
          {!isUss &&
            roles.map((role) => {
              const found = addressIn(text(role), role);
              return (
                <TypedField
                  key={role}
                  label={LABELS[role]}
                  width={190}
                  value={text(role)}
                  onChange={(next) => set(role, next)}
                  error={
                    text(role).trim() !== '' && !found ? 'no address that fits, such as 40108, 3:21, 006Bh or 107' : ''
                  }
                  note={found?.said}
                />
              );
            })}
        </div>
        <div className={styles.row}>
          {!isUss && (roles.includes('speed-reference') || roles.includes('actual-speed')) && (
            <ChoiceField
              label="The speeds are"
              width={220}
              value={speeds}
              onChange={(id) => set('speeds', id)}
              options={FORMS}
            />
          )}
          {!isFloat && (
            <>
              <TypedField
                label="Raw number"
                width={130}
                value={text('raw')}
                onChange={(next) => set('raw', next)}
                error={text('raw').trim() !== '' && (raw === null || raw <= 0) ? 'a whole number above 0' : ''}
                note={raw === null ? 'such as 4000h' : `${raw}`}
              />
              <span className={styles.is}>is</span>
              <TypedField
                label="Speed"
                width={110}
                value={text('value')}
                onChange={(next) => set('value', next)}
                error={text('value').trim() !== '' && !(value.ok && value.value.num > 0n) ? 'a number above 0' : ''}
              />
            </>
          )}
          <TypedField label="Unit" width={90} value={text('unit')} onChange={(next) => set('unit', next)} />
          <span className={styles.is}>
            {isUss
              ? 'Control and status word are the first words of the process data, the speeds the second.'
              : isFloat
                ? 'A float holds the value in its unit. Which order of words is right, Sheets shows beside the display: Is it right?'
                : 'Leave the scale empty where it is not known: Scaling finds it from what the display shows.'}
          </span>
        </div>
      </UnreadForm>
      {stop === '' && (
        <Warning>
          Nothing says how this drive is stopped. Give the sheet its stop words before the shaft may turn, or have
          another way to stop it at hand.
        </Warning>
      )}
      {stop !== null && stop !== '' && (
        <p>Stop will send {stop}, as the profile has it. Try it before you rely on it.</p>
      )}
      {said !== '' && <Warning>{said}</Warning>}
      <div className={styles.act}>
        <ActButton
          variant="contained"
          off={off}
          onClick={() =>
            void start
              .begin({ profile, at, speeds, full, ...(isFloat && unit !== '' ? { unit } : {}) })
              .catch((error: unknown) => setSaid(messageOf(error)))
          }
        >
          {sheetName === null ? `Begin the sheet and use it at ${name}` : `Add it and use it at ${name}`}
        </ActButton>
      </div>
    </Panel>
  );
}
