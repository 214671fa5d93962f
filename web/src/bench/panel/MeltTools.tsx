import { Button } from "antd";
import { useEffect } from "react";
import { MOST_ROUNDS } from "../model/melt";
import type { Step } from "../model/piece";
import { effectiveNumber, type Settable } from "../model/settings";
import { useBench, useBenchPart } from "../store";
import "./MeltTools.css";

/** Plays a melt round by round: the next round is asked for when the last one is seen. */
export function MeltTools({ step, kind }: { step: Step; kind: Settable }) {
  const { playing, shownOf, history, edit, patch } = useBenchPart("playing", "shownOf", "history", "edit", "patch");
  const rounds = effectiveNumber(kind, step.settings, "rounds");
  const present = history.present.document;
  useEffect(() => {
    if (!playing || shownOf !== present) return;
    if (rounds >= MOST_ROUNDS) patch({ playing: false, dragging: false });
    else edit({ type: "set", step: step.id, settings: { rounds: rounds + 1 }, gesture: `${step.id}-play` });
  }, [playing, shownOf, present, rounds, step.id, edit, patch]);
  // Leaving the step stops it.
  useEffect(() => () => useBench.setState({ playing: false, dragging: false }), []);
  const play = () => {
    if (!playing && rounds >= MOST_ROUNDS) edit({ type: "set", step: step.id, settings: { rounds: 1 } });
    patch({ playing: !playing, dragging: !playing, shownOf: present });
  };
  return (
    <div className="melt-tools">
      <Button type="primary" size="small" onClick={play}>
        {playing ? "Stop" : "Play"}
      </Button>
      <Button
        size="small"
        disabled={playing}
        onClick={() => {
          edit({ type: "set", step: step.id, settings: { rounds: 1 }, gesture: `${step.id}-play` });
          patch({ playing: true, dragging: true });
        }}
      >
        From the start
      </Button>
      <span className="quiet small" role="status">
        round {rounds}
      </span>
      <p className="quiet small">
        {playing
          ? "Direction, push, threshold and hold that you set now apply from this round on."
          : "While it plays, changes are stored with the current round. Drag Rounds to go back and forth."}
      </p>
    </div>
  );
}
