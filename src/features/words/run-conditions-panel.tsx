'use client';

import { useCurrent } from '../../bench/hooks/use-current';
import { useWhyNot } from '../../bench/hooks/use-why-not';
import { useWrite } from '../../bench/hooks/use-write';
import { KIND_TEXT, type Condition, type Remedy, type Verdict } from '../../core/run-conditions/condition';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton, LINE_CLOSED } from '../../ui/act-button';
import { ageText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import styles from './run-conditions.module.css';

const MARKS: Readonly<Record<Verdict, { readonly mark: string; readonly text: string }>> = {
  met: { mark: '✓', text: 'met' },
  'not-met': { mark: '✗', text: 'not met' },
  unknown: { mark: '?', text: 'not known' },
};

/** Not so, but the shaft turns all the same. */
const REMARK = { mark: '!', text: 'not so, but not in the way' };

/** What stands between now and a turning shaft: every condition with its evidence, and the write that helps where there is one. */
export function RunConditionsPanel({ index }: { readonly index: SheetIndex }) {
  const { name } = useCurrent();
  const { conditions, summary } = useWhyNot(index);
  return (
    <Panel title={summary} aside={`${name}, by what was read from it`}>
      <ul className={styles.list} aria-label="Conditions for running">
        {conditions.map((condition) => (
          <Row key={condition.id} condition={condition} />
        ))}
      </ul>
    </Panel>
  );
}

function Row({ condition }: { readonly condition: Condition }) {
  const { verdict, kind, title, value, source, ageUs, advice, remedy, id, blocks } = condition;
  const { mark, text } = verdict === 'not-met' && !blocks ? REMARK : MARKS[verdict];
  return (
    <li className={`${styles.row} ${blocks ? styles[verdict] : ''}`} data-condition={id} data-verdict={verdict}>
      <span className={styles.mark} role="img" aria-label={text}>
        {mark}
      </span>
      <div>
        <span className={styles.kind}>{KIND_TEXT[kind]}</span>
        <strong>{title}</strong>
        {value !== '' && <span className={styles.value}> {value}</span>}
        <span className={styles.source}>
          {' '}
          {source}
          {ageUs !== null ? `, ${ageText(ageUs)}` : verdict === 'unknown' ? ', not read yet' : ''}
        </span>
        {advice !== '' && <div>{advice}</div>}
        {remedy && <RemedyRow remedy={remedy} />}
      </div>
    </li>
  );
}

const STARTS: Readonly<Record<Remedy['starts'], string>> = {
  no: 'The shaft does not start with it',
  yes: 'The shaft starts with it',
  may: 'The shaft may start with it',
};

function RemedyRow({ remedy }: { readonly remedy: Remedy }) {
  const { isOpen, name } = useCurrent();
  const send = useWrite('Words');
  return (
    <div className={styles.remedy}>
      <span className={remedy.starts === 'no' ? '' : styles.starts}>
        {STARTS[remedy.starts]}: {remedy.why}.
      </span>
      <ActButton
        variant="outlined"
        color={remedy.starts === 'no' ? 'inherit' : 'primary'}
        off={isOpen ? '' : LINE_CLOSED}
        onClick={() => send(remedy.role, remedy.word)}
      >
        {remedy.text} to {name}
      </ActButton>
    </div>
  );
}
