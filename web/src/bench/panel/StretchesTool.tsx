import { Button } from "antd";
import { useBench } from "../store";

/** Shows what a step acts on, over the picture. */
export function StretchesTool() {
  const stretchesShown = useBench((state) => state.stretchesShown);
  const patch = useBench((state) => state.patch);
  return (
    <Button size="small" aria-pressed={stretchesShown} onClick={() => patch({ stretchesShown: !stretchesShown })}>
      {stretchesShown ? "Hide sorted stretches" : "Show sorted stretches"}
    </Button>
  );
}
