import { clamp, perUnit, round, toStage } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round, Stroke } from "./parts";
import { RadiusKnob } from "./RadiusKnob";
import type { HandleProps } from "./types";

const FARTHEST = 6;

/** Where fog begins and where it is thickest: two heights, two circles, or the ends of a line. */
export function FogHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const by = effective(kind, settings, "by");
  const shared = { placed, onDragging: dragging };
  if (by === "line") {
    const [clear, dense] = (["clear", "dense"] as const).map((end) => ({ x: value(`${end}_x`), y: value(`${end}_y`) })) as [
      { x: number; y: number },
      { x: number; y: number },
    ];
    return (
      <g>
        <Stroke from={toStage(placed, clear)} to={toStage(placed, dense)} />
        {(["clear", "dense"] as const).map((end) => (
          <Knob
            {...shared}
            key={end}
            label={end === "clear" ? "Clear, end" : "Thick, end"}
            grid
            look={end === "dense" ? "coral" : "plain"}
            at={end === "clear" ? clear : dense}
            onMove={({ to, gesture }) =>
              set({ [`${end}_x`]: round(clamp(to.x, -FARTHEST, FARTHEST)), [`${end}_y`]: round(clamp(to.y, -FARTHEST, FARTHEST)) }, gesture)
            }
            onReset={() => set(end === "clear" ? { clear_x: 0, clear_y: -0.3 } : { dense_x: 0, dense_y: 0.8 }, "reset")}
          />
        ))}
      </g>
    );
  }
  const [clear, dense] = [value("clear"), value("dense")];
  if (by === "height") {
    const half = placed.width / 2 / perUnit(placed);
    const line = (y: number, dash?: string) => (
      <Stroke from={toStage(placed, { x: -half, y })} to={toStage(placed, { x: half, y })} {...(dash ? { dash } : {})} />
    );
    const knob = (name: "clear" | "dense", x: number) => (
      <Knob
        {...shared}
        label={name === "clear" ? "Clear from here" : "Thick from here"}
        grid
        look={name === "dense" ? "coral" : "plain"}
        at={{ x, y: value(name) }}
        onMove={({ to, gesture }) => set({ [name]: round(clamp(to.y, -FARTHEST, FARTHEST)) }, gesture)}
        onReset={() => set({ [name]: null }, "reset")}
      />
    );
    return (
      <g>
        {line(clear, "3 6")}
        {line(dense)}
        {knob("clear", -0.3 * half)}
        {knob("dense", 0.3 * half)}
      </g>
    );
  }
  const centre = { x: value("x"), y: value("y") };
  const spot = toStage(placed, centre);
  const circle = (name: "clear" | "dense", turns: number[]) => (
    <RadiusKnob
      {...shared}
      label={name === "clear" ? "Clear at" : "Thick at"}
      look={name === "dense" ? "coral" : "plain"}
      centre={centre}
      radius={Math.max(value(name), 0)}
      turns={turns}
      least={0.06}
      onRadius={(next, gesture) => set({ [name]: round(clamp(next, 0, FARTHEST)) }, gesture)}
      onReset={() => set({ [name]: null }, "reset")}
    />
  );
  return (
    <g>
      <Round centre={spot} radius={clear * perUnit(placed)} dash="3 6" />
      <Round centre={spot} radius={dense * perUnit(placed)} />
      {circle("clear", [0.25, 0.75])}
      {circle("dense", [0.125, 0.375, 0.625, 0.875])}
      <Knob
        {...shared}
        label="Centre"
        grid
        at={centre}
        onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -10, 10)), y: round(clamp(to.y, -10, 10)) }, gesture)}
        onReset={() => set({ x: null, y: null }, "reset")}
      />
    </g>
  );
}
