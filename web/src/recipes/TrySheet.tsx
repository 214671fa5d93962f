import { Checkbox } from "antd";
import { memo, type RefObject, useCallback, useRef, useState } from "react";
import type { Try } from "../api/client";
import { useInSight } from "../shared/useInSight";
import { useNear } from "../shared/useNear";
import { pictureOf } from "./useRecipes";
import "./TrySheet.css";

const WORTH = ["poor", "fair", "good"] as const;
export const keyOf = (one: Pick<Try, "recipe" | "photo">) => `${one.recipe} ${one.photo}`;

const USUAL = 264;

interface Props {
  tries: Try[];
  /** What stands below a picture: the photo's name, or the recipe's. */
  named: (one: Try) => string;
  changed: (one: Try) => string;
  dials: Record<string, number>;
  /** Photos chosen for some of the recipe's layers. */
  slots: Record<string, string>;
  picked: ReadonlySet<string>;
  onPick: (key: string, through: boolean) => void;
}

/** A contact sheet: pictures as they come, best fit first; a press makes one large in its place. */
export function TrySheet({ tries, named, changed, dials, slots, picked, onPick }: Props) {
  const [large, setLarge] = useState<string | null>(null);
  const onLarge = useCallback((key: string) => setLarge((now) => (now === key ? null : key)), []);
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
            slots={slots}
            large={large === key}
            onLarge={onLarge}
            picked={picked.has(key)}
            onPick={onPick}
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
  slots: Record<string, string>;
  large: boolean;
  onLarge: (key: string) => void;
  picked: boolean;
  onPick: (key: string, through: boolean) => void;
}

const TryItem = memo(function TryItem(props: ItemProps) {
  const ref = useRef<HTMLLIElement>(null);
  const { near, height } = useNear(ref, USUAL);
  return (
    <li ref={ref} className={`${props.large ? "large" : ""} ${props.picked ? "picked" : ""}`} style={near ? undefined : { height }}>
      {near && <Inside {...props} list={ref} />}
    </li>
  );
});

function Inside({
  one,
  name,
  changed,
  dials,
  slots,
  large,
  onLarge,
  picked,
  onPick,
  list,
}: ItemProps & { list: RefObject<Element | null> }) {
  const key = keyOf(one);
  const seen = useInSight(list);
  const [state, setState] = useState<"coming" | "there" | "failed">("coming");
  const source = pictureOf({ id: one.recipe, changed_at: changed }, one.photo, dials, large ? 1024 : 384, slots);
  const verdict = WORTH[one.worth] ?? "fair";
  return (
    <>
      <button
        type="button"
        className="bare try-picture"
        aria-label={`${name}, ${large ? "smaller" : "larger"}`}
        onClick={() => onLarge(key)}
      >
        {state === "coming" && (
          <span className="coming-note">
            <img src={one.thumbnail} alt="" />
            <span className="small">The photo; its picture is on its way</span>
          </span>
        )}
        {seen && (
          <img key={one.photo} src={source} alt="" className={state} onLoad={() => setState("there")} onError={() => setState("failed")} />
        )}
        {state === "failed" && <span className="quiet small">It could not be made with these settings.</span>}
      </button>
      <div className="try-words">
        <Checkbox
          checked={picked}
          onChange={({ nativeEvent }) => onPick(key, (nativeEvent as MouseEvent).shiftKey)}
          aria-label={`Select ${name}`}
        >
          <strong className="clip" title={name}>
            {name}
          </strong>
        </Checkbox>
        <span className={`small verdict-line ${verdict}`}>{one.reason}</span>
      </div>
    </>
  );
}
