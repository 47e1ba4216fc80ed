'use client';

import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useKeptHistory } from '../../bench/hooks/use-kept-history';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { checkWiring, wiringCsv, type WiringNote } from '../../core/cable/check-wiring';
import { LONGEST_NAME, MEDIA, MOST_LINKS, type Wiring, type WiringLink } from '../../core/cable/wiring';
import { counted } from '../../core/counted';
import { Panel } from '../../ui/panel';
import { PartField } from '../../ui/part-field';
import { choiceColumn, RowsEditor, type RowColumn } from '../../ui/rows-editor';
import styles from './line.module.css';
import { UndoButtons } from '../../ui/undo-buttons';
import { WiringPicture } from './wiring-picture';

const TOO_LONG = `${LONGEST_NAME} characters at most`;

const MEDIUM_CHOICES = Object.entries(MEDIA).map(([id, { name }]) => [id, name] as const);

const column = (
  label: string,
  width: number,
  show: (link: WiringLink) => string,
  put: (link: WiringLink, text: string) => WiringLink,
): RowColumn<WiringLink> => ({
  label,
  width,
  show,
  take: (link, text) => (text.length > LONGEST_NAME ? TOO_LONG : put(link, text)),
});

const COLUMNS: readonly RowColumn<WiringLink>[] = [
  column(
    'device',
    170,
    ({ a }) => a.device,
    (link, device) => ({ ...link, a: { ...link.a, device } }),
  ),
  column(
    'its port',
    80,
    ({ a }) => a.port,
    (link, port) => ({ ...link, a: { ...link.a, port } }),
  ),
  column(
    'to device',
    170,
    ({ b }) => b.device,
    (link, device) => ({ ...link, b: { ...link.b, device } }),
  ),
  column(
    'port there',
    80,
    ({ b }) => b.port,
    (link, port) => ({ ...link, b: { ...link.b, port } }),
  ),
  choiceColumn(
    'medium',
    130,
    MEDIUM_CHOICES,
    ({ medium }) => medium,
    (link, medium) => ({ ...link, medium: medium as WiringLink['medium'] }),
  ),
  column(
    'length, m',
    80,
    ({ lengthM }) => lengthM,
    (link, lengthM) => ({ ...link, lengthM }),
  ),
];

/** Where a line of devices goes on: most have two ports, and the next link begins where the last one ended. */
function nextLink({ root, links }: Wiring): WiringLink {
  const last = links.at(-1);
  return {
    a: { device: last?.b.device ?? root, port: '' },
    b: { device: '', port: '' },
    medium: last?.medium ?? 'copper',
    lengthM: '',
  };
}

/** Which port of which device goes to which: a list that is drawn and checked. */
export function WiringPart() {
  const bench = useBench();
  const job = useBenchState((state) => state.job);
  const put = (wiring: Wiring): boolean => bench.changeJob((own) => ({ ...own, wiring }));
  if (!job) return null;
  const planned = (job.ipPlan ?? []).map(({ name }) => name);
  if (!job.wiring) {
    const root = job.ipPlan?.find(({ role }) => role === 'laptop')?.name ?? 'controller';
    const first: Wiring = { root, ring: false, links: [] };
    return (
      <Panel title="Wiring" aside="nothing is wired here yet">
        <Button variant="contained" onClick={() => put({ ...first, links: [nextLink(first)] })}>
          Begin at {root}
        </Button>
      </Panel>
    );
  }
  return <WiringEditor wiring={job.wiring} planned={planned} jobName={job.name} put={put} />;
}

function WiringEditor({
  wiring,
  planned,
  jobName,
  put,
}: {
  readonly wiring: Wiring;
  readonly planned: readonly string[];
  readonly jobName: string;
  readonly put: (wiring: Wiring) => boolean;
}) {
  const history = useKeptHistory(wiring, put);
  const facts = checkWiring(wiring, planned);
  const { notes, devices } = facts;
  const bad = notes.filter(({ weight }) => weight === 'fault').length;
  const furthest = Math.max(0, ...devices.map(({ hops }) => hops ?? 0));
  const save = (): void =>
    saveFile(new Blob([wiringCsv(wiring)], { type: 'text/csv' }), fileName(`${jobName} wiring`, 'csv'));
  return (
    <div className={styles.stack}>
      <Panel
        title={`${counted(devices.length, 'device')}, ${counted(wiring.links.length, 'link')}`}
        aside={
          <span data-testid="wiring-verdict">
            {bad > 0
              ? `✗ ${bad} wrong`
              : notes.length > 0
                ? `! ${notes.length} to think about`
                : `✓ no port twice, ${wiring.ring ? 'one ring' : 'no loop'}; the furthest is ${counted(furthest, 'link')} from ${wiring.root}`}
          </span>
        }
        tools={
          <>
            <Button variant="text" color="inherit" onClick={save}>
              Wiring as CSV
            </Button>
            <Button variant="text" color="inherit" onClick={() => window.print()}>
              Print
            </Button>
          </>
        }
      >
        <div className={styles.scroll} tabIndex={0} role="group" aria-label="The wiring, drawn">
          <WiringPicture wiring={wiring} facts={facts} />
        </div>
        {notes.length > 0 && <Notes notes={notes} />}
      </Panel>
      <Panel title="Links" tools={<UndoButtons {...history} />}>
        <div className={styles.row}>
          <PartField
            label="counted from"
            value={wiring.root}
            width={170}
            read={(text) => (text.length > LONGEST_NAME ? TOO_LONG : { root: text })}
            onValue={({ root }) => history.type({ ...wiring, root })}
          />
          <FormControlLabel
            control={
              <Checkbox
                checked={wiring.ring}
                onChange={(event) => history.put({ ...wiring, ring: event.target.checked })}
              />
            }
            label="One ring is wanted; a device keeps it open"
          />
        </div>
        <RowsEditor
          label="Links from port to port"
          noun="link"
          rows={wiring.links}
          columns={COLUMNS}
          fresh={() => nextLink(wiring)}
          onRows={(links) => history.type({ ...wiring, links: [...links] })}
          most={MOST_LINKS}
        />
      </Panel>
    </div>
  );
}

function Notes({ notes }: { readonly notes: readonly WiringNote[] }) {
  return (
    <ul className={styles.steps} data-testid="wiring-notes">
      {notes.map(({ link, weight, text }) => (
        <li key={`${link} ${text}`}>
          <span className={weight === 'fault' ? styles.bad : styles.warn}>{weight === 'fault' ? '✗' : '!'}</span>
          <span>
            {link >= 0 && <strong>link {link + 1}: </strong>}
            {text}
          </span>
        </li>
      ))}
    </ul>
  );
}
