'use client';

import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import type { CycleRules } from '../../core/procedure/cycle-procedure';
import {
  againstLife,
  LIFE_FORMS,
  lifeSignOf,
  mayCarryLife,
  type LifeForm,
  type LifeSign,
} from '../../core/process-image/life-sign';
import type { CycleBlocks } from '../../core/process-image/cycle-blocks';
import { itemName, itemsOf, type CycleItem } from '../../core/process-image/output-block';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ChoiceField, TypedField } from '../../ui/fields';
import registers from './registers.module.css';
import { fieldOf } from './cycle-tables';

/** The signs of life of both sides, as they were chosen for a drive. */
export interface LifeSigns {
  /** Which word of the output block carries the controller's, and how; null where none does. */
  readonly own: { readonly at: number; readonly sign: LifeSign } | null;
  /** The drive's; null where nobody watches one. */
  readonly back: CycleRules['life'];
}

/** Cycles without a change of the drive's sign of life, after which a controller gives it up; at most. */
const MOST_CYCLES = 1000;
const FORMS = Object.entries(LIFE_FORMS) as readonly (readonly [LifeForm, string])[];

/** Items that can carry a sign of life. */
const single = (words: CycleBlocks['in']): readonly CycleItem[] =>
  itemsOf(words).filter(({ cells, parameter }) => mayCarryLife(parameter, cells.length));

/** What was typed of the signs of life, and what that comes to. */
export function useLifeSigns(index: SheetIndex, blocks: CycleBlocks) {
  const { key } = useCurrent();
  const { text, put } = useForm('cycle life', key);
  const item = single(blocks.out).find((one) => fieldOf(one) === text('item'));
  const back = single(blocks.in).find((one) => fieldOf(one) === text('back'));
  const form = FORMS.find(([id]) => id === text('form'))?.[0] ?? 'toggle';
  const sign = lifeSignOf(form, text('bit', '0'));
  const fault = item ? (sign.ok ? againstLife(index, item.parameter, sign.value) : sign.error) : '';
  const cycles = /^\d{1,4}$/.test(text('cycles', '10').trim()) ? Number(text('cycles', '10')) : NaN;
  const isCycles = cycles >= 1 && cycles <= MOST_CYCLES;
  const [cell] = back?.cells ?? [];
  const signs: LifeSigns = {
    own: item && sign.ok && fault === '' ? { at: item.at, sign: sign.value } : null,
    back: cell !== undefined && isCycles ? { cell, cycles } : null,
  };
  return { signs, form, item, back, text, put, fault, isCycles };
}

/** The fields for both signs of life. */
export function LifeFields({
  blocks,
  life: { form, item, back, text, put, fault, isCycles },
}: {
  readonly blocks: CycleBlocks;
  readonly life: ReturnType<typeof useLifeSigns>;
}) {
  const options = (items: readonly CycleItem[]) => items.map((one) => [fieldOf(one), itemName(one)] as const);
  return (
    <div className={registers.row}>
      <ChoiceField
        label="The controller’s sign of life"
        width={270}
        value={item ? fieldOf(item) : ''}
        onChange={(next) => put('item', next)}
        options={[['', 'none'], ...options(single(blocks.out))]}
      />
      {item && (
        <ChoiceField
          label="Cycle by cycle"
          width={230}
          value={form}
          error={form === 'toggle' ? '' : fault}
          onChange={(next) => put('form', next)}
          options={FORMS}
        />
      )}
      {item && form === 'toggle' && (
        <TypedField
          label="Bit"
          width={80}
          value={text('bit', '0')}
          error={fault}
          onChange={(next) => put('bit', next)}
        />
      )}
      <ChoiceField
        label="The drive’s sign of life"
        width={270}
        value={back ? fieldOf(back) : ''}
        onChange={(next) => put('back', next)}
        options={[['', 'is not watched'], ...options(single(blocks.in))]}
      />
      {back && (
        <TypedField
          label="Cycles it may stand"
          width={140}
          value={text('cycles', '10')}
          error={isCycles ? '' : `1 to ${MOST_CYCLES}`}
          note="then the cycle ends"
          onChange={(next) => put('cycles', next)}
        />
      )}
    </div>
  );
}
