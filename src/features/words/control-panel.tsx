'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { hexNumber } from '../../core/bytes/hex';
import { parseWord } from '../../core/words/parse-word';
import { compareWords } from '../../core/words/read';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { LiveValue } from '../../bench/state/live-values';
import { ageText } from '../../ui/format';
import { Panel, Warning } from '../../ui/panel';
import { SwitchRows, WordBases } from '../../ui/switch-rows';
import { OtherBases } from '../../ui/other-readings';
import { useSayUnread } from '../../ui/unread';
import styles from './words.module.css';

interface ControlPanelProps {
  readonly index: SheetIndex;
  readonly word: number;
  readonly last: LiveValue | null;
  readonly nowUs: number;
  readonly cautions: readonly string[];
  readonly onWord: (word: number) => void;
}

/** The control word as switches, with the words that people keep ready, and what will change against the word last sent. */
export function ControlPanel({ index, word, last, nowUs, cautions, onWord }: ControlPanelProps) {
  const { words, commands } = index;
  if (!words) return null;
  const changes = last ? compareWords(words.control, last.word, word) : [];
  return (
    <Panel
      title="▸ Control word"
      aside={
        last
          ? `last seen ${hexNumber(last.word, words.control.width / 4)}, ${ageText(nowUs - last.atUs)}`
          : 'the drive’s present word is not known yet'
      }
    >
      <div className={styles.ready}>
        {commands.map((command) => (
          <Button
            key={command.id}
            variant="outlined"
            color={command.word === word ? 'primary' : 'inherit'}
            title={command.note}
            onClick={() => onWord(command.word)}
            aria-pressed={command.word === word}
          >
            {command.name}
          </Button>
        ))}
        <WordEntry word={word} width={words.control.width} onWord={onWord} />
      </div>
      <div className={styles.word}>
        <span data-testid="control-word">{hexNumber(word, words.control.width / 4)}</span>
        <WordBases word={word} width={words.control.width} />
      </div>
      <SwitchRows
        label="Bits of the control word"
        spec={words.control}
        word={word}
        changed={new Set(changes.map(({ bit }) => bit))}
        onWord={onWord}
      />
      {cautions.map((text) => (
        <Warning key={text}>{text}</Warning>
      ))}
    </Panel>
  );
}

const LABEL = 'type a word, any base';

/** A word typed or pasted in any base: 0x000D, 000Dh, 0b1101, 13. It stays while it says what the switches say, or is refused. */
function WordEntry({
  word,
  width,
  onWord,
}: {
  readonly word: number;
  readonly width: number;
  readonly onWord: (word: number) => void;
}) {
  const [typed, setTyped] = useState({ text: '', over: word });
  const read = typed.text.trim() === '' ? null : parseWord(typed.text, width);
  const parsed = read && (read.value === word || typed.over === word) ? read : null;
  useSayUnread(LABEL, parsed !== null && parsed.value !== word);
  const take = (text: string): void => {
    setTyped({ text, over: word });
    const next = parseWord(text, width).value;
    if (next !== null && next !== word) onWord(next);
  };
  return (
    <TextField
      label={LABEL}
      value={parsed ? typed.text : ''}
      error={parsed !== null && parsed.value === null}
      helperText={parsed ? <OtherBases parsed={parsed} onTake={take} /> : ''}
      onChange={(event) => take(event.target.value)}
      sx={{ width: 170 }}
    />
  );
}
