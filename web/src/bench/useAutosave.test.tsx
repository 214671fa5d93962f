// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api, type SavedPiece } from "../api/client";
import { useBench } from "./store";
import { useAutosave } from "./useAutosave";

interface Save {
  body: { revision: number; name: string };
  answer: (status?: number, error?: object) => Promise<void>;
  lose: () => Promise<void>;
}

let saves: Save[] = [];
const piece = { id: "p1", name: "Marsh", revision: 1, document: { caracol: 1, layers: [{ id: "land", steps: [] }] } };

beforeEach(() => {
  vi.useFakeTimers();
  saves = [];
  vi.spyOn(api, "PUT").mockImplementation(((_path: string, request: { body: Save["body"] }) => {
    let done: (value: unknown) => void;
    let failed: (fault: Error) => void;
    const rest = () => act(() => vi.advanceTimersByTimeAsync(0));
    saves.push({
      body: request.body,
      answer: async (status = 200, error) => {
        const data = { ...piece, ...request.body, revision: request.body.revision + 1 };
        done(error ? { error, response: { status } } : { data, response: { status } });
        await rest();
      },
      lose: async () => {
        failed(new TypeError("network"));
        await rest();
      },
    });
    return new Promise((a, b) => {
      done = a;
      failed = b;
    });
  }) as never);
  useBench.getState().open(piece as unknown as SavedPiece);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const rename = (name: string) => act(() => useBench.getState().edit({ type: "rename", name }));
const wait = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds));
const nth = (index: number): Save => {
  const found = saves[index];
  if (!found) throw new Error(`only ${saves.length} saves were sent`);
  return found;
};

describe("the autosave", () => {
  it("waits for quiet, and sends nothing where nothing was changed", async () => {
    const hook = renderHook(() => useAutosave());
    await wait(5000);
    expect(saves).toHaveLength(0);
    rename("A");
    await wait(300);
    rename("B");
    await wait(300);
    expect(saves).toHaveLength(0);
    await wait(300);
    expect(nth(0).body).toMatchObject({ revision: 1, name: "B" });
    expect(hook.result.current.state.kind).toBe("saving");
    await nth(0).answer();
    expect(hook.result.current.state.kind).toBe("saved");
    expect(useBench.getState().revision).toBe(2);
  });

  it("saves once a drag is over, not while it goes on", async () => {
    renderHook(() => useAutosave());
    act(() => useBench.setState({ dragging: true }));
    rename("A");
    await wait(3000);
    expect(saves).toHaveLength(0);
    act(() => useBench.setState({ dragging: false }));
    await wait(600);
    expect(saves).toHaveLength(1);
  });

  it("goes on from the revision the last save left, with what was edited meanwhile", async () => {
    renderHook(() => useAutosave());
    rename("A");
    await wait(600);
    rename("B");
    await nth(0).answer();
    await wait(600);
    expect(nth(1).body).toMatchObject({ revision: 2, name: "B" });
  });

  it("tries again after a lost connection and says meanwhile that it is not saved", async () => {
    const hook = renderHook(() => useAutosave());
    rename("A");
    await wait(600);
    await nth(0).lose();
    expect(hook.result.current.state.kind).toBe("lost");
    await wait(3100);
    await nth(1).answer();
    expect(nth(1).body.name).toBe("A");
    expect(hook.result.current.state.kind).toBe("saved");
  });

  it("puts a stale save to the user and overwrites nothing by itself", async () => {
    const hook = renderHook(() => useAutosave());
    rename("A");
    await wait(600);
    const current = { ...piece, name: "Theirs", revision: 5 };
    await nth(0).answer(409, { error: { code: "stale", message: "changed", faults: [] }, current });
    expect(hook.result.current.state).toMatchObject({ kind: "stale", current: { revision: 5 } });
    rename("B");
    await wait(5000);
    expect(saves).toHaveLength(1);
    act(() => hook.result.current.settleStale(5));
    await wait(600);
    expect(nth(1).body).toMatchObject({ revision: 5, name: "B" });
  });

  it("leaves a refused document until the next edit may have mended it", async () => {
    const hook = renderHook(() => useAutosave());
    rename("A");
    await wait(600);
    await nth(0).answer(422, { error: { code: "piece", message: "name: too long", faults: [] } });
    expect(hook.result.current.state).toMatchObject({ kind: "refused", message: "name: too long" });
    await wait(5000);
    expect(saves).toHaveLength(1);
    rename("B");
    await wait(600);
    expect(saves).toHaveLength(2);
  });

  it("saves what is left when the page is hidden", async () => {
    renderHook(() => useAutosave());
    rename("A");
    act(() => void window.dispatchEvent(new Event("pagehide")));
    expect(nth(0).body.name).toBe("A");
  });
});
