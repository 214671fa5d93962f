import { useCallback, useMemo, useRef, useState } from "react";

/** Several things picked of a list. With `through` everything between the last one picked and this one goes the same way. */
export function usePicks<Item>(items: Item[], keyOf: (item: Item) => string, first: Iterable<string> = []) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(() => new Set(first));
  const last = useRef<string | null>(null);
  const keys = useRef<string[]>([]);
  keys.current = useMemo(() => items.map(keyOf), [items, keyOf]);
  const pick = useCallback((key: string, through = false) => {
    const from = last.current === null ? -1 : keys.current.indexOf(last.current);
    const to = keys.current.indexOf(key);
    const reached = through && from >= 0 && to >= 0 ? keys.current.slice(Math.min(from, to), Math.max(from, to) + 1) : [key];
    last.current = key;
    setPicked((now) => {
      const next = new Set(now);
      for (const one of reached) {
        if (now.has(key)) next.delete(one);
        else next.add(one);
      }
      return next;
    });
  }, []);
  return {
    picked,
    pick,
    chosen: useMemo(() => items.filter((item) => picked.has(keyOf(item))), [items, picked, keyOf]),
    none: useCallback(() => setPicked(new Set()), []),
    all: useCallback((of?: Item[]) => setPicked(new Set(of?.map(keyOf) ?? keys.current)), [keyOf]),
    add: useCallback((key: string) => setPicked((now) => new Set(now).add(key)), []),
  };
}
