import { Button, Input } from "antd";
import { useState } from "react";
import { useBook } from "../book/useBook";
import type { Step } from "../model/piece";
import { useBenchPart } from "../store";

/** The way from a formula step to the book and back. */
export function FormulaTools({ step }: { step: Step }) {
  const { overlay, toggle } = useBenchPart("overlay", "toggle");
  const { keep } = useBook();
  const [name, setName] = useState<string | null>(null);
  const keepIt = () => {
    if (name?.trim()) keep.mutate({ name: name.trim(), settings: step.settings }, { onSuccess: () => setName(null) });
  };
  return (
    <div className="stack">
      <div className="row">
        <Button size="small" aria-expanded={overlay?.kind === "book"} onClick={() => toggle("book")}>
          Open the formula book
        </Button>
        <Button size="small" aria-expanded={name !== null} onClick={() => setName(name === null ? "" : null)}>
          Save in the formula book
        </Button>
      </div>
      {name !== null && (
        <div className="row">
          <Input
            autoFocus
            size="small"
            aria-label="Name of the formula"
            placeholder="Name"
            maxLength={200}
            value={name}
            onChange={(event) => setName(event.target.value)}
            onPressEnter={keepIt}
          />
          <Button size="small" type="primary" disabled={!name.trim()} loading={keep.isPending} onClick={keepIt}>
            Save
          </Button>
        </div>
      )}
    </div>
  );
}
