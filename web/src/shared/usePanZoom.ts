import { type RefObject, useEffect } from "react";
import { isTyping } from "./keys";
import { useLatest } from "./useLatest";
import { wheelFactor, wheelTeller } from "./wheel";

const LEAST = 4;

interface Spot {
  x: number;
  y: number;
}

interface Ways {
  /** Move what is seen by pixels of the screen. */
  pan: (by: Spot) => void;
  /** Enlarge it about a place of the screen. */
  zoom: (factor: number, at: Spot) => void;
  /** What the first of two fingers began is taken back. */
  onSecondFinger?: () => void;
  /** Whether a press on this, by the only finger or the first button, moves what is seen. */
  isGround: (target: Element) => boolean;
}

const middle = (spots: Spot[]): Spot => ({
  x: spots.reduce((sum, spot) => sum + spot.x, 0) / spots.length,
  y: spots.reduce((sum, spot) => sum + spot.y, 0) / spots.length,
});
const apart = ([a, b]: Spot[]): number => (a && b ? Math.hypot(a.x - b.x, a.y - b.y) : 1);

/** Whether what has the focus was led to by keys. */
let isFocusedByKey = false;
let isByKey = false;
window.addEventListener(
  "pointerdown",
  () => {
    isByKey = false;
  },
  true,
);
window.addEventListener(
  "keydown",
  ({ key }) => {
    isByKey ||= key === "Tab";
  },
  true,
);
window.addEventListener(
  "focusin",
  () => {
    isFocusedByKey = isByKey;
  },
  true,
);

/** Space pans but where it has to press what the Tab key led to: a button that was clicked is not pressed again by it. */
const isPressedBySpace = (target: EventTarget | null) =>
  isTyping(target) || (isFocusedByKey && target instanceof Element && !target.matches("body, .pans"));

/**
 * Looking about on a picture: Space with the pointer, the middle button, two fingers and dragging the ground pan; the wheel, a pinch and
 * Control with the wheel zoom; two fingers on a pad pan. The first three work over whatever lies on the picture.
 */
export function usePanZoom(ref: RefObject<HTMLElement | null>, ways: Ways): void {
  const pan = useLatest(ways.pan);
  const zoom = useLatest(ways.zoom);
  const isGround = useLatest(ways.isGround);
  const onSecondFinger = useLatest(() => ways.onSecondFinger?.());
  useEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    element.classList.add("pans");
    const isWheel = wheelTeller();
    const fingers = new Map<number, Spot>();
    let hand: { id: number; at: Spot; moves: boolean } | null = null;
    let isSpace = false;
    let pressed: Element | null = null;
    const mark = () => {
      element.classList.toggle("panning", isSpace || hand?.moves === true);
      element.classList.toggle("grabbed", hand?.moves === true);
    };
    const stop = (event: Event) => {
      event.preventDefault();
      event.stopPropagation();
    };
    const down = (event: PointerEvent) => {
      const at = { x: event.clientX, y: event.clientY };
      if (event.pointerType === "touch") {
        fingers.set(event.pointerId, at);
        if (fingers.size === 1) pressed = event.target as Element;
        if (fingers.size > 1) {
          stop(event);
          // What the first finger began ends, and leaves nothing.
          const [first] = fingers.keys();
          if (fingers.size === 2 && pressed) {
            pressed.dispatchEvent(new PointerEvent("pointercancel", { pointerId: first, pointerType: "touch", bubbles: true }));
            onSecondFinger();
          }
          hand = null;
          mark();
          return;
        }
      }
      const free = event.button === 1 || (isSpace && event.button === 0);
      if (!free && !(event.button === 0 && isGround(event.target as Element))) return;
      if (free) stop(event);
      // A press on the ground is one until it moves.
      hand = { id: event.pointerId, at, moves: free };
      if (free) element.setPointerCapture(event.pointerId);
      mark();
    };
    const move = (event: PointerEvent) => {
      const at = { x: event.clientX, y: event.clientY };
      if (fingers.has(event.pointerId)) {
        const before = [...fingers.values()];
        fingers.set(event.pointerId, at);
        if (fingers.size > 1) {
          stop(event);
          const after = [...fingers.values()];
          const [from, to] = [middle(before), middle(after)];
          pan({ x: to.x - from.x, y: to.y - from.y });
          zoom(apart(after) / Math.max(1, apart(before)), to);
          return;
        }
      }
      if (hand?.id !== event.pointerId) return;
      if (!hand.moves) {
        if (Math.hypot(at.x - hand.at.x, at.y - hand.at.y) < LEAST) return;
        hand.moves = true;
        element.setPointerCapture(event.pointerId);
        mark();
      }
      pan({ x: at.x - hand.at.x, y: at.y - hand.at.y });
      hand.at = at;
    };
    const up = (event: PointerEvent) => {
      if (event.isTrusted) fingers.delete(event.pointerId);
      if (hand?.id !== event.pointerId) return;
      hand = null;
      mark();
    };
    const wheel = (event: WheelEvent) => {
      if ((event.target as Element).closest(".finder")) return;
      stop(event);
      const byNotches = isWheel(event);
      if (byNotches || event.ctrlKey) zoom(wheelFactor(event, byNotches), { x: event.clientX, y: event.clientY });
      else pan({ x: -event.deltaX, y: -event.deltaY });
    };
    const space = (event: KeyboardEvent) => {
      if (event.key !== " ") return;
      const now = event.type === "keydown" && !isPressedBySpace(event.target);
      // The page would scroll, and what was clicked last be pressed again.
      if (now || isSpace) event.preventDefault();
      isSpace = now;
      mark();
    };
    const blur = () => {
      isSpace = false;
      mark();
    };
    const keys: [EventTarget, string, (event: never) => void][] = [
      [element, "pointerdown", down],
      [element, "pointermove", move],
      [element, "pointerup", up],
      [element, "pointercancel", up],
    ];
    for (const [target, name, act] of keys) target.addEventListener(name, act as EventListener, { capture: true });
    element.addEventListener("wheel", wheel, { passive: false });
    window.addEventListener("keydown", space, { capture: true });
    window.addEventListener("keyup", space, { capture: true });
    window.addEventListener("blur", blur);
    return () => {
      for (const [target, name, act] of keys) target.removeEventListener(name, act as EventListener, { capture: true });
      element.removeEventListener("wheel", wheel);
      window.removeEventListener("keydown", space, { capture: true });
      window.removeEventListener("keyup", space, { capture: true });
      window.removeEventListener("blur", blur);
    };
  }, [ref, pan, zoom, isGround, onSecondFinger]);
}
