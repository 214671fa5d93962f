"""`pier-globe`: everything there is to see from the end of the night market's pier, 360° by 180°."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..brushes import Plane, blur, develop, linear, look_up, mix, noise, ramp, smoothstep, tileable

EYE = 1.6
HALF = 1.5
"""Half the width of the deck, in metres; the pier runs east and west of the camera."""


def _sky(rng: np.random.Generator, bearing: Plane, up: Plane) -> Plane:
    toward = np.cos(bearing - 2.2) * 0.5 + 0.5
    height = np.clip(up / (np.pi / 2), 0, 1)
    warm = ramp(height, [(0, linear("#f0b27a")), (0.12, linear("#dd9a8a")), (0.35, linear("#8d8bb0")), (1, linear("#31508f"))])
    cool = ramp(height, [(0, linear("#a7a8bd")), (0.2, linear("#8a97bd")), (1, linear("#27478a"))])
    sky = mix(cool, warm, toward**1.5)
    sky = sky + (np.exp(-((1 - toward) * 22) - (height * 16) ** 1.2))[..., None] * np.array([2.6, 1.5, 0.6], np.float32)
    tex = tileable(rng, 1024, 4)
    far = 1 / np.maximum(np.tan(np.clip(up, 0.03, 1.5)), 0.02)
    x, y = far * np.cos(bearing), far * np.sin(bearing)
    body = look_up(tex, x * 0.09, y * 0.09) + 0.45 * look_up(tex, x * 0.31 + 0.2, y * 0.31)
    cover = smoothstep(0.2, 1.7, body) * smoothstep(0.03, 0.2, up)
    lit = mix(np.zeros_like(sky) + np.array(linear("#8f93ab"), np.float32), linear("#ffd2ab"), toward * 0.9)
    return mix(sky, lit, cover * 0.75)


def draw(rng: np.random.Generator, cols: int = 4000) -> NDArray[np.uint8]:
    """Draw the photo at 2:1."""
    rows = cols // 2
    v, u = np.mgrid[0:rows, 0:cols].astype(np.float32)
    bearing, up = (u + 0.5) / cols * np.float32(2 * np.pi), (0.5 - (v + 0.5) / rows) * np.float32(np.pi)
    scene = _sky(rng, bearing, np.abs(up))
    below = up < 0
    reach = EYE / np.maximum(np.tan(np.clip(-up, 1e-3, np.pi / 2 - 1e-3)), 1e-3)
    x, y = reach * np.cos(bearing), reach * np.sin(bearing)
    # The sea, three metres under the deck, mirrors the sky and darkens towards the feet.
    far = reach * 2.9
    wave = tileable(rng, 1024, 9)
    swell = look_up(wave, far * np.cos(bearing) * 0.11, far * np.sin(bearing) * 0.11) + 0.5 * look_up(
        wave, far * np.cos(bearing) * 0.36, far * np.sin(bearing) * 0.36
    )
    fresnel = np.clip(0.1 + 0.85 * np.exp(up * 4.2), 0, 1) * (1 + 0.14 * swell)
    sea = mix(np.array(linear("#1b4a55"), np.float32) * (0.7 + 0.12 * swell[..., None]), scene, np.clip(fresnel, 0, 1))
    glitter = smoothstep(1.0, 2.4, swell + 2.3 * np.exp(-((np.cos(bearing - 2.2) - 1) ** 2) * 40 + up * 3) - 0.6)
    scene = mix(scene, sea + glitter[..., None] * np.array([1.3, 0.8, 0.4], np.float32), below.astype(np.float32))
    hills = (0.02 + 0.013 * np.sin(bearing * 3) + 0.006 * noise(rng, (1, cols), (1, cols / 60), 6)[0]) * (0.6 + 0.4 * np.sin(bearing + 1))
    scene = mix(scene, mix(scene * 0.25, linear("#6b7089"), 0.5), smoothstep(-0.0015, 0.0015, np.clip(hills, 0.003, 1) - up) * (up > 0))
    # The deck: planks across, their grain along them, gaps between.
    deck = below & (np.abs(y) < HALF)
    plank, along = np.floor(x / 0.16), y
    grain = look_up(tileable(rng, 1024, 6), along * 0.12 + plank * 0.37, x * 2.4)
    tone = rng.uniform(0.7, 1.15, 997).astype(np.float32)[(plank.astype(int) % 997)]
    gap = (
        smoothstep(0.012, 0.02, np.minimum(x / 0.16 % 1, 1 - x / 0.16 % 1) * 0.16) * np.exp(-reach / 60) + (1 - np.exp(-reach / 60)) * 0.85
    )
    nail = smoothstep(0.014, 0.008, np.hypot((x / 0.16 % 1 - 0.5) * 0.16, np.abs(np.abs(y) - HALF * 0.88)))
    toward = np.cos(bearing - 2.2) * 0.5 + 0.5
    wood = (
        np.array(linear("#8d7a68"), np.float32) * (tone * (0.62 + 0.14 * grain) * gap * (1 - 0.7 * nail) * (0.6 + 0.55 * toward))[..., None]
    )
    shadow = 1 - 0.55 * np.exp(-((np.hypot(x - 0.1, y - 0.15) / 0.42) ** 4))
    scene = mix(scene, wood * shadow[..., None], deck.astype(np.float32))
    # Railings stand on both edges: posts every two metres, a top rail and a rope.
    side = np.abs(np.sin(bearing))
    distance = HALF / np.maximum(side, 1e-3)
    post_at, height = distance * np.cos(bearing), EYE + distance * np.tan(np.clip(up, -1.5, 1.5))
    pixel = distance * np.pi / rows
    offset = np.abs((post_at / 2.0 + 0.5) % 1 - 0.5) * 2.0
    post = smoothstep(0.055 + 0.5 * pixel, 0.055 - 0.5 * pixel, offset) * ((height > -0.35) & (height < 1.12))
    rail = smoothstep(0.045 + pixel, 0.045 - pixel, np.abs(height - 1.05))
    sag = 0.62 - 0.08 * np.cos(post_at * np.pi)
    rope = smoothstep(0.02 + pixel, 0.02 - pixel, np.abs(height - sag)) * 0.9
    near = np.exp(-distance / 45)
    timber = np.array(linear("#5f5145"), np.float32) * (0.35 + 0.5 * toward)[..., None] * (0.8 + 0.2 * grain)[..., None]
    scene = mix(scene, timber, np.clip(np.maximum(post, np.maximum(rail, rope)), 0, 1) * near)
    # Paper lamps on every second post.
    lamp_x = np.round(post_at / 4.0) * 4.0
    ball = np.hypot(post_at - lamp_x, (height - 1.42) * 0.92) / 0.24
    glow = smoothstep(1.03, 0.97, ball) * near
    tint = np.where(
        (np.round(post_at / 4.0).astype(int) % 2)[..., None] == 0, np.array([2.1, 1.05, 0.45]), np.array([1.9, 1.5, 0.9])
    ).astype(np.float32)
    scene = mix(scene, tint * (1.15 - 0.4 * np.clip(ball, 0, 1) ** 2)[..., None], glow)
    scene = scene + (0.35 * np.exp(-(ball**2) / 6) * near)[..., None] * tint * 0.4
    return develop(rng, blur(scene, 0.7), exposure=1.1, grain=0.012, bloom=0.16)
