import { useDrag } from "@use-gesture/react";
import type { KeyboardEvent } from "react";
import "./Splitter.css";

interface Props {
  label: string;
  /** Which way it lies: across, above what it sizes; or upright, left of it. */
  lies: "across" | "upright";
  value: number;
  least: number;
  most: number;
  usual: number;
  onChange: (value: number) => void;
}

const STEP = 16;

/** The edge between two parts of the screen: dragged, moved with the arrow keys, or put back by a double click. */
export function Splitter({ label, lies, value, least, most, usual, onChange }: Props) {
  const set = (next: number) => onChange(Math.round(Math.min(most, Math.max(least, next))));
  const bind = useDrag(
    ({ movement: [mx, my], memo = value }) => {
      set(memo - (lies === "across" ? my : mx));
      return memo;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const larger = lies === "across" ? "ArrowUp" : "ArrowLeft";
    const smaller = lies === "across" ? "ArrowDown" : "ArrowRight";
    const way = event.key === larger ? 1 : event.key === smaller ? -1 : 0;
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    set(value + way * STEP);
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule that is moved is no hr
    <div
      {...bind()}
      className={`splitter ${lies}`}
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation={lies === "across" ? "horizontal" : "vertical"}
      aria-valuemin={least}
      aria-valuemax={most}
      aria-valuenow={value}
      title={`${label}: drag; double click for the default`}
      onKeyDown={onKeyDown}
      onDoubleClick={() => onChange(usual)}
    />
  );
}
