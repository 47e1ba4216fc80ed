'use client';

import { useForm } from '../../bench/hooks/use-typed';
import { hexNumber } from '../../core/bytes/hex';
import { CIA402_MODES, cia402 } from '../../core/profile/cia402';
import { statesOf, type Profile } from '../../core/profile/profile';
import { PROFIDRIVE } from '../../core/profile/profidrive';
import { parseWord } from '../../core/words/parse-word';
import { ChoiceField, TypedField } from '../../ui/fields';
import { OtherBases } from '../../ui/other-readings';
import { Panel } from '../../ui/panel';
import { SwitchRows, WordBases } from '../../ui/switch-rows';
import styles from './words.module.css';

/** The published profiles, each mode of CiA 402 with its own meaning of the free bits. */
const PROFILES: readonly (readonly [string, string, Profile])[] = [
  ...CIA402_MODES.map((mode) => {
    const profile = cia402(mode);
    return [`cia402 ${mode}`, profile.name, profile] as const;
  }),
  ['profidrive', PROFIDRIVE.name, PROFIDRIVE],
];
const WORDS = [
  ['status', 'status word'],
  ['control', 'control word'],
] as const;
const NO_CHANGE: ReadonlySet<number> = new Set();

/** Any word by a published profile: from a manual, a trace or a colleague's message, with no job, no line and no sheet. */
export function ProfileWordPanel() {
  const { text: field, put: set } = useForm('any word');
  const [chosen, , profile] = PROFILES.find(([id]) => id === field('profile', '')) ?? PROFILES[0] ?? [];
  if (!profile) return null;
  const which = field('which', 'status') === 'control' ? 'control' : 'status';
  const spec = profile[which];
  const text = field('text', '');
  const parsed = text.trim() === '' ? null : parseWord(text, spec.width);
  const word = parsed?.value ?? null;
  return (
    <Panel title="Any word by a published profile" aside="needs no drive, no line and no sheet">
      <div className={styles.ready}>
        <ChoiceField
          label="profile"
          width={250}
          value={chosen ?? ''}
          onChange={(id) => set('profile', id)}
          options={PROFILES.map(([id, name]) => [id, name] as const)}
        />
        <ChoiceField label="it is a" width={140} value={which} onChange={(id) => set('which', id)} options={WORDS} />
        <TypedField
          label="the word, any base"
          width={190}
          value={text}
          onChange={(next) => set('text', next)}
          error={parsed && word === null ? parsed.text : ''}
          note={parsed && <OtherBases parsed={parsed} onTake={(next) => set('text', next)} />}
        />
      </div>
      {word !== null && (
        <>
          <div className={styles.word}>
            <span>{hexNumber(word, spec.width / 4)}</span>
            <WordBases word={word} width={spec.width} />
          </div>
          <p data-testid="any-word">{which === 'status' ? stateText(profile, word) : commandText(profile, word)}</p>
          <SwitchRows label="Bits of the word" spec={spec} word={word} changed={NO_CHANGE} />
        </>
      )}
    </Panel>
  );
}

const stateText = (profile: Profile, status: number): string => {
  const states = statesOf(profile, status);
  return states.length === 0 ? 'No state looks like this.' : states.map(({ name }) => name).join(' or ');
};

const commandText = ({ commands }: Profile, control: number): string =>
  commands.find(({ word }) => word === control)?.name ?? 'None of the usual words; its bits say what it asks for.';
