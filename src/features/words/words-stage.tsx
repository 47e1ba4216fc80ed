'use client';

import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { knownIn, liveOf, liveText } from '../../bench/state/known-state';
import { OUTCOME_TEXT } from '../../bench/state/outcome-text';
import { useCurrent } from '../../bench/hooks/use-current';
import { useBeginSheet } from '../../bench/hooks/use-begin-sheet';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import { useWatch } from '../../bench/hooks/use-watch';
import { useWrite } from '../../bench/hooks/use-write';
import { useTyped } from '../../bench/hooks/use-typed';
import { hexNumber } from '../../core/bytes/hex';
import { mayTurn } from '../../core/drive/request-effect';
import { motionCautions } from '../../core/drive/motion-cautions';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { BeginSheetPanel } from '../../ui/begin-sheet-panel';
import { StageHead } from '../../ui/panel';
import { targetOf } from './target';
import { WatchButtons } from '../../ui/watch-buttons';
import { UnreadForm, useUnread } from '../../ui/unread';
import { useKeys } from '../../ui/use-keys';
import { useSteady } from '../../ui/use-steady';
import { Looks } from './looks';
import { ControlPanel } from './control-panel';
import { JogPanel } from './jog-panel';
import { ModePanel } from './mode-panel';
import { NoStopPanel } from './no-stop-panel';
import { ProfileWordPanel } from './profile-word';
import { ReferencePanel } from './reference-panel';
import styles from './words.module.css';

/** Words: the control word as switches, the status word in words, the speed that is wanted. */
export function WordsStage() {
  const bench = useBench();
  const { line, station, index, view, key, name, isOpen } = useCurrent();
  const opening = useOpenLine(line);
  const send = useWrite('Words');
  const watch = useWatch('Words');
  const nowUs = useBenchState((state) => state.nowUs);
  const typedWord = useDrafts((drafts) => drafts.words.get(key));
  const reference = useDrafts((drafts) => drafts.references.get(key) ?? '');
  const ticket = useDrafts((drafts) => drafts.asked.words.get(key) ?? 0);
  const outcome = useBenchState((state) => state.results.get(ticket)?.outcome ?? null);
  const [typedTarget] = useTyped('target position', key, 'counts', '');
  const drafts = bench.drafts.getState();

  const ready = index?.commands[0]?.word ?? 0;
  const word = typedWord ?? liveOf(index, view, 'control-word')?.word ?? ready;
  const cautions = index
    ? motionCautions({ control: word }, index, (role) => liveOf(index, view, role)?.word)
    : { contradictions: [], warnings: [] };
  const target = index ? targetOf(index, view, typedTarget) : null;
  const isPositioning = index?.profile?.takes === 'position';
  const startsElsewhere =
    index && isPositioning && target?.differs === true && mayTurn({ control: word }, index)
      ? `The target typed here, ${target.typed}, is not the one that the drive holds, ${target.held ?? 'which is not read yet'}: send the target first.`
      : '';
  const unread = useUnread();
  const noStop = useNoStop(index);
  const begin = useBeginSheet();
  const turns = index !== null && mayTurn({ control: word }, index);
  const cannotStop = turns ? noStop.off : '';
  const blocked =
    cannotStop !== '' || cautions.contradictions.length > 0 || startsElsewhere !== '' || unread.why !== '';

  const write = (role: ParameterRole, value: number | readonly number[]): void => {
    const asked = send(role, value);
    if (asked !== 0) drafts.setAsked('words', key, asked);
  };
  const sendWord = useSteady(() => {
    if (!blocked) write('control-word', word);
  });
  const sendReference = useSteady((words: readonly number[]) => write('speed-reference', words));
  useKeys({ 'Ctrl+Enter': sendWord });

  if (!line || !station || !index?.words)
    return (
      <div className={styles.stack}>
        <StageHead
          title={station ? `Words of ${name}` : 'Words'}
          aside={
            station
              ? 'no sheet says what the words of this station mean: begin one here, or make one in Sheets from its manual’s tables'
              : 'choose a line and a station in Job to command a drive'
          }
        />
        {begin && <BeginSheetPanel {...begin} />}
        <ProfileWordPanel />
      </div>
    );

  return (
    <div className={styles.stack}>
      <StageHead
        title={`${station.name[0]?.toUpperCase()}${station.name.slice(1)}, station ${station.station}`}
        aside={
          <>
            {index.profile && index.sheet.profile?.kind !== 'own' ? index.profile.name : 'plain-bit words'}, sheet{' '}
            {index.sheet.name}
            {ticket !== 0 && (
              <>
                {' · '}
                <strong
                  className={outcome === 'answered' ? styles.good : outcome ? styles.bad : ''}
                  data-testid="word-outcome"
                >
                  {outcome ? OUTCOME_TEXT[outcome] : 'waiting for the drive …'}
                </strong>
              </>
            )}
          </>
        }
      >
        {isOpen ? (
          <WatchButtons watching={watch.watching} onReadOnce={watch.readOnce} onToggle={watch.toggle} />
        ) : (
          <ActButton variant="outlined" color="inherit" off={opening.off} onClick={opening.open}>
            Open line {line.name}
          </ActButton>
        )}
        <ActButton
          variant="contained"
          onClick={sendWord}
          off={whyOff([!isOpen, LINE_CLOSED], [cannotStop !== '', cannotStop], [blocked, 'see below'])}
          aria-keyshortcuts="Control+Enter"
        >
          Send {hexNumber(word, index.words.control.width / 4)} to {name}&nbsp;<kbd>Ctrl Enter</kbd>
        </ActButton>
      </StageHead>
      <div className={styles.columns}>
        <div className={styles.stack}>
          <NoStopPanel index={index} name={name} />
          <UnreadForm unread={unread}>
            <ControlPanel
              key={key}
              index={index}
              word={word}
              last={liveOf(index, view, 'control-word')}
              nowUs={nowUs}
              cautions={[
                ...(unread.why === '' ? [] : [unread.why]),
                ...cautions.contradictions.map((text) => `${text}: this word is not sent.`),
                ...(startsElsewhere === '' ? [] : [startsElsewhere]),
                ...cautions.warnings,
              ]}
              onWord={(next) => drafts.setWord(key, next)}
            />
          </UnreadForm>
          {isPositioning && <ModePanel index={index} />}
          {!isPositioning && (
            <ReferencePanel
              index={index}
              text={reference}
              last={liveText(index, view.values, 'speed-reference')}
              nowUs={nowUs}
              canSend={isOpen}
              known={(role) => liveOf(index, view, role)?.word}
              knownNumber={knownIn(index, view.values)}
              targetName={name}
              onText={(text) => drafts.setReference(key, text)}
              onSend={sendReference}
            />
          )}
          {!isPositioning && <ModePanel index={index} />}
          <JogPanel key={key} index={index} />
        </div>
        <div className={styles.stack}>
          <Looks index={index} />
        </div>
      </div>
    </div>
  );
}
