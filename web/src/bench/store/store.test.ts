import { expect, it } from "vitest";
import { useBench } from ".";

it.each([{ selected: "s2" }, { layer: "up" }])("choosing %o puts away what was drawn with", (chosen) => {
  useBench.setState({ selected: "s1", layer: "land", whereOpen: true, tool: "polygon", regionAt: 2 });
  useBench.getState().patch({ selected: "s1", layer: "land" });
  expect(useBench.getState().regionAt).toBe(2);
  useBench.getState().patch(chosen);
  const { whereOpen, tool, regionAt } = useBench.getState();
  expect([whereOpen, tool, regionAt]).toEqual([false, null, null]);
});
