'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { bytesToHex } from '../../core/bytes/hex';
import { cellsText } from '../../core/sheet/describe';
import { indexSheet } from '../../core/sheet/index-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { learnedFrom } from '../../link/learned';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
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
  const told = result && places ? new Map(learnedFrom(result, places)) : null;
  const words = placed && told ? placed.cells.flatMap((cell) => told.get(cell) ?? []) : [];
  const value = placed && words.length === placed.cells.length ? cellsText(index, placed, words) : null;
  const agree = (): void => {
    if (!result || value === null) return;
    const reply = result.reply ? ` → ${bytesToHex(result.reply, ' ')}` : '';
    editParameter(at, {
      proof: {
        when: new Date().toISOString(),
        exchange: `${bytesToHex(result.request.bytes, ' ')}${reply}`.slice(0, 400),
        seen: `${value}${shows.trim() === '' ? '' : `; the display shows ${shows.trim()}`}`.slice(0, 400),
      },
    });
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
              `no value: ${result.outcome}${result.said?.exception === undefined ? '' : `, exception ${result.said.exception}`}`
            ) : (
              'asked …'
            )}
          </span>
        )}
      </div>
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
