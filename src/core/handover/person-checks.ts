/** What only a person can see to before a plant is left, by a name that records keep. Common practice, no source. */
export const PERSON_CHECKS: Readonly<Record<string, string>> = {
  controller: 'the controller has its line back, and it runs the plant',
  cables: 'the laptop’s cable is out, ends and terminators are as they were',
  selectors: 'selectors and keys at the drives stand as the plant wants them',
  covers: 'covers are closed, nothing is bridged',
  people: 'those who run the plant know what is different from before',
};
