import { expect, it } from "vitest";
import { wheelFactor, wheelTeller } from "./wheel";

const event = (dy: number, notches: number, at: number, more = {}) =>
  ({ deltaMode: 0, deltaX: 0, deltaY: dy, wheelDeltaY: notches, timeStamp: at, ...more }) as unknown as WheelEvent;

it("tells a wheel from two fingers by its notches", () => {
  const isWheel = wheelTeller();
  expect(isWheel(event(100, -120, 0))).toBe(true);
  expect(isWheel(event(4, -12, 1000))).toBe(false);
  expect(isWheel(event(40, -120, 2000))).toBe(false);
  expect(isWheel(event(3, -120, 3000, { deltaMode: 1 }))).toBe(true);
  expect(isWheel(event(100, -120, 4000, { deltaX: 3 }))).toBe(false);
});

it("goes on with what a burst began as", () => {
  const isWheel = wheelTeller();
  expect(isWheel(event(7, -21, 0))).toBe(false);
  expect(isWheel(event(120, -120, 100))).toBe(false);
  expect(isWheel(event(120, -120, 700))).toBe(true);
});

it("enlarges by as much as fingers spread, and by a sixth a notch", () => {
  expect(wheelFactor(event(-100 * Math.log(2.4), 0, 0), false)).toBeCloseTo(2.4);
  expect(wheelFactor(event(-100, 120, 0), true)).toBeCloseTo(1.1735, 3);
});
