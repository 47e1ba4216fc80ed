'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { indexSheet } from '../../core/sheet/index-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { noValueText, proofOf, valueTold } from './proof-read';
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
