const path = require('node:path');
const { default: Sequencer } = require('@jest/test-sequencer');

/** Files that take longest, the longest first: one of them that began last would keep one core waiting for the other. */
const SLOW = [
  'src/link/recovery.test.ts',
  'src/link/stop-recovery.test.ts',
  'src/core/modbus/laws.test.ts',
  'tests/fields.test.tsx',
  'src/features/trials/move-panel.test.tsx',
  'src/features/registers/registers-stage.test.tsx',
  'tests/trials.test.ts',
  'tests/handover-stage.test.tsx',
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
