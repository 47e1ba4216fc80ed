import { settingsText } from '../line/settings';
import { PROTOCOL_TEXT, withLine, withOne, type Job, type JobLine, type JobStation } from './job';
import type { WayBack } from './take-away';

/** Something in which two records of one job differ, and the way to take it over: one by one, each with its way back. */
export interface MergeOffer {
  readonly key: string;
  /** `K1 kiln, 3 · kiln fan: its notes` */
  readonly what: string;
  /** What this job has, in words; empty where it has none of it. */
  readonly own: string;
  readonly theirs: string;
  /** Why it cannot be taken over as it stands here; empty where it can. */
  readonly why: string;
  readonly take: (job: Job) => Job;
  readonly back: WayBack;
}

/** A part of a job that is taken over as a whole. `put` with undefined takes it away. */
interface Piece<T> {
  readonly key: string;
  readonly what: string;
  readonly get: (job: Job) => T | undefined;
  readonly put: (job: Job, value: T | undefined) => Job;
  readonly show: (value: T) => string;
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Two drives of one line that would have one number; empty where each has its own. */
function clashIn({ lines }: Job): string {
  for (const { name, stations } of lines) {
    const seen = new Set<number>();
    for (const { station } of stations) {
      if (seen.has(station)) return `${name} would have two stations ${station}: give one of them another number first`;
      seen.add(station);
    }
  }
  return '';
}

function offerOf<T>({ key, what, get, put, show }: Piece<T>, own: Job, theirs: Job): readonly MergeOffer[] {
  const [mine, other] = [get(own), get(theirs)];
  // What only this job has stays: nobody takes over that something is not there.
  if (other === undefined || same(mine, other)) return [];
  return [
    {
      key,
      what,
      own: mine === undefined ? '' : show(mine),
      theirs: show(other),
      why: clashIn(put(own, other)),
      take: (job) => put(job, other),
      back: { text: `Taken over: ${what}.`, restore: (job) => put(job, mine) },
    },
  ];
}

/** What is left of an object without one of its fields. */
const without = <T extends object, K extends keyof T>(from: T, key: K): Omit<T, K> =>
  Object.fromEntries(Object.entries(from).filter(([own]) => own !== key)) as Omit<T, K>;

const lineIn = (job: Job, id: string): JobLine | undefined => job.lines.find((line) => line.id === id);
const stationIn = (job: Job, line: string, id: string): JobStation | undefined =>
  lineIn(job, line)?.stations.find((station) => station.id === id);

const reachText = ({
  medium,
  protocol,
  serial,
  tcp,
}: Pick<JobLine, 'medium' | 'protocol' | 'serial' | 'tcp'>): string =>
  [medium, PROTOCOL_TEXT[protocol], serial ? settingsText(serial) : '', tcp ? `${tcp.host}, port ${tcp.port}` : '']
    .filter((part) => part !== '')
    .join(', ');

/** Fields that belong together: how a line is reached. */
type Reach = Pick<JobLine, 'medium' | 'protocol' | 'serial' | 'echo' | 'timeoutMs' | 'far' | 'tcp'>;
const reachOf = ({ medium, protocol, serial, echo, timeoutMs, far, tcp }: JobLine): Reach => ({
  medium,
  protocol,
  far,
  ...(serial ? { serial } : {}),
  ...(echo === undefined ? {} : { echo }),
  ...(timeoutMs === undefined ? {} : { timeoutMs }),
  ...(tcp ? { tcp } : {}),
});

/** Fields of a station that are taken over one by one, and how each is told. */
const STATION_FIELDS = {
  station: { what: 'its number', show: (value: JobStation['station']) => `${value}` },
  name: { what: 'its name', show: (value: JobStation['name']) => value },
  sheet: {
    what: 'its sheet',
    show: (value: NonNullable<JobStation['sheet']>) => `${value.slug}, revision ${value.revision}`,
  },
  about: { what: 'what is said of it', show: (value: NonNullable<JobStation['about']>) => value },
  ticked: {
    what: 'its keypad card',
    show: (value: NonNullable<JobStation['ticked']>) => `ticked ${value.map((at) => at + 1).join(', ')}`,
  },
  notes: {
    what: 'where manual and drive disagree',
    show: (value: NonNullable<JobStation['notes']>) =>
      value.map(({ setting, tried }) => `${setting}: ${tried}`).join('; '),
  },
} as const;
type StationField = keyof typeof STATION_FIELDS;

function stationPieces(line: JobLine, station: JobStation): readonly Piece<never>[] {
  const name = `${line.name}, ${station.station} · ${station.name}`;
  return (Object.keys(STATION_FIELDS) as StationField[]).map((field) => {
    const { what, show } = STATION_FIELDS[field];
    return {
      key: `${line.id} ${station.id} ${field}`,
      what: `${name}: ${what}`,
      get: (job) => stationIn(job, line.id, station.id)?.[field] as never,
      put: (job, value) =>
        withLine(job, line.id, (own) => ({
          ...own,
          stations: own.stations.map((one) => {
            if (one.id !== station.id) return one;
            return (value === undefined ? without(one, field) : { ...one, [field]: value }) as JobStation;
          }),
        })),
      show: show,
    };
  });
}

const whole = <T>(piece: Piece<T>): Piece<never> => piece as unknown as Piece<never>;

function linePieces(own: Job, line: JobLine): readonly Piece<never>[] {
  const known = lineIn(own, line.id);
  if (!known)
    return [
      whole<JobLine>({
        key: line.id,
        what: `the line ${line.name}`,
        get: (job) => lineIn(job, line.id),
        put: (job, value) => ({ ...job, lines: withOne(job.lines, line.id, value) }),
        show: (value) =>
          `${reachText(value)}; ${value.stations.map(({ station, name }) => `${station} · ${name}`).join(', ')}`,
      }),
    ];
  if (same(known, line)) return [];
  const mine = new Map(known.stations.map((station) => [station.id, station]));
  return [
    whole<string>({
      key: `${line.id} name`,
      what: `${known.name}: its name`,
      get: (job) => lineIn(job, line.id)?.name,
      put: (job, value) => withLine(job, line.id, (one) => ({ ...one, name: value ?? one.name })),
      show: (value) => value,
    }),
    whole<Reach>({
      key: `${line.id} reach`,
      what: `${known.name}: how it is reached`,
      get: (job) => {
        const one = lineIn(job, line.id);
        return one && reachOf(one);
      },
      put: (job, value) =>
        withLine(job, line.id, ({ id, name, stations, cable }) => ({
          id,
          name,
          stations,
          ...(cable ? { cable } : {}),
          ...(value ?? reachOf(known)),
        })),
      show: reachText,
    }),
    whole<NonNullable<JobLine['cable']>>({
      key: `${line.id} cable`,
      what: `${known.name}: its cable`,
      get: (job) => lineIn(job, line.id)?.cable,
      put: (job, value) => withLine(job, line.id, (one) => (value ? { ...one, cable: value } : without(one, 'cable'))),
      show: ({ ends, cores, lengthM }) => `${ends[0].name} to ${ends[1].name}, ${cores.length} cores, ${lengthM} m`,
    }),
    ...line.stations.flatMap((station): readonly Piece<never>[] => {
      const own = mine.get(station.id);
      if (own) return same(own, station) ? [] : stationPieces(known, own);
      return [
        whole<JobStation>({
          key: `${line.id} ${station.id}`,
          what: `${known.name}: station ${station.station} · ${station.name}`,
          get: (job) => stationIn(job, line.id, station.id),
          put: (job, value) =>
            withLine(job, line.id, (one) => ({ ...one, stations: withOne(one.stations, station.id, value) })),
          show: ({ sheet }) => (sheet ? `sheet ${sheet.slug}, revision ${sheet.revision}` : 'without a sheet'),
        }),
      ];
    }),
  ];
}

/** A list of the job whose elements have ids and names: kept frames, trials, blocks. */
const listed = <Key extends 'frames' | 'trials' | 'blocks'>(
  key: Key,
  noun: string,
  theirs: Job,
): readonly Piece<never>[] =>
  (theirs[key] ?? []).map(({ id, name }) =>
    whole<{ readonly id: string; readonly name: string }>({
      key: `${key} ${id}`,
      what: `the ${noun} “${name}”`,
      get: (job) => (job[key] ?? []).find((one) => one.id === id),
      put: (job, value) => {
        const list = withOne<{ readonly id: string; readonly name: string }>(job[key] ?? [], id, value);
        return list.length === 0 && job[key] === undefined ? job : { ...job, [key]: list };
      },
      show: (value) => (same(value.name, name) ? 'another one of this name' : value.name),
    }),
  );

/**
 * What another record of a job has that this one has not, or has otherwise: lines, stations, cables, notes, addresses, wiring, kept frames, trials, blocks. What only
 * this one has stays and is not offered. What is the same in both costs one comparison a line.
 */
export function mergeOffers(own: Job, theirs: Job): readonly MergeOffer[] {
  const pieces = [
    ...theirs.lines.flatMap((line) => linePieces(own, line)),
    whole<NonNullable<Job['ipPlan']>>({
      key: 'addresses',
      what: 'the address plan',
      get: ({ ipPlan }) => ipPlan,
      put: (job, value) => (value ? { ...job, ipPlan: value } : without(job, 'ipPlan')),
      show: (value) => value.map(({ name, address }) => `${name} ${address}`).join(', '),
    }),
    whole<NonNullable<Job['wiring']>>({
      key: 'wiring',
      what: 'the wiring from port to port',
      get: ({ wiring }) => wiring,
      put: (job, value) => (value ? { ...job, wiring: value } : without(job, 'wiring')),
      show: ({ links }) => links.map(({ a, b }) => `${a.device} ${a.port} to ${b.device} ${b.port}`).join(', '),
    }),
    ...listed('frames', 'kept frame', theirs),
    ...listed('trials', 'trial', theirs),
    ...listed('blocks', 'block', theirs),
  ];
  return pieces.flatMap((piece) => offerOf(piece, own, theirs));
}
