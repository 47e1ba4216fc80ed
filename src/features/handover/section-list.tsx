'use client';

import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import IconButton from '@mui/material/IconButton';
import { useBench } from '../../bench/bench-context';
import type { Section, SectionId, VisitRecord } from '../../core/handover/document';
import { SECTION_TITLES, sectionOrder } from '../../core/handover/section-titles';
import { Panel } from '../../ui/panel';
import { handoverStore, useHandover } from './handover-store';
import styles from './handover.module.css';
import { changeVisit } from './record-acts';

const rowsIn = ({ blocks }: Section): number =>
  blocks.reduce((sum, block) => sum + (block.kind === 'table' ? block.rows.length : block.kind === 'text' ? 0 : 1), 0);

/** The sections in the order of the page: looked at by a press, moved, or left out. */
export function SectionList({ record }: { readonly record: VisitRecord | null }) {
  const bench = useBench();
  const visit = useHandover((state) => state.visit);
  const chosen = useHandover((state) => state.section);
  const isClosed = useHandover((state) => state.shown !== '');
  const order = isClosed && record ? record.sections.map(({ id }) => id) : sectionOrder(visit);
  const move = (id: SectionId, way: -1 | 1): void =>
    changeVisit(bench, (now) => {
      const own = [...sectionOrder(now)];
      const at = own.indexOf(id);
      const [taken] = own.splice(at, 1);
      if (taken) own.splice(at + way, 0, taken);
      return { ...now, order: own };
    });
  const leave = (id: SectionId, isIn: boolean): void =>
    changeVisit(bench, (now) => ({
      ...now,
      leftOut: isIn ? now.leftOut.filter((other) => other !== id) : [...now.leftOut, id],
    }));
  return (
    <Panel title="Sections" aside={isClosed ? 'closed' : ''}>
      <ol className={styles.sections}>
        {order.map((id, i) => {
          const title = SECTION_TITLES[id];
          const section = record?.sections.find((one) => one.id === id);
          const count = section ? rowsIn(section) : 0;
          return (
            <li key={id}>
              {!isClosed && (
                <Checkbox
                  size="small"
                  checked={!visit.leftOut.includes(id)}
                  slotProps={{ input: { 'aria-label': `${title}: in the record` } }}
                  onChange={(event) => leave(id, event.target.checked)}
                />
              )}
              <Button
                variant="text"
                color={id === chosen ? 'primary' : 'inherit'}
                aria-pressed={id === chosen}
                onClick={() => handoverStore.setState({ section: id })}
              >
                {id === chosen ? '▸ ' : ''}
                {title}
              </Button>
              <span className={styles.count}>
                {section ? count : record || visit.leftOut.includes(id) ? 'left out' : '…'}
              </span>
              {!isClosed && (
                <span className={styles.moves}>
                  <IconButton size="small" aria-label={`${title}: up`} disabled={i === 0} onClick={() => move(id, -1)}>
                    ↑
                  </IconButton>
                  <IconButton
                    size="small"
                    aria-label={`${title}: down`}
                    disabled={i === order.length - 1}
                    onClick={() => move(id, 1)}
                  >
                    ↓
                  </IconButton>
                </span>
              )}
            </li>
          );
        })}
      </ol>
    </Panel>
  );
}
