import { Button } from "antd";
import { EditableName } from "../shared/EditableName";
import { Head } from "../shared/Head";
import type { Skip } from "../shared/Skips";
import { SaveNote } from "./SaveNote";
import type { SaveQueue } from "./saving/queue";
import { useBench, useBenchPart } from "./store";

const SKIPS: Skip[] = [
  ["To the picture", ".stage"],
  ["To the settings", ".bench-side :is([role=slider], input, .ant-segmented-item-input)"],
  ["To the steps", ".trail [data-roving][tabindex='0']"],
];

/** The piece's name, how it is saved, and what stands beside the picture. */
export function BenchHead({ queue }: { queue: SaveQueue }) {
  const { edit, patch, redo, undo, overlay, side, toggle } = useBenchPart("edit", "patch", "redo", "undo", "overlay", "side", "toggle");
  const name = useBench((state) => state.history.present.name);
  const canUndo = useBench((state) => state.history.past.length > 0);
  const canRedo = useBench((state) => state.history.future.length > 0);
  return (
    <Head skips={SKIPS}>
      <h1 className="head-name">
        <EditableName value={name} label="Name of the piece" onChange={(next) => edit({ type: "rename", name: next })} />
      </h1>
      <SaveNote state={queue.state} />
      <span className="spring" />
      <Button disabled={!canUndo} onClick={undo}>
        Undo
      </Button>
      <Button disabled={!canRedo} onClick={redo}>
        Redo
      </Button>
      <Button aria-pressed={overlay?.kind === "roll"} onClick={() => toggle("roll")}>
        Roll
      </Button>
      <Button aria-pressed={side === "recipes"} onClick={() => patch({ side: side === "recipes" ? "step" : "recipes" })}>
        Recipes
      </Button>
      <Button aria-pressed={side === "history"} onClick={() => patch({ side: side === "history" ? "step" : "history" })}>
        History
      </Button>
      <Button aria-pressed={side === "versions"} onClick={() => patch({ side: side === "versions" ? "step" : "versions" })}>
        Versions
      </Button>
      <Button onClick={() => patch({ keysShown: true })}>Shortcuts</Button>
      <Button type="primary" aria-pressed={side === "export"} onClick={() => patch({ side: side === "export" ? "step" : "export" })}>
        Export
      </Button>
    </Head>
  );
}
