import { messageOf } from '../../core/message-of';
import type { ShelfNews } from '../state/bench-state';
import type { JobShelf } from './job-shelf';

type Acts = Omit<JobShelf, 'dismiss'>;

/** The job shelf as the first view holds it: what it does comes with the first press, and where it does not come, that is said as of any act that failed. */
export function jobActs(fetch: () => Promise<Acts>, tell: (news: ShelfNews | null) => void): JobShelf {
  let shelf: Acts | null = null;
  const here = async (): Promise<Acts> => (shelf ??= await fetch());
  const act =
    <Told extends readonly unknown[]>(of: (shelf: Acts) => (...told: Told) => void) =>
    (...told: Told): void =>
      void here().then(
        (own) => of(own)(...told),
        (error: unknown) =>
          tell({ text: `That could not be done, and nothing was changed: ${messageOf(error)}`, bad: true }),
      );
  return {
    create: act(({ create }) => create),
    rename: act(({ rename }) => rename),
    copy: act(({ copy }) => copy),
    remove: act(({ remove }) => remove),
    restore: act(({ restore }) => restore),
    open: act(({ open }) => open),
    exportJob: act(({ exportJob }) => exportJob),
    exportTrace: act(({ exportTrace }) => exportTrace),
    importFile: act(({ importFile }) => importFile),
    settle: act(({ settle }) => settle),
    adopt: async (file) => (await here()).adopt(file),
    exportRow: act(({ exportRow }) => exportRow),
    dismiss: () => tell(null),
  };
}
