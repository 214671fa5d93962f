import { type FocusEvent, type KeyboardEvent, useState } from "react";

const nearest = (items: HTMLElement[], score: (box: DOMRect) => number): HTMLElement | undefined =>
  items
    .map((item) => ({ item, score: score(item.getBoundingClientRect()) }))
    .filter((one) => one.score < Number.POSITIVE_INFINITY)
    .sort((a, b) => a.score - b.score)[0]?.item;

/** The item of a grid that an arrow leads to from another: along the rows, or to the one above or below. */
export function arrowed(items: HTMLElement[], from: HTMLElement, key: string): HTMLElement | undefined {
  const at = items.indexOf(from);
  const box = from.getBoundingClientRect();
  const vertical = (way: 1 | -1) =>
    nearest(items, (other) => {
      const down = (other.top - box.top) * way;
      return down > box.height / 2
        ? down * 1000 + Math.abs(other.left + other.width / 2 - box.left - box.width / 2)
        : Number.POSITIVE_INFINITY;
    });
  switch (key) {
    case "ArrowLeft":
      return items[at - 1];
    case "ArrowRight":
      return items[at + 1];
    case "ArrowUp":
      return vertical(-1);
    case "ArrowDown":
      return vertical(1);
    case "Home":
      return items[0];
    case "End":
      return items.at(-1);
    default:
      return undefined;
  }
}

/**
 * A grid that is one stop of the Tab key, and in which arrows go from item to item. Its items carry `data-roving` with their id, and ask
 * `tab` for their tabIndex; before any has had the focus, `first` is where Tab leads.
 */
export function useRoving(first: string | undefined) {
  const [current, setCurrent] = useState<string | null>(null);
  return {
    tab: (id: string): 0 | -1 => ((current ?? first) === id ? 0 : -1),
    grid: {
      onFocus: ({ target }: FocusEvent) => {
        const id = target instanceof HTMLElement && target.dataset.roving;
        if (id) setCurrent(id);
      },
      onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
        const from = event.target as HTMLElement;
        if (!from.dataset.roving) return;
        const to = arrowed([...event.currentTarget.querySelectorAll<HTMLElement>("[data-roving]")], from, event.key);
        if (!to) return;
        event.preventDefault();
        event.stopPropagation();
        to.focus();
      },
    },
  };
}
