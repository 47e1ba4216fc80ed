'use client';

import { useMemo } from 'react';
import { findValues, knownList, MOST_KNOWN, MOST_SEARCHED, type ValueFound } from '../../core/registers/find-value';
import type { Look } from '../../core/registers/look';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { HeadRow } from '../../ui/head-row';
import { PasteArea } from '../../ui/paste-area';
import { Panel, Warning } from '../../ui/panel';
import { EntryButton } from './entry-button';
import { useLook } from './look-store';
import { setTyped, useTypedText } from './sheet-drafts';
import styles from './sheets.module.css';

/** Rows of one known value. */
const MOST_ROWS = 5;

const wordsOf = ({ found }: Look): ReadonlyMap<number, number> =>
  new Map([...found].flatMap(([address, one]) => (one.kind === 'there' ? [[address, one.word] as const] : [])));

/** What a find says of an entry. */
const entryOf = ({ type, order, places }: ValueFound): Partial<Parameter> => ({
  type,
  ...(order === undefined ? {} : { order: order as NonNullable<Parameter['order']> }),
  ...(places === 0 ? {} : { scale: { kind: 'resolution' as const, value: (10 ** -places).toFixed(places) } }),
});

/** Values that somebody knows, looked for in what was found; together they tell the order of words. */
export function FindValuePanel({ sheet }: { readonly sheet: Sheet }) {
  const look = useLook((state) => state.look);
  const text = useTypedText('known values');
  const leftOut = knownList(text).slice(MOST_KNOWN);
  const isRegisters = look?.table === 'holding-register' || look?.table === 'input-register';
  const found = useMemo(() => {
    const known = knownList(text);
    return look && isRegisters && known.length > 0 ? findValues(wordsOf(look), known) : null;
  }, [look, isRegisters, text]);
  if (!look || !isRegisters || ![...look.found.values()].some(({ kind }) => kind === 'there')) return null;
  return (
    <Panel
      title="Where is a value that I know?"
      aside="from the plate, the display or the factory; looked for in every type, order and decimal scale"
    >
      <PasteArea
        label="Known values, one a line, such as 400 V"
        rows={2}
        longest={400}
        value={text}
        onChange={(next) => setTyped('known values', next)}
      />
      {found?.orders.length === 0 && <p>No value of two registers or more speaks for an order of words yet.</p>}
      {found && found.orders.length > 0 && (
        <p data-testid="word-order">
          Order of words: {found.orders.map(({ name, known }) => `${name} explains ${known.join(', ')}`).join('; ')}.
          {found.orders.length > 1 && ' They contradict each other: take values with more digits.'}
        </p>
      )}
      {leftOut.length > 0 && (
        <Warning>
          {MOST_KNOWN} values are looked for at once; not looked for: {leftOut.slice(0, 5).join(', ')}
          {leftOut.length > 5 ? ` and ${leftOut.length - 5} more` : ''}.
        </Warning>
      )}
      {found?.values.map(({ known, trouble, doubt, found: places }) => (
        <section key={known} aria-label={`Where ${known} is`}>
          {doubt !== '' && (
            <p className={styles.soft}>
              {known}: {doubt}.
            </p>
          )}
          {trouble !== '' || places.length === 0 ? (
            <p>
              <strong>{known}</strong>: {trouble || 'in no register that was found'}.
            </p>
          ) : (
            <table className={styles.found} aria-label={`Places that hold ${known}`}>
              <HeadRow names={[`${known}, surest first`, 'how near', 'make an entry of it']} />
              <tbody>
                {places.slice(0, MOST_ROWS).map((place) => (
                  <tr key={`${place.address} ${place.type} ${place.orderName} ${place.places}`}>
                    <td className={styles.mono}>{place.text}</td>
                    <td>{place.isExact ? 'exactly it' : 'it, rounded'}</td>
                    <td>
                      <EntryButton
                        sheet={sheet}
                        look={look}
                        address={place.address}
                        said={`${place.text}, where ${known} was known`}
                        as={entryOf(place)}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      ))}
      {look.found.size > MOST_SEARCHED && (
        <p className={styles.soft}>
          Only the first {MOST_SEARCHED} registers are looked through: take a smaller range.
        </p>
      )}
    </Panel>
  );
}
