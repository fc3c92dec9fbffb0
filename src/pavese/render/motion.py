"""Frames of Lottie animations, drawn with rlottie. Runs in a child process only, as `draw` does.

rlottie draws neither text nor what an expression would change; pictures in the animation come along.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import orjson

if TYPE_CHECKING:
    import numpy.typing as npt
    from rlottie_python.rlottie_wrapper import LottieAnimation

#: Where in an animation its still picture is taken: late enough for what arrives to have arrived.
STILL_AT = 0.62
_MOST_FRAMES = 20_000


def opened(data: bytes) -> LottieAnimation:
    """An animation for `frame_at`. Raises ValueError when it cannot be played."""
    from rlottie_python.rlottie_wrapper import LottieAnimation

    animation = LottieAnimation.from_data(_as_rlottie_reads(data))
    if not animation.animation_p:
        raise ValueError("the animation cannot be played")
    if animation.lottie_animation_get_totalframe() > _MOST_FRAMES:
        raise ValueError(f"the animation has more than {_MOST_FRAMES:,} frames")
    return animation


def _as_rlottie_reads(data: bytes) -> str:
    """The animation in the order in which rlottie wants it, which JSON leaves open: a layer says first whether it is
    one of three dimensions, or its rotation is not read; a keyframe gives its easing before its values."""
    tree = orjson.loads(data.removeprefix(b"\xef\xbb\xbf"))
    lists = [
        tree.get("layers"),
        *(asset.get("layers") for asset in tree.get("assets") or () if isinstance(asset, dict)),
    ]
    for layers in lists:
        if isinstance(layers, list):
            layers[:] = [{"ddd": 0, **layer} if isinstance(layer, dict) else layer for layer in layers]
    open_: list[Any] = [tree]
    while open_:
        at = open_.pop()
        if isinstance(at, list):
            open_ += at
            continue
        if not isinstance(at, dict):
            continue
        frames = at.get("k")
        if isinstance(frames, list) and frames and isinstance(frames[0], dict) and "t" in frames[0]:
            at["k"] = [_eased_first(frame) if isinstance(frame, dict) else frame for frame in frames]
        open_ += at.values()
    return orjson.dumps(tree).decode()


def _eased_first(frame: dict[str, Any]) -> dict[str, Any]:
    return {**{key: frame[key] for key in ("i", "o") if key in frame}, **frame}


def size_within(animation: LottieAnimation, side: int) -> tuple[int, int]:
    """Width and height with the longer side as given, in the animation's proportions; at least 1 each."""
    width, height = animation.lottie_animation_get_size()
    longer = max(width, height, 1)
    return max(round(width * side / longer), 1), max(round(height * side / longer), 1)


def frame_at(animation: LottieAnimation, number: int, size: tuple[int, int]) -> npt.NDArray[np.uint8]:
    """One frame, shape (height, width, 4), RGBA with straight alpha."""
    width, height = size
    raw = animation.lottie_animation_render(number, None, width, height)
    bgra = np.frombuffer(raw, dtype=np.uint8).reshape(height, width, 4)
    alpha = bgra[..., 3:].astype(np.float64)
    # What comes is premultiplied.
    straight = np.where(alpha > 0, bgra[..., 2::-1] * 255.0 / np.maximum(alpha, 1), 0)
    return np.concatenate([np.clip(np.rint(straight), 0, 255).astype(np.uint8), bgra[..., 3:]], axis=-1)


def frame_on(
    animation: LottieAnimation, number: int, size: tuple[int, int], ground: tuple[int, int, int]
) -> npt.NDArray[np.uint8]:
    """One frame on an opaque ground, shape (height, width, 3), RGB."""
    width, height = size
    raw = animation.lottie_animation_render(number, None, width, height)
    bgra = np.frombuffer(raw, dtype=np.uint8).reshape(height, width, 4)
    clear = 255 - bgra[..., 3].astype(np.uint16)
    if not clear.any():
        return np.ascontiguousarray(bgra[..., 2::-1])
    under = (clear[..., None] * np.array(ground, dtype=np.uint16) + 127) // 255
    return np.asarray(np.minimum(bgra[..., 2::-1] + under, 255).astype(np.uint8))


def frames(animation: LottieAnimation) -> int:
    """How many frames it has; at least 1."""
    return max(int(animation.lottie_animation_get_totalframe()), 1)
