// @vitest-environment jsdom
import { afterEach, expect, it, vi } from "vitest";
import { stored } from "./storage";

afterEach(() => {
  vi.restoreAllMocks();
  localStorage.clear();
});

it("keeps what it is given, and gives nothing for what cannot be read", () => {
  expect(stored.write("a", { steps: [1] })).toBe(true);
  expect(stored.read("a")).toEqual({ steps: [1] });
  localStorage.setItem("b", "{spoilt");
  vi.spyOn(console, "warn").mockImplementation(() => {});
  expect([stored.read("b"), stored.read("c")]).toEqual([null, null]);
  stored.remove("a");
  expect(stored.read("a")).toBeNull();
});

it("goes without where the browser keeps nothing", () => {
  const full = () => {
    throw new DOMException("full", "QuotaExceededError");
  };
  for (const name of ["getItem", "setItem", "removeItem"] as const) vi.spyOn(Storage.prototype, name).mockImplementation(full);
  const told = vi.spyOn(console, "warn").mockImplementation(() => {});
  expect(stored.write("a", 1)).toBe(false);
  expect(stored.read("a")).toBeNull();
  stored.remove("a");
  expect(told).toHaveBeenCalledTimes(3);
});
