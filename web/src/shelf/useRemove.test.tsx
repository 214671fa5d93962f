// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { App } from "antd";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useRemove } from "./useRemove";

const ROWS = [..."abcdefgh"].map((id) => ({ id, name: `Piece ${id}` }));
/** What the server refuses, by the call's name and the piece. */
let refused: Set<string>;
let asked: string[];

vi.mock("../api/client", async (original) => {
  const answer =
    (name: string) =>
    async (_: string, { params }: { params: { path: { piece_id: string } } }) => {
      const call = `${name} ${params.path.piece_id}`;
      asked.push(call);
      return refused.has(call) ? { error: { error: { code: "busy", message: `no ${call}` } } } : { data: {} };
    };
  return { ...(await original<typeof import("../api/client")>()), api: { DELETE: answer("delete"), POST: answer("restore") } };
});

beforeEach(() => {
  refused = new Set();
  asked = [];
  vi.stubGlobal("matchMedia", () => ({ matches: false, addListener: () => {}, removeListener: () => {}, addEventListener: () => {} }));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function Delete({ rows }: { rows: typeof ROWS }) {
  const remove = useRemove("pieces");
  return (
    <button type="button" onClick={() => remove.mutate(rows)}>
      Delete
    </button>
  );
}

const shown = (rows: typeof ROWS) => {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <App>
        <Delete rows={rows} />
      </App>
    </QueryClientProvider>,
  );
  fireEvent.click(screen.getByText("Delete"));
};

it("names each that could not be deleted, with its reason, and tries those again", async () => {
  refused = new Set(["delete b", "delete d"]);
  shown(ROWS.slice(0, 5));
  expect(await screen.findByText("3 pieces were deleted")).toBeTruthy();
  expect(await screen.findByText("2 pieces could not be deleted")).toBeTruthy();
  expect(screen.getByText("“Piece b”: no delete b")).toBeTruthy();
  expect(screen.getByText("“Piece d”: no delete d")).toBeTruthy();
  refused = new Set(["delete d"]);
  asked = [];
  fireEvent.click(screen.getByText("Try again"));
  expect(await screen.findByText("“Piece b” was deleted")).toBeTruthy();
  expect(await screen.findByText("1 piece could not be deleted")).toBeTruthy();
  expect(asked).toEqual(["delete b", "delete d"]);
});

it("names each that undo could not bring back, and tries those again", async () => {
  refused = new Set(ROWS.slice(1).map(({ id }) => `restore ${id}`));
  shown(ROWS);
  expect(await screen.findByText("8 pieces were deleted")).toBeTruthy();
  fireEvent.click(screen.getByText("Undo"));
  expect(await screen.findByText("7 pieces could not be restored")).toBeTruthy();
  expect(screen.getByText("“Piece b”: no restore b")).toBeTruthy();
  expect(screen.getByText("and 2 more")).toBeTruthy();
  refused.clear();
  asked = [];
  fireEvent.click(screen.getByText("Try again"));
  await vi.waitFor(() => expect(asked).toHaveLength(7));
});
