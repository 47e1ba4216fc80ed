'use client';

import { useEffect, useMemo } from 'react';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { turningOf } from '../../bench/state/known-state';
import { useCurrent } from '../../bench/hooks/use-current';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import { characterUs, frameGapUs, type SerialSettings } from '../../core/line/settings';
import type { ModbusMessage } from '../../core/modbus/message';
import { tableOfFunction } from '../../core/modbus/touched';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { registerName } from '../../core/protocol/annotate-modbus';
import { parameterIn } from '../../core/protocol/annotate-uss';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { channelWords } from '../../core/uss/parameter';
import { netWords, readUss } from '../../core/uss/telegram';
import { objectionsTo } from '../../core/drive/limits';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel, StageHead, Warning } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { useKeys } from '../../ui/use-keys';
import { startFrame } from './start-frame';
import styles from './frames.module.css';
import { KeepTools } from './keep-tools';
import { ParameterNotes } from './parameter-notes';
import { PastedPanel } from './pasted-panel';
import { ReplyPanels } from './reply-panels';
import { RequestPanel } from './request-panel';
import { useFrameView } from './use-frame-view';
import { WhereAddress, WhereValue } from './where-from';

const NO_BYTES = new Uint8Array(0);
/** What is said of the reply's time where no sheet says it. */
const DEFAULT_REPLY_MS = 200;

const ms = (us: number): string => (us / 1000).toFixed(1);

const onTheLine = (size: number, serial: SerialSettings | undefined): string =>
  serial ? ` · ${ms(size * characterUs(serial))} ms on the line, then ${ms(frameGapUs(serial))} ms of silence` : '';

/** What a request is about, as notes name it; empty where it names no place. */
function placeIn(
  message: ModbusMessage | null,
  bytes: Uint8Array,
  family: LineProtocol['family'],
  index: SheetIndex | null,
): string {
  if (family === 'uss') {
    const { message: telegram } = readUss(bytes, channelWords(netWords(bytes.length), index?.sheet.uss ?? null));
    const parameter = telegram && index && (telegram.ak ?? 0) !== 0 ? parameterIn(telegram, 'request', index) : null;
    return parameter ? `${parameter.number} ${parameter.name}` : '';
  }
  const address = message?.address ?? message?.readAddress;
  const table = message ? tableOfFunction(message.fc) : undefined;
  return address === undefined || !table ? '' : registerName(index, address, table);
}

/** Build a request by field or by byte, see what it says and what should come back, send it, and read the reply. */
export function ComposePart() {
  const bench = useBench();
  const { line, station, index, view, key, isOpen, framing, protocol } = useCurrent();
  const { nameOf } = useFrameView();
  const opening = useOpenLine(line);
  const unread = useUnread();
  const draft = useDrafts((drafts) => drafts.frames.get(key)?.present);
  const ticket = useDrafts((drafts) => drafts.asked.frames.get(key) ?? 0);
  const result = useBenchState((state) => state.results.get(ticket) ?? null);
  const bytes = draft ?? NO_BYTES;
  const reading = useMemo(() => protocol?.read(bytes, 'request') ?? null, [bytes, protocol]);

  useEffect(() => {
    if (station && protocol && !draft)
      bench.drafts.getState().startFrame(key, startFrame(protocol.family, framing, station.station, index));
  }, [bench, draft, framing, index, key, protocol, station]);

  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  const objections = useMemo(
    () => (index && reading?.modbus && reading.faults.length === 0 ? objectionsTo(reading.modbus, index, turning) : []),
    [index, reading, turning],
  );
  const target = protocol?.stationOf(bytes) ?? station?.station ?? 0;
  const isForAll = protocol !== null && reading?.whole === true && !protocol.answers(bytes);
  const targetName = isForAll ? 'all stations' : `${target} · ${nameOf(target) ?? 'not in the job'}`;
  const send = (): void => {
    if (isOpen && line && bytes.length > 0 && unread.why === '')
      bench.drafts
        .getState()
        .setAsked('frames', key, bench.send({ line: line.id, station: target }, bytes, 'Frames', { asTyped: true }));
  };
  useKeys({ 'Ctrl+Enter': send });

  if (!line || !station) return <StageHead title="Frames" aside="choose a line and a station in Job first" />;
  if (!protocol || !reading)
    return (
      <Panel title="Frames">
        {line.protocol === 'ascii'
          ? 'No sheet of this line’s stations describes their commands. Describe them under “Dialect”, then choose the sheet for the station in Job.'
          : 'This line is plain text: use the terminal in Line.'}
      </Panel>
    );
  const whole = reading.faults.length === 0;
  const place = placeIn(reading.modbus, bytes, protocol.family, index);
  return (
    <div className={`${styles.stack} ${styles.underTabs}`}>
      <StageHead
        title={whole ? protocol.sentence(bytes, 'request', null, index) : 'Bytes as typed'}
        aside={`${protocol.name} · ${bytes.length} bytes${onTheLine(bytes.length, line.serial)}`}
      >
        {!isOpen && (
          <ActButton variant="outlined" color="inherit" off={opening.off} onClick={opening.open}>
            Open line {line.name}
          </ActButton>
        )}
        <ActButton
          variant="contained"
          onClick={send}
          off={whyOff(
            [!isOpen, LINE_CLOSED],
            [bytes.length === 0, 'there are no bytes'],
            [unread.why !== '', 'see below'],
          )}
          aria-keyshortcuts="Control+Enter"
        >
          Send to {targetName}&nbsp;<kbd>Ctrl Enter</kbd>
        </ActButton>
      </StageHead>
      {unread.why !== '' && <Warning>{unread.why}</Warning>}
      <UnreadForm unread={unread}>
        <RequestPanel
          key={key}
          stationKey={key}
          bytes={bytes}
          reading={reading}
          protocol={protocol}
          station={station.station}
          objections={objections}
        />
      </UnreadForm>
      <PastedPanel request={bytes} />
      <KeepTools
        isOff={unread.why !== ''}
        bytes={bytes}
        target={target}
        sentence={protocol.sentence(bytes, 'request', null, index)}
      />
      <ReplyPanels
        request={bytes}
        refusal={objections.find(({ refusal }) => refusal !== null)?.refusal ?? null}
        result={result}
        waiting={ticket !== 0 && result === null}
        withinMs={index?.sheet.link?.replyWithinMs ?? DEFAULT_REPLY_MS}
      />
      {protocol.family === 'modbus' && (
        <div className={styles.pair}>
          <WhereAddress message={reading.modbus} index={index} />
          <WhereValue message={reading.modbus} index={index} />
        </div>
      )}
      {place !== '' && <ParameterNotes key={`${key} ${place}`} place={place} />}
    </div>
  );
}
