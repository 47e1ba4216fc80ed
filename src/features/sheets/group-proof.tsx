'use client';

import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { counted } from '../../core/counted';
import { indexSheet } from '../../core/sheet/index-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import { noValueText, proofOf, valueTold } from './proof-read';
import { editSheet } from './sheet-drafts';
import styles from './sheets.module.css';

/** More than these are not proved in one go: somebody has to look at each. */
export const MOST_PROVED = 40;

interface GroupProofProps {
  readonly sheet: Sheet;
  /** Places in the list of the entries that are shown. */
  readonly shown: readonly number[];
  readonly onClose: () => void;
}

/** Reads the entries that are shown, one by one, and asks which of them agree with the drive's display: those are proved in one press. */
export function GroupProof({ sheet, shown, onClose }: GroupProofProps) {
  const bench = useBench();
  const { drive, name, protocol, isOpen } = useCurrent();
  const [tickets, setTickets] = useState<ReadonlyMap<string, number>>(new Map());
  const [agreed, setAgreed] = useState<ReadonlySet<string>>(new Set());
  const results = useBenchState((state) => state.results);
  const index = indexSheet(sheet);
  const places = protocol?.placesOf(index) ?? null;
  const asked = shown.slice(0, MOST_PROVED).flatMap((at): readonly Parameter[] => {
    const parameter = sheet.parameters?.[at];
    return parameter ? [parameter] : [];
  });
  const rows = asked.map((parameter) => {
    const result = results.get(tickets.get(parameter.number) ?? 0) ?? null;
    const value = valueTold(index, index.byNumber.get(parameter.number), places, result);
    return { parameter, result, value, isAsked: tickets.has(parameter.number) };
  });
  const read = (): void => {
    if (!drive || !places) return;
    setAgreed(new Set());
    setTickets(
      new Map(
        asked.flatMap(({ number }) => {
          const placed = index.byNumber.get(number);
          const request = placed && places.read(drive.station, [placed])[0];
          return request ? [[number, bench.send(drive, request, 'Sheets')] as const] : [];
        }),
      ),
    );
  };
  const proved = rows.filter(({ parameter, value }) => value !== null && agreed.has(parameter.number));
  const prove = (): void => {
    const when = new Date();
    const proofs = new Map(
      proved.flatMap(({ parameter, result, value }) =>
        result && value !== null ? [[parameter.number, proofOf(result, value, '', when)] as const] : [],
      ),
    );
    editSheet((before) => ({
      ...before,
      parameters: (before.parameters ?? []).map((parameter) => {
        const proof = proofs.get(parameter.number);
        return proof ? { ...parameter, proof } : parameter;
      }),
    }));
    onClose();
  };
  return (
    <Panel
      title={`Prove ${counted(asked.length, 'entry', 'entries')}`}
      aside="each read beside what the drive’s display shows; tick those that agree"
      tools={
        <ActButton variant="text" color="inherit" off="" onClick={onClose}>
          Back to one entry
        </ActButton>
      }
    >
      <ActButton
        variant="outlined"
        off={whyOff(
          [!drive, 'choose a station in Job first'],
          [!isOpen, LINE_CLOSED],
          [!places, 'this line does not reach them'],
        )}
        onClick={read}
      >
        Read them from {name}
      </ActButton>
      <div className={styles.scroll}>
        <table className={styles.found} aria-label="What the drive says of each entry">
          <tbody>
            {rows.map(({ parameter: { number, name: called }, result, value, isAsked }) => (
              <tr key={number}>
                <td className={styles.mono}>{number}</td>
                <td>{called}</td>
                <td className={styles.mono}>{value ?? (result ? noValueText(result) : isAsked ? 'asked …' : '')}</td>
                <td>
                  <label>
                    <input
                      type="checkbox"
                      disabled={value === null}
                      checked={agreed.has(number)}
                      onChange={({ target: { checked } }) =>
                        setAgreed(
                          new Set([...[...agreed].filter((one) => one !== number), ...(checked ? [number] : [])]),
                        )
                      }
                    />{' '}
                    the display shows this too
                  </label>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ActButton variant="contained" off={proved.length === 0 ? 'none is ticked' : ''} onClick={prove}>
        They agree: {counted(proved.length, 'entry', 'entries')} proved
      </ActButton>
    </Panel>
  );
}
