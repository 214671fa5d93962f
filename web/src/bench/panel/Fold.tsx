import type { ReactNode } from "react";
import { type Section, unfold, usePrefs } from "../prefs";

interface Props {
  section: Section;
  label: string;
  /** What is told beside the name while it is folded. */
  note?: string;
  children: ReactNode;
}

/** A part of the panel that is folded away or open, as this artist left it. */
export function Fold({ section, label, note, children }: Props) {
  const open = usePrefs((prefs) => prefs.open[section] ?? false);
  return (
    <section className="panel-part" aria-label={label}>
      <div className="part-head">
        <button type="button" className="bare part-name" aria-expanded={open} onClick={() => unfold(section, !open)}>
          {label}
        </button>
        {!open && note && (
          <span className="quiet small clip" title={note}>
            {note}
          </span>
        )}
      </div>
      {open && children}
    </section>
  );
}
