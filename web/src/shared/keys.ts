import { useEffect } from "react";
import { useLatest } from "./useLatest";

/** Boxes that take no words: keys of the page work in them. */
const WORDLESS = new Set(["button", "checkbox", "color", "file", "radio", "range", "reset", "submit"]);

/** Whether words are being typed where an event comes from. */
export function isTyping(target: EventTarget | null): boolean {
  const at = target instanceof Element ? target.closest("input, textarea, [contenteditable]:not([contenteditable='false'])") : null;
  if (at instanceof HTMLInputElement) return !at.readOnly && !WORDLESS.has(at.type);
  return at !== null;
}

/**
 * What is pressed, as lists of keys name it: "mod+z", "shift+n", "?", "escape". A sign is the one that is written, wherever it lies on the
 * keyboard and whatever else is held for it; where letters are not Latin, the place of the key counts.
 */
export function combination(event: KeyboardEvent): string {
  const { key, code } = event;
  const placed = /^Key([A-Z])$/.exec(code)?.[1];
  const name = (placed && !/^[\u0020-\u024f]/.test(key) ? placed : key).toLowerCase();
  // The third level of a keyboard reads as Control with Alt.
  const written = event.getModifierState("AltGraph");
  const mod = (event.ctrlKey || event.metaKey) && !written;
  const alt = event.altKey && !written;
  const shift = event.shiftKey && (name.length > 1 || /\p{L}/u.test(name));
  return [mod && "mod", alt && "alt", shift && "shift", name === " " ? "space" : name].filter(Boolean).join("+");
}

/** What a combination does; false where it leaves the event to others. */
export type Act = (event: KeyboardEvent) => unknown;

/** Do what a table of combinations says, wherever no words are typed. */
export function useKeys(table: Record<string, Act>): void {
  const actOf = useLatest((pressed: string) => table[pressed]);
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing || isTyping(event.target)) return;
      const act = actOf(combination(event));
      if (act && act(event) !== false) event.preventDefault();
    };
    window.addEventListener("keydown", down);
    return () => window.removeEventListener("keydown", down);
  }, [actOf]);
}
