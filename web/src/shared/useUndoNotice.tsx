import { App } from "antd";
import { useCallback } from "react";

interface More {
  label?: string;
  /** What else there is to say, a line for each; a notice that has such stays until it is closed. */
  lines?: string[];
}

/** A notice of what was done, for a while, with the way back beside it. */
export function useUndoNotice() {
  const { notification, message } = App.useApp();
  return useCallback(
    (title: string, undo: () => Promise<unknown>, { label = "Undo", lines = [] }: More = {}) => {
      const key = `notice-${crypto.randomUUID()}`;
      const press = () => {
        notification.destroy(key);
        undo().catch((fault: Error) => message.error(fault.message));
      };
      notification.open({
        key,
        title,
        description: lines.length ? lines.map((line) => <div key={line}>{line}</div>) : undefined,
        duration: lines.length ? 0 : 12,
        placement: "bottomLeft",
        actions: (
          <button type="button" className="bare chip" onClick={press}>
            {label}
          </button>
        ),
      });
    },
    [notification, message],
  );
}
