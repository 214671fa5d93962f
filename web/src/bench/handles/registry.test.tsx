// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Handle, Kind } from "../../api/client";
import { catalogue } from "../../testing/catalogue";
import { begin } from "../model/edits";
import { place, toStage } from "../model/geometry";
import { defaults } from "../model/settings";
import { useBench } from "../store";
import { HANDLES } from "./registry";

/** Handles that are drawn from more than a step's own settings, and have tests of their own. */
const APART = new Set(["bars", "strokes"]);
const PLACED = place({ width: 200, height: 100 }, { width: 1028, height: 528 }, 1, { x: 0, y: 0 });
const FAR = [
  { x: 0, y: -40 },
  { x: 4000, y: 30 },
  { x: -4000, y: -30 },
  { x: 20, y: 4000 },
  { x: -20, y: -4000 },
];

type Change = Record<string, unknown>;

const queries = new QueryClient();
const PIECE = { caracol: 3 as const, layers: [{ id: "land", name: "Land", source: { kind: "fill" }, steps: [] }] };
useBench.setState({ history: begin({ name: "", document: PIECE as never }) });

afterEach(cleanup);

/** Draw a handle with these settings; what it sets is written down, and drawn again as the Bench would. */
function drawn(kind: Kind, handle: Handle, settings: Change) {
  const told = { changes: [] as Change[], dragging: [] as boolean[] };
  const Drawn = HANDLES[handle];
  let current = settings;
  const view = () => (
    <QueryClientProvider client={queries}>
      <svg>
        <title>stage</title>
        <Drawn
          kind={kind}
          settings={current as never}
          placed={PLACED}
          set={(change) => {
            told.changes.push(change);
            current = { ...current, ...change };
            drawing.rerender(view());
          }}
          dragging={(on) => told.dragging.push(on)}
        />
      </svg>
    </QueryClientProvider>
  );
  const drawing = render(view());
  return { told, knobs: () => [...drawing.container.querySelectorAll<SVGGElement>("g.knob")], settings: () => current };
}

function drag(knob: Element, way: { x: number; y: number }) {
  const at = { clientX: 500, clientY: 250, pointerId: 1, buttons: 1, isPrimary: true };
  fireEvent.pointerDown(knob, at);
  for (const share of [0.5, 1]) fireEvent.pointerMove(knob, { ...at, clientX: 500 + way.x * share, clientY: 250 + way.y * share });
  fireEvent.pointerUp(knob, { ...at, clientX: 500 + way.x, clientY: 250 + way.y, buttons: 0 });
}

/** What is wrong with a change, by the catalogue; nothing where all is well. */
function faults(kind: Kind, change: Change): string[] {
  return Object.entries(change).flatMap(([name, value]) => {
    const setting = kind.settings.find((s) => s.name === name);
    if (!setting) return [`${name} is no setting of ${kind.key}`];
    if (typeof value !== "number") return [];
    const [low, high] = [setting.minimum ?? Number.NEGATIVE_INFINITY, setting.maximum ?? Number.POSITIVE_INFINITY];
    return value >= low && value <= high ? [] : [`${kind.key}.${name}: ${value} is not in ${low} … ${high}`];
  });
}

const pairs = catalogue.kinds.flatMap((kind) => kind.handles.map((handle) => ({ kind, handle, name: `${kind.key}: ${handle}` })));

describe("the registry of handles", () => {
  it("has every handle the catalogue names, and no other", () => {
    expect(new Set(pairs.map((pair) => pair.handle))).toEqual(new Set(Object.keys(HANDLES)));
  });

  it.each(pairs.filter((pair) => !APART.has(pair.handle)))(
    "$name sets what its kind has, within its ranges, however far it is dragged",
    ({ kind, handle }) => {
      const start = defaults(kind, (kind.starts[0]?.settings ?? {}) as never);
      const count = drawn(kind, handle, start).knobs().length;
      cleanup();
      for (let index = 0; index < count; index += 1) {
        const { told, knobs } = drawn(kind, handle, start);
        const knob = () => knobs()[index] as Element;
        for (const way of FAR) drag(knob(), way);
        fireEvent.keyDown(knob(), { key: "ArrowRight", shiftKey: true });
        expect(told.changes.length).toBeGreaterThan(0);
        expect(told.changes.flatMap((change) => faults(kind, change))).toEqual([]);
        expect(told.dragging).toEqual(FAR.flatMap(() => [true, false]));
        cleanup();
      }
    },
  );
});

/** Where a knob is drawn. */
function spotOf(knob: Element): { x: number; y: number } {
  const [, x = "0", y = "0"] = /translate\(([-\d.e]+) ([-\d.e]+)\)/.exec(knob.getAttribute("transform") ?? "") ?? [];
  return { x: Number(x), y: Number(y) };
}

/** Knobs that stand for a number without lying where it would: they go the way of the hand, at a pace of their own. */
const BY_PACE = new Set(["Melt heading and push"]);

describe("what is under the pointer stays under the pointer", () => {
  it.each(pairs.filter((pair) => !APART.has(pair.handle)))("$name", ({ kind, handle }) => {
    const start = defaults(kind, (kind.starts[0]?.settings ?? {}) as never);
    const count = drawn(kind, handle, start).knobs().length;
    cleanup();
    for (let index = 0; index < count; index += 1) {
      for (const way of [
        { x: 40, y: 0 },
        { x: -40, y: 0 },
        { x: 0, y: 30 },
        { x: 0, y: -30 },
      ]) {
        const { knobs } = drawn(kind, handle, start);
        const knob = knobs()[index] as Element;
        const label = knob.getAttribute("aria-label") ?? "";
        const before = spotOf(knob);
        const at = { clientX: 500, clientY: 250, pointerId: 1, buttons: 1, isPrimary: true };
        fireEvent.pointerDown(knob, at);
        fireEvent.pointerMove(knob, { ...at, clientX: 500 + way.x / 2, clientY: 250 + way.y / 2 });
        fireEvent.pointerMove(knob, { ...at, clientX: 500 + way.x, clientY: 250 + way.y });
        const after = spotOf(knobs()[index] as Element);
        fireEvent.pointerUp(knob, { ...at, clientX: 500 + way.x, clientY: 250 + way.y, buttons: 0 });
        const moved = { x: after.x - before.x, y: after.y - before.y };
        const gone = Math.hypot(moved.x, moved.y);
        // A knob may be bound to a line, a ray or a circle: it then lies where that comes nearest to the hand, and never runs ahead of it.
        if (!BY_PACE.has(label)) expect(gone, `${label} dragged by ${way.x}, ${way.y}`).toBeLessThan(Math.hypot(way.x, way.y) * 1.15 + 2);
        const along = moved.x * way.x + moved.y * way.y;
        expect(along, `${label} went against the hand`).toBeGreaterThan(-60);
        cleanup();
      }
    }
  });

  it("holds for a reach that leaves the picture", () => {
    const ring = catalogue.kinds.find((one) => one.key === "ring") as Kind;
    const { knobs, settings } = drawn(ring, "ring", defaults(ring, { reach: 1.5, spread: "shape" }));
    const reach = () => knobs().find((knob) => knob.getAttribute("aria-label") === "Size") as Element;
    const centre = { x: 514, y: 264 };
    const before = spotOf(reach());
    const at = { clientX: before.x, clientY: before.y, pointerId: 1, buttons: 1, isPrimary: true };
    fireEvent.pointerDown(reach(), at);
    fireEvent.pointerMove(reach(), { ...at, clientX: before.x + 40 });
    const after = spotOf(reach());
    expect(after.x - before.x).toBeCloseTo(40, 0);
    // What lies under the pointer is as far from the centre, measured by the reach, as it was.
    const share = (x: number, r: unknown) => (x - centre.x) / Number(r);
    expect(share(after.x, settings().reach)).toBeCloseTo(share(before.x, 1.5), 1);
    fireEvent.pointerUp(reach(), { ...at, clientX: before.x + 40, buttons: 0 });
  });
});

describe("a hole of nothing", () => {
  it("is pulled open by its knob, which stands a little way from the centre", () => {
    const ring = catalogue.kinds.find((one) => one.key === "ring") as Kind;
    const { knobs, settings } = drawn(ring, "ring", defaults(ring, { spread: "even", hole: 0 }));
    const hole = knobs().find((knob) => knob.getAttribute("aria-label") === "Hole") as Element;
    const { x, y } = spotOf(hole);
    const [dx, dy] = [x - 514, y - 264];
    const far = Math.hypot(dx, dy);
    drag(hole, { x: (dx / far) * 60, y: (dy / far) * 60 });
    expect(settings().hole).toBeCloseTo((far + 60) / 250, 1);
  });
});

describe("a centre", () => {
  const kind = catalogue.kinds.find((one) => one.key === "twirl") as Kind;

  it("is where the hand drops it", () => {
    const { told, knobs } = drawn(kind, "centre-reach", defaults(kind, {}));
    const centre = knobs().find((knob) => knob.getAttribute("aria-label") === "Centre") as Element;
    drag(centre, { x: 125, y: -50 });
    expect(told.changes.at(-1)).toEqual({ x: 0.5, y: -0.2 });
    expect(toStage(PLACED, { x: 0.5, y: -0.2 })).toEqual({ x: 639, y: 214 });
  });

  it("is nudged by the arrows, ten times as far with Shift, and reset by a double click", () => {
    const { told, knobs, settings } = drawn(kind, "centre-reach", defaults(kind, {}));
    const centre = () => knobs().find((knob) => knob.getAttribute("aria-label") === "Centre") as Element;
    fireEvent.keyDown(centre(), { key: "ArrowRight" });
    fireEvent.keyDown(centre(), { key: "ArrowDown", shiftKey: true });
    expect(settings()).toMatchObject({ x: 0.005, y: 0.05 });
    fireEvent.doubleClick(centre());
    expect(told.changes.at(-1)).toEqual({ x: 0, y: 0 });
  });
});
