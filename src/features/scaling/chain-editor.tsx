'use client';

import Button from '@mui/material/Button';
import { useBench, useDrafts } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useOwnSheet } from '../../bench/hooks/use-own-sheet';
import { SIGN_FORMS, WIRE_ORDERS, type SignForm, type WireOrder, type WireWord } from '../../core/scaling/chain';
import {
  chainOfDraft,
  draftOfChain,
  freshStep,
  STEP_FORMS,
  YES,
  type ChainDraft,
  type ChainFault,
  type StepDraft,
  type StepKind,
} from '../../core/scaling/chain-draft';
import { ROUNDING_TEXT, ROUNDINGS, type Rounding } from '../../core/scaling/rounding';
import { toRaw } from '../../core/scaling/scale';
import { sharesChain, withChain } from '../../core/sheet/adopt-chain';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Warning } from '../../ui/panel';
import { ChainBoxes } from './chain-boxes';
import { limitTrouble } from './limit-trouble';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

const KINDS = Object.entries(STEP_FORMS).map(([kind, { name }]) => [kind, name] as const);
const SIGN_TEXT: Readonly<Record<SignForm, string>> = {
  'twos-complement': 'two’s complement',
  'sign-magnitude': 'size and sign bit',
  'direction-bit': 'size and a bit elsewhere',
};
const MOST_STEPS = 20;

/** The steps of a chain to change, with what they make of the wanted value; kept as a sheet of the user's own. */
export function ChainEditor({ index, place, scale, wanted }: PartProps) {
  const bench = useBench();
  const { key } = useCurrent();
  const { said, keep } = useOwnSheet();
  const own = useDrafts((drafts) => drafts.chains.get(key));
  const draft = own ?? draftOfChain(scale.chain);
  const { chain, faults } = chainOfDraft(draft);
  const scaled = chain && toRaw(chain, wanted);
  const made = chain && withChain(index.sheet, place, chain);
  const shared = sharesChain(index, place);
  const trouble = scaled?.ok ? limitTrouble(scaled.value, place) : '';
  const { setChain } = bench.drafts.getState();
  const put = (change: Partial<ChainDraft>): void => setChain(key, { ...draft, ...change });
  const keepIt = async (): Promise<void> => {
    if (!made?.ok) return;
    const isKept = await keep(index.sheet, made.value);
    if (isKept) setChain(key, null);
  };
  return (
    <div className={styles.stack}>
      <Steps steps={draft.steps} faults={faults} onChange={(steps) => put({ steps })} />
      <div className={styles.fields}>
        <TypedField
          label="unit"
          width={90}
          value={draft.unit}
          error={faults.find(({ step }) => step === null)?.text ?? ''}
          onChange={(unit) => put({ unit })}
        />
        <ChoiceField
          label="rounding"
          width={260}
          value={draft.rounding}
          options={ROUNDINGS.map((rounding) => [rounding, ROUNDING_TEXT[rounding]] as const)}
          onChange={(rounding) => put({ rounding: rounding as Rounding })}
        />
        <WordFields word={draft.word} onChange={(word) => put({ word })} />
      </div>
      {scaled?.ok && chain && <ChainBoxes chain={chain} wanted={wanted} scaled={scaled.value} number={place.number} />}
      {trouble !== '' && <Warning>{trouble}</Warning>}
      {made?.ok === false && <Warning>{made.error}.</Warning>}
      {shared.length > 0 && <p className={styles.note}>The same chain scales {shared.join(', ')}.</p>}
      <div className={styles.fields}>
        <ActButton
          variant="outlined"
          off={whyOff([!own, 'nothing was changed'], [!made?.ok, 'see above'])}
          onClick={() => void keepIt()}
        >
          Keep as a sheet of yours
        </ActButton>
        <ActButton
          variant="text"
          color="inherit"
          off={own ? '' : 'these are the sheet’s'}
          onClick={() => setChain(key, null)}
        >
          Back to the sheet’s
        </ActButton>
        <span role="status">{said}</span>
      </div>
    </div>
  );
}

function Steps({
  steps,
  faults,
  onChange,
}: {
  readonly steps: readonly StepDraft[];
  readonly faults: readonly ChainFault[];
  readonly onChange: (steps: readonly StepDraft[]) => void;
}) {
  const replace = (at: number, step: StepDraft): void => onChange(steps.with(at, step));
  const earlier = (at: number): void => {
    const [before, step] = [steps[at - 1], steps[at]];
    if (before && step) onChange(steps.with(at - 1, step).with(at, before));
  };
  return (
    <>
      <ol className={styles.steps} aria-label="Steps of the chain">
        {steps.map((step, i) => (
          <li key={`${i}`}>
            <ChoiceField
              label={`step ${i + 1}`}
              width={210}
              value={step.kind}
              options={KINDS}
              onChange={(kind) => replace(i, freshStep(kind as StepKind))}
            />
            <StepFields
              step={step}
              faults={faults.filter((fault) => fault.step === i)}
              onChange={(next) => replace(i, next)}
            />
            <ActButton variant="text" color="inherit" off={i === 0 ? 'is the first' : ''} onClick={() => earlier(i)}>
              Earlier
            </ActButton>
            <Button variant="text" color="inherit" onClick={() => onChange(steps.toSpliced(i, 1))}>
              Remove
            </Button>
          </li>
        ))}
      </ol>
      <div>
        <ActButton
          variant="outlined"
          color="inherit"
          off={steps.length >= MOST_STEPS ? `${MOST_STEPS} at most` : ''}
          onClick={() => onChange([...steps, freshStep('factor')])}
        >
          Add a step
        </ActButton>
      </div>
    </>
  );
}

function StepFields({
  step: { kind, texts },
  faults,
  onChange,
}: {
  readonly step: StepDraft;
  readonly faults: readonly ChainFault[];
  readonly onChange: (step: StepDraft) => void;
}) {
  const whole = faults.find(({ field }) => field === '');
  return (
    <>
      {STEP_FORMS[kind].fields.map(({ key, label, takes }) => {
        const value = texts[key] ?? '';
        const put = (text: string): void => onChange({ kind, texts: { ...texts, [key]: text } });
        return takes === 'yes-no' ? (
          <ChoiceField
            key={key}
            label={label}
            width={140}
            value={value}
            options={[
              ['', 'no'],
              [YES, 'yes'],
            ]}
            onChange={put}
          />
        ) : (
          <TypedField
            key={key}
            label={label}
            width={140}
            value={value}
            error={faults.find(({ field }) => field === key)?.text ?? ''}
            onChange={put}
          />
        );
      })}
      {whole && <span className={styles.wrong}>{whole.text}</span>}
    </>
  );
}

/** The word at the chain's end. What fits its width or sign no more goes with it. */
function WordFields({ word, onChange }: { readonly word: WireWord; readonly onChange: (word: WireWord) => void }) {
  const { bits, signed, form, order } = word;
  return (
    <>
      <ChoiceField
        label="bits"
        width={70}
        value={String(bits)}
        options={[8, 16, 32].map((width) => [String(width), width] as const)}
        onChange={(text) => onChange({ bits: Number(text) as WireWord['bits'], signed, form })}
      />
      <ChoiceField
        label="sign"
        width={190}
        value={signed ? (form ?? 'twos-complement') : ''}
        options={[['', 'no sign'], ...SIGN_FORMS.map((one) => [one, SIGN_TEXT[one]] as const)]}
        onChange={(text) =>
          onChange(text === '' ? { bits, signed: false, order } : { bits, signed: true, form: text as SignForm, order })
        }
      />
      <ChoiceField
        label="bytes"
        width={150}
        value={order ?? ''}
        disabled={bits === 8}
        options={[
          ['', 'high byte first'],
          ...WIRE_ORDERS.filter((one) => one.length === bits / 8).map((one) => [one, one] as const),
        ]}
        onChange={(text) => onChange({ bits, signed, form, order: text === '' ? undefined : (text as WireOrder) })}
      />
    </>
  );
}
