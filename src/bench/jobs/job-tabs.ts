/** How tabs of one browser tell each other that a stored job was changed. */
export interface JobTabs {
  readonly tell: (job: string) => void;
}

/** `onChange` is called when another tab changed a job. A browser without channels has tabs that do not hear each other. */
export function jobTabs(onChange: (job: string) => void): JobTabs {
  if (typeof BroadcastChannel === 'undefined') return { tell: () => undefined };
  const channel = new BroadcastChannel('bujo-jobs');
  channel.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
    if (typeof data === 'string') onChange(data);
  });
  return { tell: (job) => channel.postMessage(job) };
}
