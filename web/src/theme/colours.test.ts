import { expect, test } from "vitest";
import { colours, publishColours } from "./colours";

const files = import.meta.glob(["../**/*.{css,ts,tsx}", "!../**/*.test.*", "!../api/generated.ts", "!./colours.ts"], {
  query: "?raw",
  import: "default",
  eager: true,
}) as Record<string, string>;

test("colours are named in the theme alone, and every name a style sheet reads is there", () => {
  const given = new Map<string, string>();
  publishColours({ style: { setProperty: (name: string, value: string) => given.set(name, value) } } as unknown as HTMLElement);
  const named = Object.entries(files).filter(([name, text]) => /#[0-9a-f]{3,8}\b|\brgba?\(/i.test(text) && !/Colours?Control/.test(name));
  expect(named.map(([name]) => name)).toEqual([]);
  const read = new Set(Object.values(files).flatMap((text) => [...text.matchAll(/var\((--[a-z-]+)/g)].map(([, name]) => name ?? "")));
  const missing = [...read].filter((name) => !given.has(name) && !Object.values(files).some((text) => text.includes(`${name}:`)));
  expect(missing).toEqual([]);
  expect(Object.keys(files).length).toBeGreaterThan(100);
  expect(given.get("--trace-edge")).toBe(colours.traceEdge);
});
