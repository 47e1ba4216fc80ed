'use client';

import styles from './other-readings.module.css';

interface OtherReadingsProps {
  /** How the text was read. */
  readonly said: string;
  /** What else it may mean: the words for it, and the text that says so without doubt. */
  readonly others: readonly { readonly label: string; readonly text: string }[];
  readonly onTake: (text: string) => void;
}

/** Under a field: what was made of its text, and what else it may mean, each to be taken with a press. */
export const OtherReadings = ({ said, others, onTake }: OtherReadingsProps) => (
  <>
    {said}
    {others.map(({ label, text }) => (
      <span key={text}>
        {'; or '}
        <button type="button" className={styles.other} onClick={() => onTake(text)}>
          {label}
        </button>
      </span>
    ))}
  </>
);

/** The same for a word of which the base was left open. */
export const OtherBases = ({
  parsed,
  onTake,
}: {
  readonly parsed: { readonly text: string; readonly others: readonly { readonly text: string }[] };
  readonly onTake: (text: string) => void;
}) => (
  <OtherReadings said={parsed.text} others={parsed.others.map(({ text }) => ({ label: text, text }))} onTake={onTake} />
);
