import { useCallback, useLayoutEffect, useRef } from "react";

/** A function that stays the same from one drawing to the next and does what the newest one does. */
export function useStable<A extends unknown[], R>(newest: (...args: A) => R): (...args: A) => R {
  const ref = useRef(newest);
  useLayoutEffect(() => {
    ref.current = newest;
  });
  return useCallback((...args: A) => ref.current(...args), []);
}
