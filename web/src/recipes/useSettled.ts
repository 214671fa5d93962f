import { useEffect, useState } from "react";

const REST = 120;

/** A value once it has rested for a moment: a whole sheet is not asked for at every move of a hand. */
export function useSettled<Value>(value: Value): Value {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), REST);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
