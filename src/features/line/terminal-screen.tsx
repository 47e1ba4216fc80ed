'use client';

import { Terminal } from '@xterm/xterm';
import '@xterm/xterm/css/xterm.css';
import { useEffect, useRef } from 'react';
import { useBench } from '../../bench/bench-context';
import { incoming } from '../../core/line/terminal-text';
import { MONO_FACE } from '../../ui/tokens';
import { colour } from '../../ui/colour';
import styles from './line.module.css';
import { muteTerminal } from './mute-terminal';

interface ScreenProps {
  readonly line: string;
  readonly canType: boolean;
  readonly into: string;
  readonly echo: boolean;
  readonly onType: (text: string) => void;
}

const ROWS = 16;
const COLUMNS = 96;

/** The screen itself: what came is written to it, what is typed goes out. */
export function TerminalScreen({ line, canType, into, echo, onType }: ScreenProps) {
  const bench = useBench();
  const place = useRef<HTMLDivElement>(null);
  const latest = useRef({ canType, into, echo, onType });
  useEffect(() => {
    latest.current = { canType, into, echo, onType };
  });
  useEffect(() => {
    if (!place.current) return;
    const terminal = new Terminal({
      rows: ROWS,
      cols: COLUMNS,
      scrollback: 5000,
      fontFamily: MONO_FACE,
      fontSize: 14,
      cursorBlink: false,
      screenReaderMode: true,
      theme: {
        background: colour('byte'),
        foreground: colour('ink'),
        cursor: colour('copper'),
        selectionBackground: colour('copperWash'),
      },
    });
    muteTerminal(terminal);
    terminal.open(place.current);
    let shown = -1;
    const { session } = bench.state.getState();
    const write = (): void => {
      for (const entry of bench.state.getState().entries) {
        if (entry.session !== session || entry.sequence <= shown || entry.line !== line) continue;
        shown = entry.sequence;
        if (entry.direction === 'received') terminal.write(incoming(entry.bytes, latest.current.into));
      }
    };
    write();
    const end = bench.state.subscribe((state, before) => {
      if (state.entries !== before.entries) write();
    });
    const typed = terminal.onData((text) => {
      if (!latest.current.canType) return;
      if (latest.current.echo) terminal.write(text.replaceAll('\r', '\r\n'));
      latest.current.onType(text);
    });
    return () => {
      end();
      typed.dispose();
      terminal.dispose();
    };
  }, [bench, line]);
  return <div ref={place} className={styles.screen} data-takes-keys data-testid="terminal" />;
}
