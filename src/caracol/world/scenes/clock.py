"""`station-clock`: the dial over the tram station's hall, with its numerals and hands, and the station's name below."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from ...core.sources.lettering import load_font
from ..brushes import Plane, blur, develop, linear, mix, noise, smoothstep

CENTRE = (0.5, 0.44)
RADIUS = 0.31
HOUR, MINUTE = 10, 9
NAME = "ESTACIÓN DE LA MAREA"


def _words(shape: tuple[int, int], places: list[tuple[str, float, float, float]], face: str) -> Plane:
    """Return how words cover the picture, each given with its middle and height in pixels."""
    image = Image.new("L", (shape[1], shape[0]))
    pen = ImageDraw.Draw(image)
    for text, x, y, height in places:
        pen.text((x, y), text, fill=255, font=load_font(face, round(height)), anchor="mm")
    return np.asarray(image, np.float32) / 255


def _bricks(rng: np.random.Generator, rows: int, cols: int) -> Plane:
    """Return a wall of glazed bricks lit from below and from the dial."""
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32)
    course = rows / 34
    row = np.floor(y / course)
    col = x / (course * 2.6) + 0.5 * (row % 2)
    tone = rng.uniform(0.6, 1.15, (64, 64)).astype(np.float32)[row.astype(int) % 64, np.floor(col).astype(int) % 64]
    joint = np.minimum(np.minimum(y / course % 1, 1 - y / course % 1) * course, np.minimum(col % 1, 1 - col % 1) * course * 2.6)
    body = smoothstep(0.8, 3.2, joint * 1000 / rows)
    worn = noise(rng, (rows, cols), (rows * 0.1, cols * 0.08), 6)
    glaze = np.array(linear("#2f6a6b"), np.float32) * (tone * (1 + 0.16 * worn))[..., None] * 0.5
    bevel = np.clip(0.5 - (y / course % 1), -0.5, 0.5) * 0.35 + 1
    return mix(np.array(linear("#8d8a7c"), np.float32) * 0.16 + np.zeros((rows, cols, 3), np.float32), glaze * bevel[..., None], body)


def draw(rng: np.random.Generator, cols: int = 3300) -> NDArray[np.uint8]:
    """Draw the photo at 5:4."""
    rows = cols * 4 // 5
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32)
    cx, cy, r = CENTRE[0] * cols, CENTRE[1] * rows, RADIUS * rows
    dx, dy = (x - cx) / r, (y - cy) / r
    rad, ang = np.hypot(dx, dy), np.arctan2(dx, -dy)
    scene = _bricks(rng, rows, cols)
    scene = scene * (0.35 + 1.5 * np.exp(-(((rad - 1.1) / 0.9) ** 2)) + 0.9 * smoothstep(0.6, 1.0, y / rows))[..., None]
    shadow = smoothstep(1.35, 1.08, np.hypot(dx - 0.03, dy - 0.06))
    scene = scene * (1 - 0.75 * shadow)[..., None]
    # An iron ring with bolts round the dial.
    rim = smoothstep(1.175, 1.165, rad) * smoothstep(0.985, 0.995, rad)
    iron = (
        np.array(linear("#3b3f42"), np.float32)
        * (0.55 + 0.65 * np.clip(-0.7 * dy - 0.5 * dx, -0.6, 1) * np.sign(rad - 1.08) * -1)[..., None]
    )
    bolt = smoothstep(0.03, 0.024, np.hypot((rad - 1.08), ((ang / (2 * np.pi) * 24 + 0.5) % 1 - 0.5) * 2 * np.pi / 24 * 1.08))
    scene = mix(scene, np.clip(iron, 0.01, 1) * (1 + 0.9 * bolt)[..., None], rim)
    # The opal glass, lit from behind: a little uneven, yellower at the edge, stained.
    stain = noise(rng, (rows, cols), (rows * 0.06, rows * 0.06), 6)
    glow = np.clip(1.2 - 0.42 * rad**2 + 0.05 * stain - 0.25 * np.hypot(dx + 0.2, dy - 0.5), 0.2, 2)
    glass = glow[..., None] * np.array([1.05, 0.9, 0.66], np.float32)
    scene = mix(scene, glass, smoothstep(0.99, 0.984, rad))
    black = np.array([0.012, 0.013, 0.018], np.float32)
    minute = np.abs((ang / (2 * np.pi) * 60 + 0.5) % 1 - 0.5) * 2 * np.pi / 60 * rad
    hour = np.abs((ang / (2 * np.pi) * 12 + 0.5) % 1 - 0.5) * 2 * np.pi / 12 * rad
    band = (rad > 0.9) & (rad < 0.955)
    marks = np.maximum(smoothstep(0.0065, 0.004, minute) * band, smoothstep(0.017, 0.014, hour) * ((rad > 0.865) & (rad < 0.955)))
    rings = np.maximum(smoothstep(0.0055, 0.003, np.abs(rad - 0.962)), smoothstep(0.0035, 0.0015, np.abs(rad - 0.6)))
    numerals = [(str(n), cx + 0.735 * r * np.sin(n * np.pi / 6), cy - 0.735 * r * np.cos(n * np.pi / 6), 0.27 * r) for n in range(1, 13)]
    ink = np.maximum(np.maximum(marks, rings), _words((rows, cols), numerals, "serif"))
    scene = mix(scene, black, ink * (0.93 + 0.05 * np.clip(stain, -1, 1)))
    hands = np.zeros((rows * 2, cols * 2), np.uint8)
    turns = ((HOUR + MINUTE / 60) / 12, MINUTE / 60, 0.62)
    for turn, length, tail, wide in zip(turns, (0.5, 0.78, 0.84), (0.14, 0.2, 0.26), (0.05, 0.034, 0.008), strict=True):
        s, c = np.sin(turn * 2 * np.pi), -np.cos(turn * 2 * np.pi)
        outline = [(-tail, wide * 0.8), (length * 0.72, wide), (length * 0.8, wide * 1.9), (length, 0.002)]
        points = [(along, side) for along, side in outline] + [(along, -side) for along, side in outline[::-1]]
        shape = [(2 * (cx + r * (along * s + side * -c)), 2 * (cy + r * (along * c + side * s))) for along, side in points]
        cv2.fillPoly(hands, [np.array(shape, np.int32)], 255, cv2.LINE_AA)
    cv2.circle(hands, (int(2 * cx), int(2 * cy)), int(2 * r * 0.062), 255, -1, cv2.LINE_AA)
    cover = cv2.resize(hands, (cols, rows), interpolation=cv2.INTER_AREA).astype(np.float32) / 255
    cast = np.roll(np.roll(blur(cover, r * 0.012), int(r * 0.03), axis=0), int(r * 0.02), axis=1)
    scene = scene * (1 - 0.35 * cast * smoothstep(0.99, 0.98, rad))[..., None]
    scene = mix(scene, black * 1.4, cover)
    scene = scene + (smoothstep(0.05, 0.0, np.hypot(dx + 0.012, dy + 0.015)) * 0.25)[..., None]
    # The name on an enamel board.
    half_w, half_h, by = 0.39 * cols, 0.052 * rows, 0.885 * rows
    inside = np.maximum(np.abs(x - cols / 2) - half_w, np.abs(y - by) - half_h)
    board = np.array(linear("#17384f"), np.float32) * (0.8 + 0.35 * np.clip((by - y) / half_h, -1, 1))[..., None]
    scene = scene * (1 - 0.6 * smoothstep(rows * 0.012, 0, np.maximum(inside - rows * 0.004, 0)) * (inside > 0))[..., None]
    scene = mix(scene, board, smoothstep(1, -1, inside))
    frame = smoothstep(2.5, 1.0, np.abs(inside + rows * 0.008) * 1200 / rows)
    words = _words((rows, cols), [(NAME, cols / 2, by + rows * 0.002, half_h * 1.25)], "sans")
    scene = mix(scene, linear("#efe6cf"), np.maximum(words, frame) * 0.92)
    gleam = np.exp(-(((dx + 0.35) * 2.4) ** 2) - ((dy + 0.42) * 1.6) ** 2) * smoothstep(0.98, 0.9, rad)
    scene = scene + gleam[..., None] * np.array([0.12, 0.14, 0.17], np.float32)
    return develop(rng, blur(scene, 0.9), exposure=1.05, grain=0.016, bloom=0.2, vignette=0.35)
