'use client';

import { goTo } from '../../bench/hooks/go-to';
import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import { startDoctor } from '../../bench/workers/ask-doctor';
import { useBench } from '../../bench/bench-context';
import type { BenchState } from '../../bench/state/bench-state';
import { useCurrent } from '../../bench/hooks/use-current';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import { useHarmless } from '../../bench/hooks/use-harmless';
import { useForm } from '../../bench/hooks/use-typed';
import { settingsText } from '../../core/line/settings';
import type { NextAct } from '../../core/doctor/causes';
import type { Suspect } from '../../core/doctor/diagnose';
import type { SweptLine } from '../../core/doctor/observe';
import { troubleOf } from '../../link/line-life';
import { PROVES_LINK, type SweepState } from '../../link/sweep-run';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';
import { showEnds } from './show-ends';

/** The trace is read again this often while the doctor is looked at. */
const EVERY_MS = 500;
/** More than these explain less than they confuse. */
const MOST = 4;

/** So many of the line's newest entries are looked at. */
const WINDOW = 600;

/** A sweep that went through its whole list; a broken-off one says nothing of what it did not try. */
function sweptBy(sweep: SweepState | null): SweptLine | null {
  if (!sweep || sweep.kind === 'everything' || sweep.running || sweep.done < sweep.total) return null;
  const answered = sweep.found.filter(({ outcome }) => PROVES_LINK.has(outcome)).map(({ station }) => station);
  return { kind: sweep.kind, tried: sweep.total, answered };
}

function questionOf(state: BenchState, { line, lineState, index }: ReturnType<typeof useCurrent>) {
  if (!line) return null;
  const { session, station, nowUs } = state;
  const entries = state.entries.filter((entry) => entry.line === line.id && entry.session === session).slice(-WINDOW);
  return {
    entries,
    sheet: index?.sheet ?? null,
    protocol: line.protocol,
    context: {
      line: line.id,
      session,
      station,
      medium: line.far === 'tcp' ? 'tcp' : 'serial',
      settings: line.far === 'tcp' ? null : (line.serial ?? null),
      open: lineState?.open === true,
      troubleKind: troubleOf(lineState?.life)?.kind ?? null,
      trouble: troubleOf(lineState?.life)?.text ?? '',
      nowUs,
      sweep: sweptBy(lineState?.sweep ?? null),
    },
  } as const;
}

/** Likely reasons for what the line shows, best first, each with its evidence and what to try next. */
export function DoctorPart() {
  const bench = useBench();
  const current = useCurrent();
  const { line, name, isOpen } = current;
  const [suspects, setSuspects] = useState<readonly Suspect[] | null>(null);
  const tried = useForm('doctor', line?.id);
  const latest = useRef(current);
  useEffect(() => {
    latest.current = current;
  });
  useEffect(() => {
    const doctor = startDoctor((next) =>
      setSuspects((known) => (JSON.stringify(known) === JSON.stringify(next) ? known : next)),
    );
    const ask = (): void => {
      const question = questionOf(bench.state.getState(), latest.current);
      if (question && !doctor.isBusy()) doctor.ask(question);
    };
    ask();
    const timer = setInterval(ask, EVERY_MS);
    return () => {
      clearInterval(timer);
      doctor.leave();
    };
  }, [bench]);
  const wasTried = ({ id }: Suspect): boolean => tried.text(id) === 'tried';
  const putAside = (id: string, aside: boolean): void => tried.put(id, aside ? 'tried' : '');
  if (suspects === null) return <Panel title="Looking at the trace …">The doctor reads the newest entries.</Panel>;
  const inOrder = [...suspects.filter((one) => !wasTried(one)), ...suspects.filter(wasTried)];
  return (
    <Panel
      title={suspects.length > 0 ? `Why ${line?.name ?? 'the line'} fails, most likely first` : 'Nothing wrong is seen'}
      aside="from the trace and the settings of this session"
    >
      {suspects.length === 0 && (
        <p>
          {isOpen
            ? `As far as the trace tells, this line works. Ask ${name} something in Both ends to have more to judge by.`
            : 'The line is closed. Open it and ask for a status in Both ends; what comes back, or does not, is the evidence.'}
        </p>
      )}
      <div aria-live="polite">
        {inOrder.slice(0, MOST).map((suspect, i) => (
          <SuspectRow
            key={suspect.id}
            suspect={suspect}
            rank={i + 1}
            isAside={wasTried(suspect)}
            onAside={(aside) => putAside(suspect.id, aside)}
          />
        ))}
      </div>
    </Panel>
  );
}

interface SuspectRowProps {
  readonly suspect: Suspect;
  readonly rank: number;
  /** The user tried it, and that was not it. */
  readonly isAside: boolean;
  readonly onAside: (aside: boolean) => void;
}

function SuspectRow({ suspect, rank, isAside, onAside }: SuspectRowProps) {
  const { id, title, evidence, next, act } = suspect;
  return (
    <section className={styles.suspect} data-cause={id}>
      <span className={styles.mono}>{rank}</span>
      <div>
        <h3>
          {title}
          {isAside && <span className={styles.soft}> · tried, that was not it</span>}
        </h3>
        <ul>
          {evidence.map(({ text, entry }) => (
            <li key={text}>
              {text}
              {entry >= 0 && <span className={styles.soft}> (trace entry {entry})</span>}
            </li>
          ))}
        </ul>
        <div>
          <strong>Next:</strong> {next}
        </div>
      </div>
      <div className={styles.act}>
        <NextPress act={act} />
        <Button variant="text" color="inherit" onClick={() => onAside(!isAside)}>
          {isAside ? 'Look at it again' : 'Done, that was not it'}
        </Button>
      </div>
    </section>
  );
}

/** The press that does what is advised, where the tool can do it. */
function NextPress({ act }: { readonly act: NextAct }) {
  const bench = useBench();
  const { line, station, isOpen, name } = useCurrent();
  const harmless = useHarmless();
  const opening = useOpenLine(line);
  const part = bench.drafts.getState().setLinePart;
  if (!line) return null;
  const press = (text: string, run: () => void, off = '') => (
    <ActButton variant="contained" color="secondary" off={off} onClick={run}>
      {text}
    </ActButton>
  );
  switch (act.kind) {
    case 'none':
      return <span className={styles.soft}>by hand</span>;
    case 'open':
      return press(`Open ${line.name}`, opening.open, isOpen ? 'it is open' : opening.off);
    case 'ask': {
      const bytes = harmless();
      return press(
        `Ask ${name} again`,
        () => station && bench.send({ line: line.id, station: station.station }, bytes, 'Line'),
        whyOff([!isOpen, LINE_CLOSED], [bytes.length === 0, 'nothing harmless is known to ask it']),
      );
    }
    case 'set-end':
      return press(`Set this end to ${settingsText(act.settings)}`, () => {
        bench.setEnd(line.id, act.settings);
        showEnds(bench, line.id, act.settings);
      });
    case 'sweep-settings':
    case 'sweep-stations':
      return press(act.kind === 'sweep-settings' ? 'Try the usual settings …' : 'Try all stations …', () =>
        part('sweep'),
      );
    case 'show':
      return press(SHOW_TEXT[act.part], () => (act.part === 'words' ? goTo('/words') : part(act.part)));
  }
}

const SHOW_TEXT: Readonly<Record<Extract<NextAct, { kind: 'show' }>['part'], string>> = {
  ends: 'Show both ends',
  keypad: 'Show the keypad card',
  cable: 'Show the cable',
  ip: 'Show the addresses',
  words: 'Show why it does not run',
};
