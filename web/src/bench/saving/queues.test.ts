// @vitest-environment jsdom
import { afterEach, describe, expect, it } from "vitest";
import type { SavedPiece } from "../../api/client";
import { useBench } from "../store";
import { queueOf } from "./queues";

const fetched = (id: string, revision: number) =>
  ({ id, name: "Marsh", revision, document: { caracol: 3, layers: [{ id: "a", steps: [] }] } }) as unknown as SavedPiece;

afterEach(() => useBench.setState({ pieceId: null }));

describe("the queue of a piece fetched anew", () => {
  it("goes on from what the server has, when it is not on the Bench", () => {
    expect(queueOf(fetched("one", 3)).revision).toBe(3);
    expect(queueOf(fetched("one", 7)).revision).toBe(7);
  });
  it("stays at the revision the Bench has begun from: another tab's change must be told, not overwritten", () => {
    const queue = queueOf(fetched("two", 3));
    useBench.setState({ pieceId: "two" });
    expect(queueOf(fetched("two", 7))).toBe(queue);
    expect(queue.revision).toBe(3);
  });
});
