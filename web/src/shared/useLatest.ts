import { useCallback, useLayoutEffect, useRef } from "react";

/** A function that is always the same object and does what the last one given does: for parts that are drawn again only when they change. */
export function useLatest<Args extends unknown[], Result>(act: (...args: Args) => Result): (...args: Args) => Result {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: Args) => latest.current(...args), []);
}
