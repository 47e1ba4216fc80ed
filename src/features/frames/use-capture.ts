'use client';

import * as v from 'valibot';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { saveFile } from '../../bench/ask-file-worker';
import { useBenchState } from '../../bench/bench-context';
import { framesWorker } from '../../bench/frames-worker';
import type { FrameFilter } from '../../core/capture/frame-index';
import type { CapturePlan, CaptureProtocol } from '../../core/capture/read-capture';
import { guessMapping, logRecord, type LogMapping } from '../../core/capture/text-log';
import type { CaptureRow, FramesAnswer } from '../../store/frames-messages';

export interface Setup {
  readonly form: CapturePlan['form'];
  readonly protocol: CaptureProtocol;
  /** The sheet whose dialect is read. */
  readonly sheet: string;
  readonly ports: string;
  readonly gapMs: string;
  readonly mapping: LogMapping;
}

const FIRST: Setup = {
  form: 'binary',
  protocol: 'modbus-rtu',
  sheet: '',
  ports: '502',
  gapMs: '4',
  mapping: { separator: 'blanks', timeColumn: 0, timeUnit: 's', directionColumn: 0, requestMark: '', bytesColumn: 1 },
};

/** The user's last choices are kept in the browser, so that tomorrow's log of the same kind opens by itself. */
const REMEMBERED = 'bujo capture mapping';

const RememberedSchema = v.object({
  protocol: v.picklist(['modbus-rtu', 'modbus-ascii', 'modbus-tcp', 'uss', 'dialect']),
  sheet: v.string(),
  ports: v.string(),
  gapMs: v.string(),
  mapping: v.object({
    separator: v.picklist(['blanks', 'tab', 'comma', 'semicolon']),
    timeColumn: v.number(),
    timeUnit: v.picklist(['s', 'ms', 'us']),
    directionColumn: v.number(),
    requestMark: v.string(),
    bytesColumn: v.number(),
  }),
});

/** What was kept, if it still has its form: storage can hold anything. */
function remembered(): Partial<Setup> {
  try {
    const parsed = v.safeParse(RememberedSchema, JSON.parse(localStorage.getItem(REMEMBERED) ?? '{}'));
    return parsed.success ? parsed.output : {};
  } catch {
    return {};
  }
}

/** TCP ports as typed; null where one of them is none. */
export function portsIn(text: string): readonly number[] | null {
  const ports = text
    .split(/[\s,]+/)
    .filter((part) => part !== '')
    .map((part) => (/^\d{1,5}$/.test(part) ? Number(part) : 0));
  return ports.length > 0 && ports.every((port) => port > 0 && port < 65536) ? ports : null;
}

/** A silence in milliseconds as typed, as microseconds; null where it is none. */
export const gapIn = (text: string): number | null =>
  /^\s*\d{1,6}(?:\.\d+)?\s*$/.test(text) ? Number(text) * 1000 : null;

/** The remembered columns where they read as many of the lines as the guess does. */
function bestMapping(lines: readonly string[], kept: LogMapping | undefined): LogMapping {
  const guess = guessMapping(lines);
  const read = (mapping: LogMapping): number => lines.filter((line) => logRecord(line, mapping) !== null).length;
  return kept && read(kept) >= read(guess) ? kept : guess;
}

type Opened = Extract<FramesAnswer, { kind: 'opened' }>;

/** A capture that is open in the worker, as the page sees it. */
export function useCapture() {
  const sheets = useBenchState((state) => state.sheets);
  const [file, setFile] = useState<File | null>(null);
  const [lines, setLines] = useState<readonly string[]>([]);
  const [setup, setSetupNow] = useState<Setup>(FIRST);
  const [progress, setProgress] = useState<{ readonly read: number; readonly size: number } | null>(null);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [found, setFound] = useState<{
    readonly count: number;
    readonly looked: number;
    readonly over: boolean;
  } | null>(null);
  const [filter, setFilterNow] = useState<FrameFilter>({});
  const [text, setTextNow] = useState('');
  const [trouble, setTrouble] = useState('');
  const [listKey, setListKey] = useState(0);
  const waiting = useRef(new Map<number, (rows: readonly CaptureRow[]) => void>());
  const nextAsk = useRef(1);

  const ask = useCallback((next: FrameFilter, words: string): void => {
    framesWorker().ask({ kind: 'filter', filter: next, text: words });
    setListKey((key) => key + 1);
  }, []);

  const open = useCallback(
    (chosen: File, how: Setup): void => {
      const { form, protocol, ports, gapMs, mapping, sheet } = how;
      const dialect = sheets.get(sheet)?.sheet.dialect;
      const [named, gapUs] = [portsIn(ports), gapIn(gapMs)];
      // The field says what is wrong; what was read before stays open until it is right.
      if (!named || gapUs === null) return;
      const plan: CapturePlan = {
        form,
        protocol,
        ports: named,
        gapUs,
        mapping,
        ...(dialect ? { dialect } : {}),
      };
      setOpened(null);
      setFound(null);
      setFilterNow({});
      setTextNow('');
      setTrouble('');
      setProgress({ read: 0, size: chosen.size });
      framesWorker().ask({ kind: 'open', file: chosen, plan });
    },
    [sheets],
  );

  useEffect(
    () =>
      framesWorker().listen((answer) => {
        switch (answer.kind) {
          case 'progress':
            return setProgress(answer);
          case 'opened':
            setOpened(answer);
            setProgress(null);
            return ask({}, '');
          case 'filtered':
            return setFound(answer);
          case 'rows':
            waiting.current.get(answer.ask)?.(answer.rows);
            waiting.current.delete(answer.ask);
            return;
          case 'file':
            return saveFile(answer.blob, `capture.${answer.ending}`);
          case 'trouble':
            setProgress(null);
            return setTrouble(answer.text);
          default:
            return;
        }
      }),
    [ask],
  );

  const choose = useCallback(
    (chosen: File): void => {
      setFile(chosen);
      const end = framesWorker().listen((answer) => {
        if (answer.kind !== 'sample') return;
        end();
        setLines(answer.lines);
        const kept = remembered();
        const isDump = answer.lines
          .slice(0, 20)
          .every((line) => line === '' || /^(?:[0-9a-f]{4,16}[:\s])?\s*(?:[0-9a-f]{2,4}[\s|]+){2}/i.test(line));
        const form = answer.packets
          ? 'packets'
          : !answer.printable
            ? 'binary'
            : isDump
              ? 'hex-dump'
              : answer.lines.some((line) => line.startsWith(':'))
                ? 'binary'
                : 'text-log';
        const protocol = form === 'packets' ? 'modbus-rtu' : (kept.protocol ?? 'modbus-rtu');
        const next: Setup = {
          ...FIRST,
          ...kept,
          form,
          protocol,
          mapping: form === 'text-log' ? bestMapping(answer.lines, kept.mapping) : FIRST.mapping,
        };
        setSetupNow(next);
        open(chosen, next);
      });
      framesWorker().ask({ kind: 'sample', file: chosen });
    },
    [open],
  );

  return useMemo(
    () => ({
      file,
      lines,
      setup,
      progress,
      opened,
      found,
      filter,
      text,
      trouble,
      listKey,
      choose,
      setSetup: (next: Setup): void => {
        setSetupNow(next);
        localStorage.setItem(REMEMBERED, JSON.stringify(next));
        if (file) open(file, next);
      },
      setFilter: (next: FrameFilter, words: string): void => {
        setFilterNow(next);
        setTextNow(words);
        ask(next, words);
      },
      cancel: (): void => {
        framesWorker().ask({ kind: 'close' });
        setProgress(null);
        setTrouble('reading was ended before the file was through');
      },
      save: (form: 'pcapng' | 'csv' | 'jsonl'): void => framesWorker().ask({ kind: 'export', form }),
      rows: (from: number, count: number): Promise<readonly CaptureRow[]> =>
        new Promise((resolve) => {
          const number = nextAsk.current++;
          waiting.current.set(number, resolve);
          framesWorker().ask({ kind: 'rows', ask: number, from, count });
        }),
    }),
    [ask, choose, file, filter, found, lines, listKey, open, opened, progress, setup, text, trouble],
  );
}

export type OpenCaptureView = ReturnType<typeof useCapture>;
