import { Button } from "antd";
import { useBench } from "../store";

/** Shows what a step acts on, over the picture. */
export function RunsTool() {
  const runsShown = useBench((state) => state.runsShown);
  const patch = useBench((state) => state.patch);
  return (
    <Button size="small" aria-pressed={runsShown} onClick={() => patch({ runsShown: !runsShown })}>
      {runsShown ? "Hide the runs" : "Show the runs"}
    </Button>
  );
}
