import { App } from "antd";
import { useEffect } from "react";
import { useBench } from "./store";

/** Says why an edit was not made, or what was changed with it. */
export function Said() {
  const said = useBench((state) => state.said);
  const { message } = App.useApp();
  useEffect(() => {
    if (said) void message.open({ content: said.words, key: "said", duration: 8 });
    else message.destroy("said");
  }, [said, message]);
  return null;
}
