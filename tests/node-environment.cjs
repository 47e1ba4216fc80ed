const { TestEnvironment } = require('jest-environment-node');
const { endStorages } = require('./end-storages.cjs');

/** Plain Node, which leaves nothing behind that the next file would pay for. */
module.exports = class extends TestEnvironment {
  async teardown() {
    await super.teardown();
    endStorages();
  }
};
