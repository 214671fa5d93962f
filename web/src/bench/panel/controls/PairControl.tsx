import { Idle } from "./Idle";
import { Name } from "./Name";
import { NumberFigure } from "./NumberFigure";
import type { ControlProps } from "./types";
import { useNumber } from "./useNumber";
import "./PairControl.css";

/** A number without a slider: a short name to be scrubbed, and the figure. */
export function ShortNumber({ short, bare = false, ...props }: ControlProps & { short?: string; bare?: boolean }) {
  const number = useNumber(props);
  return (
    <span className="short-number">
      {short !== undefined && <Name {...props} scrub={number.scrub} short={short} />}
      <NumberFigure setting={props.setting} number={number} bare={bare} />
    </span>
  );
}

/** Longer names leave too little room for a figure beside them: then both figures stand below. */
const BESIDE = 9;

/** Two numbers that belong together, in one row. */
export function PairControl({ label, names, pair }: { label: string; names: [string, string]; pair: [ControlProps, ControlProps] }) {
  return (
    <Idle {...pair[0]}>
      <div className={`setting pair ${label ? "" : "unnamed"} ${names.some((name) => name.length > BESIDE) ? "stacked" : ""}`}>
        {label && <span className="name">{label}</span>}
        {pair.map((props, n) => (
          <ShortNumber key={props.setting.name} {...props} short={names[n]} />
        ))}
      </div>
    </Idle>
  );
}
