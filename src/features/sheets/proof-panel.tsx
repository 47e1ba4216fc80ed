'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { otherOrders, type OrderReading } from '../../core/drive/other-orders';
import { indexSheet } from '../../core/sheet/index-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { HeadRow } from '../../ui/head-row';
import { Panel } from '../../ui/panel';
import { noValueText, proofOf, valueTold, wordsTold } from './proof-read';
import { editParameter } from './sheet-drafts';
import styles from './sheets.module.css';

interface ProofPanelProps {
  readonly sheet: Sheet;
  readonly parameter: Parameter;
  readonly at: number;
}

/** Reads one entry from the station that is worked on, and asks whether that is what the drive's display shows. A read moves nothing. */
export function ProofPanel({ sheet, parameter, at }: ProofPanelProps) {
  const bench = useBench();
  const { drive, name, protocol, isOpen } = useCurrent();
  const [ticket, setTicket] = useState(0);
  const [shows, setShows] = useState('');
  const result = useBenchState((state) => state.results.get(ticket) ?? null);
  const index = indexSheet(sheet);
  const placed = index.byNumber.get(parameter.number);
  const places = protocol?.placesOf(index) ?? null;
  const request = placed && places && drive ? places.read(drive.station, [placed])[0] : undefined;
  const value = valueTold(index, placed, places, result);
  const words = wordsTold(placed, places, result);
  const orders = placed && words ? otherOrders(index, placed, words, shows) : [];
  const agree = (): void => {
    if (result && value !== null) editParameter(at, { proof: proofOf(result, value, shows, new Date()) });
  };
  const { proof } = parameter;
  return (
    <Panel
      title={proof ? '✓ Proved' : 'Is it right?'}
      aside={
        proof
          ? `${proof.when.slice(0, 16).replace('T', ' ')}: ${proof.seen}`
          : 'a read from the drive, beside what its display shows'
      }
    >
      {proof && <p className={`${styles.soft} ${styles.mono}`}>{proof.exchange}</p>}
      <div className={styles.row}>
        <ActButton
          variant="outlined"
          off={whyOff(
            [!drive, 'choose a station in Job first'],
            [!isOpen, LINE_CLOSED],
            [!placed, 'nothing says yet how it is reached'],
            [!request, 'this line does not reach it'],
          )}
          onClick={() => drive && request && setTicket(bench.send(drive, request, 'Sheets'))}
        >
          Read it from {name}
        </ActButton>
        {ticket !== 0 && (
          <span role="status" data-testid="read-value">
            {value !== null ? (
              <>
                it says <strong>{value}</strong>
              </>
            ) : result ? (
              noValueText(result)
            ) : (
              'asked …'
            )}
          </span>
        )}
      </div>
      {orders.length > 0 && (
        <OrdersTable
          name={parameter.name}
          orders={orders}
          onTake={(order) => editParameter(at, { order: order.startsWith('AB') ? undefined : order, proof: undefined })}
        />
      )}
      {value !== null && (
        <div className={styles.row}>
          <TypedField label="What the display shows" width={200} value={shows} onChange={setShows} />
          <Button variant="outlined" onClick={agree}>
            They agree: proved
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            onClick={() =>
              editParameter(at, {
                proof: undefined,
                note: [parameter.note, `the drive says ${value}, the display ${shows.trim() || 'something else'}`]
                  .filter((text) => text !== undefined)
                  .join('; ')
                  .slice(-400),
              })
            }
          >
            They differ
          </Button>
        </div>
      )}
    </Panel>
  );
}

/** What speaks for an order: the display where it is known, else whether a drive could hold such a value. */
const evidenceText = ({ agrees, isPlausible }: OrderReading): string =>
  agrees === true
    ? '✓ as the display shows'
    : agrees === false
      ? 'not what the display shows'
      : isPlausible
        ? 'may be'
        : 'hardly a value of a drive';

/** The same words in every order of bytes, the likeliest first; which one counts is the user's to say. */
function OrdersTable({
  name,
  orders,
  onTake,
}: {
  readonly name: string;
  readonly orders: readonly OrderReading[];
  readonly onTake: (order: string) => void;
}) {
  return (
    <table className={styles.found} aria-label={`${name} in every order of bytes`}>
      <HeadRow names={['order', 'it would say', 'what speaks for it', 'take it']} />
      <tbody>
        {orders.map((reading) => (
          <tr key={reading.order}>
            <td className={styles.mono}>{reading.order}</td>
            <td className={styles.mono}>{reading.text}</td>
            <td>{evidenceText(reading)}</td>
            <td>
              {reading.isNow ? (
                'the entry has this one'
              ) : (
                <Button variant="text" color="inherit" onClick={() => onTake(reading.order)}>
                  Take {reading.order}
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
