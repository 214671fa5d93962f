// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiFault, type Look, makeLook } from "../api/client";
import { WHOLE } from "./model/inView";
import type { PieceDocument } from "./model/piece";
import { useLook, type Wanted } from "./useLook";

vi.mock("../api/client", async (original) => ({ ...(await original<typeof import("../api/client")>()), makeLook: vi.fn() }));

interface Asked {
  body: Parameters<typeof makeLook>[0];
  answer: (fault?: Error) => Promise<void>;
}

let asked: Asked[] = [];
const document = (name: string): PieceDocument => ({ caracol: 3, layers: [{ id: name }] }) as unknown as PieceDocument;
const wanted = (name: PieceDocument, size = 1200): Wanted => ({ document: name, upto: null, layer: null, size, seen: 530 });

beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  vi.mocked(makeLook).mockImplementation(
    (body) =>
      new Promise<Look>((done, failed) => {
        const answer = async (fault?: Error) => {
          if (fault) failed(fault);
          else done({ blob: new Blob([JSON.stringify(body.document)]), width: 4, height: 2, part: WHOLE, missing: [], frames: null });
          await act(async () => {
            await vi.advanceTimersByTimeAsync(0);
          });
        };
        asked.push({ body, answer });
      }),
  );
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const wait = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds));
const told = (index: number): Asked => {
  const found = asked[index];
  if (!found) throw new Error(`only ${asked.length} looks were asked for`);
  return found;
};
const names = () => asked.map((one) => one.body.document.layers[0]?.id);

function look(first: Wanted, dragging = false) {
  return renderHook(({ now, drags }) => useLook("bench", now, drags), { initialProps: { now: first, drags: dragging } });
}

describe("the look of a piece", () => {
  it("is a draft of the size seen at once, and the full picture when all rests", async () => {
    const hook = look(wanted(document("a")));
    expect(asked).toHaveLength(1);
    expect(told(0).body).toMatchObject({ draft: true, size: 512 });
    await told(0).answer();
    expect(hook.result.current.settled).toBe(false);
    await wait(200);
    expect(told(1).body).toMatchObject({ draft: false, size: 1200 });
    await told(1).answer();
    expect(hook.result.current.settled).toBe(true);
  });

  it("is asked for once at a time, and of what waits only the newest", async () => {
    const hook = look(wanted(document("a")), true);
    for (const name of ["b", "c", "d"]) hook.rerender({ now: wanted(document(name)), drags: true });
    expect(names()).toEqual(["a"]);
    await told(0).answer();
    expect(names()).toEqual(["a", "d"]);
  });

  it("is not settled while a hand drags", async () => {
    look(wanted(document("a")), true);
    await told(0).answer();
    await wait(1000);
    expect(asked).toHaveLength(1);
  });

  it("overtakes one that takes long, and shows no older picture after a newer one", async () => {
    const hook = look(wanted(document("slow")), true);
    const newer = document("new");
    hook.rerender({ now: wanted(newer), drags: true });
    await wait(100);
    expect(names()).toEqual(["slow", "new"]);
    expect(Number(told(1).body.turn)).toBeGreaterThan(Number(told(0).body.turn));
    await told(1).answer();
    expect(hook.result.current.shown?.of.document).toBe(newer);
    await told(0).answer();
    expect(hook.result.current.shown?.of.document).toBe(newer);
  });

  it("takes no note of being overtaken, and tells other faults until a picture comes", async () => {
    const hook = look(wanted(document("a")), true);
    await told(0).answer(new ApiFault("superseded", "newer"));
    expect(hook.result.current.fault).toBeNull();
    hook.rerender({ now: wanted(document("b")), drags: true });
    await told(1).answer(new ApiFault("missing-photo", "The photo is gone."));
    expect(hook.result.current.fault).toBe("The photo is gone.");
    hook.rerender({ now: wanted(document("c")), drags: true });
    await told(2).answer();
    expect(hook.result.current.fault).toBeNull();
  });

  it("needs no second draft when only the drag ends", async () => {
    const same = wanted(document("a"));
    const hook = look(same, true);
    await told(0).answer();
    hook.rerender({ now: same, drags: false });
    await wait(200);
    expect(asked.map((one) => one.body.draft)).toEqual([true, false]);
  });
});
