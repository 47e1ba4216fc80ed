const { AsyncLocalStorage } = require('node:async_hooks');

/*
 * The test runner makes an AsyncLocalStorage for each test file and never ends it, and Node 20 asks all that were made so far at every new promise: after
 * a hundred files a promise costs thirty times what it costs after none. So those that a file began are ended with its environment.
 */
const begun = new Set();
const { run } = AsyncLocalStorage.prototype;
AsyncLocalStorage.prototype.run = function (...given) {
  begun.add(this);
  return run.apply(this, given);
};

/** Ends what files of tests began; what one of them keeps in such a storage is gone then. */
exports.endStorages = () => {
  for (const storage of begun) storage.disable();
  begun.clear();
};
