'use client';

import { notationsOf } from '../../core/registers/notation';
import type { CompareRow } from '../../core/sets/compare-sets';
import { saidText, type Said } from '../../core/sets/said';
import type { Witness } from '../../core/sets/witness';
import { placeText, type PlacedParameter, type SheetIndex } from '../../core/sheet/index-sheet';
import { rangeText } from '../../core/drive/limits';
import { sourceText } from '../../core/sheet/source';
import { DATE_FORMS } from '../../core/values/date';
import { isDateType, isNumberType } from '../../core/values/type';
import { dateText } from '../../ui/format';
import { Facts, Panel } from '../../ui/panel';
import styles from './registers.module.css';
import { ValueNote } from './value-note';
import { OverStations } from './over-stations';
import { PlanForm } from './value-plan';

interface DetailProps {
  readonly row: CompareRow;
  readonly index: SheetIndex;
  readonly witnesses: readonly Witness[];
}

/** One value in full: how it is reached, what it may hold, who says what of it, and what is planned for it. */
export function ValueDetail({ row, index, witnesses }: DetailProps) {
  const { parameter, number, name, sentence, follows } = row;
  const own = index.byNumber.get(number);
  return (
    <Panel title={`${number} ${name}`} aside={parameter.path}>
      {sentence !== '' && <p>{[sentence, follows].filter((part) => part !== '').join('; ')}.</p>}
      <SaidTable number={number} index={index} witnesses={witnesses} />
      {own ? (
        <PlanForm parameter={own} index={index} witnesses={witnesses} />
      ) : (
        <p className={styles.soft}>The sheet of this station does not have it: another revision does.</p>
      )}
      <h3 className={styles.part}>What the sheet says</h3>
      <Facts rows={factsOf(index, parameter)} />
      <OverStations parameter={parameter} />
      <ValueNote parameter={parameter} />
    </Panel>
  );
}

/** When it may be written, in words. */
const WRITE_TEXT = { always: 'at any time', standstill: 'at standstill only', never: 'never' } as const;

function factsOf(index: SheetIndex, parameter: PlacedParameter): readonly (readonly [string, string])[] {
  const { place, others, type, order, choices, bitNames, write, effect, kept, sizeBound, note, source, lockedBy } =
    parameter;
  const notations = place.kind === 'register' ? notationsOf(place.table, place.address) : null;
  const said: readonly (readonly [string, string | undefined])[] = [
    ['reached', [placeText(place), ...others.map(placeText)].join('; also ')],
    [
      'address',
      notations
        ? [notations.hex, notations.reference5, notations.reference6, `${notations.fromOne} counted from 1`]
            .filter((one) => one !== null)
            .join(', ')
        : undefined,
    ],
    ['working', place.kind === 'register' && parameter.working !== placeText(place) ? parameter.working : undefined],
    ['type', [isDateType(type) ? DATE_FORMS[type].text : type, order].filter(Boolean).join(', order ')],
    ['range', choices || !isNumberType(type) || parameter.fields ? undefined : rangeText(index, parameter)],
    ['names', choices?.map(({ value, name }) => `${value} ${name}`).join(', ')],
    ['bits', bitNames?.map(({ bit, name }) => `${bit} ${name}`).join(', ')],
    ['written', write ? WRITE_TEXT[write] : 'not said'],
    ['locked', lockedBy ? `until ${lockedBy.parameter} holds ${lockedBy.value}` : undefined],
    ['takes effect', effect === 'restart' ? 'after a restart' : effect === 'now' ? 'at once' : undefined],
    ['without power', kept === undefined ? undefined : kept ? 'kept' : 'lost: working memory only'],
    ['size', sizeBound ? 'belongs to the drive’s size: not carried to another one' : undefined],
    ['note', note],
    ['source', source ? sourceText(source) : undefined],
  ];
  return said.flatMap(([what, text]) => (text === undefined || text === '' ? [] : [[what, text] as const]));
}

function SaidTable({
  number,
  index,
  witnesses,
}: {
  readonly number: string;
  readonly index: SheetIndex;
  readonly witnesses: readonly Witness[];
}) {
  const rows = witnesses.flatMap((witness) => {
    const parameter = witness.index.byNumber.get(number);
    const said = witness.said.get(number);
    return parameter && said ? [{ witness, parameter, said }] : [];
  });
  return (
    <table className={styles.found} aria-label="Who says what">
      <tbody>
        {rows.map(({ witness, parameter, said }) => (
          <tr key={witness.id}>
            <th scope="row">
              {witness.name}
              {witness.index !== index && `, by revision ${witness.index.sheet.revision}`}
            </th>
            <td className={styles.mono}>{saidText(witness.index, parameter, said, witness.said)}</td>
            <td className={styles.soft}>{rawText(parameter, said)}</td>
          </tr>
        ))}
        {rows.length === 0 && (
          <tr>
            <td>Nobody has said anything of it yet.</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

function rawText({ secret }: PlacedParameter, said: Said): string {
  if (said.kind !== 'value' || secret) return '';
  const hex = said.words.map((word) => word.toString(16).toUpperCase().padStart(4, '0')).join(' ');
  const when = said.atMs === null ? '' : `, ${dateText(said.atMs)}`;
  return `0x${hex}${when}`;
}
