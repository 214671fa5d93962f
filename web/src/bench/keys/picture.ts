/** Give the keys back to the picture. */
export function focusPicture(): void {
  document.querySelector<HTMLElement>(".stage")?.focus({ preventScroll: true });
}

/** Give the keys to the panel: to what it is opened for, else to its first button. */
export function focusPanel(): void {
  const find = (what: string) => document.querySelector<HTMLElement>(`.bench-side aside ${what}:enabled`);
  (find(".ant-btn-primary") ?? find("button"))?.focus({ preventScroll: true });
}
