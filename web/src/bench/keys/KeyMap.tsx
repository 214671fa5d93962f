import { Input, type InputRef, Modal } from "antd";
import { useRef, useState } from "react";
import { useBenchPart } from "../store";
import { KEYS } from "./list";
import { focusPicture } from "./picture";
import "./KeyMap.css";

/** Every key and gesture of the Bench by what it is for, found by its words. */
export function KeyMap() {
  const { keysShown, patch } = useBenchPart("keysShown", "patch");
  const search = useRef<InputRef>(null);
  const [text, setText] = useState("");
  const sought = text.trim().toLowerCase();
  const groups = Object.entries(KEYS)
    .map(([group, keys]) => ({
      group,
      keys: keys.filter(({ shown, what }) => !sought || `${group} ${shown} ${what}`.toLowerCase().includes(sought)),
    }))
    .filter(({ keys }) => keys.length > 0);
  const close = () => patch({ keysShown: false });
  return (
    <Modal
      open={keysShown}
      onCancel={close}
      afterOpenChange={(open) => open && search.current?.focus()}
      afterClose={() => {
        setText("");
        focusPicture();
      }}
      footer={null}
      title="Shortcuts"
      width={1120}
      centered
      destroyOnHidden
    >
      <Input
        ref={search}
        allowClear
        size="small"
        className="keymap-search"
        placeholder="What it does"
        aria-label="Search shortcuts"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "?" || event.key === "Escape") {
            event.preventDefault();
            close();
          }
        }}
      />
      <div className="keymap">
        {groups.map(({ group, keys }) => (
          <section key={group} aria-label={group}>
            <h3>{group}</h3>
            <dl className="keys">
              {keys.map(({ shown, what }) => (
                <div key={shown} className="pair">
                  <dt>
                    <kbd>{shown}</kbd>
                  </dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
        {!groups.length && <p className="quiet">No shortcut found.</p>}
      </div>
    </Modal>
  );
}
