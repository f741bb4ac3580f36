/** Does things one after the other: each begins when the one before has ended, however that went. */
export function createLine() {
  let last: Promise<unknown> = Promise.resolve();
  return function inLine<T>(work: () => Promise<T>): Promise<T> {
    const mine = last.then(work, work);
    last = mine.catch(() => undefined);
    return mine;
  };
}
