/** Give the keys back to the picture. */
export function focusPicture(): void {
  document.querySelector<HTMLElement>(".stage")?.focus({ preventScroll: true });
}
