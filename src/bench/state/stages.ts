/** The stages in working order. */
export const STAGES = [
  { path: '/', name: 'Job' },
  { path: '/line', name: 'Line' },
  { path: '/frames', name: 'Frames' },
  { path: '/words', name: 'Words' },
  { path: '/scaling', name: 'Scaling' },
  { path: '/registers', name: 'Registers' },
  { path: '/trials', name: 'Trials' },
  { path: '/handover', name: 'Handover' },
] as const;

/** Places of the bench that are no stage of the work: reached from where they are needed, and from the foot of the stages. */
export const SIDE_PLACES = [{ path: '/sheets', name: 'Sheets' }] as const;
