import { Checkbox } from "antd";
import { type RefObject, useRef, useState } from "react";
import type { Try } from "../api/client";
import { useInSight } from "../shared/useInSight";
import { pictureOf } from "./useRecipes";
import "./TrySheet.css";

const WORTH = ["poor", "fair", "good"] as const;
export const keyOf = (one: Pick<Try, "recipe" | "photo">) => `${one.recipe} ${one.photo}`;

interface Props {
  tries: Try[];
  /** What stands below a picture: the photo's name, or the recipe's. */
  named: (one: Try) => string;
  changed: (one: Try) => string;
  dials: Record<string, number>;
  picked: ReadonlySet<string>;
  onPick: (key: string, through: boolean) => void;
}

/** A contact sheet: pictures as they come, best fit first; a press makes one large in its place. */
export function TrySheet({ tries, named, changed, dials, picked, onPick }: Props) {
  const [large, setLarge] = useState<string | null>(null);
  return (
    <ul className="tries" aria-label="Contact sheet">
      {tries.map((one) => {
        const key = keyOf(one);
        return (
          <TryItem
            key={key}
            one={one}
            name={named(one)}
            changed={changed(one)}
            dials={dials}
            large={large === key}
            onLarge={() => setLarge(large === key ? null : key)}
            picked={picked.has(key)}
            onPick={(through) => onPick(key, through)}
          />
        );
      })}
    </ul>
  );
}

interface ItemProps {
  one: Try;
  name: string;
  changed: string;
  dials: Record<string, number>;
  large: boolean;
  onLarge: () => void;
  picked: boolean;
  onPick: (through: boolean) => void;
}

function TryItem({ one, name, changed, dials, large, onLarge, picked, onPick }: ItemProps) {
  const ref = useRef<HTMLLIElement>(null);
  const seen = useInSight(ref as RefObject<Element | null>);
  const [state, setState] = useState<"coming" | "there" | "failed">("coming");
  const source = pictureOf({ id: one.recipe, changed_at: changed }, one.photo, dials, large ? 1024 : 384);
  const verdict = WORTH[one.worth] ?? "fair";
  return (
    <li ref={ref} className={`${large ? "large" : ""} ${picked ? "picked" : ""}`}>
      <button type="button" className="bare try-picture" aria-label={`${name}, ${large ? "smaller" : "larger"}`} onClick={onLarge}>
        {seen && (
          <img key={one.photo} src={source} alt="" className={state} onLoad={() => setState("there")} onError={() => setState("failed")} />
        )}
        {state === "failed" && <span className="quiet small">It could not be made with these settings.</span>}
      </button>
      <div className="try-words">
        <Checkbox checked={picked} onChange={({ nativeEvent }) => onPick((nativeEvent as MouseEvent).shiftKey)} aria-label={`Pick ${name}`}>
          <strong className="clip" title={name}>
            {name}
          </strong>
        </Checkbox>
        <span className={`small verdict-line ${verdict}`}>{one.reason}</span>
      </div>
    </li>
  );
}
