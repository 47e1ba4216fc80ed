import type { ReactNode } from 'react';
import styles from './panel.module.css';

interface PanelProps {
  readonly title: ReactNode;
  readonly aside?: ReactNode;
  /** Small acts on the title's line, at its right. */
  readonly tools?: ReactNode;
  readonly children: ReactNode;
}

/** A square calm box with a title; never put one into another. */
export function Panel({ title, aside, tools, children }: PanelProps) {
  return (
    <section className={styles.panel}>
      <h2>
        <span>{title}</span>
        {aside !== undefined && <span className={styles.aside}>{aside}</span>}
        {tools !== undefined && <span className={styles.tools}>{tools}</span>}
      </h2>
      {children}
    </section>
  );
}

/** The head of a stage: what it is about, and its acts at the right. */
export function StageHead({
  title,
  aside,
  children,
}: {
  readonly title: string;
  readonly aside?: ReactNode;
  readonly children?: ReactNode;
}) {
  return (
    <div className={styles.head}>
      <h1>{title}</h1>
      {aside !== undefined && <span className={styles.aside}>{aside}</span>}
      {children !== undefined && <div className={styles.actions}>{children}</div>}
    </div>
  );
}

/** Names and values in two columns. */
export function Facts({ rows }: { readonly rows: readonly (readonly [string, ReactNode])[] }) {
  return (
    <dl className={styles.facts}>
      {rows.map(([name, value]) => (
        <div key={name} style={{ display: 'contents' }}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** A sentence that must be read before the next press. */
export const Warning = ({ children }: { readonly children: ReactNode }) => <p className={styles.warning}>{children}</p>;
