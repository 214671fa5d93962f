import { App } from "antd";
import { useCallback } from "react";

/** A notice of what was done, for a while, with the way back beside it. */
export function useUndoNotice() {
  const { notification, message } = App.useApp();
  return useCallback(
    (title: string, undo: () => Promise<unknown>, label = "Undo") => {
      const key = `notice-${crypto.randomUUID()}`;
      const press = () => {
        notification.destroy(key);
        undo().catch((fault: Error) => message.error(fault.message));
      };
      notification.open({
        key,
        title,
        duration: 12,
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
