import type { ReactNode } from "react";
import { whyIdle } from "../../model/settings";
import type { ControlProps } from "./types";
import "./Idle.css";

/** A setting's row; where the setting does nothing just now, fainter, and with the reason below it. */
export function Idle({ kind, setting, settings, children }: ControlProps & { children: ReactNode }) {
  const why = whyIdle(kind, settings, setting);
  if (!why) return children;
  return (
    <div className="idle">
      {children}
      <p className="idle-why">{why}</p>
    </div>
  );
}
