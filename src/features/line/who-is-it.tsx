'use client';

import { useEffect, useRef, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { goTo } from '../../bench/hooks/go-to';
import { ask, askingOf } from '../../bench/procedures/ask-drive';
import { identityReads } from '../../bench/procedures/watch-reads';
import { withStation } from '../../core/job/job';
import { fittingSheets, fitText, type Fit } from '../../core/drive/fitting';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { Cell } from '../../core/sheet/place';
import { newestOf } from '../../core/sheet/shelf';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';

const MARK: Readonly<Record<Fit['verdict'], string>> = {
  fits: '✓ fits',
  part: '≈ in part',
  other: '✗ another',
  silent: '· silent',
};

/** What was told so far, by the sheet that asked for it; and why it ended before its end. */
interface Asked {
  readonly told: ReadonlyMap<string, ReadonlyMap<Cell, number>>;
  readonly isOver: boolean;
  readonly why: string;
}

/** A station without a sheet is asked what each sheet would ask it about itself; those that fit are offered. Reads only. */
export function WhoIsIt() {
  const bench = useBench();
  const { line, station, drive, name, protocol, isOpen } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const [asked, setAsked] = useState<Asked | null>(null);
  // Another drive, or none: the rest is not asked.
  const isLeft = useRef(false);
  useEffect(() => {
    isLeft.current = false;
    return () => void (isLeft.current = true);
  }, []);
  if (!line || !station || station.sheet || !protocol) return null;
  const candidates = newestOf(sheets).filter((index) => {
    const places = protocol.placesOf(index);
    return identityReads(station.station, index, places).length > 0;
  });
  const askAll = async (): Promise<void> => {
    if (!drive) return;
    const told = new Map<string, ReadonlyMap<Cell, number>>();
    const say = (isOver: boolean, why = ''): void => setAsked({ told: new Map(told), isOver, why });
    say(false);
    for (const index of candidates) {
      const asking = askingOf(bench, drive, index);
      const own = new Map<Cell, number>();
      for (const bytes of asking ? identityReads(drive.station, index, asking.places) : []) {
        if (!asking || isLeft.current) return;
        const heard = await ask(bench, asking, bytes, 'who is it');
        if (heard.kind === 'ended') return say(true, heard.why);
        if (heard.kind === 'told') heard.told.forEach((word, cell) => own.set(cell, word));
      }
      told.set(index.sheet.slug, own);
      say(false);
    }
    say(true);
  };
  const seenOf = (index: SheetIndex) => (cell: Cell) => {
    const word = asked?.told.get(index.sheet.slug)?.get(cell);
    return word === undefined ? undefined : { word, atUs: 0 };
  };
  const isAnswered = asked?.isOver === true && asked.why === '';
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
        off={whyOff(
          [!isOpen, LINE_CLOSED],
          [candidates.length === 0, 'no sheet speaks the language of this line'],
          [asked?.isOver === false, 'it is being asked'],
        )}
        onClick={() => void askAll()}
      >
        Ask which of {candidates.length} sheets fits
      </ActButton>
      {asked && !isAnswered && (
        <p role="status">
          {asked.why === ''
            ? `asked what ${asked.told.size} of ${candidates.length} sheets ask …`
            : `Ended after ${asked.told.size} of ${candidates.length} sheets: ${asked.why}.`}
        </p>
      )}
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
