import type { Page } from '@playwright/test';
import axe from 'axe-core';

/** One element that breaks a rule of axe. */
export interface AxeFault {
  readonly isSerious: boolean;
  readonly text: string;
}

/** What breaks the rules of axe at or within `where`: all its rules, or `only` some. */
export async function axeFaults(page: Page, where = 'html', only?: readonly string[]): Promise<readonly AxeFault[]> {
  // Its script is read once by a page; that would be half of what a look costs.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  return page.evaluate(
    async ([selector, rules]) => {
      // Nobody reads what is right, node by node.
      const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(selector, {
        resultTypes: ['violations'],
        ...(rules ? { runOnly: [...rules] } : {}),
      });
      return violations.flatMap(({ id, impact, nodes }) =>
        nodes.map(({ target, failureSummary }) => ({
          isSerious: impact === 'serious' || impact === 'critical',
          text: `${id} ${target.join(' ')} ${failureSummary ?? ''}`,
        })),
      );
    },
    [where, only] as const,
  );
}
