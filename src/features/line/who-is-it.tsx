'use client';

import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { goTo } from '../../bench/hooks/go-to';
import { identityReads } from '../../bench/procedures/watch-reads';
import { withStation } from '../../core/job/job';
import { fittingSheets, fitText, type Fit } from '../../core/sheet/fitting';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { Cell } from '../../core/sheet/place';
import { newestOf } from '../../core/sheet/shelf';
import { learnedFrom } from '../../link/learned';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';

const MARK: Readonly<Record<Fit['verdict'], string>> = {
  fits: '✓ fits',
  part: '≈ in part',
  other: '✗ another',
  silent: '· silent',
};

/** A station without a sheet is asked what each sheet would ask it about itself; those that fit are offered. Reads only. */
export function WhoIsIt() {
  const bench = useBench();
  const { line, station, drive, name, protocol, isOpen } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const results = useBenchState((state) => state.results);
  const [asked, setAsked] = useState<readonly { readonly slug: string; readonly tickets: readonly number[] }[]>([]);
  if (!line || !station || station.sheet || !protocol) return null;
  const candidates = newestOf(sheets).filter((index) => {
    const places = protocol.placesOf(index);
    return identityReads(station.station, index, places).length > 0;
  });
  const ask = (): void => {
    if (!drive) return;
    setAsked(
      candidates.map((index) => ({
        slug: index.sheet.slug,
        tickets: identityReads(station.station, index, protocol.placesOf(index)).map((bytes) =>
          bench.send(drive, bytes, 'who is it'),
        ),
      })),
    );
  };
  const seenOf = (index: SheetIndex) => {
    const tickets = asked.find(({ slug }) => slug === index.sheet.slug)?.tickets ?? [];
    const places = protocol.placesOf(index);
    const told = new Map(
      tickets.flatMap((ticket) => {
        const result = results.get(ticket);
        return result ? learnedFrom(result, places) : [];
      }),
    );
    return (cell: Cell) => {
      const word = told.get(cell);
      return word === undefined ? undefined : { word, atUs: 0 };
    };
  };
  const isAnswered = asked.length > 0 && asked.every(({ tickets }) => tickets.every((ticket) => results.has(ticket)));
  const fits = isAnswered ? fittingSheets(candidates, seenOf) : [];
  const give = ({ sheet: { slug, revision } }: SheetIndex): void =>
    void bench.changeJob((job) =>
      withStation(job, line.id, station.station, (own) => ({ ...own, sheet: { slug, revision } })),
    );
  return (
    <Panel
      title={`Who is ${name}?`}
      aside="it has no sheet; each sheet’s identity is read from it, which moves nothing"
    >
      <ActButton
        variant="outlined"
        off={whyOff([!isOpen, LINE_CLOSED], [candidates.length === 0, 'no sheet speaks the language of this line'])}
        onClick={ask}
      >
        Ask which of {candidates.length} sheets fits
      </ActButton>
      {asked.length > 0 && !isAnswered && <p role="status">asked …</p>}
      {fits.length > 0 && (
        <table className={styles.table} aria-label="Sheets by how well they fit">
          <tbody>
            {fits.map((fit) => (
              <tr key={fit.index.sheet.slug}>
                <td>{fit.index.sheet.name}</td>
                <td>{MARK[fit.verdict]}</td>
                <td>{fitText(fit)}</td>
                <td>
                  <ActButton variant="outlined" off="" onClick={() => give(fit.index)}>
                    Give it {fit.index.sheet.name}
                  </ActButton>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {isAnswered && fits.every(({ verdict }) => verdict !== 'fits') && (
        <p>
          None fits wholly.{' '}
          <ActButton variant="outlined" color="inherit" off="" onClick={() => goTo('/sheets')}>
            Make a sheet for it
          </ActButton>
        </p>
      )}
    </Panel>
  );
}
