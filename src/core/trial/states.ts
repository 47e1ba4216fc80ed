import { RUNNING, stateOf, targetsOf, type Profile } from '../profile/profile';

/** What running is: the word that runs in a state, or the first state in which the shaft turns and that is commanded. */
export const runningOf = (profile: Profile): string =>
  profile.runs ? RUNNING : (targetsOf(profile).find((id) => stateOf(profile, id)?.turns === true) ?? RUNNING);

/** The state in which nobody asks anything of the drive: the first that is commanded. */
export const restOf = (profile: Profile): string | undefined => targetsOf(profile).find((id) => id !== RUNNING);

/** A target as people say it, `running` or `rest`, as a state of this profile. */
export const targetOf = (profile: Profile, to: string): string =>
  to === 'rest' ? (restOf(profile) ?? to) : to === RUNNING ? runningOf(profile) : to;
