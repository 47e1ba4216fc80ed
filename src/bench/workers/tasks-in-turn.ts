/** Gives what does each act in a task of its own, in the order in which they came; what a person does comes between two of them. */
export function tasksInTurn(): (act: () => void) => void {
  const waiting: (() => void)[] = [];
  const turn = new MessageChannel();
  turn.port1.onmessage = () => waiting.shift()?.();
  return (act) => {
    waiting.push(act);
    turn.port2.postMessage(null);
  };
}
