import { App } from "antd";
import { useEffect } from "react";
import { useBench } from "./store";

/** Says why an edit was not made, or what was changed with it. */
export function Said() {
  const said = useBench((state) => state.said);
  const { message } = App.useApp();
  useEffect(() => {
    if (!said) return;
    void message.info({ content: said.words, key: "said", duration: 6 });
  }, [said, message]);
  return null;
}
