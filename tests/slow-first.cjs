const path = require('node:path');
const { default: Sequencer } = require('@jest/test-sequencer');

/** Files that take longest, the longest first: one of them that began last would keep one core waiting for the other. */
const SLOW = [
  'tests/fields.test.tsx',
  'tests/handover-stage.test.tsx',
  'src/features/registers/block-part.test.tsx',
  'tests/trials.test.ts',
  'src/core/modbus/laws.test.ts',
  'src/link/recovery.test.ts',
  'src/features/registers/registers-stage.test.tsx',
  'src/features/trials/move-panel.test.tsx',
  'src/link/stop-recovery.test.ts',
  'src/core/capture/read-capture.test.ts',
  'src/features/trials/trials-stage.test.tsx',
  'src/workers/handover/answer.test.ts',
];

const placeOf = ({ path: file, context }) => {
  const at = SLOW.indexOf(path.relative(context.config.rootDir, file).split(path.sep).join('/'));
  return at < 0 ? SLOW.length : at;
};

/** The slow files first; the others in the order that Jest finds best. */
module.exports = class extends Sequencer {
  async sort(tests) {
    return [...(await super.sort(tests))].sort((a, b) => placeOf(a) - placeOf(b));
  }
};
