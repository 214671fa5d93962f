// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { usePicks } from "./usePicks";

const own = (key: string) => key;
const LETTERS = [..."abcdef"];
const open = () => renderHook(() => usePicks(LETTERS, own));

describe("picking several", () => {
  it("takes one and gives it back", () => {
    const { result } = open();
    act(() => result.current.pick("c"));
    expect(result.current.chosen).toEqual(["c"]);
    act(() => result.current.pick("c"));
    expect(result.current.chosen).toEqual([]);
  });

  it("takes all from the last one to this one, up or down the list", () => {
    const { result } = open();
    act(() => result.current.pick("e"));
    act(() => result.current.pick("b", true));
    expect(result.current.chosen).toEqual(["b", "c", "d", "e"]);
    act(() => result.current.pick("c", true));
    expect(result.current.chosen).toEqual(["d", "e"]);
  });

  it("leaves out what has gone from the list", () => {
    const { result, rerender } = renderHook(({ items }) => usePicks(items, own), { initialProps: { items: LETTERS } });
    act(() => result.current.all());
    rerender({ items: ["b", "x"] });
    expect(result.current.chosen).toEqual(["b"]);
  });
});
